"""Ways to win that hold as the fight begins, or never."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ...rulebook.effect_lists import flat
from ...rulebook.effects import ReviveEffect
from ...rulebook.encounters import Encounter, Win
from ...rulebook.unit_names import unit_names
from ..audit_context import AuditContext
from ..finding import Fault
from ..registry import check


def _ways(case: AuditContext) -> Iterator[tuple[tuple, Encounter, Win]]:
    """Yield every way to win with its path and its encounter."""
    for name, encounter in case.book.encounters.items():
        for index, win in enumerate(encounter.wins):
            yield ("encounters", name, "wins", index), encounter, win


@check
def won_at_once(case: AuditContext) -> Iterator[Fault]:
    for path, encounter, win in _ways(case):
        if win.there is None or win.down or win.fled or win.points or win.at_time_limit:
            continue
        groups = [group for side in encounter.sides for group in side.units for _ in range(group.count)]
        names = unit_names(case.book, encounter)
        meant = [group for group, called in zip(groups, names, strict=True) if set(called) & set(win.there.who)]
        far = [math.dist(group.at, win.there.at) if group.at else math.inf for group in meant]
        if meant and max(far) <= win.there.radius and all(group.count == 1 for group in meant):
            who = " and ".join(win.there.who)
            yield Fault((*path, "there"), f"{who} stands there as the fight begins, so that {win.side} wins at once")


@check
def unreachable_points(case: AuditContext) -> Iterator[Fault]:
    effects = [each.effects for each in case.book.abilities.values()]
    revives = any(isinstance(effect, ReviveEffect) for each in effects for effect in flat(each))
    for path, encounter, win in _ways(case):
        points = encounter.points
        if not win.points or points is None or points.holding or revives:
            continue
        foes = [group for side in encounter.sides if side.name != win.side for group in side.units]
        most = points.foe_down * sum(
            group.count * (group.lives or case.book.classes[group.who].lives) for group in foes
        )
        if most < win.points:
            yield Fault(
                (*path, "points"),
                f"{win.side} needs {win.points} points, and all its foes with all their lives bring {most}",
            )
