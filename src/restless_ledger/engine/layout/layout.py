"""The engine's memory that changes during a fight; `table_layout.py` describes what stays as it is.

`state_layout.py` has the fields of each row. Amounts are thousandths of a point, times are ticks; -1 stands for "none"
wherever an index is wanted.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import lru_cache
from typing import Any, ClassVar, NamedTuple

import numpy as np

from ..codes import BANDS, FACTORS, MORE_ROWS, PURPOSES
from .books_layout import ACTION_TOTALS, BUFF_TOTALS, ENTRY, HIT_TOTALS, PATH, UP_TOTALS
from .effect_layout import EVENT, FRAME, HIT, LATER, LAUNCHED, SHOT, ZONE_STATE
from .fields import FLOAT, WHOLE
from .memory import Block
from .request_layout import REQUEST, RUN
from .state_layout import GATHERED, MEETING, OPENED, RANKS
from .table_layout import Tables as Tables


class State(Block):
    """What changes in a fight. The opened members are views into `memory`, so that a fight opens by one copy.

    `changing` is one view of all that a step may change: who keeps a copy of it can take a step back.
    """

    plan: Plan
    piece: np.ndarray
    """All of it, in one piece of words."""

    def __getattr__(self, name: str) -> Any:
        """Return a member, which is made when it is first asked for: fights ask for few of them."""
        if name == "changing":
            found = self.piece[: self.plan.changing]
        elif name in self.LAYOUT:
            kind = self.LAYOUT[name][0]
            first, words, shape = self.plan.members[name]
            found = self.piece[first : first + words].view(kind).reshape(shape)
            found = found.view(np.recarray) if kind.names else found
        else:
            raise AttributeError(name)
        self.__dict__[name] = found
        return found

    LAYOUT: ClassVar = {
        "memory": (WHOLE, "word"),
        **OPENED,
        "request": (REQUEST, "one"),
        "run": (RUN, "one"),  # goes on from fight to fight
        "meetings": (MEETING, "unit kind"),  # the last meeting's results, kept while both versions stand
        "hit": (HIT, "one"),  # the steps of the hit in hand
        "hit_factors": (FLOAT, "factor"),
        "event": (EVENT, "one"),
        "later": (LATER, "later"),  # effects that are put off
        "shots": (SHOT, "shot"),
        "zones": (ZONE_STATE, "zone"),  # in the order of their laying
        "within": (WHOLE, "zone unit"),  # 1: that one is in it
        "struck": (WHOLE, "straight_shot unit_word"),  # whom a missile has hit on its way out, or back: a bit each
        "launched": (LAUNCHED, "shot kind"),  # the values of the dealer's lines when a projectile left
        "launched_extras": (FLOAT, "shot extra"),
        "launched_rolls": (FLOAT, "shot roll"),  # what was rolled for its hits
        "fresh": (WHOLE, "change"),  # 1: a mark that a buff which begins gives anew
        "picked": (WHOLE, "unit"),  # 1: among the targets of the area in hand
        "stack": (FLOAT, "depth"),
        "turn": (WHOLE, "unit"),  # this tick's order
        "ranks": (RANKS, "unit"),
        "present": (WHOLE, "unit"),  # who is up
        "foes": (WHOLE, "side unit"),
        "mates": (WHOLE, "side unit"),  # who is up and on the floor, against each side and on it, as they are listed
        "gathered": (GATHERED, "side"),
        "tally": (ACTION_TOTALS, "unit cause"),
        "ends": (UP_TOTALS, "unit"),  # from here to the entries: of all fights since it was last cleared
        "left": (WHOLE, "watched gauge"),  # what each gauge of those up at the end held, summed
        "by_kind": (HIT_TOTALS, "watched kind"),  # what each unit's hits of a kind did
        "by_part": (HIT_TOTALS, "watched_part"),  # what was done to each part
        "borne": (BUFF_TOTALS, "watched buff"),
        "kills_by_unit": (WHOLE, "watched unit"),  # how often one took another down
        "kills_by_cause": (WHOLE, "watched cause"),  # how often a unit went down by a cause of its own
        "course": (WHOLE, "side slice band"),  # in how many fights a side had this much left at a time
        "stayed": (WHOLE, "side slice band"),  # the same, of fights that had ended, from when on it stayed so
        "frames": (FRAME, "frame"),  # none are under way between two steps
        "entries": (ENTRY, "entry"),
        "entry_factors": (FLOAT, "entry factor"),
        "paths": (PATH, "step"),  # where units are, step by step
        "kept": (FLOAT, "page slot"),  # pages kept for explanations
    }

    def copied(self, name: str) -> np.ndarray:
        """Return a copy of a member, plain."""
        first, words, shape = self.plan.members[name]
        return self.piece[first : first + words].copy().view(self.LAYOUT[name][0]).reshape(shape)

    def __reduce__(self) -> tuple[Any, ...]:
        return State.of, (self.plan.sizes, self.piece)

    @classmethod
    def of(cls, sizes: Mapping[str, int], piece: np.ndarray) -> State:
        """Return a state of its own whose axes are so long, and which holds these words."""
        state = allocate(**sizes)
        state.piece[:] = piece
        return state


RECORDS = ("entries", "entry_factors", "paths", "kept")
"""The members of a state that are written once, row by row; they come last."""

ADDED_UP = (
    "tally",
    "ends",
    "left",
    "by_kind",
    "by_part",
    "borne",
    "kills_by_unit",
    "kills_by_cause",
    "course",
    "stayed",
)
"""The members of a state that go on from fight to fight, in one stretch; those after `ends` only where the fights are
watched."""


LINE_OF_CACHE = 16  # words: two lines, as processors fetch them in pairs

UNUSED = {
    "frame": 64,
    "later": 1,
    "zone": 0,
    "straight_shot": 0,
    "unit_word": 0,
    "dull": 0,
    "even": 0,
    "roller": 0,
    "varied": 0,
    "reactor": 0,
    "mitigator": 0,
    "mitigation": 0,
    "reaction": 0,
    "extra": 0,
    "change": 0,
    "watched": 0,
    "watched_part": 0,
    "slice": 0,
    "band": BANDS,
}
"""The room of what is not asked for."""


class Plan(NamedTuple):
    """Where the members of a state lie in its one piece of memory, in words from its beginning."""

    sizes: Mapping[str, int]
    """The length of each axis."""
    members: Mapping[str, tuple[int, int, tuple[int, ...]]]
    """By name: where it begins, how many words it has, and its shape."""
    words: int
    changing: int
    """How many words from the beginning on a step may change."""
    added_up: slice
    """Where the words lie of what goes on from fight to fight."""
    directory: np.ndarray
    """The directory of a state that begins at address 0."""
    addresses: np.ndarray
    """1 at each place of the directory that holds an address, else 0."""


@lru_cache(maxsize=512)
def _plan(sizes: tuple[tuple[str, int], ...]) -> Plan:
    """Plan a state whose axes are so long."""
    lengths = dict(sizes)
    names = [*OPENED, *(name for name in State.LAYOUT if name not in OPENED and name != "memory")]
    members, at = dict[str, tuple[int, int, tuple[int, ...]]](), 0
    for name in names:
        kind, axes = State.LAYOUT[name]
        shape = tuple(lengths[axis] for axis in axes.split())
        words = math.prod(shape) * kind.itemsize // 8
        members[name] = (at, words, shape)
        at += words
    opened = sum(members[name][1] for name in OPENED)
    members["memory"] = (0, opened, (opened,))
    directory, addresses = list[int](), list[int]()
    for name in State.LAYOUT:
        first, _, shape = members[name]
        directory += [8 * first, *shape]
        addresses += [1, *(0 for _ in shape)]
    kept = sum(members[name][1] for name in ("frames", *RECORDS))
    last, last_words, _ = members[ADDED_UP[-1]]
    added_up = slice(members[ADDED_UP[0]][0], last + last_words)
    return Plan(lengths, members, at, at - kept, added_up, np.array(directory, WHOLE), np.array(addresses, WHOLE))


def allocate(**sizes: int) -> State:
    """Return a state, all zero; `sizes` gives the length of each axis that the layout names. What is watched has no
    room unless that is given.

    All of it lies in one piece, with room on both sides, so that two threads never write to one line of the cache.
    """
    fixed = {"one": 1, "purpose": PURPOSES, "row": sizes["unit"] + MORE_ROWS, "factor": len(FACTORS)}
    plan = _plan(tuple({**UNUSED, **sizes, **fixed}.items()))
    piece = np.zeros(plan.words + 3 * LINE_OF_CACHE, WHOLE)
    address = int(piece.ctypes.data)
    start = LINE_OF_CACHE + (-(address // 8)) % LINE_OF_CACHE
    state = State.__new__(State)
    state.plan, state.piece = plan, piece[start : start + plan.words]
    state.directory = plan.directory + plan.addresses * (address + 8 * start)
    state.address = int(state.directory.ctypes.data)
    return state


def copy_state(state: State, entries: int) -> State:
    """Return a copy of a recorded state with room for this many entries; it shares nothing with the original."""
    copy = allocate(**{**state.plan.sizes, "entry": entries, "page": 2 * entries})
    for name in State.LAYOUT:
        source, target = getattr(state, name), getattr(copy, name)
        rows = min(len(source), len(target))
        target[:rows] = source[:rows]
    return copy
