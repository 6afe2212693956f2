"""Abilities → rows: those of the rulebook, and those that are altered for a unit or by a buff."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.abilities import Ability
from ...rulebook.speeds import Dash, Heading
from ...rulebook.words import Cancels, Targets
from ...sheets.altered import Alterations, altered
from ..codes import IN_RECOVERY, IN_WINDUP
from ..layout.ability_layout import ABILITIES
from ..layout.place_layout import STRAIGHTS
from .table_rows import Pool, Rows, row
from .write_effects import EffectWriter

NO_AREA = {"single": 1, "most": -1, "falloff": -1, "each_times": -1, "to": -1}
BY_HAND = ("shared", "channel", "cancels", "reach", "least", "straight", "dash")
CANCELS = {Cancels.RECOVERY: IN_RECOVERY, Cancels.WINDUP: IN_WINDUP, Cancels.EITHER: IN_RECOVERY | IN_WINDUP}


class AbilityWriter:
    """Writes the abilities of an encounter. Those of the rulebook come first; `names` are those of all rows."""

    def __init__(self, book: Rulebook, effects: EffectWriter, names: Sequence[str], first_cause: int) -> None:
        self.book = book
        self.effects = effects
        self.basic = Rows(names)
        self.names = Rows(names)
        self.first_cause = first_cause
        self.rows = Rows[tuple]()
        self.altered: list[tuple[str, Alterations]] = []
        self.places: dict[tuple, int] = {}
        self.straights = Pool()
        self.heeds_ways = False

    def write(self) -> None:
        """Write the abilities of the rulebook. Call it before any altered one is asked for."""
        self.rows += [self._row(name, ("abilities", name), self.book.abilities[name]) for name in self.basic]

    def index(self, name: str, alterations: Alterations = ()) -> int:
        """Return the row of an ability with some alterations; writes it the first time that it is asked for."""
        if not alterations:
            return self.basic.index(name)
        key = (name, *((id(alteration), count) for alteration, count in alterations))  # frozen, and kept by the book
        if key not in self.places:
            self.places[key] = len(self.rows)
            self.altered.append((name, alterations))
            path = ("abilities", name, f"altered {len(self.altered)}")
            self.rows.append(self._row(name, path, altered(self.book, name, alterations)))
            self.names.append(name)
        return self.places[key]

    def _row(self, name: str, here: tuple, ability: Ability) -> tuple:
        groups = list(dict.fromkeys(other.shared for other in self.book.abilities.values() if other.shared))
        columns = self.effects.columns
        return row(
            ABILITIES,
            **columns.of(ABILITIES, here, ability, without=BY_HAND),
            **self._area(here, ability),
            **self.effects.ability(here, ability),
            from_finish=int(ability.cooldown_from == "finish"),
            shared=groups.index(ability.shared) if ability.shared else -1,
            basic=self.basic.index(name),
            cause=self.first_cause + self.basic.index(name),
            **self._dash((*here, "dash"), ability.dash),
            afterwards=int(bool(ability.jumps) or ability.lunge_returns),
            straight=self._straight((*here, "straight"), ability),
            cancels=CANCELS[ability.cancels] if ability.cancels else 0,
        )

    def _dash(self, here: tuple, dash: Dash | None) -> dict[str, float]:
        """Return how fast a dash begins, and where it leads; note where it asks how its user moved."""
        if dash is None:
            return {"dash_times": -1}
        self.heeds_ways |= dash.times is not None or dash.to is Heading.MOVING
        times = self.effects.lines.add((*here, "times"), dash.times)
        return {"dash": dash.speed, "dash_times": times, "dash_to": dash.to.code}

    def _straight(self, here: tuple, ability: Ability) -> int:
        """Write how a missile flies straight on; return the row, or -1 for one that follows its target."""
        straight = ability.straight
        if straight is None or ability.projectile is None:
            return -1
        columns = self.effects.columns.of(STRAIGHTS, here, straight)
        reach = np.inf if ability.reach is None else ability.reach
        length = reach if straight.length is None else straight.length
        return self.straights.add([row(STRAIGHTS, **{**columns, "length": length})])[0]

    def _area(self, here: tuple, ability: Ability) -> dict[str, float]:
        """Return whom an ability reaches. One whose area begins at the user reaches no farther than that is large."""
        reach, least = np.inf if ability.reach is None else ability.reach, ability.least or 0.0
        area = ability.area
        if area is None:
            return {**NO_AREA, "reach": reach, "least": least}
        found = self.effects.columns.of(ABILITIES, (*here, "area"), area)
        found |= {
            "radius": area.extent,
            "at_user": int(area.from_user),
            "cosine": math.cos(math.radians(area.angle or 0.0) / 2),
        }
        if area.from_user and ability.targets is not Targets.USER:
            reach, least = min(reach, area.extent), max(least, area.inner or 0.0)
        return {**found, "reach": reach, "least": least}
