"""Fights that were observed in play, against the simulation."""

from __future__ import annotations

import math
from pathlib import Path
from typing import TYPE_CHECKING

from .. import api as library
from .progress import with_progress
from .tables import BOLD, END, RED, console, ruled

if TYPE_CHECKING:
    from ..rulebook import Rulebook
    from ..study.observed import Observed


def observe(book: Rulebook, fights_seen: Path, fights: int, seed: int) -> Observed:
    """Simulate the encounters of a file of observed fights, with a progress bar."""
    observed: Observed = with_progress(
        "encounters",
        None,
        lambda progress: library.observed(book, fights_seen, fights=fights, seed=seed, progress=progress),
    )
    if not observed.held:
        raise KeyboardInterrupt
    return observed


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
