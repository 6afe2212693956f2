"""Altered abilities: an ability as its user has it, with what gear, passive abilities, upgrades and buffs change."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from decimal import Decimal

from ..formula import Program, parse, scaled
from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..rulebook.alterations import Alteration
from ..rulebook.effects import ChoiceEffect, DamageEffect, DrainEffect, Effect, FillEffect, GroupEffect, HealEffect
from ..rulebook.meaning import Timed
from ..rulebook.quantities import Duration
from .brought import Source
from .sheet import Sheet

Alterations = tuple[tuple[Alteration, int], ...]
"""Alterations, each with how often it counts."""
TIMED = ("windup", "recovery", "cooldown")


def alterations_of(found: Iterable[Source], bought: dict[str, int], ability: str) -> Alterations:
    """Return what changes an ability for as long as a fight lasts, in the order in which it counts."""
    return tuple(
        (source.brings.alters[ability], bought.get(source.path[1], 1) if source.path[0] == "upgrades" else 1)
        for source in found
        if ability in source.brings.alters
    )


def usable(book: Rulebook, sheet: Sheet, name: str) -> Ability:
    """Return an ability of a character, as everything alters it that it has outside of a fight."""
    return altered(book, name, alterations_of(sheet.sources, dict(sheet.bought), name))


def altered(book: Rulebook, name: str, alterations: Alterations) -> Ability:
    """Return an ability with some alterations; the ability itself where there are none."""
    ability = book.abilities[name]
    for alteration, count in alterations:
        if alteration.becomes is not None:
            ability = book.abilities[alteration.becomes]
        ability = ability.model_copy(update=alteration.written)
        for _ in range(count):
            ability = _multiplied(ability, alteration)
        if alteration.more:
            ability = ability.model_copy(update={"does": [*ability.does, *alteration.more]})
    return ability


def _multiplied(ability: Ability, alteration: Alteration) -> Ability:
    times = alteration.times
    changes: dict[str, object] = {
        part: _longer(getattr(ability, part), getattr(times, part)) for part in TIMED if getattr(times, part) != 1.0
    }
    if times.cost != 1.0:
        changes["cost"] = {gauge: scaled(cost, times.cost) for gauge, cost in ability.cost.items()}
    if times.reach != 1.0 and ability.reach is not None:
        changes["reach"] = ability.reach * times.reach
    if times.radius != 1.0 and ability.area is not None:
        sizes = {key: getattr(ability.area, key) for key in ("radius", "inner", "length")}
        larger = {key: size * times.radius for key, size in sizes.items() if size is not None}
        changes["area"] = ability.area.model_copy(update=larger)
    if times.effects != 1.0:
        changes["does"] = _stronger(ability.does, times.effects)
    return ability.model_copy(update=changes) if changes else ability


def _longer(timed: Timed, times: float) -> Timed:
    duration = Duration(timed.time.amount * Decimal(repr(times)), timed.time.unit)
    return timed.model_copy(update={"time": duration})


def _stronger(effects: Sequence[Effect], times: float) -> list[Effect]:
    """Return effects that do as many times as much."""
    found: list[Effect] = []
    for effect in effects:
        changes: dict[str, object] = {}
        match effect:
            case DamageEffect() | HealEffect():
                changes["times"] = scaled(effect.times or ONE, times)
            case FillEffect():
                changes["fill"] = scaled(effect.fill, times)
            case DrainEffect():
                changes["drain"] = scaled(effect.drain, times)
            case GroupEffect():
                changes["does"] = _stronger(effect.does, times)
            case ChoiceEffect():
                changes["one_of"] = [
                    choice.model_copy(update={"does": _stronger(choice.does, times)}) for choice in effect.one_of
                ]
        found.append(effect.model_copy(update=changes) if changes else effect)
    return found


ONE: Program = parse("1")
