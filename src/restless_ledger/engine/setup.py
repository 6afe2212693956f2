"""An encounter made ready for the engine: tables, an opened state, and the names behind the numbers."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from ..formula import explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.encounters import Encounter
from ..rulebook.problems import dotted
from ..sheets.build import stat_base
from .codes import (
    FASTEST,
    FAULT_ROW,
    LONGEST,
    MEETING_ROW,
    MOST_ACTIONS,
    MOST_BOOKED,
    MOST_EFFECTS,
    NEVER,
    NO_END,
    NO_ROOM,
    NOT_FINITE,
    OUT_OF_BALANCE,
    SLICES,
    SOUND,
    TOO_FAST,
    TOO_LARGE,
    TOO_LONG,
    TOO_MANY_ACTIONS,
    TOO_MUCH,
)
from .layout.layout import State, Tables, allocate
from .layout.table_layout import BASES
from .machine import open_units
from .roster import Player, find_encounter, roster, with_players
from .tables.compiled_formulas import Line
from .tables.writer import Names, TableWriter
from .unit import Unit

LEAST_FRAMES, FRAMES_A_UNIT = 1024, 8
"""Room for the lists of effects that are under way at once, one caused by another."""
LEAST_LATER, LATER_A_UNIT = 512, 64
"""Room for the effects that are put off."""
MOST_SHOTS = 1 << 18
MOST_ZONES = 1 << 14
"""Room for all zones that units lay."""


FAULTS = {
    TOO_LARGE: (
        "an amount beyond {largest:g} points",
        "make the formulas behind it smaller, or raise rulebook.largest_amount, up to 1e15",
    ),
    TOO_MUCH: (
        f"all very large amounts of the fight come to more than {MOST_BOOKED:g} points",
        "make the formulas behind them smaller, or the fight shorter",
    ),
    TOO_LONG: (f"a time beyond {LONGEST:g} ticks", "make the way shorter, or the factor of the time smaller"),
    TOO_FAST: (f"a speed beyond {FASTEST:g} m/s", "make the push weaker, or the weight greater"),
    TOO_MANY_ACTIONS: (f"more than {MOST_ACTIONS} actions in a round", "make clock.actions smaller"),
    NO_END: (
        f"more than {MOST_EFFECTS:,} effects on one tick, by reactions that bring each other about",
        "let a reaction ask for something that its own effects take away, or lower clock.reaction_depth",
    ),
    NO_ROOM: (
        "more effects, projectiles or zones under way, or put off, than there is room for",
        "let fewer reactions answer one another, or fewer targets be reached at once",
    ),
}
"""What each fault is, and its remedy."""


class EngineFault(RuntimeError):
    """Books that do not balance: a fault of this library, never of its input."""


class FightFault(InputError):
    """A fight that could not be carried on: a formula without a finite value, or an amount beyond all bounds."""


@dataclass(frozen=True)
class Setup:
    """Everything a fight needs. One setup serves any number of fights, on any number of threads."""

    book: Rulebook
    title: str
    units: tuple[Unit, ...]
    tables: Tables
    names: Names
    lines: tuple[Line, ...]
    limit: int
    encounter: Encounter | None = None

    def new_state(self, entries: int = 0, slice_ticks: int = 0) -> State:
        """Return a state of its own, with room for this many entries (none: nothing is recorded).

        With `slice_ticks` its fights are watched, and their course is counted every this many ticks.
        """
        names = self.names
        meeting = max((max(line.slots.values(), default=0) + 1 for line in self.lines), default=1)
        depth = max((line.program.stack for line in self.lines), default=1)
        state = allocate(
            unit=len(names.units),
            slot=max(len(names.slots), meeting),
            gauge=len(names.gauges),
            flow=len(self.tables.flows),
            known=len(self.tables.known),
            part=len(self.tables.parts),
            spot=len(self.tables.spots),
            side=len(names.sides),
            shot=self._shots(),
            extra=len(self.tables.extras),
            change=len(self.tables.changes),
            frame=LEAST_FRAMES + FRAMES_A_UNIT * len(self.units),
            **self._waiting_room(),
            **self._rolling_room(),
            buff=len(names.buffs),
            line=len(self.lines),
            kind=len(names.kinds),
            cause=len(names.causes),
            depth=depth,
            entry=entries,
            page=2 * entries,
            step=16 * entries if self.tables.rules[0].placed else 0,
            watched=len(names.units) if slice_ticks else 0,
            watched_part=len(self.tables.parts) if slice_ticks else 0,
            slice=SLICES if slice_ticks else 0,
        )
        state.run[0].recording = int(entries > 0)
        state.run[0].slice_ticks = slice_ticks
        state.meetings.taker[:] = -1
        state.run[0].versions = len(names.units) * (1 + len(names.gauges))  # opened units use up as many at most
        return state

    def _waiting_room(self) -> dict[str, int]:
        """Return the room for effects that are put off, buffs that get shorter, and reactions that count or rest."""
        rules, reactions = self.tables.rules[0], self.tables.reactions
        counts = bool(((reactions.nth > 1) | (reactions.rests > 0)).any())
        return {
            "zone": self._zones(),
            "later": LEAST_LATER + LATER_A_UNIT * len(self.units) if rules.branches else 1,
            "dull": int(self.tables.buffs.dulls.max(initial=-1)) + 1,
            "reactor": len(self.units) if counts else 0,
            "reaction": len(reactions) if counts else 0,
            "mitigator": len(self.units) if len(self.tables.mitigations) else 0,
            "mitigation": len(self.tables.mitigations),
        }

    def _rolling_room(self) -> dict[str, int]:
        """Return the room for what is rolled, and for luck that evens out."""
        tables = self.tables
        return {
            "even": int(tables.rules[0].evens),
            "roller": len(self.units) if tables.rolls.deck.any() else 0,
            "roll": len(tables.rolls),
            "varied": 1 + int(tables.changes.varied.max(initial=-1)),
        }

    def _shots(self) -> int:
        """Return room for all the projectiles that can be in the air at once: of each unit and ability, as many as it
        can launch while the first one flies as far as its reach, or from corner to corner."""
        tables, place, most = self.tables, self.tables.place[0], 0
        if not tables.rules[0].placed or not (tables.abilities.projectile > 0).any():
            return 1
        across = math.hypot(place.width, place.depth)
        actions = MOST_ACTIONS if tables.rules[0].actions >= 0 else 1
        for unit in tables.units:
            known = tables.known.ability[unit.first_known : unit.last_known]
            forms = tables.forms.ability[unit.first_form : unit.last_form]
            for row in tables.abilities[[*known, *forms]]:
                if row.projectile > 0:
                    flight = min(across, row.reach) / row.projectile / tables.rules[0].seconds + 2
                    stretches = max(row.windup_times, row.recovery_times) >= 0
                    least = 1 if stretches else max(1, row.windup + row.recovery)
                    most += min(flight, self.limit) * actions // least + 1
        if most > MOST_SHOTS:
            raise FightFault(
                f"{self.title}: as many as {most:.0f} projectiles could be in the air, of which there is "
                f"room for {MOST_SHOTS}\n    make them faster, their reach shorter, or their cooldown longer"
            )
        return int(most)

    def _zones(self) -> int:
        """Return room for all zones at once: those of the arena, and of each unit as many as it may lay, and as many
        that end on the same tick."""
        of_each = int(2 * self.tables.zones.most.sum())
        return len(self.tables.laid) + min(MOST_ZONES, of_each * len(self.units))

    @cached_property
    def opening(self) -> State:
        """The state at the fight's opening; every fight begins as a copy of it."""
        state = self.new_state()
        state.run[0].versions = 0
        gauges = list(self.book.gauges)
        for index, unit in enumerate(self.units):
            state.pages[index, 0] = unit.sheet.level
            for gauge in unit.sheet.gauges:
                state.gauges[index, gauges.index(gauge)].held = 1
        open_units(self.tables, state)
        self.raise_fault(state)
        return state

    def with_units(self, units: Sequence[Unit]) -> Setup:
        """Return the same encounter with units of other stats and levels, made ready much faster than anew.

        They must know and do the same, each in its place: only their sheets may differ.
        """
        rows = np.array(self.tables.bases, dtype=BASES)
        stats = list(self.book.stats)
        for index, (unit, before) in enumerate(zip(units, self.units, strict=True)):
            if unit.sheet is not before.sheet:
                rows[index] = [stat_base(self.book, unit.sheet, stat) for stat in stats]
        return replace(self, units=tuple(units), tables=self.tables.with_member("bases", rows))

    def raise_fault(self, state: State) -> None:
        """Raise `FightFault` where the clock holds one."""
        clock = state.clock[0]
        if clock.fault == OUT_OF_BALANCE:
            raise EngineFault(self._describe_fault(clock, state.pages))
        if clock.fault != SOUND:
            raise FightFault(self._describe_fault(clock, state.pages))

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
    writer = TableWriter(book, units, entry)
    limit = book.clock.ticks(entry.time_limit) if entry.time_limit else book.clock.limit_ticks()
    sides = tuple(side.name for side in entry.sides)
    tables = writer.write(limit, len(sides))
    title = entry.label or (encounter if isinstance(encounter, str) else " against ".join(sides))
    return Setup(book, title, tuple(units), tables, writer.names(sides), tuple(writer.lines.lines), limit, entry)


def set_up_bench(book: Rulebook, *units: Unit) -> Setup:
    """Put characters on the bench, each on a side of its own: every buff and damage kind at hand, no end.

    They do nothing by themselves: their plays are there for a script to ask for.
    """
    writer = TableWriter(book, units)
    tables = writer.write(NEVER, len(units))
    rows = np.array(tables.units)
    rows["last_play"] = rows["first_play"]
    sides = tuple(unit.name for unit in units)
    return Setup(
        book,
        " and ".join(sides),
        units,
        tables.with_member("units", rows),
        writer.names(sides),
        tuple(writer.lines.lines),
        NEVER,
    )
