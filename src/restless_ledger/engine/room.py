"""How much room a fight needs for what is under way in it: effects, projectiles, zones, what counts and rests."""

from __future__ import annotations

import math

from .codes import MOST_ACTIONS
from .fault import FightFault
from .layout.effect_layout import UNITS_A_WORD
from .layout.table_layout import Tables

LEAST_FRAMES, FRAMES_A_UNIT = 1024, 8
"""Room for the lists of effects that are under way at once, one caused by another."""
LEAST_LATER, LATER_A_UNIT = 512, 64
"""Room for the effects that are put off."""
MOST_SHOTS = 1 << 18
MOST_ZONES = 1 << 14
"""Room for all zones that units lay."""


def room_of(tables: Tables, title: str, limit: int) -> dict[str, int]:
    """Return the room that a fight of this name needs, by axis of a state. Raises FightFault where that is too much."""
    units, reactions = len(tables.units), tables.reactions
    counts = bool(((reactions.nth > 1) | (reactions.rests > 0)).any())
    shots = _shots(tables, title, limit)
    return {
        "frame": LEAST_FRAMES + FRAMES_A_UNIT * units,
        "later": LEAST_LATER + LATER_A_UNIT * units if tables.rules[0].branches else 1,
        "zone": _zones(tables),
        "shot": shots,
        "straight_shot": shots if len(tables.straights) else 0,
        "unit_word": units // UNITS_A_WORD + 1,
        "dull": int(tables.buffs.dulls.max(initial=-1)) + 1,
        "reactor": units if counts else 0,
        "reaction": len(reactions) if counts else 0,
        "mitigator": units if len(tables.mitigations) else 0,
        "mitigation": len(tables.mitigations),
        "even": int(tables.rules[0].evens),
        "roller": units if tables.rolls.deck.any() else 0,
        "roll": len(tables.rolls),
        "varied": 1 + int(tables.changes.varied.max(initial=-1)),
    }


def _shots(tables: Tables, title: str, limit: int) -> int:
    """Return room for all the projectiles that can be in the air at once: of each unit and ability, as many as it can
    launch while the first one flies as far as its reach, or from corner to corner."""
    place, most = tables.place[0], 0
    if not tables.rules[0].placed or not (tables.abilities.projectile > 0).any():
        return 1
    across = math.hypot(place.width, place.depth)
    actions = MOST_ACTIONS if tables.rules[0].actions >= 0 else 1
    of_each = [_shots_of(tables, ability, across, limit, actions=actions) for ability in range(len(tables.abilities))]
    for ends, members in (("known", tables.known), ("form", tables.forms)):
        first, last = tables.units[f"first_{ends}"].tolist(), tables.units[f"last_{ends}"].tolist()
        numbers = members["ability"].tolist()
        most += sum(of_each[number] for start, end in zip(first, last, strict=True) for number in numbers[start:end])
    if most > MOST_SHOTS:
        raise FightFault(
            f"{title}: as many as {most} projectiles could be in the air, of which there is "
            f"room for {MOST_SHOTS}\n    make them faster, their reach shorter, or their cooldown longer"
        )
    return most


def _shots_of(tables: Tables, ability: int, across: float, limit: int, actions: int) -> int:
    """Return how many projectiles of one ability one unit can have in the air at once."""
    row = tables.abilities[ability]
    if row.projectile <= 0:
        return 0
    way = min(across, row.reach)
    if row.straight >= 0:
        straight = tables.straights[int(row.straight)]
        way = min(across, straight.length) * (1 + straight.returns)
    flight = way / row.projectile / tables.rules[0].seconds + 2
    stretches = max(row.windup_times, row.recovery_times) >= 0
    least = 1 if stretches else max(1, row.windup + row.recovery)
    return int(min(flight, limit) * actions // least + 1)


def _zones(tables: Tables) -> int:
    """Return room for all zones at once: those of the arena, and of each unit as many as it may lay, and as many that
    end on the same tick."""
    of_each = int(2 * tables.zones.most.sum())
    return len(tables.laid) + min(MOST_ZONES, of_each * len(tables.units))
