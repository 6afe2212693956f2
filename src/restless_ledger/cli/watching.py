"""`--watch`: a command that runs again whenever a file of the rulebook is saved, and says what moved."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

import click

from .books import open_book, path_of
from .tables import DIM, END, console

if TYPE_CHECKING:
    from ..rulebook import Rulebook

Result = TypeVar("Result")
ENDINGS = (".toml", ".csv", ".json", ".xlsx", ".ods")
"""Files that a rulebook is made of."""
MOST_NAMED = 3
SETTLE_MS = 60
"""How long nothing is saved before the command runs again: an editor writes a file in several steps."""

option = click.option(
    "--watch",
    is_flag=True,
    help="Run again whenever a file of the rulebook is saved, and say what moved; Ctrl-C ends it.",
)


def watch(
    rulebook: str,
    look: Callable[[Rulebook], Result],
    show: Callable[[Result], None],
    moved: Callable[[Result, Result], list[str]],
) -> None:
    """Show what a look at a rulebook gives, then, each time that a file is saved, what has moved since the look before.
    A rulebook that can't be used is said, and waited for. Raises `InputError` where the extra is not installed."""
    from ..engine import FightFault
    from ..rulebook import InputError

    page, before = console(), None
    for saved in saves(rulebook):
        began = time.monotonic()
        if saved:
            page.print("")
            more = f" and {len(saved) - MOST_NAMED} more" if len(saved) > MOST_NAMED else ""
            page.rule(f"{time.strftime('%H:%M:%S')} · {', '.join(saved[:MOST_NAMED])}{more}")
        try:
            now = look(open_book(rulebook))
        except (InputError, FightFault) as error:
            page.print(str(error), soft_wrap=True)
        else:
            if before is None:
                show(now)
            else:
                for line in moved(before, now) or ["Nothing moved."]:
                    page.print(line)
            before = now
        page.print(f"{DIM}{time.monotonic() - began:.1f} s; waiting for a file to be saved …{END}")
        page.flush()


def saves(rulebook: str) -> Iterator[list[str]]:
    """Yield nothing, then the names of the files of a rulebook that were saved, each time that some were."""
    from ..rulebook import InputError

    try:
        import watchfiles
    except ImportError:
        raise InputError('--watch: this needs watchfiles\n    pip install "restless-ledger[watch]"') from None

    def ours(_change: object, file: str) -> bool:
        return file.endswith(ENDINGS)

    folders = folders_of(rulebook)
    changes = watchfiles.watch(*folders, watch_filter=ours, debounce=1600, step=SETTLE_MS, yield_on_timeout=False)
    yield []
    for found in changes:
        yield sorted({Path(file).name for _, file in found})


def folders_of(rulebook: str) -> list[Path]:
    """Return the folders in which a rulebook's files lie, also those of the rulebook that it builds on."""
    from ..rulebook import InputError
    from ..rulebook.files import recorded
    from ..rulebook.load import load

    root = path_of(rulebook)
    with recorded() as reading:
        try:
            load(root)
        except InputError:
            if not root.exists():
                raise
    there = {root if root.is_dir() else root.parent, *(file.parent for file in reading.contents)}
    return sorted(folder for folder in there if not any(above in there for above in folder.parents))
