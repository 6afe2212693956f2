"""Time budgets: work that ends after this many seconds, as it would at Ctrl-C."""

from __future__ import annotations

import math
import time
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from ..rulebook import InputError

LOOKS = 0.1
"""Every how many seconds it is looked whether another thread wants work to stop."""


class TimeUp(KeyboardInterrupt):
    """A time budget is used up. What Ctrl-C would leave is what is left."""


@dataclass
class Budget:
    """When work is to end, on the clock of `time.monotonic`, and whether it was cut short then. How often somebody who
    waits looks at it: `looks` is in seconds."""

    ends: float = math.inf
    spent: bool = False
    looks: float = math.inf


_current: ContextVar[Budget | None] = ContextVar("budget", default=None)


@contextmanager
def time_budget(seconds: float) -> Iterator[Budget]:
    """Let the work within a `with` block end after this many seconds.

    Studies then hold what was done by then, and say so; what has no half, such as one fight, raises `TimeUp`. A fight
    under way ends within a second. The budget is that of the thread that asks. Raises `InputError` where
    `seconds` is no number above zero.
    """
    if isinstance(seconds, bool) or not isinstance(seconds, int | float) or not seconds > 0:
        raise InputError(f"seconds: a number above 0 is wanted\n    got: {seconds!r}")
    with _budget(Budget(time.monotonic() + seconds)) as budget:
        yield budget


@contextmanager
def stoppable() -> Iterator[Budget]:
    """Let the work within a `with` block end when the present budget does, and as soon as another thread says so: by an
    end that is past."""
    outer = _current.get()
    with _budget(Budget(math.inf if outer is None or outer.spent else outer.ends, looks=LOOKS)) as budget:
        yield budget


@contextmanager
def _budget(budget: Budget) -> Iterator[Budget]:
    token = _current.set(budget)
    try:
        yield budget
    finally:
        _current.reset(token)


def seconds_left() -> float | None:
    """Return how many seconds may pass before the present budget is looked at again, at least 0; None where there is
    none, or it was spent."""
    budget = _current.get()
    if budget is None or budget.spent:
        return None
    return max(0.0, min(budget.looks, budget.ends - time.monotonic()))


def check_time() -> None:
    """Raise `TimeUp`, once, where the present budget is used up."""
    budget = _current.get()
    if budget is not None and not budget.spent and time.monotonic() >= budget.ends:
        budget.spent = True
        raise TimeUp
