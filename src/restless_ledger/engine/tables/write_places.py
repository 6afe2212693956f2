"""Arena, falls, supplies and lives → rows."""

from __future__ import annotations

from collections.abc import Sequence

from ...rulebook import InputError, Rulebook
from ...rulebook.encounters import Encounter
from ...rulebook.place import Arena, Ledge
from ..codes import LEDGE, NEVER
from ..layout.place_layout import LAID, PLACE, SPOTS, SUPPLIES, WINS, ZONES
from ..unit import Unit
from .columns import Columns
from .table_rows import Pool, row, span
from .write_effects import EffectWriter

OF_MOVEMENT = ("pace", "weight", "crash", "radius", "flies")
"""The lines of `[movement]`."""


def place_row(book: Rulebook, columns: Columns, arena: Arena | None, encounter: Encounter | None, ways: bool) -> tuple:
    """Return the row of the place; without an arena it still holds the rules of falls and of returns."""
    falls, clock = book.falls, book.clock
    needed = arena is not None or encounter is None  # a fight without a place reads none of these lines
    values: dict[str, float] = {
        **dict.fromkeys((*OF_MOVEMENT, "damage"), -1),
        **columns.of(PLACE, ("movement",), book.movement, without=() if needed else OF_MOVEMENT),
        **columns.of(PLACE, ("falls",), falls, without=("terminal",) if needed else ("terminal", "damage")),
        "terminal": falls.terminal.speed,
        "terminal_times": columns.lines.add(("falls", "terminal", "times"), falls.terminal.times if needed else None),
        "ways": int(ways),
        "climb": max(falls.climb, 1e-3),
        "delay": clock.ticks(book.lives.delay),
        "spared": clock.ticks(book.lives.invulnerable),
    }
    if arena:
        values |= {"width": arena.size[0], "depth": arena.size[1], "in_order": int(arena.checkpoints_in_order)}
        values |= {"grid": arena.grid or 0.0, "counts": arena.counts.code}
        for side, edge in arena.edges.items():
            values[side] = LEDGE if isinstance(edge, Ledge) else edge.code
            values[f"{side}_drop"] = edge.ledge if isinstance(edge, Ledge) else 0.0
    if encounter and encounter.objective:
        goal = encounter.objective
        values |= {
            "goal_x": goal.at[0],
            "goal_y": goal.at[1],
            "goal_radius": goal.radius,
            "goal": 1,
            "goal_ticks": clock.ticks(goal.hold) if goal.hold else 0,
        }
    return row(PLACE, **values)


def point_rules(book: Rulebook, encounter: Encounter | None) -> dict[str, int]:
    """Return the columns of the rules that say how a fight is won, besides by being the last side that stands."""
    points = encounter.points if encounter else None
    return {
        "wins": len(encounter.wins) if encounter else 0,
        "foe_down": points.foe_down if points else 0,
        "holding": points.holding if points and points.every else 0,
        "holding_every": max(1, book.clock.ticks(points.every)) if points and points.every else 1,
    }


def win_rows(book: Rulebook, encounter: Encounter | None, units: Sequence[Unit]) -> dict[str, list]:
    """Return the rows of the ways to win of an encounter, and the units that they ask for, by the names of the tables.

    Raises `InputError` where one asks for somebody who is not there: a party may have taken the place.
    """
    asked_for, rows = Pool(), []
    title = next((each for each, entry in book.encounters.items() if entry is encounter), "")
    sides = [side.name for side in encounter.sides] if encounter else []
    for index, win in enumerate(encounter.wins if encounter else ()):
        found: dict[str, float] = {}
        for key, names in (("down", win.down), ("fled", win.fled), ("there", win.there.who if win.there else [])):
            meant = [number for each in names for number in _meant(units, each)]
            if missing := [each for each in names if not _meant(units, each)]:
                place = book.place("encounters", title, "wins", index, key)
                said = f"{place}: encounters.{title}.wins[{index}].{key}: nobody of this name is in this fight"
                there_are = ", ".join(each.name for each in units)
                raise InputError(f"{said}\n    got: {missing[0]}\n    there are: {there_are}")
            found |= span(key, asked_for.add(meant))
        there = {"x": win.there.at[0], "y": win.there.at[1], "radius": win.there.radius} if win.there else {}
        rows.append(
            row(
                WINS,
                side=sides.index(win.side),
                points=win.points or 0,
                at_time_limit=int(win.at_time_limit),
                **found,
                **there,
            )
        )
    return {"wins": rows, "asked_for": asked_for.items}


def _meant(units: Sequence[Unit], name: str) -> list[int]:
    """Return the units that are called so."""
    return [number for number, unit in enumerate(units) if name in unit.called]


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
        row(SPOTS, x=at[0], y=at[1], supply=names.index(spot.supply))
        for place in ([arena] if arena else ())
        for spot in place.supplies
        for at in [place.settled(*spot.at)]
    ]
    return names, rows, spots


def zone_rows(effects: EffectWriter, arena: Arena | None, first_cause: int) -> dict[str, list]:
    """Return the rows of the zones that can be there, and of those that the arena has, by the names of the tables."""
    rows = []
    for number, name in enumerate(effects.zones):
        zone, here = effects.book.zones[name], ("zones", name)
        plain = effects.columns.of(ZONES, here, zone)
        plain["arms"] %= NEVER
        wide, deep = zone.size or (0.0, 0.0)
        every: dict[str, float] = {"every": 0, "every_times": -1, "first_effect": 0, "last_effect": 0}
        if zone.each:
            every = effects.columns.of(ZONES, (*here, "each"), zone.each)
            every |= span("effect", effects.write((*here, "each", "does"), zone.each.does))
        lists = {
            **span("entering", effects.write((*here, "entering"), zone.entering)),
            **span("leaving", effects.write((*here, "leaving"), zone.leaving)),
        }
        rows.append(row(ZONES, **plain, **every, **lists, cause=first_cause + number, wide=wide, deep=deep))
    laid = (
        [row(LAID, zone=effects.zones[each.zone], x=each.at[0], y=each.at[1]) for each in arena.zones] if arena else []
    )
    return {"zones": rows, "laid": laid}


def ground_rows(arena: Arena | None) -> dict[str, list]:
    """Return the rows of checkpoints, walls and raised ground, by the names of the tables."""
    walls = [(*wall.from_, *wall.to) for wall in (arena.walls if arena else ())]
    points = [
        (*each.at, each.radius, *place.settled(*(each.returns_at or each.at)), int(each.once))
        for place in ([arena] if arena else ())
        for each in place.checkpoints
    ]
    return {
        "checkpoints": points,
        "walls": walls,
        "heights": [(*each.at, *each.size, each.up) for each in (arena.heights if arena else ())],
    }
