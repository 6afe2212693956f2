"""Work done in chunks on threads, its results taken in order."""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable, Iterable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor, wait
from typing import Any, TypeVar

from .time_budget import check_time, seconds_left

Result = TypeVar("Result")


def in_order(
    work: Callable[..., Result],
    chunks: Iterable[tuple[Any, ...]],
    threads: int,
    collect: Callable[[Result], None],
    report: Callable[[], None],
    stopping: threading.Event | None = None,
) -> None:
    """Do work on each chunk, hand every result to `collect` in the order of the chunks, and report after each.

    At Ctrl-C, or when a time budget is used up, no more is begun, `stopping` is set for those under way, and what is
    done by then is still collected, up to the first chunk that is not. What `work` raises is raised here.
    """
    with ThreadPoolExecutor(threads) as pool:
        waiting: deque[Future[Result]] = deque()

        def take_first() -> None:
            while not wait(list(waiting)[:1], seconds_left()).done:
                check_time()
            check_time()
            result = waiting[0].result()  # it leaves the queue only then: Ctrl-C while waiting for it loses nothing
            waiting.popleft()
            collect(result)
            report()

        try:
            for chunk in chunks:
                if len(waiting) >= 2 * threads:
                    take_first()
                waiting.append(pool.submit(work, *chunk))
            while waiting:
                take_first()
        except KeyboardInterrupt:
            if stopping is not None:
                stopping.set()
            collect_finished(waiting, collect)
        finally:
            for future in waiting:
                future.cancel()


def collect_finished(waiting: Sequence[Future[Result]], collect: Callable[[Result], None]) -> None:
    """Collect what is done, up to the first that is not; nothing after the first is begun any more."""
    for future in list(waiting)[1:]:
        future.cancel()
    for future in waiting:
        if not future.done() or future.cancelled() or future.exception():
            return
        collect(future.result())
