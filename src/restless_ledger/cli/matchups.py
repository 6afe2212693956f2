"""`restless-ledger matchups`: everyone against everyone, and what a rational field would play."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import keeping, options, output
from .books import open_book
from .keeping import keep_run
from .names import completion
from .output import deliver
from .progress import with_progress
from .tables import BOLD, END, RED, console, ruled
from .workers import workers

if TYPE_CHECKING:
    from ..rulebook import Rulebook
    from ..study.matchups import Matchups


@click.command("matchups")
@options.rulebook
@click.argument("who", nargs=-1, metavar="[WHO]...", shell_complete=completion("classes", "gear"))
@options.levels
@click.option("--precision", type=float, default=0.02, show_default=True, help="Half the width of each 95% interval.")
@options.seed
@workers
@keeping.option
@output.plot
@output.output(*table_names.MATCHUPS)
def command(rulebook: str, who: tuple[str, ...], levels: tuple[int, ...], precision: float, seed: int) -> None:
    """Fight everyone against everyone. WHO is a class, class+gear, or a party such as rigger,warden.

    The classes of journeys' parties unless some are named. A draw counts half for both.
    """
    matchups = run_with_progress(open_book(rulebook), who, levels, precision, seed)
    if not matchups.pairs:
        raise KeyboardInterrupt
    deliver(matchups, lambda: print_matchups(matchups))
    keep_run(matchups, rulebook)


def run_with_progress(
    book: Rulebook, who: tuple[str, ...], levels: Sequence[int], precision: float, seed: int
) -> Matchups:
    """Fight matchups with a progress bar."""
    return with_progress(
        "fights",
        None,
        lambda progress: library.matchups(
            book, who=who, levels=levels, precision=precision, seed=seed, progress=progress
        ),
    )


def print_matchups(matchups: Matchups) -> None:
    """Print the matrix of each level with everybody's rating and part in the mix."""
    page = console()
    stopped = "" if matchups.complete else "; stopped early"
    page.print(f"{BOLD}Matchups{END}: {matchups.fights:,} fights, seed {matchups.seed}{stopped}")
    rows = list(matchups.standing_rows())
    for level in matchups.levels:
        if not matchups.done(level):
            page.print(f"Level {level} was not reached.")
            continue
        page.print(f"\nLevel {level}: the row's share of wins against each column")
        numbers = [str(index + 1) for index in range(len(matchups.names))]
        table = ruled(">", "who", *(f">{number}" for number in numbers), ">rating", ">±", ">mix", wide="who")
        shares = matchups.matrix(level)[0]
        standings = [row for row in rows if row["level"] == level]
        for index, (name, standing) in enumerate(zip(matchups.names, standings, strict=True)):
            cells = ["·" if index == column else f"{shares[index, column]:.0%}" for column in range(len(numbers))]
            weight = f"{standing['weight']:.0%}" if standing["weight"] else "0%"
            weight += f" ({standing['in_mix_share']:.0%})"
            table.add_row(
                numbers[index],
                name,
                *cells,
                f"{standing['rating']:+.2f}".replace("-", "−"),
                f"{1.96 * standing['error']:.2f}",
                weight,
            )
        page.print(table)
        for name, other in matchups.dominated(level).items():
            page.print(f"{RED}{name}{END} fares worse than {other} against everybody.")
    page.print("\nRating: natural log-odds, with half its 95% interval.")
    page.print("Mix: what a rational field would play; in brackets, in how many resamples of the fights it has a part.")
    page.print(f"{matchups.finding()}.")
