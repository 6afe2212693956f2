"""A party on its way: who its members are by now, what they hold, and the books of experience and coin."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from functools import cached_property
from threading import Lock
from typing import Any

import numpy as np

from ..analysis.odds import chance_at, least_roll
from ..engine import Player, Rematch, Setup, bases_of, set_up
from ..engine.codes import THOUSAND
from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.journeys import Journey, Member
from ..rulebook.pages import gauge_names
from ..rulebook.unit_names import member_names
from ..sheets import CharacterSpec, Item, Sheet, build_sheet, spec_of
from ..sheets.experience import experience_totals
from ..sheets.page import held_gauges

COIN = "coin"
MOST_SHEETS, MOST_ROOMS = 20_000, 500
"""How many sheets are kept, and how many encounters made ready; of those the oldest gives way."""


@frozen
class JourneyEntry:
    """One change of an account on the way: coin, or somebody's experience. What could not be booked is waste."""

    stage: str
    account: str
    asked: int
    booked: int
    balance: int
    cause: str


class MemberSheet:
    """A sheet of a member, with what its fights need of it."""

    def __init__(self, key: tuple, sheet: Sheet) -> None:
        self.key, self.sheet, self.book = key, sheet, sheet.book
        self.begins = {name: round(sheet.page[name] * THOUSAND) for name in held_gauges(sheet.book, sheet.who)}
        """What each gauge opens with, in thousandths."""
        self._chances: dict[str, float | None] = {}

    @cached_property
    def bases(self) -> np.ndarray:
        """Its stats as fights take them."""
        return bases_of(self.book, self.sheet)

    def chance_at(self, check: str) -> float | None:
        """Return its chance to pass a check; None where it may not even try."""
        if check not in self._chances:
            wanted = least_roll(self.book, check, self.sheet)
            self._chances[check] = None if wanted is None else float(chance_at(self.book, check, wanted))
        return self._chances[check]

    @cached_property
    def bearing(self) -> tuple:
        """What it knows, and the paths of what gives it marks, reactions or figures that hang on others: all that
        decides how a fight is made ready for it, besides its stats."""
        return self.sheet.abilities, tuple([source.path for source in self.sheet.sources if source.is_borne])


@dataclass
class Traveller:
    """One of the party. `totals` is the experience that each level takes, `began_with` what it set out with; `fill`
    what each gauge holds, in thousandths: a gauge that is not there opens as it does. `known` is its sheet, until
    something changes it."""

    member: Member
    name: str
    account: str
    """The name of its account of experience."""
    level: int
    totals: tuple[int, ...]
    began_with: int
    attributes: Mapping[str, int]
    gear: tuple[Item, ...]
    taught: tuple[str, ...]
    bought: dict[str, int] = field(default_factory=dict)
    fill: dict[str, int] = field(default_factory=dict)
    grown: dict[str, float] = field(default_factory=dict)
    """What rolled growth has added so far, by stat."""
    known: MemberSheet | None = None

    @property
    def key(self) -> tuple:
        """What decides this one's sheet."""
        worn = tuple([item.key for item in self.gear])
        bought, grown = (tuple(sorted(each.items())) if each else () for each in (self.bought, self.grown))
        return self.name, self.level, worn, self.taught, bought, grown

    def change(self, **what: Any) -> None:
        """Let it have another level, other gear, …; its sheet is worked out anew when it is asked for."""
        for name, value in what.items():
            setattr(self, name, value)
        self.known = None

    def carry_over(self, gauges: tuple[str, ...], row: list[int], up: bool, returns: float) -> None:
        """Record what gauges hold after a fight. A member that is down stands up with a share of the gauge that was
        empty."""
        assert self.known is not None
        held, sheet = self.known.begins, self.known.sheet
        self.fill = {name: now for name, now in zip(gauges, row, strict=True) if name in held}
        for name in () if up else self.fill:
            least = round(returns * sheet.page[gauge_names(name)[1]] * THOUSAND) if sheet.book.gauges[name].downs else 0
            self.fill[name] = max(self.fill[name], least)

    def restore(self, now: MemberSheet, named: Mapping[str, float], share: float) -> None:
        """Give its gauges back a share of what they lack, up to where each opens; those that do not rest only where
        they are named, each with a share of its own, and what is named also goes back from above."""
        for name, holds in self.fill.items():
            lacks = now.begins[name] - holds
            if name in named:
                self.fill[name] = holds + round(named[name] * lacks)
            elif lacks > 0 and now.book.gauges[name].rests:
                self.fill[name] = holds + round(share * lacks)

    def stand_fresh(self, book: Rulebook) -> None:
        """Let all its gauges open anew that rest."""
        self.fill = {name: now for name, now in self.fill.items() if not book.gauges[name].rests}


class PartyStock:
    """Sheets that are worked out once, and room for fights that is made ready once, for every run that needs the same
    ones."""

    def __init__(self, book: Rulebook, journey: Journey) -> None:
        self.book = book
        self.journey = journey
        self.lock = Lock()
        self.sheets: dict[tuple, MemberSheet] = {}
        self.rooms: dict[tuple, PartyRoom] = {}
        self.plain_names = member_names(book, journey)
        self.names = list(self.plain_names)

    def __reduce__(self) -> tuple[type[PartyStock], tuple[Rulebook, Journey]]:
        return PartyStock, (self.book, self.journey)  # what is made ready is made ready again

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
            account, taught = f"experience of {name}", tuple(member.taught)
            chosen = sheet.spec.attributes
            party.append(Traveller(member, name, account, level, totals, begins, chosen, sheet.gear, taught))
        return party

    def sheet(self, one: Traveller) -> MemberSheet:
        """Return a member's sheet as it is now."""
        if one.known is None:
            key = one.key
            found = self.sheets.get(key)
            if found is None:
                if len(self.sheets) > MOST_SHEETS:
                    self.sheets.clear()
                found = self.sheets[key] = MemberSheet(key, self._built(one))
            one.known = found
        return one.known

    def _built(self, one: Traveller) -> Sheet:
        member = one.member
        made = CharacterSpec(
            member.who, one.level, member.origin, one.attributes, one.gear, one.taught, one.bought, grown=one.grown
        )
        return build_sheet(self.book, made)

    def set_up(self, encounter: str, side: str, party: list[Traveller]) -> Setup:
        """Return an encounter made ready for the party as it is now."""
        players = [
            Player(
                one.name, self.sheet(one).sheet, one.member.playbook, one.member.handling, self.plain_names[one.name]
            )
            for one in party
        ]
        return set_up(self.book, encounter, side, players)

    def room(self, encounter: str, side: str, party: list[Traveller]) -> PartyRoom:
        """Return room for an encounter in which the party's stats are exchanged: the same for all parties that differ
        in nothing else."""
        sheets = [self.sheet(one) for one in party]
        key = (encounter, side, *(sheet.bearing for sheet in sheets))
        found = self.rooms.get(key)
        if found is not None and found.hangs_on_stats:
            key = (encounter, side, *(sheet.key for sheet in sheets))
            found = self.rooms.get(key)
        if found is None:
            with self.lock:
                while len(self.rooms) >= MOST_ROOMS:
                    del self.rooms[next(iter(self.rooms))]
                setup = self.set_up(encounter, side, party)
                found = self.rooms[key] = PartyRoom(setup, side, self._hangs_on_stats(setup, encounter, party))
        return found

    def _hangs_on_stats(self, setup: Setup, encounter: str, party: list[Traveller]) -> bool:
        """Say whether more of an encounter than stats hangs on the party's: who is called, the levels of others, or
        what members do by themselves."""
        groups = (group for entry in self.book.encounters[encounter].sides for group in entry.units)
        return (
            any(unit.root >= 0 for unit in setup.units)
            or any(group.above_party is not None for group in groups)
            or any(not one.member.playbook and not self.book.classes[one.member.who].playbook for one in party)
        )


class PartyRoom:
    """An encounter with a party in the place of one side, and room to fight it that no thread is using."""

    def __init__(self, setup: Setup, side: str, hangs_on_stats: bool) -> None:
        self.setup, self.hangs_on_stats = setup, hangs_on_stats
        self.places = places_of(setup, side)
        self.free: list[Rematch] = []

    @contextmanager
    def opened(self, party: list[Traveller], sheets: list[MemberSheet]) -> Iterator[Rematch]:
        """Lend room in which the fight is opened for a party as it is now."""
        try:
            rematch = self.free.pop()
        except IndexError:
            rematch = Rematch(self.setup)
        rematch.exchange(self.places, [one.level for one in party], [sheet.bases for sheet in sheets])
        rematch.fill({place: one.fill for place, one in zip(self.places, party, strict=True) if one.fill})
        yield rematch
        self.free.append(rematch)


def places_of(setup: Setup, side: str) -> list[int]:
    """Return where the members of a party that has taken a side are among the units."""
    at = setup.names.sides.index(side)
    return [index for index, unit in enumerate(setup.units) if unit.side == at and unit.root < 0]


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
