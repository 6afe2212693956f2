"""Somebody becomes somebody else: what a scene holds is carried over to a setup with other figures.

All that has a name in both is carried over: gauges, buffs, cooldowns, parts, counts of reactions, what is put off.
What the new one has no place for ends. A gauge keeps what it holds; as its top changes it is cut, or follows, as the
rulebook says, which the ledger shows.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Sequence

import numpy as np

from ..engine import Setup
from ..engine.codes import NEVER, RISE
from ..engine.layout.layout import RECORDS, State
from ..engine.layout.state_layout import OPENED
from .bench import LEAST_ROOM, SCRATCH, Bench

Map = np.ndarray
"""For each new place of something the old one, or -1."""
BY_UNIT = ("unit", "roller", "reactor", "mitigator")
"""Axes that count units, where they count anything."""


def carried_over(bench: Bench, setup: Setup, changed: int) -> Bench:
    """Return a bench under another setup, in which one unit has become somebody else.

    `setup` has the units of the old one, in their order, and perhaps more behind them. Raises `FightFault` where a
    figure can't be worked out; then the old bench is as it was.
    """
    old, new = bench.state, setup.new_state(max(LEAST_ROOM, 2 * bench.written), slots=bench.state.pages.shape[1])
    for name in OPENED:
        opened = getattr(setup.opening, name)
        getattr(new, name)[tuple(map(slice, opened.shape))] = opened
    carry = _Carrying(bench.setup, setup, old, new)
    carry.everything()
    carry.one(changed)
    after = Bench.of(setup, new)
    after.poke(changed, RISE)
    return after


class _Carrying:
    """One carrying over, from one state to another."""

    def __init__(self, before: Setup, after: Setup, old: State, new: State) -> None:
        self.before = before
        self.after = after
        self.old = old
        self.new = new
        one, other = before.names, after.names
        self.units = mapped(range(len(one.units)), range(len(other.units)))
        buffs, slots = mapped(one.buffs, other.buffs), np.full(new.pages.shape[1], -1)
        slots[: len(other.slots)] = mapped(one.slots, other.slots)
        rows = np.concatenate([self.units, len(one.units) + np.arange(len(new.pages) - len(other.units))])
        dulls = before.tables.buffs.dulls, after.tables.buffs.dulls
        self.maps: dict[str, Map] = {
            **dict.fromkeys(BY_UNIT, self.units),
            "row": rows,
            "slot": slots,
            "buff": buffs,
            "known": mapped(_known(before), _known(after)),
            "part": mapped(_parts(before), _parts(after)),
            "dull": _through(buffs, *dulls, new.dulled.shape[1]),
            "reaction": mapped(one.paths["reactions"], other.paths["reactions"]),
            "mitigation": mapped(one.paths["mitigations"], other.paths["mitigations"]),
            "cause": mapped(_causes(before), _causes(after)),
            "line": np.full(new.lines.shape[1], -1),
        }
        for axis, member in (("even", "evened"), ("roll", "launched_rolls"), ("varied", "varied")):
            length = getattr(new, member).shape[1]
            if length != getattr(old, member).shape[1]:
                self.maps[axis] = np.full(length, -1)

    def everything(self) -> None:
        """Carry over all that has a name in both."""
        anew = (*SCRATCH, "meetings", "turn", "picked", "fresh")
        for name, (_, axes) in State.LAYOUT.items():
            if name not in (*anew, *RECORDS):
                self.member(name, axes.split())
        self.new.meetings.taker[:] = -1
        self.new.lines.known[:] = 0
        for name in RECORDS:
            source, target = getattr(self.old, name), getattr(self.new, name)
            rows = min(len(source), len(target))
            target[tuple(map(slice, (rows, *source.shape[1:])))] = source[:rows]
        self.numbers()

    def member(self, name: str, axes: Sequence[str]) -> None:
        """Carry one member over, axis by axis."""
        source, target = getattr(self.old, name), getattr(self.new, name)
        if not source.size or not target.size:
            return
        places = []
        for axis, length in enumerate(target.shape):
            found = self.maps.get(axes[axis], np.arange(length))[:length]
            places.append(np.where(found < source.shape[axis], found, -1))
        kept = [np.flatnonzero(each >= 0) for each in places]
        target[np.ix_(*kept)] = source[np.ix_(*(each[at] for each, at in zip(places, kept, strict=True)))]

    def numbers(self) -> None:
        """Translate what stands in what was carried over and is a number of something else."""
        one, other = self.before.names, self.after.names
        causes, abilities = mapped(_causes(self.after), _causes(self.before)), mapped(other.abilities, one.abilities)
        effects, reactions = (mapped(other.paths[name], one.paths[name]) for name in ("effects", "reactions"))
        clock = self.new.clock[0]
        for unit in np.flatnonzero(self.units >= 0).tolist():
            me = self.new.units[unit]
            me.hurt_with = max(0, causes[me.hurt_with])
            me.ability = abilities[me.ability]
            if me.ability < 0 or (me.land_at != NEVER and not self._knows(unit, int(me.ability))):
                me.ability, me.land_at, me.free_at = 0, NEVER, clock.tick
        kept = 0
        for row in self.new.later[: int(clock.waiting)].copy():
            row.effect, row.cause = effects[row.effect], causes[row.cause]
            row.origin = reactions[row.origin] if row.origin >= 0 else -1
            if row.effect >= 0 and row.cause >= 0:
                self.new.later[kept] = row
                kept += 1
        clock.waiting = kept
        for shot in self.new.shots[: int(clock.shots)]:
            shot.ability = max(0, abilities[shot.ability])
            shot.straight = self.after.tables.abilities[shot.ability].straight

    def _knows(self, unit: int, ability: int) -> bool:
        row, names = self.after.tables.units[unit], self.after.names.abilities
        known = self.after.tables.known.basic[row.first_known : row.last_known].tolist()
        return names[ability] in [names[basic] for basic in known]

    def one(self, unit: int) -> None:
        """Let one unit have what its new self has from the beginning: its level, its marks, gauges it had not."""
        opened, clock = self.after.opening, self.new.clock[0]
        slots = self.after.names.slots
        for slot, name in enumerate(slots):
            if name == "level" or name.startswith("marked("):
                self.new.pages[unit, slot] = opened.pages[unit, slot]
        for gauge, row in enumerate(opened.gauges[unit]):
            mine, flows = self.new.gauges[unit, gauge], self.after.tables.gauges[gauge]
            if row.held and not mine.held:
                self.new.gauges[unit, gauge] = row
                for flow in range(flows.first_flow, flows.last_flow):
                    self.new.flows[unit, flow] = opened.flows[unit, flow]
                    self.new.flows[unit, flow].at += clock.tick
            elif mine.held and not row.held:
                self.new.gauges[unit, gauge] = row
                self.new.pages[unit, flows.slot : flows.slot + 3] = 0.0
                for flow in range(flows.first_flow, flows.last_flow):
                    self.new.flows[unit, flow].at = NEVER
        table = self.after.tables.units[unit]
        was = self.before.tables.units[unit]
        for part in range(table.first_part, table.last_part):
            if self.maps["part"][part] < 0:
                self.new.parts[part] = opened.parts[part]
        if table.first_part == table.last_part or was.first_part == was.last_part:
            self.new.units[unit].doomed = 0


def mapped(old: Sequence[Hashable], new: Sequence[Hashable]) -> Map:
    """Return, for each of a new list, where the same stands in an old one, the nth for the nth; -1 for none."""
    places: dict[Hashable, list[int]] = defaultdict(list)
    for place, name in enumerate(old):
        places[name].append(place)
    seen: dict[Hashable, int] = defaultdict(int)
    found = []
    for name in new:
        number = seen[name]
        seen[name] += 1
        found.append(places[name][number] if name in places and number < len(places[name]) else -1)
    return np.array(found, dtype=np.int64).reshape(-1)


def _through(buffs: Map, old: np.ndarray, new: np.ndarray, count: int) -> Map:
    """Return where groups of buffs stood, by the buffs that are in them."""
    found = np.full(count, -1)
    for place, before in enumerate(buffs.tolist()):
        if before >= 0 and new[place] >= 0:
            found[new[place]] = old[before]
    return found


def _causes(setup: Setup) -> list[tuple[str, str]]:
    """Return what each cause is called, and what it is."""
    return [*zip(setup.names.causes, setup.names.cause_kinds, strict=True)]


def _known(setup: Setup) -> list[tuple[int, str]]:
    """Return whose each row of what is known is, and which ability."""
    found = []
    for number, unit in enumerate(setup.tables.units):
        rows = setup.tables.known[unit.first_known : unit.last_known]
        found += [(number, setup.names.abilities[row.basic]) for row in rows]
    return found


def _parts(setup: Setup) -> list[tuple[int, str | None, int]]:
    """Return whose each part is, of which body, and which."""
    found = []
    for number, (row, unit) in enumerate(zip(setup.tables.units, setup.units, strict=True)):
        body = setup.book.classes[unit.sheet.who].body
        found += [(number, body, part) for part in range(row.last_part - row.first_part)]
    return found
