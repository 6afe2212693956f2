"""What can be afforded: costs no gauge holds, closed schools, gear nobody may wear, gauges nothing fills."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import product
from typing import Any

import numpy as np

from ...formula import Program, evaluate
from ...rulebook.brings import Unlocks
from ...rulebook.effects import FillEffect, HealEffect
from ...rulebook.pages import bearers
from ...sheets.by_level import as_known
from ...sheets.page import held_gauges
from ...sheets.stacking import changed
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import and_others, figure, listed
from ..registry import check


@check
def dear_ability(case: AuditContext) -> Iterator[Fault]:
    for who, character in case.book.classes.items():
        for level, names in character.learns.items():
            for index, name in enumerate(names):
                for gauge, cost in as_known(case.book, who, name, int(level)).cost.items():
                    yield from _too_dear(case, who, level, index, name, gauge, evaluate(cost, case.page(who)))


def _too_dear(
    case: AuditContext, who: str, level: int, index: int, name: str, gauge: str, asked: np.ndarray
) -> Iterator[Fault]:
    """Yield a fault where a full gauge does not hold what an ability asks at the level it is learned."""
    path = ("classes", who, "learns", str(level), index)
    if gauge not in held_gauges(case.book, who):
        yield Fault(path, f"{name} costs {gauge}, and {who} has none: it can never be used")
        return
    top, at = case.page(who)[f"{gauge}_top"], level - int(case.levels[0])
    asked = np.broadcast_to(asked, top.shape) + case.book.gauges[gauge].bottom  # it may be owed as far as that
    if asked[at] > top[at]:
        later = case.levels[at:][asked[at:] <= top[at:]]
        when = f"it can be used from level {later[0]} on" if len(later) else "it can never be used"
        when += ", without gear and buffs"
        yield Fault(
            path,
            f"{name} costs {figure(asked[at] - case.book.gauges[gauge].bottom)} {gauge}, and {who} holds "
            f"{figure(top[at])} at level {level}, where it is learned: {when}",
        )


@check
def closed_school(case: AuditContext) -> Iterator[Fault]:
    for who, character in case.book.classes.items():
        for level, names in character.learns.items():
            for index, name in enumerate(names):
                school = case.book.abilities[name].school
                if not character.may_use(school) and not _opened(case, who, school or ""):
                    yield Fault(
                        ("classes", who, "learns", str(level), index),
                        f"{who} learns {name}, and its school, {school}, is closed to {who}",
                    )


def _opened(case: AuditContext, who: str, school: str) -> bool:
    """Say whether something that a class may have opens a school to it."""
    return any(
        isinstance(entry, Unlocks)
        and school in entry.opens
        and (path == ("classes", who) or (path[0] != "classes" and who in (getattr(entry, "classes", None) or (who,))))
        for path, entry in bearers(case.book)
    )


@check
def unwearable_gear(case: AuditContext) -> Iterator[Fault]:
    for name, gear in case.book.gear.items():
        classes = [who for who in case.book.classes if gear.classes is None or who in gear.classes]
        if not any(_may_wear(case, who, gear.level, gear.requires).any() for who in classes):
            for_whom = f"for {listed(classes)}" if gear.classes and classes else "for everybody"
            asked = f" and requires {gear.requires}" if gear.requires else ""
            level = f" from level {gear.level} on" if gear.level is not None else ""
            yield Fault(("gear", name), f"nobody may ever wear {name}: it is {for_whom}{level}{asked}")


def _may_wear(case: AuditContext, who: str, level: int | None, requires: Program | None) -> np.ndarray:
    allowed = case.known(level if level is not None else int(case.levels[0]))
    if requires is None:
        return allowed
    return allowed & np.any([evaluate(requires, page) != 0 for page in _pages_made(case, who, requires.names)], axis=0)


def _pages_made(case: AuditContext, who: str, names: Iterable[str]) -> Iterator[dict[str, Any]]:
    """Yield the page of a class as it is made: bare, and of each origin with the least and the most of the attributes
    that are asked for, without upgrades and with all of them."""
    bare = dict(case.page(who))
    bought = {
        name: sum(upgrade.bought(name, upgrade.levels) for upgrade in case.book.upgrades.values())
        for name in names
        if name in case.book.stats
    }
    made = [bare]
    for origin in case.book.origins.values():
        if origin.classes is None or who in origin.classes:
            page = dict(bare)
            for stat, change in origin.stats.items():
                page[stat] = changed(bare[stat], change)
            asked = [name for name in names if name in origin.ranges]
            made += [
                page | {name: page[name] + value for name, value in zip(asked, chosen, strict=True)}
                for chosen in product(*(origin.ranges[name] for name in asked))
            ]
    stats = case.book.stats
    for page in made:
        for share in (0, 1):
            yield page | {
                name: np.clip(page[name] + share * gain, stats[name].floor, stats[name].ceiling)
                for name, gain in bought.items()
            }


@check
def unfilled_gauge(case: AuditContext) -> Iterator[Fault]:
    filled = {effect.gauge for _, effect in case.effects if isinstance(effect, FillEffect)}
    filled |= {case.book.healing[effect.heal].gauge for _, effect in case.effects if isinstance(effect, HealEffect)}
    for name, gauge in case.book.gauges.items():
        spenders = [ability for ability in case.reached if name in case.book.abilities[ability].cost]
        if spenders and not (gauge.refill or gauge.earns.model_fields_set or name in filled):
            yield Fault(("gauges", name), f"{name} pays for {listed(sorted(spenders)[:3])}, and nothing ever fills it")


@check
def dear_opening(case: AuditContext) -> Iterator[Fault]:
    for name, gauge in case.book.gauges.items():
        if gauge.refill or gauge.earns.model_fields_set:
            continue
        for ability, who in case.learners.items():
            cost = case.book.abilities[ability].cost.get(name)
            if cost is None or gauge.begins.roll is not None:
                continue
            users = [user for user in who if user in case.holders(name)]
            short = [user for user in users if _opens_short(case, user, who[user], name, cost)]
            if short:
                page, at = case.page(short[0]), who[short[0]] - int(case.levels[0])
                asked = case.by_level(cost, short[0])[at]
                yield Fault(
                    ("abilities", ability, "cost", name),
                    f"{ability} costs {figure(asked)} {name}, and "
                    f"{short[0]} "
                    f"opens with {figure(page[name][at])} at level {who[short[0]]}{and_others(short)}; "
                    f"nothing refills "
                    "it by itself",
                )


def _opens_short(case: AuditContext, who: str, level: int, gauge: str, cost: Program) -> bool:
    """Say whether a gauge opens with less than a cost, and could hold it."""
    page, at = case.page(who), level - int(case.levels[0])
    asked = case.by_level(cost, who)[at]
    return bool(page[gauge][at] - case.book.gauges[gauge].bottom < asked <= page[f"{gauge}_top"][at])


@check
def idle_gauge(case: AuditContext) -> Iterator[Fault]:
    for name, gauge in case.book.gauges.items():
        if gauge.refill and (holders := case.holders(name)):
            most = max(float(np.max(evaluate(gauge.refill.amount, case.page(who)))) for who in holders)
            if most <= 0:
                yield Fault(
                    ("gauges", name, "refill", "amount"),
                    f"the refill of {name} is {figure(most)} at most, for every class that holds it, at every level",
                )
