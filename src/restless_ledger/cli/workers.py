"""Who does a command's work: the options for it, and the processes of commands whose work is Python."""

from __future__ import annotations

import contextlib
import gc
import signal
from collections.abc import Iterator
from contextvars import Context

import click

from .options import together

WAIT = "10 s"


def _on_threads(context: click.Context, _parameter: click.Parameter, threads: int | None) -> None:
    if threads is not None:
        from ..workers import MOST_THREADS, working

        if not 1 <= threads <= MOST_THREADS:
            raise click.BadParameter(f"between 1 and {MOST_THREADS}")
        context.with_resource(working(threads))


def _on_cluster(context: click.Context, _parameter: click.Parameter, address: str | None) -> None:
    if address is not None:
        context.with_resource(cluster(address))


workers = together(
    click.option(
        "--threads",
        type=int,
        callback=_on_threads,
        expose_value=False,
        help="How many threads or processes; all cores unless given. Changes only the time it takes.",
    ),
    click.option(
        "--cluster",
        metavar="ADDRESS",
        callback=_on_cluster,
        expose_value=False,
        help="Let the workers of this Dask scheduler do it, such as tcp://host:8786.",
    ),
)


@contextlib.contextmanager
def cluster(address: str) -> Iterator[None]:
    """Let the workers of a Dask scheduler do the work. Raises `InputError` where it can't be reached."""
    from ..rulebook import InputError
    from ..workers import working

    try:
        from distributed import Client
    except ImportError:
        raise InputError("--cluster: this needs distributed\n    pip install 'restless-ledger[cluster]'") from None
    try:
        client = Client(address, timeout=WAIT)
    except (OSError, ValueError, TypeError) as error:
        said = " ".join(str(error).split())
        raise InputError(f"--cluster: no scheduler answers at {address}\n    got: {said}") from None
    with client, working(executor=client.get_executor()):
        yield


@contextlib.contextmanager
def processes(worth_it: bool) -> Iterator[None]:
    """Let processes of this machine do work that is Python, one for each thread that is asked for, where that saves
    more than their start costs and nobody else does it."""
    from ..workers import present_executor, present_threads, quickest_start, working

    if not worth_it or present_executor() or present_threads() == 1:
        yield
        return
    from concurrent.futures import ProcessPoolExecutor

    pool = ProcessPoolExecutor(present_threads(), quickest_start(), _begin_worker)
    Context().run(pool.submit, int)  # a copy of this process is made where nothing is said of who does the work here
    with pool, working(executor=pool):
        yield


def _begin_worker() -> None:
    """Let the process that began the work hear Ctrl-C, and nobody else; look for garbage rarely, as what a worker keeps
    is kept to its end."""
    from ..keeping.makers import forget_makers

    forget_makers()
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    gc.set_threshold(100_000, 20, 100)
