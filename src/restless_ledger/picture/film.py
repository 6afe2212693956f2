"""A fight on its arena as a page that plays it: one HTML file that needs nothing else, no network, and no library."""

from __future__ import annotations

import json
import math
from itertools import pairwise
from pathlib import Path
from typing import Any

from ..engine.codes import ARRIVAL, DEPART, DOWN, FIRST_EVENT, FLED, RETURN, REVIVE, SUMMON
from ..formula.explain import number
from ..ledger import Fight
from ..rulebook import InputError
from ..rulebook.files import put_by
from ..rulebook.place import SIDES as COMPASS
from ..rulebook.place import Arena, Ledge
from .style import css_colours, css_side

COMES, GOES = (ARRIVAL, SUMMON, RETURN), (DOWN, FLED, DEPART)
LONGEST = 0.5
"""Seconds: what lies farther apart is no way, but a wait."""
TEMPLATE = Path(__file__).with_name("film.html")


def write_film(fight: Fight, file: str | Path) -> None:
    """Write the page to a file. Raises `InputError` for a fight without a place, or where it can't be written."""
    page = film(fight)
    put_by(file, lambda path: Path(path).write_text(page, encoding="utf-8"))


def film(fight: Fight) -> str:
    """Return the page as text: the arena, every unit with its path, its gauge and its facing, zones, and the ledger."""
    import jinja2

    name = fight.setup.arena
    if name is None:
        raise InputError(f"{fight.setup.title}: this fight has no place\n    name an arena in its encounter")
    arena, clock = fight.setup.book.arenas[name], fight.setup.book.clock
    shown = {
        "size": arena.size,
        "edges": {side: _edge(arena, side) for side in COMPASS},
        "walls": [[*wall.from_, *wall.to] for wall in arena.walls],
        "heights": [[*each.at, *each.size, each.up] for each in arena.heights],
        "supplies": [[*spot.at] for spot in arena.supplies],
        "units": [_unit(fight, unit) for unit in range(len(fight.setup.units))],
        "zones": _zones(fight),
        "ledger": _told(fight),
        "end": fight.seconds,
        "tick": clock.seconds(1),
        "unit": clock.unit,
    }
    template = jinja2.Environment(autoescape=True).from_string(TEMPLATE.read_text(encoding="utf-8"))
    data = json.dumps(shown, separators=(",", ":"), ensure_ascii=False).replace("<", "\\u003c")
    won = f"won by {fight.winner}" if fight.winner else fight.outcome
    title = f"{fight.setup.title}: {won} after {number(round(fight.seconds, 2))} {clock.unit}"
    sides = [{"name": name, "colour": css_side(side)} for side, name in enumerate(fight.setup.names.sides)]
    place = arena.label or name
    book = f"{fight.setup.book.rulebook.title} · {place} · seed {fight.seed}, fight {fight.number}"
    return template.render(title=title, subtitle=book, sides=sides, colours=css_colours(), data=data)


def _told(fight: Fight) -> list[list[Any]]:
    """Return the lines of the fight's story, each with its time in seconds and its change."""
    return [[line.seconds, line.text, line.change] for line in fight.story()]


def _edge(arena: Arena, side: str) -> str:
    edge = arena.edges.get(side, "wall")  # type: ignore[call-overload]
    return "ledge" if isinstance(edge, Ledge) else str(edge)


def _unit(fight: Fight, unit: int) -> dict[str, Any]:
    """Return one unit: name, colour, where it was (seconds, east, north, degrees from north), when it was there, and
    what share of the gauge that downs it had (seconds, share)."""
    made, seconds = fight.setup.units[unit], fight.setup.book.clock.seconds
    steps = [[row["seconds"], row["x"], row["y"], row["facing"]] for row in fight.paths_of(unit)]
    gauge = fight.setup.tables.rules[0].downing
    first = fight.state.gauges[unit, gauge]
    there = [] if made.comes_later else [[0.0, 1]]
    fills = [[0.0, _share(int(first.opened), int(first.top))]]
    for entry in fight.state.entries[: len(fight)]:
        if entry.unit != unit:
            continue
        when = seconds(int(entry.tick))
        if entry.verb in COMES or entry.verb == REVIVE:
            there.append([when, 1])
        elif entry.verb in GOES:
            there.append([when, 2 if entry.verb == DOWN else 0])
        if entry.gauge == gauge and entry.verb < FIRST_EVENT:
            fills.append([when, _share(int(entry.balance), int(entry.top))])
    rounded = [[round(step[0], 6), *(round(value, 3) for value in step[1:])] for step in _thinned(steps)]
    return {"name": made.name, "colour": css_side(made.side), "steps": rounded, "there": there, "fills": fills}


def _thinned(steps: list[list[float]]) -> list[list[float]]:
    """Return steps without those that lie on a straight and steady way between two others, to a centimetre."""
    kept, passed = steps[:1], list[list[float]]()
    for here, after in pairwise(steps[1:]):
        passed.append(here)
        turned = here[3] != kept[-1][3] or after[0] - kept[-1][0] > LONGEST
        if turned or max(_aside(kept[-1], after, each) for each in passed) > 0.01:
            kept.append(here)
            passed.clear()
    return [*kept, *(steps[-1:] if len(steps) > 1 else ())]


def _aside(before: list[float], after: list[float], here: list[float]) -> float:
    """Return how far a step is from the straight and steady way between two others."""
    share = (here[0] - before[0]) / (after[0] - before[0]) if after[0] > before[0] else 0.0
    return math.hypot(*(before[axis] + share * (after[axis] - before[axis]) - here[axis] for axis in (1, 2)))


def _share(amount: int, top: int) -> float:
    return round(amount / top, 3) if top > 0 else 0.0


def _zones(fight: Fight) -> list[dict[str, Any]]:
    """Return every zone: what people call it, its colour, its shape, from when to when, and whom it follows."""
    names = list(fight.setup.names.units)
    sides = {unit.name: unit.side for unit in fight.setup.units}
    found = []
    for laid in fight.zones():
        zone = fight.setup.book.zones[laid["zone"]]
        found.append(
            {
                "name": zone.label or laid["zone"],
                "colour": css_side(sides[laid["giver"]]) if laid["giver"] else "var(--faint)",
                "at": [laid["x"], laid["y"]],
                "radius": zone.radius or 0,
                "size": zone.size or [0, 0],
                "shrinks": zone.shrinks or 0,
                "least": zone.least,
                "from": laid["from"],
                "until": fight.seconds if laid["until"] is None else laid["until"],
                "follows": names.index(laid["follows"]) if laid["follows"] else -1,
            }
        )
    return found
