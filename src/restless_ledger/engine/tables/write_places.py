"""Arena, falls, supplies and lives → rows."""

from __future__ import annotations

from ...rulebook import Rulebook
from ...rulebook.encounters import Encounter
from ...rulebook.place import Arena, Ledge
from ..codes import LEDGE
from ..layout.table_layout import PLACE, SPOTS, SUPPLIES
from .columns import Columns
from .table_rows import row
from .write_effects import EffectWriter


def place_row(book: Rulebook, columns: Columns, encounter: Encounter | None) -> tuple:
    """Return the row of the place; without an arena it still holds the rules of falls and of returns."""
    arena = arena_of(book, encounter)
    falls, clock = book.falls, book.clock
    needed = arena is not None or encounter is None  # a fight without a place reads none of these lines
    values: dict[str, float] = {
        **dict.fromkeys(("pace", "weight", "damage"), -1),
        **columns.of(PLACE, ("movement",), book.movement, without=() if needed else ("pace", "weight")),
        **columns.of(PLACE, ("falls",), falls, without=() if needed else ("damage",)),
        "climb": max(falls.climb, 1e-3),
        "delay": clock.ticks(book.lives.delay),
        "spared": clock.ticks(book.lives.invulnerable),
    }
    if arena:
        values |= {"width": arena.size[0], "depth": arena.size[1]}
        for side, edge in arena.edges.items():
            values[side] = LEDGE if isinstance(edge, Ledge) else edge.code
            values[f"{side}_drop"] = edge.ledge if isinstance(edge, Ledge) else 0.0
    if encounter and encounter.objective:
        goal = encounter.objective
        values |= {
            "goal_x": goal.at[0],
            "goal_y": goal.at[1],
            "goal_radius": goal.radius,
            "goal_ticks": clock.ticks(goal.hold),
        }
    return row(PLACE, **values)


def arena_of(book: Rulebook, encounter: Encounter | None) -> Arena | None:
    """Return the arena of an encounter, or None where it has no place."""
    return book.arenas[encounter.arena] if encounter and encounter.arena else None


def supply_rows(book: Rulebook, effects: EffectWriter, arena: Arena | None) -> tuple[list[str], list, list]:
    """Return the names of the supplies of an arena, their rows, and the rows of the spots where they lie."""
    names = list(dict.fromkeys(spot.supply for spot in arena.supplies)) if arena else []
    rows = []
    for name in names:
        supply = book.supplies[name]
        first, last = effects.write(("supplies", name, "does"), supply.does)
        plain = effects.columns.of(SUPPLIES, ("supplies", name), supply)
        rows.append(row(SUPPLIES, **plain, first_effect=first, last_effect=last))
    spots = [
        row(SPOTS, x=spot.at[0], y=spot.at[1], supply=names.index(spot.supply))
        for spot in (arena.supplies if arena else ())
    ]
    return names, rows, spots
