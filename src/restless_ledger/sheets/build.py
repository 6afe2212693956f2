"""Rulebook + class + level, origin, gear and buffs → sheet."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from functools import partial

from ..formula import evaluate_one
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.frozen import FrozenDict
from ..rulebook.pages import gauge_names
from ..rulebook.problems import nearest
from .altered import alterations_of, altered
from .brought import WORN, Source, grants_of, marks_of, opens_of, sources, standing_of
from .creation import judge_build
from .figures import Line
from .gear import Item, Standing, check_wearing, take_items
from .page import changes_by_stat, held_gauges, page_of
from .sheet import Sheet
from .spec import CharacterSpec, buffs_on, described
from .stacking import stacked
from .stat_lines import own_lines_of
from .unlocks import Known, what_it_knows
from .upgrades import check_bought


def build_sheet(book: Rulebook, spec: CharacterSpec) -> Sheet:
    """Build a character.

    Raises `InputError` on an unknown name, a level the rulebook doesn't have, a build or gear that is not allowed, and
    a gauge whose top is not above zero.
    """
    level = book.rulebook.levels[0] if spec.level is None else spec.level
    _check_request(book, spec.who, level, spec.buffs, spec.taught)
    chosen, items = _chosen(book, spec.who, spec.origin, spec.attributes), take_items(book, spec.gear)
    owned = check_bought(book, spec.who, spec.bought)
    whole = spec
    if (spec.level, spec.attributes, spec.bought, spec.gear) != (level, chosen, owned, items):
        whole = replace(spec, level=level, attributes=chosen, bought=owned, gear=items)
    known, found = _known(book, whole, items)
    own, owner = own_lines_of(book, whole), partial(described, book, whole)
    if items:
        unworn = [source for source in found if source.path[0] not in WORN]
        check_wearing(book, spec.who, level, items, lambda: _bare_page(book, whole, own, unworn, owner))
    standing = standing_of(found)
    borne = (*marks_of(found), *(mark for name in spec.buffs for mark in book.buffs[name].marks))
    page = page_of(book, spec.who, level, own, [*standing, *buffs_on(book, whole)], borne, owner)
    dear = _too_dear(book, spec, known.abilities, found, page)
    if dear:
        known = replace(known, barred=FrozenDict({**known.barred, **dear}))
    return Sheet(whole, known, tuple(standing), tuple(found), FrozenDict(page), book, build_sheet)


def stat_bases(book: Rulebook, sheet: Sheet) -> list[tuple[float, float, float, float]]:
    """Return for each stat what a fight's buffs start from: base, what is added, summed percentages, factors; before
    any limit."""
    own, found = own_lines_of(book, sheet.spec), list[tuple[float, float, float, float]]()
    changes = changes_by_stat(sheet.standing)
    for stat in book.stats:
        base, mine = own[stat][-1].value, changes.get(stat, ())
        adds_up = mine and not _hangs(book, stat, mine)
        found.append(stacked(base, ((each.stats[stat], True) for each in mine)) if adds_up else (base, 0.0, 0.0, 1.0))
    return found


def is_live(book: Rulebook, sheet: Sheet, stat: str) -> bool:
    """Say whether what changes a stat for good can't be added up beforehand: a formula is among it, or the stat itself
    is one."""
    mine = [each for each in sheet.standing if stat in each.stats]
    return bool(mine) and _hangs(book, stat, mine)


def _hangs(book: Rulebook, stat: str, changes: Iterable[Standing]) -> bool:
    """Say the same of some changes of a stat."""
    return book.stats[stat].is_ is not None or any(each.key == "varies" or each.stats[stat].formula for each in changes)


def _known(book: Rulebook, spec: CharacterSpec, items: Sequence[Item]) -> tuple[Known, list[Source]]:
    """Return what a character knows, and all that brings it something."""
    names = tuple(item.gear for item in items)
    key = ("known", spec.who, spec.level, spec.origin, spec.taught, names, tuple(spec.bought), spec.difficulty)
    known = book.kept(key, lambda: _all_known(book, spec, items))
    return known, _sources(book, spec, items, known.passives)


def _all_known(book: Rulebook, spec: CharacterSpec, items: Sequence[Item]) -> Known:
    """Return what a character knows. A passive ability that is granted may grant others, so this goes on until nothing
    more comes."""
    passives: tuple[str, ...] = ()
    while True:
        found = _sources(book, spec, items, passives)
        more = [*spec.taught, *grants_of(found)]
        known = what_it_knows(book, spec.who, spec.level or 0, more, opens_of(found))
        if set(known.passives) == set(passives):
            return known
        passives = known.passives


def _sources(book: Rulebook, spec: CharacterSpec, items: Sequence[Item], passives: Iterable[str]) -> list[Source]:
    return sources(
        book,
        spec.who,
        origin=spec.origin,
        passives=passives,
        items=items,
        bought=spec.bought,
        difficulty=spec.difficulty,
    )


def _bare_page(
    book: Rulebook,
    spec: CharacterSpec,
    own: Mapping[str, Sequence[Line]],
    unworn: Sequence[Source],
    owner: Callable[[], str],
) -> dict[str, float]:
    """Return the page of a character without gear and buffs."""
    return page_of(book, spec.who, spec.level or 0, own, standing_of(unworn), marks_of(unworn), owner)


def _check_request(book: Rulebook, who: str, level: int, buffs: Sequence[str], taught: Sequence[str]) -> None:
    if who not in book.classes:
        raise InputError(f"classes: there is no class {who}\n    {nearest(who, book.classes)}")
    first, last = book.rulebook.levels
    if not first <= level <= last:
        raise InputError(f"{who}: there is no level {level}\n    this rulebook's levels go from {first} to {last}")
    for chapter, noun, known, names in (
        ("buffs", "buff", book.buffs, buffs),
        ("abilities", "ability", book.abilities, taught),
    ):
        for name in names:
            if name not in known:
                raise InputError(f"{chapter}: there is no {noun} {name}\n    {nearest(name, known)}")


def _chosen(book: Rulebook, who: str, origin: str | None, attributes: Mapping[str, int] | None) -> dict[str, int]:
    """Return every attribute as chosen; nothing without an origin."""
    asked = tuple(sorted((attributes or {}).items()))
    return book.kept(("chosen", who, origin, asked), lambda: _judged(book, who, origin, attributes))


def _judged(book: Rulebook, who: str, origin: str | None, attributes: Mapping[str, int] | None) -> dict[str, int]:
    if origin is None:
        if attributes:
            raise InputError("attributes are chosen within the ranges of an origin\n    name the origin as well")
        return {}
    verdict = judge_build(book, origin, attributes, compare=False)
    classes = book.origins[origin].classes
    if classes is not None and who not in classes:
        raise InputError(
            f"{book.place('origins', origin, 'classes')}: origins.{origin}: {who} is none of its classes\n"
            f"    they are: {', '.join(classes)}"
        )
    if not verdict.allowed:
        raise InputError(f"{who} of {origin}: this build is not allowed: {'; '.join(verdict.problems)}")
    return dict(verdict.attributes)


def _too_dear(
    book: Rulebook, spec: CharacterSpec, abilities: Sequence[str], brought: Sequence[Source], page: Mapping[str, float]
) -> dict[str, str]:
    """Return the abilities that cost more than a full gauge holds and may be owed, or of a gauge the class has not, and
    why."""
    found, held = {}, held_gauges(book, spec.who)
    bought = dict(spec.bought)
    for name in abilities:
        for gauge, cost in altered(book, name, alterations_of(brought, bought, name)).cost.items():
            asked, top = evaluate_one(cost, page), page[gauge_names(gauge)[1]]
            if gauge not in held:
                found[name] = f"it costs {gauge}, and this class has none"
            elif asked + book.gauges[gauge].bottom > top:
                found[name] = f"it costs {number(asked)} {gauge}, and a full one holds {number(top)}"
    return found
