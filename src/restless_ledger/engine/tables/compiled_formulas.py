"""Gather the formulas of an encounter as numbered lines over numbered slots."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import accumulate, pairwise

from ...formula import SEEN, Program, is_seen, link, taken_apart
from ...frozen_classes import frozen
from ...rulebook import Rulebook
from ...rulebook.damage import DamageKind
from ...rulebook.pages import character_page, gauge_names
from ..codes import (
    ABOVE_SLOT,
    AIM_SLOT,
    BEHIND_SLOT,
    DISTANCE_SLOT,
    DODGE_SLOT,
    EXTRA_SLOT,
    FACT_NAMES,
    GAP_SLOT,
    POWER_SLOT,
    SOAK_SLOT,
)
from .table_rows import Numbered, Rows


@frozen
class Line:
    """A numbered formula: where it is written, its program, and the slots its names stand for."""

    path: tuple
    program: Program
    slots: dict[str, int]


@dataclass
class CompiledFormulas:
    """The lines of one encounter, with their code and constants end to end."""

    book: Rulebook
    lines: list[Line] = field(default_factory=Rows)
    rows: list[tuple] = field(default_factory=Rows)
    code: list[tuple] = field(default_factory=Rows)
    constants: list[float] = field(default_factory=Rows)
    seen: list[str] = field(default_factory=list)
    """What lines ask of the fight, in the order of their slots."""

    def __post_init__(self) -> None:
        names = character_page(self.book).names
        self.first_fact = len(names)
        self.slots = Numbered((name, slot) for slot, name in enumerate((*names, *FACT_NAMES)))
        moving = {word for gauge in self.book.gauges for word in (gauge_names(gauge)[0], gauge_names(gauge)[2])}
        self.moving_names = frozenset(moving | set(FACT_NAMES))

    def moves(self, program: Program) -> bool:
        """Say whether a formula reads a gauge or the fight, so that its result can't be kept until the stats change."""
        return not self.moving_names.isdisjoint(program.names) or any(map(is_seen, program.names))

    def add(self, path: tuple, program: Program | None) -> int:
        """Number a formula that is read on a character's page; -1 for none."""
        if program is None:
            return -1
        for name in program.names:
            if is_seen(name) and name not in self.slots:
                self.slots[name] = len(self.slots)
                self.seen.append(name)
        return self._add(path, program, self.slots)

    def own_slot(self, name: str) -> int:
        """Return the slot of a line that a play writes on the pages of others."""
        self.moving_names |= {name}
        return self.slots.setdefault(name, len(self.slots))

    def seen_rows(self, abilities: Sequence[str], buffs: Sequence[str]) -> list[tuple]:
        """Return what is asked of the fight: the word's number, what it is about (-1: nothing that is there), a
        distance, and the slot."""
        rows = []
        for name in self.seen:
            word, of = taken_apart(name)
            near = word in ("foes_near", "mates_near")
            names = buffs if word == "stacks" else abilities
            about = -1 if near or of not in names else list(names).index(of)
            rows.append((list(SEEN).index(word), about, int(bool(of)), float(of) if near else 0.0, self.slots[name]))
        return rows

    def add_meeting(self, path: tuple, program: Program, kind: DamageKind) -> int:
        """Number a formula that is read where two characters meet."""
        return self._add(path, program, meeting_slots(kind))

    def _add(self, path: tuple, program: Program, slots: dict[str, int]) -> int:
        start = len(self.code)
        self.code += link(program, slots, len(self.constants))
        self.constants += program.constants
        self.lines.append(Line(path, program, slots))
        reads = 0
        for name in program.names:
            reads |= slot_bit(slots[name])
        sees = int(any(map(is_seen, program.names)))
        self.rows.append((start, len(self.code), int(slots is self.slots), int(self.moves(program)), reads, sees))
        return len(self.lines) - 1

    def readers(self) -> dict[str, list]:
        """Return which lines read each slot of a character's page: a stretch of a list for each, and that list."""
        reading: list[list[int]] = [[] for _ in self.slots]
        for number, (line, (_start, _stop, on_page, *_)) in enumerate(zip(self.lines, self.rows, strict=True)):
            for name in line.program.names if on_page else ():
                reading[line.slots[name]].append(number)
        ends = [0, *accumulate(map(len, reading))]
        return {"slots": list(pairwise(ends)), "readers": [number for each in reading for number in each]}


def slot_bit(slot: int) -> int:
    """Return the bit that stands for a slot in what a line reads; beyond the first sixty, slots share bits."""
    return 1 << (slot % 60)


def meeting_slots(kind: DamageKind) -> dict[str, int]:
    """Return the slot of each name that `lands` and `settle` of a kind may read."""
    fixed = {
        "power": POWER_SLOT,
        "soak": SOAK_SLOT,
        "level_gap": GAP_SLOT,
        "aim": AIM_SLOT,
        "dodge": DODGE_SLOT,
        "distance": DISTANCE_SLOT,
        "behind": BEHIND_SLOT,
        "above": ABOVE_SLOT,
    }
    extras = (*kind.dealer_lines, *kind.taker_lines, *kind.rolled)
    return {**fixed, **{name: EXTRA_SLOT + index for index, name in enumerate(extras)}}
