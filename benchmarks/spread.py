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
from typing import Any

FIGHTS, TASKS = 600_000, 200
CLUSTER = "two Dask workers"


def seconds(work: Callable[[], object]) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def executors(stack: ExitStack) -> dict[str, Executor]:
    """Return what spreads the work; a cluster only where distributed is installed."""
    found: dict[str, Executor] = {}
    found["two processes"] = stack.enter_context(ProcessPoolExecutor(2, get_context("spawn")))
    if importlib.util.find_spec("distributed"):
        from distributed import Client, LocalCluster

        logging.getLogger("distributed").setLevel(logging.CRITICAL)
        cluster = stack.enter_context(LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None))
        found[CLUSTER] = stack.enter_context(Client(cluster)).get_executor()
    return found


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


def spread_out(rounds: int, fights: int = FIGHTS) -> dict[str, Any]:
    """Return how many times as fast two workers of each kind fight the duel on the stair as one thread does, and what
    a task costs."""
    import restless_ledger as rl

    book = rl.demo()
    with ExitStack() as stack:
        ways: dict[str, dict[str, Any]] = {"one thread": {"threads": 1}}
        ways |= {name: {"executor": executor} for name, executor in executors(stack).items()}
        took: dict[str, list[float]] = {name: [] for name in ways}
        for given in ways.values():
            rl.trials(book, "stair_duel", fights=fights, **given)  # every worker has imported what it needs then
        for _ in range(rounds):
            for name, given in ways.items():
                took[name].append(seconds(lambda given=given: rl.trials(book, "stair_duel", fights=fights, **given)))  # type: ignore[misc]
        ratios = {
            f"{name} over one thread": statistics.median(
                a / b for a, b in zip(took["one thread"], took[name], strict=True)
            )
            for name in ways
            if name != "one thread"
        }
        costs = {name: overhead(given["executor"]) for name, given in ways.items() if "executor" in given}
    return {"ratios": ratios, "ms a task": costs}


if __name__ == "__main__":
    print(spread_out(5))
