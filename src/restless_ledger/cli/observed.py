"""`restless-ledger observed`: fights that were observed in play, held against the simulation."""

from __future__ import annotations

import math
from pathlib import Path

import click

from .. import book as library
from ..study.observed import Observed
from . import options
from .options import open_book
from .progress import with_progress
from .tables import console, ruled, told, write_records


@click.command("observed")
@options.rulebook
@click.argument("fights_seen", metavar="FIGHTS.csv", type=click.Path(path_type=Path))
@click.option("--fights", type=int, default=4000, show_default=True, help="How often each encounter is simulated.")
@options.seed
@options.out
def command(rulebook: str, fights_seen: Path, fights: int, seed: int, out: Path | None) -> None:
    """Hold fights that were observed against the simulation of the same encounters.

    FIGHTS.csv has a row for each fight, with the columns encounter and winner, and perhaps seconds and level.
    """
    book = open_book(rulebook)
    observed = with_progress(
        "encounters", None, lambda progress: library.observed(book, fights_seen, fights, seed, progress)
    )
    if not observed.held:
        raise KeyboardInterrupt
    print_observed(observed)
    if out:
        write_records(observed.rows(), out)
    for line in told("Table", [out]):
        console().print(line)


def print_observed(observed: Observed) -> None:
    """Print a row for each encounter, those that differ most first, and the handling that fits best."""
    page, unit = console(), observed.book.clock.unit
    page.print(f"[bold]Observed[/]: {len(observed.seen):,} fights against {observed.fights:,} of each encounter, "
               f"seed {observed.seed}")  # fmt: skip
    table = ruled("encounter", ">fights", "side", ">won", ">sim.", ">chance", f">{unit}", ">sim.", ">chance",
                  wide="encounter")  # fmt: skip
    for held in observed.held:
        name = held.encounter if held.level is None else f"{held.encounter} at {held.level}"
        name = f"[red]{name} *[/]" if held.differs(observed.error) else name
        wins = (f"{held.seen:.0%}", f"{held.expected:.0%}", _chance(held.p_wins))
        lengths = (_figure(held.seconds_seen), _figure(held.seconds_expected), _chance(held.p_seconds))
        table.add_row(name, f"{held.fights:,}", held.side, *wins, *lengths)
    page.print(table)
    page.print("Sim.: simulated; of lengths the medians. Chance: that fights of this rulebook differ as much.")
    page.print("A star: beyond chance, all tests together.")
    if observed.book.handlings:
        best = observed.handling or "as the encounters are written"
        page.print(f"The handling that fits best: {best}.")
    page.print(f"{observed.finding()}.")


def _chance(value: float) -> str:
    return "" if math.isnan(value) else f"{value:.3f}" if value >= 0.001 else "<0.001"


def _figure(value: float) -> str:
    return "" if math.isnan(value) else f"{value:.4g}"
