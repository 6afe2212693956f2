"""Workers: who does work that comes in chunks. Threads of this process, or an executor's workers, wherever they are."""

from __future__ import annotations

import os
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import TYPE_CHECKING

from .checked import whole
from .frozen_classes import frozen

if TYPE_CHECKING:
    from concurrent.futures import Executor
    from multiprocessing.context import BaseContext

MOST_THREADS = 64


@frozen
class Workers:
    """Threads of this process, as many as there are processors unless it is said; or an executor, if there is one."""

    threads: int | None = None
    executor: Executor | None = None


USUAL = Workers()
_current: ContextVar[Workers] = ContextVar("workers", default=USUAL)


@contextmanager
def working(threads: int | None = None, executor: Executor | None = None) -> Iterator[None]:
    """Let these do the work that is begun within a `with` block; what is None stays as it is outside of it.

    Raises `InputError` on a number of threads that can't be.
    """
    outer = _current.get()
    if threads is not None:
        threads = whole("threads", threads, 1, MOST_THREADS)
    token = _current.set(Workers(threads or outer.threads, executor or outer.executor))
    try:
        yield
    finally:
        _current.reset(token)


def quickest_start() -> BaseContext:
    """Return how processes begin that do Python's work: as copies of this one, which have imported all that it has,
    where that is safe (on Linux, in a process without other threads); else anew."""
    import multiprocessing

    copies = sys.platform == "linux" and threading.active_count() == 1
    return multiprocessing.get_context("fork" if copies else "spawn")


def present_executor() -> Executor | None:
    """Return the executor that does the work now; None where threads of this process do it."""
    return _current.get().executor


def present_threads() -> int:
    """Return on how many threads of this process work is done."""
    return _current.get().threads or min(os.cpu_count() or 1, MOST_THREADS)
