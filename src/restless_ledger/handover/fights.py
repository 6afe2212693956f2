"""Recorded fights as data: every entry in order, with the draws of each hit."""

from __future__ import annotations

from typing import Any

from ..engine import set_up
from ..engine.layout.layout import copy_state
from ..ledger import Fight
from ..rulebook import Rulebook
from .vectors import luck_of

KEPT = (
    "tick",
    "phase",
    "verb",
    "unit",
    "gauge",
    "asked",
    "booked",
    "balance",
    "waste",
    "cause",
    "source",
    "kind",
    "part",
)


def recorded_fights(book: Rulebook, fights: int, seed: int) -> list[dict[str, Any]]:
    """Return so many fights of each encounter: who is in it, and every entry, those of hits with their draws."""
    numbers = [(name, number) for name in book.encounters for number in range(fights)]
    return [_recorded(Fight.play(set_up(book, name), seed, number), name) for name, number in numbers]


def _recorded(fight: Fight, name: str) -> dict[str, Any]:
    scratch, rows = copy_state(fight.state, 1), list[dict[str, Any]]()
    for row, entry in zip(fight.each_entry(), fight.state.entries, strict=False):
        kept = {key: row[key] for key in KEPT if row[key] is not None}
        if entry.hit >= 0:
            kept["draws"] = luck_of(fight, scratch, entry)
        rows.append(kept)
    sides = fight.setup.names.sides
    units = [
        {"name": unit.name, "class": unit.sheet.who, "level": unit.sheet.level, "side": sides[unit.side]}
        for unit in fight.setup.units
    ]
    return {
        "encounter": name,
        "seed": fight.seed,
        "number": fight.number,
        "outcome": fight.outcome,
        "ticks": fight.ticks,
        "units": units,
        "entries": rows,
    }
