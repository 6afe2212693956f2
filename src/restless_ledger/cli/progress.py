"""Long work with a progress bar on standard error, shown only on a terminal."""

from __future__ import annotations

import sys
from collections.abc import Callable
from typing import TypeVar

import click

from .main import QUIET

Result = TypeVar("Result")


def with_progress(noun: str, total: int | None, work: Callable[[Callable[[int, int], None] | None], Result]) -> Result:
    """Do work that reports (done, asked), and show how far it is; `noun` is what is counted. An unknown end is 0."""
    if not sys.stderr.isatty() or click.get_current_context().meta.get(QUIET):
        return work(None)
    from rich.console import Console
    from rich.progress import BarColumn, MofNCompleteColumn, Progress, TextColumn, TimeRemainingColumn

    bar = Progress(
        TextColumn("{task.description}"),
        BarColumn(),
        MofNCompleteColumn(),
        TimeRemainingColumn(),
        console=Console(stderr=True),
        transient=True,
    )
    with bar:
        task = bar.add_task(noun, total=total)
        return work(lambda done, asked: bar.update(task, completed=done, total=asked or None))
