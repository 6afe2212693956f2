"""`restless-ledger duel`: two characters, what each does to the other, and who wins."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import keeping, options, output
from .books import open_book
from .keeping import keep_run
from .names import named
from .output import deliver
from .progress import with_progress
from .sheet import print_times_to_kill
from .tables import BOLD, END, console, ruled
from .workers import workers

if TYPE_CHECKING:
    from ..duels.duel import Duel


@click.command("duel")
@options.rulebook
@named("one", "classes", "WHO")
@named("other", "classes", "FOE")
@click.option("--level", type=int, help="Of both; the first there is unless given.")
@click.option("--fights", type=int, default=10_000, show_default=True, help="How many, where it can't be solved.")
@options.seed
@workers
@keeping.option
@output.plot
@output.output(*table_names.DUEL)
def command(rulebook: str, one: str, other: str, level: int | None, fights: int, seed: int) -> None:
    """Let WHO meet FOE: hits and seconds to kill, and who wins; exactly, where that can be. Both are classes, or a
    class with gear such as rigger+boat_hook."""
    book = open_book(rulebook)
    duel = with_progress(
        "fights",
        fights,
        lambda progress: library.duel(book, one, other, level=level, fights=fights, seed=seed, progress=progress),
    )
    if duel.trials and not duel.trials.fights:
        raise KeyboardInterrupt
    deliver(duel, lambda: print_duel(duel))
    keep_run(duel, rulebook)


def print_duel(duel: Duel) -> None:
    """Print what each does to the other, and the outcomes."""
    page = console()
    one, other = duel.names
    page.print(f"{BOLD}{one} against {other}{END}, level {duel.level}: {duel.how()}")
    page.print()
    page.print("Each ability alone, used whenever it is ready until nothing is left:")
    print_times_to_kill(duel.time_to_kill_records(), duel.book.clock.unit)
    for reason in duel.left_out:
        page.print(f"Hits to kill are not given where {reason}.")
    page.print()
    table = ruled("outcome", ">chance", ">95% interval", f">median {duel.book.clock.unit}", ">10% to 90%")
    for row in duel.records():
        if row["chance"] or row["outcome"] in duel.names:
            interval = "exact" if row["exact"] else f"{row['low']:.1%} to {row['high']:.1%}"
            median, spread = "", ""
            if row["chance"]:
                median, spread = f"{row['median_seconds']:.4g}", f"{row['seconds_10']:.4g} to {row['seconds_90']:.4g}"
            table.add_row(row["outcome"], f"{row['chance']:.2%}", interval, median, spread)
    page.print(table)
    page.print(f"{duel.finding()}.")
