"""A scene: who is in it and where, the bench they stand on, its ledger, and who is told of its changes."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from typing import Any

from ..engine import Setup, Unit, set_up_bench
from ..engine.codes import BEGIN, END, REFRESH
from ..engine.habits import habits
from ..engine.layout.layout import State
from ..engine.reserves import reserves
from ..frozen_classes import frozen
from ..ledger import Fight
from ..rulebook import InputError, Rulebook
from ..rulebook.playbooks import Play
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, Sheet, build_sheet
from .anew import carried_over
from .bench import Bench
from .change import Change, ChangeReader
from .listeners import Listeners

OURS, THEIRS = "ours", "theirs"
APART = 1.0
"""Metres between those who begin beside each other."""


@frozen
class Member:
    """One who is in a scene from the beginning: who it is, on which side, and whether it acts by itself."""

    spec: CharacterSpec
    side: int
    acts: bool = False
    experience: int = 0
    """What it has gained since it came to its level."""


class LiveLedger(Fight):
    """The ledger of a scene. Its entries were written under one setup after another, as who is in it became others."""

    FIGURE = "fight"

    def __init__(self, chapters: Sequence[tuple[int, Setup]], state: State, seed: int) -> None:
        super().__init__(chapters[-1][1], state, seed, 0)
        self.chapters = tuple(chapters)

    def setup_of(self, entry: int) -> Setup:
        """Return the setup under which an entry was written."""
        return next(setup for first, setup in reversed(self.chapters) if first <= entry)


class Scene:
    """What all the characters of a scene share.

    `chapters` are the setups that its entries were written under, each with its first entry; `casts` who was in it.
    `drawn` counts the draws of checks.
    """

    def __init__(self, book: Rulebook, members: Sequence[Member], arena: str | None, seed: int | None) -> None:
        if arena is not None and arena not in book.arenas:
            raise InputError(f"arenas: there is no arena {arena}\n    {nearest(arena, book.arenas)}")
        self.book = book
        self.members = tuple(members)
        self.arena = arena
        self.seed = seed
        self.listeners = Listeners()
        self.begin()

    def begin(self) -> None:
        """Put everybody on the bench, as at the opening of a fight."""
        self.bench = Bench(self.set_up(self.members), seed=self.seed)
        self.chapters, self.casts = [(0, self.bench.setup)], [self.members]
        self.drawn = 0

    def __getstate__(self) -> dict[str, Any]:
        """Leave out who listens: a copy is told of nothing until somebody asks it to."""
        return {**self.__dict__, "listeners": Listeners()}

    def set_up(self, members: Sequence[Member], before: Sequence[Unit] = ()) -> Setup:
        """Return the setup of a scene with these members: all that they can use is at a script's hand.

        With the units of the setup before, those that could be called then are still there.
        """
        sheets = [build_sheet(self.book, member.spec) for member in members]
        units, own = list[Unit](), list[int]()
        granted = {name for buff in self.book.buffs.values() for name in buff.grants}
        for member, sheet, name, spot in zip(members, sheets, self._names(sheets), self._spots(members), strict=True):
            plays, handling, lives, distance = habits(self.book, sheet, None, None, None)
            plays, distance = (plays, distance) if member.acts else ((), 0.0)
            asked = dict.fromkeys((*sheet.abilities, *(name for name in self.book.abilities if name in granted)))
            script = tuple((("abilities", use), Play.model_validate({"use": use})) for use in asked)
            unit = Unit(name, member.side, sheet, (*plays, *script), handling, lives, distance, spot, sheet.label)
            units.append(unit)
            own.append(len(plays))
        there = list(before[len(units) :])
        names = {unit.name for unit in there}
        called = [*there, *(unit for unit in reserves(self.book, units) if unit.name not in names)]
        own += [len(unit.plays) for unit in called]
        return set_up_bench(self.book, *units, *called, arena=self.arena, sides=(OURS, THEIRS), own_plays=own)

    def _names(self, sheets: Sequence[Sheet]) -> Iterator[str]:
        """Yield what each is called: its class, with a number where there are several of it."""
        count, seen = Counter(sheet.label for sheet in sheets), Counter[str]()
        for sheet in sheets:
            seen[sheet.label] += 1
            yield f"{sheet.label} {seen[sheet.label]}" if count[sheet.label] > 1 else sheet.label

    def _spots(self, members: Sequence[Member]) -> Iterator[tuple[float, float] | None]:
        """Yield where each begins: the one side in the west, the other in the east, beside each other."""
        if self.arena is None:
            yield from [None] * len(members)
            return
        arena, seen = self.book.arenas[self.arena], Counter[int]()
        width, depth = arena.size
        for member in members:
            number, seen[member.side] = seen[member.side], seen[member.side] + 1
            row, column = divmod(number, max(1, int(depth / 2)))
            east = (0.25 if member.side == 0 else 0.75) * width + (row if member.side else -row) * APART
            north = depth / 2 + (column // 2 + column % 2) * (1 if column % 2 else -1) * APART
            yield arena.settled(min(max(east, 0.0), width), min(max(north, 0.0), depth))

    def replace(self, index: int, member: Member) -> range:
        """Let one of the members be somebody else from now on; return the entries that this wrote.

        Raises `InputError` where there can be no such character; then nothing has changed.
        """
        members = (*self.members[:index], member, *self.members[index + 1 :])
        setup = self.set_up(members, self.bench.setup.units)
        bench = carried_over(self.bench, setup, index)
        first = self.bench.written
        self.bench, self.members = bench, members
        self.chapters.append((first, setup))
        self.casts.append(members)
        return range(first, bench.written)

    @property
    def ledger(self) -> LiveLedger:
        """All that was booked so far."""
        return LiveLedger(self.chapters, self.bench.state, self.seed or 0)

    @property
    def seconds(self) -> float:
        """How much time has gone by, in seconds (rounds where the clock counts rounds)."""
        return self.book.clock.seconds(self.bench.ticks)

    def find(self, who: str | int) -> int:
        """Return the number of a unit: by its number, its name, or its class where there is only one of it.

        Raises `InputError` on an unknown name, and one that stands for several.
        """
        names, units = self.bench.setup.names.units, self.bench.setup.units
        if isinstance(who, int) and not isinstance(who, bool) and 0 <= who < len(names):
            return who
        if who in names:
            return names.index(str(who))
        found = [number for number, unit in enumerate(units) if who in (unit.sheet.who, unit.plain)]
        if len(found) == 1:
            return found[0]
        if found:
            raise InputError(
                f"{who}: there are {len(found)} of them here\n    write {', '.join(names[each] for each in found)}"
            )
        raise InputError(f"{self.bench.setup.title}: there is no {who} here\n    {nearest(str(who), names)}")

    def told(self, act: Callable[[], Any]) -> Any:
        """Carry out what changes the scene, and tell the listeners of it; return what it gives.

        Stats are told of after the entries: each that is another one now, with the last entry that began or ended
        something on its bearer.
        """
        first, before = self.bench.written, self._stats() if self.listeners.hear_stats else None
        given = act()
        if self.listeners.subscriptions:
            self.listeners.tell(list(self._changes(first, before)))
        return given

    def _changes(self, first: int, before: Any) -> Iterator[Change]:
        reader = ChangeReader(self.bench.setup, self.bench.state)
        for index in range(first, self.bench.written):
            yield reader.of_entry(index)
        if before is None:
            return
        stats, names = self._stats(), list(self.book.stats)
        for unit, stat in zip(*(stats != before).nonzero(), strict=True):
            entry = self._cause(first, int(unit))
            values = float(before[unit, stat]), float(stats[unit, stat])
            yield reader.of_stat(int(unit), names[stat], *values, entry, "stat")

    def _cause(self, first: int, unit: int) -> int | None:
        """Return the last entry, from one on, that began or ended a buff on a unit."""
        entries = self.bench.state.entries
        for index in range(self.bench.written - 1, first - 1, -1):
            if entries[index].unit == unit and entries[index].verb in (BEGIN, REFRESH, END):
                return index
        return None

    def _stats(self) -> Any:
        """Return every stat of every unit as it is now, of shape (units, stats)."""
        slots = self.bench.setup.names.slots  # stats stand one after another, as they are declared
        first = slots.index(next(iter(self.book.stats))) if self.book.stats else 0
        return self.bench.state.pages[: len(self.bench.setup.units), first : first + len(self.book.stats)].copy()
