"""Work that is spread over two processes and two workers of a cluster, against one thread, in turn."""

from __future__ import annotations

import importlib.util
import logging
import statistics
import time
from collections.abc import Callable
from concurrent.futures import Executor, ProcessPoolExecutor
from contextlib import ExitStack
from multiprocessing import get_context
from typing import Any, cast

SECONDS, PILOT = 10.0, 20_000
"""How long one thread works at what is spread out, and by how many fights it is estimated how many those are."""
TASKS = 200
CLUSTER = "two Dask workers"


def seconds(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def processes(stack: ExitStack) -> Executor:
    return stack.enter_context(ProcessPoolExecutor(2, get_context("spawn")))


def cluster(stack: ExitStack) -> Executor:
    from distributed import Client, LocalCluster

    logging.getLogger("distributed").setLevel(logging.CRITICAL)
    workers = stack.enter_context(LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None))
    return cast("Executor", stack.enter_context(Client(workers)).get_executor())


def overhead(executor: Executor) -> float:
    """Return milliseconds that a task of one fight takes, of many that are handed over at once."""
    import restless_ledger as rl
    from restless_ledger.engine import set_up
    from restless_ledger.engine.ready import count_packed

    packed = set_up(rl.demo(), "stair_duel").ready.packed

    def tasks() -> None:
        for future in [executor.submit(count_packed, packed, 1, 0, number, 1) for number in range(TASKS)]:
            future.result()

    return 1000 * seconds(tasks) / TASKS


def spread_out(rounds: int, wanted: float = SECONDS) -> dict[str, Any]:
    """Return how many times as fast two workers of each kind fight the duel on the stair as one thread does, and what
    a task costs. There are as many fights as take one thread so many seconds, on any machine: workers pay where there
    is much to do. In each round one thread fights half of them before the workers fight all, and half of them after, as
    a machine is faster at times; the middle of the rounds counts. Only one kind of worker is there at a time: a cluster
    is busy even when it has nothing to do."""
    import restless_ledger as rl

    def fight(fights: int, **given: Any) -> float:
        return seconds(lambda: rl.trials(book, "stair_duel", fights=fights, **given))

    book, ratios, costs = rl.demo(), dict[str, list[float]](), dict[str, float]()
    half = int(PILOT * wanted / 2 / min(fight(PILOT, threads=1) for _ in range(4)))
    for name, opened in WAYS.items():
        if opened is cluster and not importlib.util.find_spec("distributed"):
            continue
        with ExitStack() as stack:
            workers = opened(stack)
            fight(half // 4, executor=workers)  # every worker has imported what it needs then
            ratios[name], before = [], fight(half, threads=1)
            for _ in range(rounds):
                took, after = fight(2 * half, executor=workers), fight(half, threads=1)
                ratios[name].append((before + after) / took)
                before = after
            costs[name] = overhead(workers)
    middle = {f"{name} over one thread": statistics.median(found) for name, found in ratios.items()}
    return {"fights": 2 * half, "rounds": ratios, "ratios": middle, "ms a task": costs}


WAYS: dict[str, Callable[[ExitStack], Executor]] = {"two processes": processes, CLUSTER: cluster}


if __name__ == "__main__":
    print(spread_out(5))
