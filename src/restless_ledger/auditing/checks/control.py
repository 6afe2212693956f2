"""Control: buffs that keep their bearer from acting for ever, and chances that decide nothing."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ...formula import evaluate
from ...formula.arrays import Array
from ...rulebook.buffs import Buff
from ...rulebook.effects import Effect, GiveEffect
from ...rulebook.words import Bar, Receiver, Targets
from ..audit_context import AuditContext
from ..finding import Fault
from ..registry import check


def _holds(buff: Buff) -> bool:
    """Say whether a buff keeps its bearer from acting, and nothing but its time ends that."""
    ends = buff.ends_on or buff.breaks_at is not None or buff.diminishes is not None
    return Bar.ACTING in buff.bars and not ends


def _gives(case: AuditContext) -> Iterator[tuple[tuple, GiveEffect, str]]:
    """Yield every effect that gives a foe a buff which keeps it from acting, with the ability that it belongs to."""
    for path, effect in case.effects:
        if path[0] != "abilities" or not isinstance(effect, GiveEffect) or path[1] not in case.reached:
            continue
        at_foes = case.book.abilities[path[1]].targets is Targets.FOES and Receiver.USER not in case.receivers_of(path)
        if at_foes and "reacts" not in path and _holds(case.book.buffs[effect.give]):
            yield path, effect, path[1]


@check
def endless_control(case: AuditContext) -> Iterator[Fault]:
    for path, effect, _ in _gives(case):
        if case.book.buffs[effect.give].lasts is None:
            yield Fault((*path, "give"), f"{effect.give} bars acting and has no end: its bearer never acts again")


@check
def stun_lock(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for path, effect, ability in _gives(case):
        buff = case.book.buffs[effect.give]
        if buff.lasts is None or not buff.lasts.is_plain or effect.asks or buff.again == "ignore":
            continue
        lasts, every = clock.seconds(clock.ticks(buff.lasts)), case.soonest(ability)
        if lasts >= every:
            yield Fault(
                (*path, "give"),
                f"{effect.give} bars acting for {lasts:g} {clock.unit}, and {ability} gives it again after "
                f"{every:g} {clock.unit}: its target never acts",
            )


@check
def moot_chance(case: AuditContext) -> Iterator[Fault]:
    for path, effect in case.effects:
        if path[0] != "abilities" or path[1] not in case.reached or "reacts" in path or effect.chance is None:
            continue
        least, most = _chances(case, path[1], effect)
        if most <= 0.0:
            yield Fault((*path, "chance"), "nobody who knows this ever has a chance of it: it never happens")
        elif least >= 1.0:
            yield Fault((*path, "chance"), "everybody who knows this always has the chance of it: it decides nothing")


def _chances(case: AuditContext, ability: str, effect: Effect) -> tuple[float, float]:
    """Return the least and the greatest chance of an effect, for all who know it on all whom they meet, at each level.
    Gauges are as they open; what hangs on one, or on a fact of the moment, is anything between 0 and 1."""
    if effect.chance is None or any(_moves(case, each) for each in (effect.chance, effect.avoid)):
        return 0.0, 1.0
    found: list[Array] = []
    for by in case.learners[ability] or case.book.classes:
        for on in [other for one, other in case.meetings if one == by] or case.book.classes:
            with np.errstate(all="ignore"):
                chance = evaluate(effect.chance, case.page(by))
                avoid = evaluate(effect.avoid, case.page(on)) if effect.avoid is not None else 0.0
            found.append(np.asarray(chance - avoid))
    values = [float(value) for each in found for value in (np.nanmin(each), np.nanmax(each))]
    return (min(values), max(values)) if values else (0.0, 1.0)


def _moves(case: AuditContext, program: object) -> bool:
    names = set(getattr(program, "names", ()))
    steady = {"level", *case.book.stats}
    return not names <= steady
