"""A party on its way: who its members are by now, what they hold, and the books of experience and coin."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from threading import Lock

import numpy as np

from ..engine import Player, Setup, open_with, set_up
from ..engine.codes import THOUSAND
from ..engine.layout.layout import State
from ..rulebook import InputError, Rulebook
from ..rulebook.brings import Brings, Unlocks
from ..rulebook.journeys import Journey, Member
from ..rulebook.unit_names import member_names
from ..sheets import CharacterSpec, Item, Sheet, build_sheet, spec_of
from ..sheets.experience import experience_totals

COIN = "coin"
MOST_KEPT = 2000
"""How many encounters made ready are kept; the oldest gives way."""


@dataclass(frozen=True)
class JourneyEntry:
    """One change of an account on the way: coin, or somebody's experience. What could not be booked is waste."""

    stage: str
    account: str
    asked: int
    booked: int
    balance: int
    cause: str


@dataclass
class Traveller:
    """One of the party. `began_with` is the experience it set out with; `fill` what each gauge holds, in thousandths: a
    gauge that is not there opens as it does."""

    member: Member
    name: str
    level: int
    began_with: int
    gear: tuple[Item, ...]
    taught: tuple[str, ...]
    bought: dict[str, int] = field(default_factory=dict)
    fill: dict[str, int] = field(default_factory=dict)
    grown: dict[str, float] = field(default_factory=dict)
    """What rolled growth has added so far, by stat."""

    @property
    def key(self) -> tuple:
        """What decides this one's sheet."""
        worn = tuple([item.key for item in self.gear])
        chosen = (tuple(sorted(each.items())) for each in (self.bought, self.grown))
        return self.name, self.level, worn, self.taught, *chosen


def _bearing(sheet: Sheet) -> tuple[tuple[str, ...], ...]:
    """Return the paths of what gives a character marks, reactions or figures that hang on others."""
    return tuple(source.path for source in sheet.sources if _is_borne(source.brings))


def _is_borne(brings: Unlocks) -> bool:
    figures = isinstance(brings, Brings) and any(change.formula for change in brings.stats.values())
    return bool(brings.marks or brings.reacts or brings.mitigates or figures)


class SheetCache:
    """Sheets and encounters that are made ready once and used by every run that needs the same ones."""

    def __init__(self, book: Rulebook, journey: Journey) -> None:
        self.book = book
        self.journey = journey
        self.lock = Lock()
        self.sheets: dict[tuple, Sheet] = {}
        self.shapes: dict[tuple, tuple[Setup, list[tuple[State, State]]]] = {}
        self.ready: dict[tuple, PreparedEncounter] = {}
        self.plain_names = member_names(book, journey)
        self.names = list(self.plain_names)

    def __reduce__(self) -> tuple[type[SheetCache], tuple[Rulebook, Journey]]:
        return SheetCache, (self.book, self.journey)  # what is made ready is made ready again

    def travellers(self) -> list[Traveller]:
        """Return the party as it sets out. Raises `InputError` where a member can't be built."""
        return [replace(one, bought={}, fill={}, grown={}) for one in self._setting_out]

    @cached_property
    def _setting_out(self) -> list[Traveller]:
        first = self.book.rulebook.levels[0]
        party = []
        for member, name in zip(self.journey.party, self.names, strict=True):
            level = first if member.level is None else member.level
            sheet = build_sheet(self.book, spec_of(member, level))
            totals = experience_totals(self.book, member.who)
            begins = totals[level - first] if len(totals) > 1 else 0
            party.append(Traveller(member, name, level, begins, sheet.gear, tuple(member.taught)))
        return party

    def sheet(self, one: Traveller) -> Sheet:
        """Return a member's sheet as it is now."""
        key = one.key
        found = self.sheets.get(key)
        if found is None:
            member = one.member
            if len(self.sheets) > 10 * MOST_KEPT:
                self.sheets.clear()
            made = CharacterSpec(
                member.who,
                one.level,
                member.origin,
                member.attributes,
                one.gear,
                one.taught,
                one.bought,
                grown=one.grown,
            )
            found = self.sheets[key] = build_sheet(self.book, made)
        return found

    def encounter(self, encounter: str, side: str, party: list[Traveller]) -> PreparedEncounter:
        """Return an encounter made ready for the party as it is now."""
        key = (encounter, side, tuple(one.key for one in party))
        with self.lock:
            if key not in self.ready:
                if len(self.ready) >= MOST_KEPT:
                    del self.ready[next(iter(self.ready))]
                setup, states = self._made_ready(encounter, side, party)
                at = setup.names.sides.index(side)
                places = [index for index, unit in enumerate(setup.units) if unit.side == at and unit.root < 0]
                pair = states.pop() if states else (setup.new_state(), setup.new_state())
                opening = setup.open(pair[0], again=True)
                states.append(pair)
                self.ready[key] = PreparedEncounter(setup, places, opening.memory.copy(), states)
            return self.ready[key]

    def _made_ready(self, encounter: str, side: str, party: list[Traveller]) -> tuple[Setup, list[tuple[State, State]]]:
        """Make an encounter ready, and return it with the states it can be fought in: the same for all that differ
        only in stats from one made before, which is then made ready by exchanging those."""
        players = [
            Player(one.name, self.sheet(one), one.member.playbook, one.member.handling, self.plain_names[one.name])
            for one in party
        ]
        sheets = [player.sheet for player in players]
        shape = (encounter, side, tuple((sheet.abilities, _bearing(sheet)) for sheet in sheets))
        if shape not in self.shapes:
            self.shapes[shape] = set_up(self.book, encounter, side, players), []
            return self.shapes[shape]
        like, states = self.shapes[shape]
        at = like.names.sides.index(side)
        groups = (group for entry in self.book.encounters[encounter].sides for group in entry.units)
        called = any(unit.root >= 0 for unit in like.units) or any(group.above_party is not None for group in groups)
        # levels of others that go by those of the party
        if called or any(not one.member.playbook and not self.book.classes[one.member.who].playbook for one in party):
            return set_up(self.book, encounter, side, players), []  # what they do by themselves goes by their stats
        taken = iter(sheets)
        units = [replace(unit, sheet=next(taken)) if unit.side == at else unit for unit in like.units]
        return like.with_units(units), states


@dataclass(frozen=True)
class PreparedEncounter:
    """An encounter made ready for a party as it is: where its members are among the units, and how it opens.

    `states` are pairs of an opening and a state that no thread is using, of all encounters that differ only in stats.
    """

    setup: Setup
    units: list[int]
    memory: np.ndarray
    states: list[tuple[State, State]]

    def take(self, party: list[Traveller]) -> tuple[State, State]:
        """Return an opening in which the party's gauges hold what they hold now, and a state to fight in."""
        try:
            opening, state = self.states.pop()
        except IndexError:
            opening, state = self.setup.new_state(), self.setup.new_state()
        opening.memory[:] = self.memory
        state.meetings.taker[:] = -1  # what was worked out for others' stats
        gauges = self.setup.names.gauges
        for unit, one in zip(self.units, party, strict=True):
            for name, amount in one.fill.items():
                open_with(self.setup, opening, unit, gauges.index(name), amount)
        return opening, state


class Books:
    """The accounts of one run: coin, and each member's experience. Every change is an entry; the books must balance."""

    def __init__(self, opening: Mapping[str, int], keep: bool) -> None:
        self.opening = dict(opening)
        self.balance = dict(opening)
        self.booked = dict.fromkeys(opening, 0)
        self.entries: list[JourneyEntry] | None = [] if keep else None

    def book(self, stage: str, account: str, asked: int, cause: str, top: int | None = None) -> int:
        """Book a change, no further than zero and the top; return what was booked."""
        before = self.balance[account]
        after = max(0, before + asked if top is None else min(before + asked, max(top, before)))
        self.balance[account] = after
        self.booked[account] += after - before
        if self.entries is not None and asked:
            self.entries.append(JourneyEntry(stage, account, asked, after - before, after, cause))
        return after - before

    def reconcile(self) -> None:
        """Raise `InputError` where an account differs from its opening and all that was booked."""
        for account, opening in self.opening.items():
            if opening + self.booked[account] != self.balance[account]:
                raise InputError(
                    f"the books of {account} do not balance; this is a fault of the engine, please report it"
                )


def carry_over(one: Traveller, sheet: Sheet, gauges: tuple[str, ...], row: list[int], up: bool, returns: float) -> None:
    """Record what gauges hold after a fight. A member that is down stands up with a share of the gauge that was
    empty."""
    for name, now in zip(gauges, row, strict=True):
        if name in sheet.gauges:
            least = round(returns * sheet.gauges[name].top * THOUSAND) if sheet.book.gauges[name].downs else 0
            one.fill[name] = now if up else max(now, least)


def restore(one: Traveller, sheet: Sheet, restores: float | Mapping[str, float]) -> None:
    """Give a member's gauges back a share of what they lack, up to where each opens; those that do not rest only where
    they are named, and what is named also goes back from above."""
    named = restores if isinstance(restores, Mapping) else {}
    for name, now in one.fill.items():
        lacks = round(sheet.gauges[name].begins * THOUSAND) - now
        if name in named:
            one.fill[name] = now + round(named[name] * lacks)
        elif sheet.book.gauges[name].rests:
            share = 1.0 if isinstance(restores, Mapping) else restores
            one.fill[name] = now + round(share * max(0, lacks))


def stand_fresh(one: Traveller, book: Rulebook) -> None:
    """Let all gauges of a member open anew that rest."""
    one.fill = {name: now for name, now in one.fill.items() if not book.gauges[name].rests}
