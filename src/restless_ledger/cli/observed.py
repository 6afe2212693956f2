"""`restless-ledger observed`: fights that were observed in play, held against the simulation."""

from __future__ import annotations

import math
from pathlib import Path

import click

from .. import api as library
from ..study.observed import Observed
from . import options
from .options import open_book
from .progress import with_progress
from .tables import BOLD, END, RED, console, ruled, told
from .workers import workers


@click.command("observed")
@options.rulebook
@click.argument("fights_seen", metavar="FIGHTS.csv", type=click.Path(path_type=Path))
@click.option("--fights", type=int, default=4000, show_default=True, help="How often each encounter is simulated.")
@options.seed
@workers
@options.plot
@options.out
def command(rulebook: str, fights_seen: Path, fights: int, seed: int, plot: Path | None, out: Path | None) -> None:
    """Hold fights that were observed against the simulation of the same encounters.

    FIGHTS.csv has a row for each fight, with the columns encounter and winner, and perhaps seconds, damage (what
    everybody dealt together) and level.
    """
    book = open_book(rulebook)
    observed = with_progress(
        "encounters",
        None,
        lambda progress: library.observed(book, fights_seen, fights=fights, seed=seed, progress=progress),
    )
    if not observed.held:
        raise KeyboardInterrupt
    print_observed(observed)
    if out:
        observed.write(out)
    if plot:
        observed.plot(plot)
    for line in [*told("Figure", [plot]), *told("Table", [out])]:
        console().print(line)


def print_observed(observed: Observed) -> None:
    """Print a row for each encounter, those that differ most first, and the handling that fits best."""
    page, unit = console(), observed.book.clock.unit
    page.print(
        f"{BOLD}Observed{END}: {len(observed.seen):,} fights against {observed.fights:,} of each encounter, "
        f"seed {observed.seed}"
    )
    table = ruled("encounter", ">fights", "figure", ">seen", ">simulated", ">chance", wide="encounter")
    for held in observed.held:
        name = held.encounter if held.level is None else f"{held.encounter} at {held.level}"
        name = f"{RED}{name} *{END}" if held.differs(observed.error) else name
        rows = [
            (f"{held.side} wins", f"{held.seen:.0%}", f"{held.expected:.0%}", held.p_wins),
            (f"median {unit}", _figure(held.seconds_seen), _figure(held.seconds_expected), held.p_seconds),
            ("median damage", _figure(held.damage_seen), _figure(held.damage_expected), held.p_damage),
        ]
        for index, (what, seen, expected, chance) in enumerate(row for row in rows if not math.isnan(row[3])):
            first = (name, f"{held.fights:,}") if index == 0 else ("", "")
            table.add_row(*first, what, seen, expected, _chance(chance))
    page.print(table)
    page.print("Chance: that fights of this rulebook differ as much. A star: beyond chance, all tests together.")
    if observed.book.handlings:
        page.print(f"{observed.said_handling()}.")
    page.print(f"{observed.finding()}.")


def _chance(value: float) -> str:
    return "" if math.isnan(value) else f"{value:.3f}" if value >= 0.001 else "<0.001"


def _figure(value: float) -> str:
    return "" if math.isnan(value) else f"{value:.4g}"
