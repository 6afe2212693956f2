"""Rulebook + class + level, origin, gear and buffs → sheet."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from ..formula import evaluate_one, explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.figure_order import figure_order
from ..rulebook.frozen import FrozenDict
from ..rulebook.pages import gauge_names, marks
from ..rulebook.problems import nearest
from .brought import WORN, Source, grants_of, marks_of, opens_of, sources, standing_of
from .creation import judge_build
from .figures import GaugeFigure, Line, StatFigure
from .gear import Item, Standing, check_wearing, take_items
from .sheet import Sheet
from .spec import CharacterSpec
from .stat_lines import own_lines_of, stat_figure, summed
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
    owner, own = _described(book, whole), own_lines_of(book, whole)
    known, found = _known(book, whole, items)
    if items:
        unworn = [source for source in found if source.path[0] not in WORN]
        check_wearing(book, spec.who, level, items, lambda: _bare_page(book, whole, own, unworn, owner))
    standing = standing_of(found)
    buffs = (Standing(("buffs", name), name, book.buffs[name].stats) for name in dict.fromkeys(spec.buffs))
    worn = [*standing, *buffs]
    borne = (*marks_of(found), *(mark for name in spec.buffs for mark in book.buffs[name].marks))
    stats, gauges, page = _figures(book, whole, own, worn, borne, owner)
    dear = _too_dear(book, known.abilities, gauges, page)
    if dear:
        known = replace(known, barred=FrozenDict({**known.barred, **dear}))
    return Sheet(
        whole,
        FrozenDict(stats),
        FrozenDict(gauges),
        known,
        tuple(standing),
        tuple(found),
        FrozenDict(page),
        book,
        build_sheet,
    )


def _figures(
    book: Rulebook,
    spec: CharacterSpec,
    own: Mapping[str, Sequence[Line]],
    worn: Sequence[Standing],
    marks_borne: Iterable[str],
    owner: str,
) -> tuple[dict[str, StatFigure], dict[str, GaugeFigure], dict[str, float]]:
    """Return every stat and gauge of a character, and its page: each figure after those that it reads."""
    page, held = {"level": float(spec.level or 0), **_marks(book, marks_borne)}, held_gauges(book, spec.who)
    stats, gauges = dict[str, StatFigure](), dict[str, GaugeFigure]()
    changing: dict[str, list[Standing]] = {name: [] for name in book.stats}
    for source in worn:
        for name in source.stats:
            changing[name].append(source)
    for name in figure_order(book):
        if name in book.stats:
            stats[name] = stat_figure(book, own[name], name, changing[name], owner, page)
            page[name] = stats[name].value
        else:
            now, top = 0.0, 0.0
            if name in held:
                gauges[name] = _gauge_figure(book, name, page, owner)
                now, top = gauges[name].begins, gauges[name].top
            page.update(zip(gauge_names(name), (now, top, now / top if top else 0.0), strict=True))
    ordered = {name: gauges[name] for name in book.gauges if name in gauges}
    return {name: stats[name] for name in book.stats}, ordered, page


def _described(book: Rulebook, spec: CharacterSpec) -> str:
    """Say who a character is, for messages."""
    borne = ", ".join(book.buffs[name].label or name for name in spec.buffs)
    worn = ", ".join(item.label(book) for item in spec.gear if isinstance(item, Item))
    parts = (
        f"{book.classes[spec.who].label or spec.who}, level {spec.level}",
        *((book.origins[spec.origin].label or spec.origin,) if spec.origin else ()),
        *((f"of difficulty {spec.difficulty}",) if spec.difficulty else ()),
        *((f"wearing {worn}",) if worn else ()),
        *((f"with {borne}",) if borne else ()),
    )
    return ", ".join(parts)


def held_gauges(book: Rulebook, who: str) -> list[str]:
    """Return the gauges that a class holds: all of them unless it lists its own."""
    own = book.classes[who].gauges
    return [name for name in book.gauges if own is None or name in own]


def stat_bases(book: Rulebook, sheet: Sheet) -> list[tuple[float, float, float, float]]:
    """Return for each stat what a fight's buffs start from: base, what is added, summed percentages, factors; before
    any limit."""
    own, found = own_lines_of(book, sheet.spec), list[tuple[float, float, float, float]]()
    changed = {stat for each in sheet.standing for stat in each.stats}
    for stat in book.stats:
        base, adds_up = own[stat][-1].value, stat in changed and not is_live(book, sheet, stat)
        found.append(summed(sheet.standing, stat, base) if adds_up else (base, 0.0, 0.0, 1.0))
    return found


def is_live(book: Rulebook, sheet: Sheet, stat: str) -> bool:
    """Say whether what changes a stat for good can't be added up beforehand: a formula is among it, or the stat itself
    is one."""
    changes = [each.stats[stat] for each in sheet.standing if stat in each.stats]
    varies = any(each.key == "varies" and stat in each.stats for each in sheet.standing)
    return varies or (bool(changes) and (book.stats[stat].is_ is not None or any(change.formula for change in changes)))


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
    book: Rulebook, spec: CharacterSpec, own: Mapping[str, Sequence[Line]], unworn: Sequence[Source], owner: str
) -> dict[str, float]:
    """Return the page of a character without gear and buffs."""
    return _figures(book, spec, own, standing_of(unworn), marks_of(unworn), owner)[2]


def _marks(book: Rulebook, borne: Iterable[str]) -> dict[str, float]:
    found = set(borne)
    names = book.kept(("marked",), lambda: [(mark, f"marked({mark})") for mark in marks(book)])
    return {name: float(mark in found) for mark, name in names}


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
    book: Rulebook, abilities: Sequence[str], gauges: Mapping[str, GaugeFigure], page: Mapping[str, float]
) -> dict[str, str]:
    """Return the abilities that cost more than a full gauge holds, or of a gauge the class has not, and why."""
    found = {}
    for name in abilities:
        for gauge, cost in book.abilities[name].cost.items():
            asked = evaluate_one(cost, page)
            if gauge not in gauges:
                found[name] = f"it costs {gauge}, and this class has none"
            elif asked > gauges[gauge].top:
                found[name] = f"it costs {number(asked)} {gauge}, and a full one holds {number(gauges[gauge].top)}"
    return found


def _gauge_figure(book: Rulebook, name: str, page: dict[str, float], owner: str) -> GaugeFigure:
    gauge = book.gauges[name]
    place = book.place("gauges", name, "top")
    top = evaluate_one(gauge.top, page)
    least = "above 0" if gauge.downs else "at least 0"
    most = book.rulebook.largest_amount
    if not 0 <= top <= most or (gauge.downs and top == 0):
        what = "is not a number" if math.isnan(top) else f"is {number(top)}; it must be {least} and at most {most:g}"
        raise InputError(
            f"{place}: gauges.{name}.top: the top of {owner} {what}\n    got: {explain(gauge.top, page)}\n"
            f"    raise it, or give the class a list of gauges = [...] without {name}"
        )
    opens = float(gauge.begins.amount(top))
    flows = (("", gauge.refill), ("wanes by ", gauge.wanes))
    read = {each: page[each] for each in gauge.top.names}
    return GaugeFigure(name, gauge.label or name, top, opens, flows, gauge.top, read, owner, place)
