"""Pieces of work side by side, each of which may use all threads itself: while one waits, another goes on."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterator, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from contextvars import copy_context
from threading import Event
from typing import Any, TypeVar

from ..workers import present_threads
from .chunks import awaited
from .time_budget import Budget, stoppable

Item = TypeVar("Item")
Result = TypeVar("Result")


def side_by_side(
    work: Callable[[Item], Result],
    items: Sequence[Item],
    lane: Callable[[Item], Hashable],
    slow: Callable[[Item], bool] = lambda _: False,
) -> Iterator[Result]:
    """Yield what work makes of each item, in their order. Items of one lane are done one after the other, lanes beside
    each other: as many as there are threads. So items that share anything are in one lane. Lanes whose items are slow
    and use but one thread are begun first, so that the others go on beside them.

    What the work raises is raised here. At Ctrl-C, when a time budget is used up and when nobody wants the rest, what
    is under way is told to stop.
    """
    lanes: dict[Hashable, list[tuple[Item, Future[Result]]]] = {}
    found: list[Future[Result]] = [Future() for _ in items]
    for item, future in zip(items, found, strict=True):
        lanes.setdefault(lane(item), []).append((item, future))
    if min(present_threads(), len(lanes)) < 2:
        yield from map(work, items)
        return
    with _going(min(present_threads(), len(lanes))) as go:
        for each in sorted(lanes.values(), key=lambda each: not slow(each[0][0])):
            go(work, each)
        for future in found:
            yield awaited(future)


@contextmanager
def beside(work: Callable[[], Result]) -> Iterator[Callable[[], Result]]:
    """Do work beside what is done in this context, which gets a function that waits for what it makes, or raises what
    it raises. With one thread the work is done first. What is under way when the context ends is told to stop."""
    if present_threads() < 2:
        done = work()
        yield lambda: done
        return
    future = Future[Result]()
    with _going(1) as go:
        go(lambda _: work(), [(None, future)])
        yield lambda: awaited(future)


@contextmanager
def _going(threads: int) -> Iterator[Callable[[Callable[[Any], Any], list[tuple[Any, Future[Any]]]], object]]:
    """Lend threads that go along lanes: a function that takes the work and a lane. What is under way in the end is told
    to stop."""
    budgets, stopping = list[Budget](), Event()
    with ThreadPoolExecutor(threads) as pool:
        try:
            yield lambda work, lane: pool.submit(copy_context().run, _go, work, lane, budgets, stopping)
        finally:
            stopping.set()
            for budget in budgets:
                budget.ends = 0.0


def _go(
    work: Callable[[Item], Result], lane: list[tuple[Item, Future[Result]]], budgets: list[Budget], stopping: Event
) -> None:
    """Do the items of a lane, up to the first that fails; what comes after it is never asked for."""
    with stoppable() as budget:
        budgets.append(budget)
        for item, future in lane:
            if stopping.is_set():
                return
            try:
                future.set_result(work(item))
            except BaseException as error:
                future.set_exception(error)
                return
