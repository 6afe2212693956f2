"""Work done in chunks, on threads or by an executor's workers; its results are taken in order."""

from __future__ import annotations

import logging
import threading
from collections import deque
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import BrokenExecutor, Executor, Future, ThreadPoolExecutor, wait
from itertools import chain
from typing import Any, Generic, TypeVar

from ..workers import present_executor, present_threads
from .time_budget import check_time, seconds_left

FIRST_SHIPPED, MOST_SHIPPED = 8, 4096
"""How many chunks an executor has at first, and at most; more and more while its workers wait for them."""
LOG = logging.getLogger(__name__)
Result = TypeVar("Result")


def in_order(
    work: Callable[..., Result],
    chunks: Iterable[tuple[Any, ...]],
    collect: Callable[[Result], None],
    report: Callable[[], None],
    *,
    shipped: Callable[..., Result] | None = None,
    stopping: threading.Event | None = None,
) -> None:
    """Do work on each chunk, hand every result to `collect` in the order of the chunks, and report after each.

    Threads do `work`. An executor (see `working`) gets `shipped` instead, which can be pickled and does the same. If
    its workers are lost, the rest is done on threads.

    At Ctrl-C, or when a time budget is used up, no more is begun, `stopping` is set for those under way, and what is
    done by then is still collected, up to the first chunk that is not. What the work raises is raised here.
    """
    executor = present_executor()
    if executor is not None:
        pending = Pending(executor, shipped or work, chunks, collect, report)
        try:
            pending.do_all(FIRST_SHIPPED, MOST_SHIPPED)
        except BrokenExecutor as error:
            LOG.warning("the executor is broken: %s; the rest is done on threads of this process", error)
            chunks = pending.left()
        else:
            return
    threads = present_threads()
    with ThreadPoolExecutor(threads) as pool:
        Pending(pool, work, chunks, collect, report, stopping).do_all(2 * threads, 2 * threads)


class Pending(Generic[Result]):
    """Chunks that were handed to a pool and not collected yet, and those that are still to be handed to it."""

    def __init__(
        self,
        pool: Executor,
        work: Callable[..., Result],
        chunks: Iterable[tuple[Any, ...]],
        collect: Callable[[Result], None],
        report: Callable[[], None],
        stopping: threading.Event | None = None,
    ) -> None:
        self.pool, self.work, self.chunks = pool, work, iter(chunks)
        self.collect, self.report, self.stopping = collect, report, stopping
        self.waiting: deque[tuple[tuple[Any, ...], Future[Result]]] = deque()

    def do_all(self, room: int, most: int) -> None:
        """Do every chunk; at first `room` of them are in the pool at once."""
        try:
            for chunk in self.chunks:
                if len(self.waiting) >= room:
                    if room < most and self.waiting[room // 2][1].done():  # its workers will soon have nothing to do
                        room = min(most, 2 * room)
                    else:
                        self._take_first()
                self._hand_over(chunk)
            while self.waiting:
                self._take_first()
        except KeyboardInterrupt:
            if self.stopping is not None:
                self.stopping.set()
            collect_finished([future for _, future in self.waiting], self.collect)
        finally:
            for _, future in self.waiting:
                future.cancel()

    def left(self) -> Iterator[tuple[Any, ...]]:
        """Return the chunks that were not collected, in order."""
        return chain([chunk for chunk, _ in self.waiting], self.chunks)

    def _hand_over(self, chunk: tuple[Any, ...]) -> None:
        try:
            future = self.pool.submit(self.work, *chunk)
        except BrokenExecutor:
            self.waiting.append((chunk, Future()))
            raise
        self.waiting.append((chunk, future))

    def _take_first(self) -> None:
        result = awaited(self.waiting[0][1])  # it leaves the queue only then: Ctrl-C while waiting for it loses nothing
        self.waiting.popleft()
        self.collect(result)
        self.report()


def awaited(future: Future[Result]) -> Result:
    """Wait for a result, at most as long as the present time budget lasts. Raises what its work raised."""
    while not wait([future], seconds_left()).done:
        check_time()
    check_time()
    return future.result()


def collect_finished(waiting: Sequence[Future[Result]], collect: Callable[[Result], None]) -> None:
    """Collect what is done, up to the first that is not; nothing after the first is begun any more."""
    for future in list(waiting)[1:]:
        future.cancel()
    for future in waiting:
        if not future.done() or future.cancelled() or future.exception():
            return
        collect(future.result())
