"""Choice: what is no choice at all, because another is as good in everything, or nothing depends on it."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import permutations, product

import numpy as np

from ...analysis.odds import chance_of, wanted_by_level
from ...rulebook import InputError, Rulebook
from ...rulebook.brings import Bears, Unlocks
from ...rulebook.checks import Check
from ...rulebook.creation import Origin
from ...rulebook.gear import Gear
from ...rulebook.stats import StatChange
from ...rulebook.upgrades import Upgrade
from ...sheets.by_level import learned
from ...sheets.gear import change_of, mean_roll
from ...sheets.page import held_gauges
from ...sheets.upgrades import prices
from ..audit_context import AuditContext
from ..dominance import no_better_changes, no_better_for, raises
from ..finding import Fault
from ..phrases import listed
from ..registry import check


@check
def cosmetic_origin(case: AuditContext) -> Iterator[Fault]:
    seen: dict[str, str] = {}
    for name, origin in case.book.origins.items():
        brings = [getattr(origin, key) for key in Unlocks.model_fields]
        key = f"{_final_ranges(origin)} {_other_changes(origin)} {origin.classes} {brings}"
        if key in seen:
            yield Fault(("origins", name), f"{name} and {seen[key]} differ in nothing but the name")
        seen.setdefault(key, name)


@check
def subset_origin(case: AuditContext) -> Iterator[Fault]:
    for (one, mine), (other, theirs) in permutations(case.book.origins.items(), 2):
        inner, outer = _final_ranges(mine), _final_ranges(theirs)
        within = all(
            name in outer and outer[name][0] <= low and high <= outer[name][1] for name, (low, high) in inner.items()
        )
        no_better = all(
            no_better_changes({stat: change}, _other_changes(theirs)) for stat, change in _other_changes(mine).items()
        )
        no_worse = all(
            raises(change) for stat, change in _other_changes(theirs).items() if stat not in _other_changes(mine)
        )
        for_all = theirs.classes is None or (mine.classes is not None and set(mine.classes) <= set(theirs.classes))
        same = inner == outer and _other_changes(mine) == _other_changes(theirs)
        brings = unlocks_less(mine, theirs) and bears_alike(mine, theirs)
        if inner and within and no_better and no_worse and for_all and brings and not same:
            yield Fault(("origins", one), f"every build of {one} can be made of {other} too, which allows more")


def _final_ranges(origin: Origin) -> dict[str, tuple[int, int]]:
    """Return the range of each attribute with what the origin adds."""
    return {name: (low + origin.added(name), high + origin.added(name)) for name, (low, high) in origin.ranges.items()}


def _other_changes(origin: Origin) -> dict[str, StatChange]:
    return {stat: change for stat, change in origin.stats.items() if stat not in origin.ranges}


@check
def twin_class(case: AuditContext) -> Iterator[Fault]:
    seen: dict[str, str] = {}
    for who, character in case.book.classes.items():
        key = repr(character.model_copy(update={"label": None}))
        if key in seen:
            yield Fault(("classes", who), f"{who} and {seen[key]} differ in nothing but the name")
        seen.setdefault(key, who)


@check
def dominated_class(case: AuditContext) -> Iterator[Fault]:
    party = {member.who for journey in case.book.journeys.values() for member in journey.party}
    chosen = [who for who in case.book.classes if who in party or not case.book.journeys]
    learns = {who: dict(learned(case.book, who)) for who in chosen}
    for one, other in _who_knows_more(chosen, learns):
        mine, theirs = learns[one], learns[other]
        if any(theirs[ability] > level for ability, level in mine.items()):
            continue
        if _is_built_alike(case, one, other):
            names = [*case.book.stats, *(f"{gauge}_top" for gauge in held_gauges(case.book, one))]
            gaps = np.array([case.page(other)[name] - case.page(one)[name] for name in names])
            if (gaps >= 0).all() and (gaps > 0).any():
                yield Fault(
                    ("classes", one),
                    f"{other} has at least as much of everything as {one} at every level, and knows all that it knows",
                )


def _who_knows_more(things: Sequence[str], has: Mapping[str, Collection[str]]) -> Iterator[tuple[str, str]]:
    """Yield each pair of things of which the second has all that the first has: found by what they have, as most pairs
    have nothing in common."""
    holders: dict[str, set[str]] = {}
    for name in things:
        for each in has[name]:
            holders.setdefault(each, set()).add(name)
    for one in things:
        others = set.intersection(*(holders[each] for each in has[one])) if has[one] else set(things)
        yield from ((one, other) for other in things if other != one and other in others)


def _is_built_alike(case: AuditContext, one: str, other: str) -> bool:
    """Say whether two classes differ in nothing but figures: nobody could say which of them has the better part."""
    mine, theirs = case.book.classes[one], case.book.classes[other]
    keys = ("body", "reacts", "jumps", "lives", "invulnerable", "mitigates", "alters")
    alike = all(getattr(mine, key) == getattr(theirs, key) for key in keys)
    return alike and set(held_gauges(case.book, one)) <= set(held_gauges(case.book, other))


@check
def dominated_ability(case: AuditContext) -> Iterator[Fault]:
    known = [name for name in case.book.abilities if case.learners[name]]
    for one, other in _who_knows_more(known, case.learners):
        mine, theirs = case.learners[one], case.learners[other]
        if all(theirs[who] <= level for who, level in mine.items()):
            better = no_better_for(case, one, other, mine)
            if better and not (mine == theirs and one < other and no_better_for(case, other, one, mine)):
                yield Fault(
                    ("abilities", one),
                    f"{other} does all that {one} does, at least as well, at no greater "
                    f"cost and in "
                    f"no more time, for {listed(mine)} from the same level on or sooner",
                )


@check
def dominated_gear(case: AuditContext) -> Iterator[Fault]:
    pieces = list(case.book.gear.items())
    compared = _GearTable(case.book)
    for at, (one, _) in enumerate(pieces):
        if better := [pieces[place][0] for place in compared.better_than(at)]:
            more = f" (and {len(better) - 1} more)" if len(better) > 1 else ""
            yield Fault(
                ("gear", one), f"{better[0]}{more}, in the same slot, brings at least as much of everything as {one}"
            )


class _GearTable:
    """All pieces of gear as arrays, so that they are compared at once, however many there are."""

    def __init__(self, book: Rulebook) -> None:
        self.pieces = list(book.gear.items())
        self.changes = [_mean_changes(gear) for _, gear in self.pieces]
        slots = list(book.slots)
        self.slots = np.array([slots.index(gear.slot) for _, gear in self.pieces])
        self.levels = np.array([gear.level or 0 for _, gear in self.pieces])
        rest = [repr([getattr(gear, key) for key in BESIDE_FIGURES]) for _, gear in self.pieces]
        self.rest = np.unique(rest, return_inverse=True)[1]
        columns = {(stat, way): at for at, (stat, way) in enumerate(product(book.stats, ("add", "scale", "times")))}
        self.amounts = np.zeros((len(self.pieces), len(columns)))
        self.amounts[:, 2::3] = 1.0
        self.plain = np.ones(len(self.pieces), dtype=bool)
        for row, changes in enumerate(self.changes):
            for stat, change in changes.items():
                if isinstance(change.amount, float) and change.way != "set":
                    self.amounts[row, columns[stat, change.way.value]] = change.amount
                else:
                    self.plain[row] = False

    def better_than(self, at: int) -> list[int]:
        """Return the pieces that bring at least as much as one in everything; of those alike in all, the first."""
        fits = (self.slots == self.slots[at]) & (self.levels <= self.levels[at])
        fits &= (self.amounts >= self.amounts[at]).all(axis=1)
        fits[at] = False
        sure = fits & self.plain & self.plain[at] & (self.rest == self.rest[at])
        asked = [place for place in np.flatnonzero(fits & ~sure).tolist() if self._is_better(at, place)]
        found = sorted([*np.flatnonzero(sure).tolist(), *asked])
        name = self.pieces[at][0]
        return [
            place for place in found if not (name < self.pieces[place][0] and self.changes[place] == self.changes[at])
        ]

    def _is_better(self, at: int, place: int) -> bool:
        mine, theirs = self.pieces[at][1], self.pieces[place][1]
        return _wears_no_later(mine, theirs) and no_better_changes(self.changes[at], self.changes[place])


BESIDE_FIGURES = ("classes", "requires", "opens", "grants", "marks", "reacts", "mitigates", "alters", "belongs_to")
"""What a piece of gear brings and asks besides its level and its figures."""


def _wears_no_later(mine: Gear, theirs: Gear) -> bool:
    """Say whether a second piece is worn by all who may wear the first, and brings all that it brings besides."""
    wearers = theirs.classes is None or (mine.classes is not None and set(mine.classes) <= set(theirs.classes))
    brings = unlocks_less(mine, theirs) and bears_alike(mine, theirs)
    asks = theirs.requires in (None, mine.requires)
    return wearers and asks and brings and mine.belongs_to in (None, theirs.belongs_to)


def _mean_changes(gear: Gear) -> dict[str, StatChange]:
    """Return what a piece changes, its rolled amounts as they are on average."""
    rolled = {stat: change_of(change.way, mean_roll(change)) for stat, change in gear.rolled.items()}
    return {**gear.stats, **rolled}


def _wanted(case: AuditContext, name: str) -> list[np.ndarray]:
    """Return, for each class that a check is for, the least roll that passes at each level."""
    return [wanted_by_level(case.book, name, who) for who in case.book.classes if case.book.checks[name].is_for(who)]


@check
def impossible_check(case: AuditContext) -> Iterator[Fault]:
    for name, entry in case.book.checks.items():
        wanted = _wanted(case, name)
        least = min((float(np.nanmin(row)) for row in wanted), default=np.nan)
        if least == np.inf or (np.isfinite(least) and chance_of(entry, least) == 0):
            why = (
                f"nobody ever meets what it requires, {entry.requires}"
                if least == np.inf
                else (f"the best placed still needs {least:g} of a roll of {_said(entry)}")
            )
            yield Fault(("checks", name), f"nobody can pass {name} at any level: {why}")


@check
def certain_check(case: AuditContext) -> Iterator[Fault]:
    for name, entry in case.book.checks.items():
        wanted = _wanted(case, name)
        most = max((float(np.nanmax(row)) for row in wanted), default=np.nan)
        if np.isfinite(most) and chance_of(entry, most) == 1:
            yield Fault(
                ("checks", name),
                f"everybody passes {name} at every level: the worst placed needs {most:g} of a roll of {_said(entry)}",
            )


def _said(entry: Check) -> str:
    against = f" against {entry.opposed_by}" if entry.opposed_by is not None else ""
    return f"{entry.roll or 'no roll'}{against}"


@check
def worthless_upgrade(case: AuditContext) -> Iterator[Fault]:
    for name, upgrade in case.book.upgrades.items():
        gains = {stat: upgrade.bought(stat, upgrade.levels) for stat in upgrade.stats}
        if any(getattr(upgrade, key) for key in Unlocks.model_fields):
            continue
        if not any(gains.values()):
            yield Fault(("upgrades", name), f"{name} brings nothing, even at level {upgrade.levels}, its last")
        elif all(stat not in case.readers for stat in gains):
            yield Fault(("upgrades", name), f"{name} raises {listed(gains)}, which no rule reads")
        elif all(_capped(case, stat) for stat, gain in gains.items() if gain):
            yield Fault(("upgrades", name), f"{name} raises {listed(gains)}, which everybody has at its ceiling")
    for (one, mine), (other, theirs) in permutations(case.book.upgrades.items(), 2):
        if _dearer(case, one, mine, other, theirs):
            yield Fault(("upgrades", one), f"{other} brings at least as much as {one} at every level, for no more coin")


def bears_alike(one: Bears, other: Bears) -> bool:
    """Say whether two things bring the same marks and reactions: who can tell whether more of those is better?"""
    alike = all(getattr(one, key) == getattr(other, key) for key in ("reacts", "mitigates", "alters"))
    return alike and set(one.marks) == set(other.marks)


def unlocks_less(one: Unlocks, other: Unlocks) -> bool:
    """Say whether one of two things opens and grants nothing that the other does not."""
    return set(one.opens) <= set(other.opens) and set(one.grants) <= set(other.grants)


def _capped(case: AuditContext, stat: str) -> bool:
    return all((case.page(who)[stat] >= case.book.stats[stat].ceiling).all() for who in case.book.classes)


def _dearer(case: AuditContext, one: str, mine: Upgrade, other: str, theirs: Upgrade) -> bool:
    """Say whether an upgrade costs no less than another and brings no more, level by level."""
    for_all = theirs.classes is None or (mine.classes is not None and set(mine.classes) <= set(theirs.classes))
    brings = set(mine.stats) <= set(theirs.stats) and unlocks_less(mine, theirs) and bears_alike(mine, theirs)
    if not for_all or not brings or mine.levels > theirs.levels:
        return False
    try:
        costs, others = np.cumsum(prices(case.book, one)), np.cumsum(prices(case.book, other))
    except InputError:
        return False  # a price that can't be paid is another finding
    levels = range(1, mine.levels + 1)
    gains = all(mine.bought(stat, level) <= theirs.bought(stat, level) for stat in mine.stats for level in levels)
    cheaper = (others[: mine.levels] <= costs).all()
    same = mine.stats == theirs.stats and (others[: mine.levels] == costs).all()
    return gains and bool(cheaper) and not (same and one < other)
