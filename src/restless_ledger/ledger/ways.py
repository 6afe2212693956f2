"""Where units were in a fight, and which zones lay there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from ..engine import Setup
from ..engine.codes import LAY, LIFT
from ..engine.layout.layout import State


def steps_of(setup: Setup, state: State, unit: int) -> np.ndarray:
    """Return where a unit was and which way it faced, as rows of (tick, x, y, face_x, face_y)."""
    steps = state.paths[: int(state.clock[0].steps)]
    mine = steps[steps.unit == unit]
    rows = np.column_stack([mine.tick, mine.x, mine.y, mine.face_x, mine.face_y])
    start = setup.opening.units[unit]
    first = [0.0, start.x, start.y, start.face_x, start.face_y]
    return rows if setup.units[unit].comes_later else np.vstack([first, rows])


def paths_of(setup: Setup, state: State, unit: int) -> list[dict[str, Any]]:
    """Return a record for each tick on which a unit moved, as `Fight.paths` tells."""
    name, clock, steps = setup.names.units[unit], setup.book.clock, steps_of(setup, state, unit)
    if not len(steps):
        return []
    went = np.hypot(*np.diff(steps[:, 1:3], axis=0, prepend=steps[:1, 1:3]).T)
    facing = np.degrees(np.arctan2(steps[:, 3], steps[:, 4])) % 360
    columns = (steps[:, :3].tolist(), went.tolist(), facing.tolist())
    return [
        {
            "unit": name,
            "tick": int(tick),
            "seconds": clock.seconds(tick),
            "x": x,
            "y": y,
            "metres": far,
            "speed": far / clock.seconds(1),
            "facing": way,
        }
        for (tick, x, y), far, way in zip(*columns, strict=True)
    ]


def zones_of(setup: Setup, rows: Sequence[Any]) -> list[dict[str, Any]]:
    """Return a record for each zone that was laid, as `Fight.zones` tells, from the fight's entries."""
    names, clock, found = setup.names, setup.book.clock, dict[int, dict[str, Any]]()
    for index, entry in enumerate(rows):
        if entry.verb == LAY:
            zone = names.causes[entry.cause]
            found[index] = {
                "zone": zone,
                "giver": None if entry.amount else names.units[entry.source],
                "follows": names.units[entry.unit] if setup.book.zones[zone].follows else None,
                "from": clock.seconds(int(entry.tick)),
                "until": None,
                "x": float(entry.x),
                "y": float(entry.y),
            }
        elif entry.verb == LIFT:
            found[int(entry.parent)]["until"] = clock.seconds(int(entry.tick))
    return list(found.values())
