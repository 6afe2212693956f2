"""An encounter made ready for the engine: tables, an opened state, and the names behind the numbers."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from functools import cached_property
from typing import Any

import numpy as np

from ..formula import explain
from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.encounters import Encounter
from ..rulebook.problems import dotted
from .codes import FAULT_ROW, MEETING_ROW, NEVER, NOT_FINITE, OUT_OF_BALANCE, SOUND
from .fault import FAULTS, EngineFault, FightFault
from .layout.layout import State, Tables
from .machine import open_units
from .ready import Faulted, Ready, new_state
from .room import room_of
from .roster import Player, find_encounter, roster, with_players
from .tables.compiled_formulas import Line
from .tables.writer import Names, TableWriter
from .unit import Unit


@frozen
class Setup:
    """Everything a fight needs. One setup serves any number of fights, on any number of threads."""

    book: Rulebook
    title: str
    units: tuple[Unit, ...]
    tables: Tables
    names: Names
    lines: tuple[Line, ...]
    limit: int
    arena: str | None = None
    encounter: Encounter | None = None
    name: str = ""
    """The name of the encounter in the rulebook; its title where it is none of the rulebook's."""

    def new_state(self, entries: int = 0, slice_ticks: int = 0, slots: int = 0) -> State:
        """Return a state of its own, with room for this many entries (none: nothing is recorded), and for so many
        names on a page at least.

        With `slice_ticks` its fights are watched, and their course is counted every this many ticks.
        """
        sizes = self._sizes
        return new_state(self.tables, {**sizes, "slot": max(sizes["slot"], slots)}, entries, slice_ticks)

    @cached_property
    def _sizes(self) -> dict[str, int]:
        """The length of each axis of a state."""
        names, tables = self.names, self.tables
        pages = {id(line.slots): line.slots for line in self.lines}  # few, and each is that of many lines
        meeting = max((max(slots.values(), default=0) + 1 for slots in pages.values()), default=1)
        return {
            "unit": len(names.units),
            "slot": max(len(names.slots), meeting),
            "gauge": len(names.gauges),
            "flow": len(tables.flows),
            "known": len(tables.known),
            "part": len(tables.parts),
            "spot": len(tables.spots),
            "side": len(names.sides),
            "extra": len(tables.extras),
            "change": len(tables.changes),
            **room_of(tables, self.title, self.limit),
            "buff": len(names.buffs),
            "line": len(self.lines),
            "kind": len(names.kinds),
            "cause": len(names.causes),
            "depth": max((line.program.stack for line in self.lines), default=1),
        }

    @cached_property
    def ready(self) -> Ready:
        """What its fights need, without the rulebook."""
        return Ready(self.tables, self.opening, self._sizes, len(self.names.sides))

    @cached_property
    def opening(self) -> State:
        """The state at the fight's opening; every fight begins as a copy of it."""
        return self.open(self.new_state())

    def open(self, state: State) -> State:
        """Return a new state as a fight opens. Modifies it."""
        self.place_units(state)
        open_units(self.tables, state)
        self.raise_fault(state)
        return state

    def place_units(self, state: State) -> None:
        """Write down in a new state who is there: levels, and the gauges that each holds. The kernel opens it then."""
        state.run[0].versions = 0
        for index, unit in enumerate(self.units):
            state.pages[index, 0] = unit.sheet.level
            for gauge in unit.sheet.gauges:
                state.gauges[index, self.gauge_places[gauge][0]].held = 1

    @cached_property
    def gauge_places(self) -> dict[str, tuple[int, int]]:
        """By gauge, its number and its first place on a page."""
        return {name: (index, int(self.tables.gauges[index].slot)) for index, name in enumerate(self.names.gauges)}

    @cached_property
    def digest(self) -> bytes:
        """A sum of all that its fights depend on: two setups with the same sum fight the same fights."""
        found = hashlib.blake2b()
        for block in (self.tables, self.opening):
            for name in block.LAYOUT:
                member = getattr(block, name)
                found.update(repr((name, member.shape)).encode())
                if block is self.tables or name == "memory":
                    found.update(np.ascontiguousarray(member).tobytes())
        return found.digest()

    def raise_fault(self, state: State | Faulted) -> None:
        """Raise `FightFault` where the clock holds one."""
        fault = np.asarray(state.clock)["fault"][0]
        if fault == OUT_OF_BALANCE:
            raise EngineFault(self._describe_fault(state.clock[0], state.pages))
        if fault != SOUND:
            raise FightFault(self._describe_fault(state.clock[0], state.pages))

    def _describe_fault(self, clock: Any, pages: np.ndarray) -> str:
        when = f"{number(self.book.clock.seconds(clock.tick))} {self.book.clock.unit}"
        who = f"{self.names.units[clock.fault_unit]}, at {when}"
        if clock.fault == OUT_OF_BALANCE:
            return f"{self.title}: the books of {who} do not balance"
        if clock.fault != NOT_FINITE:
            what, remedy = FAULTS[clock.fault]
            place = ""
            if clock.fault_line >= 0:
                path = self.lines[clock.fault_line].path
                place = f"{self.book.place(*path)}: {dotted(path)}: "
            what = what.format(largest=self.book.rulebook.largest_amount)
            return f"{place}{self.title}: {what}, {who}\n    {remedy}"
        line = self.lines[clock.fault_line]
        row = len(self.units) + (MEETING_ROW if "power" in line.slots else FAULT_ROW)
        values = {name: pages[row, slot] for name, slot in line.slots.items()}
        said = explain(line.program, values)
        return (
            f"{self.book.place(*line.path)}: {dotted(line.path)}: this formula has no finite value for {who}\n"
            f"    got: {said}\n    keep it from dividing by zero and from growing without end"
        )


def set_up(
    book: Rulebook, encounter: str | Encounter, side: str | None = None, players: Sequence[Player] = ()
) -> Setup:
    """Make an encounter ready, by its name or as an `Encounter`; players take the place of the units of a side, if one
    is named.

    Raises `InputError` on an unknown name or a character that can't be built.
    """
    entry = find_encounter(book, encounter) if isinstance(encounter, str) else encounter
    units = roster(book, entry) if side is None else with_players(book, entry, side, players)
    writer = TableWriter(book, units, entry, book.arenas[entry.arena] if entry.arena else None)
    limit = book.clock.ticks(entry.time_limit) if entry.time_limit else book.clock.limit_ticks()
    sides = tuple(side.name for side in entry.sides)
    tables = writer.write(limit, len(sides))
    title = entry.label or (encounter if isinstance(encounter, str) else " against ".join(sides))
    return Setup(
        book,
        title,
        tuple(units),
        tables,
        writer.names(sides),
        tuple(writer.lines.lines),
        limit,
        entry.arena,
        entry,
        encounter if isinstance(encounter, str) else title,
    )


def set_up_bench(
    book: Rulebook, *units: Unit, arena: str | None = None, sides: Sequence[str] = (), own_plays: Sequence[int] = ()
) -> Setup:
    """Put characters on the bench: every buff and damage kind at hand, no end; in an arena, if one is named.

    Each is on a side of its own, by its name, unless `sides` names them. Their plays are there for a script to ask
    for. By itself each carries out the first `own_plays` of them; without that, none.
    """
    sides = sides or tuple(unit.name for unit in units)
    writer = TableWriter(book, units, None, book.arenas[arena] if arena else None)
    tables = writer.write(NEVER, len(sides))
    rows = np.array(tables.units)
    if own_plays:
        rows["last_play"] = rows["first_play"] + np.array(own_plays)
    else:
        rows["last_play"] = rows["first_play"]
    tables = tables.with_member("units", rows)
    names = writer.names(tuple(sides))
    title = " and ".join(dict.fromkeys(unit.name for unit in units if unit.root < 0))
    return Setup(book, title, units, tables, names, tuple(writer.lines.lines), NEVER, arena)
