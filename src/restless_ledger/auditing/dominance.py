"""Dominance: whether one ability, or what changes stats, is no better than another in anything."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

import numpy as np

from ..formula import Program, evaluate
from ..rulebook.abilities import Ability
from ..rulebook.effects import AnyEffect, Effect
from ..rulebook.meaning import ReadOn, fields
from ..rulebook.stats import StatChange
from ..sheets.by_level import as_known
from .audit_context import AuditContext

ALIKE = (
    "targets",
    "projectile",
    "straight",
    "lays",
    "through_walls",
    "lunge",
    "lunge_returns",
    "dash",
    "jumps",
    "shared",
    "interruptible",
    "cooldown_from",
    "school",
    "channel",
    "requires",
    "beside",
    "cancels",
    "on_the_move",
    "priority",
    "at_place",
)
"""What two abilities must have in common to be compared."""


ALIKE_AREAS = ("outline", "origin", "to", "inner", "angle", "width", "each_times", "split")
"""What their areas must have in common."""


def no_better_for(case: AuditContext, one: str, other: str, users: Iterable[str]) -> bool:
    """Say whether one ability is no better than another in anything, for some who know both, as each of them has
    them."""
    pairs: dict[tuple[int, int], tuple[Ability, Ability, list[str]]] = {}
    for who in users:
        mine, theirs = (as_known(case.book, who, name, case.book.rulebook.levels[1]) for name in (one, other))
        pairs.setdefault((id(mine), id(theirs)), (mine, theirs, []))[2].append(who)
    return all(no_better_ability(case, *pair) for pair in pairs.values())


def no_better_ability(case: AuditContext, one: Ability, other: Ability, users: list[str]) -> bool:
    """Say whether one ability is no better than another in anything, for all who know both."""
    ticks = case.book.clock.ticks
    if one.passive or other.passive or not one.does:
        return False
    same = all(getattr(one, key) == getattr(other, key) for key in ALIKE)
    spans = ("windup", "recovery", "cooldown")
    alike_times = all(getattr(one, key).times == getattr(other, key).times for key in spans)
    if not same or not alike_times or (other.area is None and one.area is not None):
        return False
    if (
        one.area
        and other.area
        and (
            any(getattr(one.area, key) != getattr(other.area, key) for key in ALIKE_AREAS)
            or one.area.extent > other.area.extent
            or not at_most(case, one.area.most or math.inf, other.area.most or math.inf, users)
            or not at_most(case, other.area.falloff or 0.0, one.area.falloff or 0.0, users)
        )
    ):
        return False
    times = all(ticks(getattr(one, key)) >= ticks(getattr(other, key)) for key in spans)
    reach = other.reach is None or (one.reach is not None and one.reach <= other.reach)
    reach = reach and (other.least or 0) <= (one.least or 0)
    uses = other.uses is None or (one.uses is not None and one.uses <= other.uses)
    if not (times and reach and uses and one.charges <= other.charges and set(other.cost) <= set(one.cost)):
        return False
    costs = all(at_most(case, other.cost[gauge], one.cost[gauge], users) for gauge in other.cost)
    return costs and all(any(no_better_effect(case, mine, theirs, users) for theirs in other.does) for mine in one.does)


def no_better_effect(case: AuditContext, one: Effect, other: Effect, users: list[str]) -> bool:
    """Say whether an effect does no more than another of its kind, on the same conditions."""
    if type(one) is not type(other):
        return False
    for key, _, shape in fields(type(one)):
        mine, theirs = getattr(one, key), getattr(other, key)
        if key in AnyEffect.model_fields:
            if mine != theirs:
                return False
        elif any(isinstance(meaning, ReadOn) for meaning in shape.meanings):
            neutral = 1.0 if key in ("times", "strength") else 0.0
            if (mine is None) != (theirs is None) and key in ("push", "pull"):
                return False
            if not at_most(case, mine or neutral, theirs or neutral, users):
                return False
        elif mine != theirs:
            return False
    return True


def at_most(case: AuditContext, one: Program | float, other: Program | float, users: list[str]) -> bool:
    """Say whether one formula is never above another, on the pages of all who use them."""
    for who in users:
        mine, theirs = (evaluate(each, case.page(who)) if isinstance(each, Program) else each for each in (one, other))
        if not (np.asarray(mine) <= np.asarray(theirs)).all():
            return False
    return True


def raises(change: StatChange) -> bool:
    """Say whether a change raises its stat, more being taken for better. Of a formula nobody can say."""
    return isinstance(change.amount, float) and change.amount >= _neutral(change)


def _neutral(change: StatChange) -> float:
    return 1.0 if change.way == "times" else 0.0


def no_better_changes(mine: Mapping[str, StatChange], theirs: Mapping[str, StatChange]) -> bool:
    """Say whether changes raise no stat further than others do, more being taken for better."""
    for stat, change in mine.items():
        other = theirs.get(stat)
        if other is None:
            if change.way == "set" or not isinstance(change.amount, float) or change.amount > _neutral(change):
                return False
        elif other.way != change.way or not _at_least(other.amount, change.amount):
            return False
    return all(raises(change) for stat, change in theirs.items() if stat not in mine)


def _at_least(one: float | Program, other: float | Program) -> bool:
    """Say whether one amount is no less than another; of formulas, whether they are the same."""
    return one >= other if isinstance(one, float) and isinstance(other, float) else one == other
