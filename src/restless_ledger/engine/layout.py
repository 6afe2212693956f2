"""The engine's memory: what every array holds, field by field. This is the one description of it.

`Tables` stay as they are during a fight, `State` changes. Amounts are thousandths of a point, times are ticks.
A line is a formula that is read on one character's page; -1 stands for "none" wherever an index is wanted.
"""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from .block import Block
from .codes import MORE_ROWS, PURPOSES

FLOAT, WHOLE = np.dtype("f8"), np.dtype("i8")


def fields(**kinds: str) -> np.dtype:
    """Return a structured dtype whose fields are named in order, filled up to a power of two of bytes.

    The compiler then finds an item by a shift instead of a multiplication.
    """
    size = np.dtype(list(kinds.items())).itemsize
    names, formats = list(kinds), list(kinds.values())
    return np.dtype({"names": names, "formats": formats, "itemsize": 1 << (size - 1).bit_length()})


RULES = fields(
    limit="i8",  # the tick on which the fight is called off
    downs_at_once="i8",  # 1: a down takes effect within its phase; 0: at settle
    judged="i8",  # 1: the fight ends when one side stands; 0: it goes on (a character on the bench)
    sides="i8",
    downing="i8",  # the gauge that takes its character down
    initiative="i8",  # line; -1 where it is the same for all
    first_ability_cause="i8",
    first_buff_cause="i8",
    gauges_read="i8",  # 1: some line reads a gauge, so that pages must show them at once
)
UNITS = fields(
    side="i8", first_play="i8", last_play="i8", first_part="i8", last_part="i8",
)  # fmt: skip
STATS = fields(slot="i8", floor="f8", ceiling="f8", rounding="i8")
GAUGES = fields(
    slot="i8",  # page slot of the amount; the top and the share follow it
    top="i8",  # line
    opens_share="f8",  # of the top; NaN where it opens at a number of points
    opens_points="f8",
    refill="i8",  # line
    refill_ticks="i8",
)
KINDS = fields(
    gauge="i8", never_misses="i8", aim="i8", dodge="i8", power="i8", soak="i8",  # lines
    lands="i8", settle="i8",  # lines of the meeting
    chance="i8", times="i8",  # lines: of a critical
    spread="f8", rounding="i8", first_extra="i8", last_extra="i8",
    moving="i8",  # 1: some line reads a gauge, so that it can change between two hits
)  # fmt: skip
EXTRAS = fields(line="i8", on_dealer="i8")
PARTS = fields(up_to="f8", times="f8")  # up_to: the sum of the shares up to and with this part
ABILITIES = fields(
    on="i8", windup="i8", recovery="i8", cooldown="i8",
    first_cost="i8", first_effect="i8", last_effect="i8",  # costs lie just before the effects
)  # fmt: skip
EFFECTS = fields(
    what="i8",
    index="i8",  # kind, gauge or buff
    line="i8",  # of a heal or a cost
    times="f8",
    to_user="i8",
)
BUFFS = fields(lasts="i8", every="i8", first_effect="i8", last_effect="i8", first_change="i8", last_change="i8")
CHANGES = fields(way="i8", index="i8", amount="f8")  # index: the stat, or the page slot of a mark
PLAYS = fields(known="i8", ability="i8", at="i8", when="i8", condition="i8")  # two lines: own page, target's page
LINES = fields(
    start="i8", stop="i8",
    page="i8",  # 1: read on a character's page; 0: where two meet
    moving="i8",  # 1: it reads a gauge, so its result is never kept
    reads="i8",  # the set of slots it reads, a bit each
)  # fmt: skip
CODE = fields(op="i8", argument="i8")


class Tables(Block):
    """What is fixed in a fight. Each member with its dtype and its axes."""

    LAYOUT: ClassVar = {
        "rules": (RULES, "one"),
        "units": (UNITS, "unit"),
        "bases": (FLOAT, "unit stat"),  # before buffs, limits and rounding
        "stats": (STATS, "stat"),
        "gauges": (GAUGES, "gauge"),
        "kinds": (KINDS, "kind"),
        "extras": (EXTRAS, "extra"),
        "parts": (PARTS, "part"),
        "abilities": (ABILITIES, "ability"),
        "effects": (EFFECTS, "effect"),
        "buffs": (BUFFS, "buff"),
        "changes": (CHANGES, "change"),
        "plays": (PLAYS, "play"),
        "lines": (LINES, "line"),
        "code": (CODE, "instruction"),
        "constants": (FLOAT, "constant"),
    }


CLOCK = fields(
    tick="i8", outcome="i8", fault="i8", fault_line="i8", fault_unit="i8",
    fallen="i8",  # 1: somebody's gauge has come to zero since the last settle
    downs="i8",  # how many have gone down since the last judgement
    listed="i8",  # how many units the order of this tick holds
    pulsing="i8", ending="i8", acting="i8",  # whether any of them has something to do in those phases
    phase="i8", entries="i8", pages="i8",  # written so far, or wanted where the arrays are full
    key="u8",  # of this fight's draws
)  # fmt: skip
UNIT_STATE = fields(
    up="i8", waiting="i8",  # waiting: free, but nothing could be used; looks again on every tick visited
    refill_at="i8", beat_at="i8", end_at="i8", choose_at="i8", land_at="i8",  # when something is next due
    due="i8",  # the soonest of these
    ability="i8", target="i8",  # in the wind-up
    use_entry="i8", harm_entry="i8", version="i8", initiative="f8", tie="f8",
)  # fmt: skip
GAUGE_STATE = fields(held="i8", now="i8", top="i8", opened="i8", booked="i8", refill_at="i8")
BUFF_STATE = fields(on="i8", ends_at="i8", beats_at="i8", source="i8", entry="i8", began="i8")
LINE_STATE = fields(value="f8", known="i8")
MEETING = fields(
    taker="i8", dealer_version="i8", taker_version="i8", power="f8", aim="f8", soak="f8", dodge="f8", lands="f8",
    settled="f8", chance="f8", critical_times="f8",
)  # fmt: skip
TALLY = fields(uses="i8", hits="i8", misses="i8", criticals="i8", harm="i8", heal="i8", spent="i8", waste="i8")
RUN = fields(versions="i8", recording="i8")
ENTRY = fields(
    tick="i8", phase="i8", verb="i8", unit="i8",
    gauge="i8", asked="i8", booked="i8", balance="i8", waste="i8",
    cause="i8", source="i8", part="i8", parent="i8", notes="i8",
    kind="i8", line="i8",  # the damage kind of a hit, the formula of a heal, a cost or a refill
    lands="f8", drawn="f8",  # the chance to land and what was drawn; NaN where nothing was
    power="f8", soak="f8", settled="f8", times="f8", part_times="f8", critical_times="f8", spread_times="f8",
    dealer_page="i8", taker_page="i8",  # rows of the kept pages
)  # fmt: skip


OPENED = {
    "clock": (CLOCK, "one"),
    "units": (UNIT_STATE, "unit"),
    "pages": (FLOAT, "row slot"),  # what formulas read: a row a unit, then the meeting, then a fault
    "gauges": (GAUGE_STATE, "unit gauge"),
    "ready": (WHOLE, "known"),  # the tick from which an ability can be used again
    "buffs": (BUFF_STATE, "unit buff"),
    "lines": (LINE_STATE, "unit line"),  # results kept until the unit's stats change
    "draws": (WHOLE, "unit purpose"),  # how many were made
}
"""The members of a state that every fight opens anew."""


class State(Block):
    """What changes in a fight. The opened members are views into `memory`, so that a fight opens by one copy."""

    LAYOUT: ClassVar = {
        "memory": (WHOLE, "word"),
        **OPENED,
        "run": (RUN, "one"),  # goes on from fight to fight
        "meetings": (MEETING, "unit kind"),  # the last meeting's results, kept while both versions stand
        "stack": (FLOAT, "depth"),
        "turn": (WHOLE, "unit"),  # this tick's order
        "tally": (TALLY, "unit cause"),
        "entries": (ENTRY, "entry"),
        "kept": (FLOAT, "page slot"),  # pages kept for explanations
    }


LINE_OF_CACHE = 16  # words: two lines, as processors fetch them in pairs


def allocate(**sizes: int) -> State:
    """Return a state, all zero; `sizes` gives the length of each axis that the layout names.

    All of it lies in one piece, with room on both sides, so that two threads never write to one line of the cache.
    """
    sizes = {**sizes, "one": 1, "purpose": PURPOSES, "row": sizes["unit"] + MORE_ROWS}
    names = [*OPENED, *(name for name in State.LAYOUT if name not in OPENED and name != "memory")]
    shapes = {name: tuple(sizes[axis] for axis in State.LAYOUT[name][1].split()) for name in names}
    words = {name: int(np.prod(shapes[name])) * State.LAYOUT[name][0].itemsize // 8 for name in names}
    piece = np.zeros(sum(words.values()) + 3 * LINE_OF_CACHE, WHOLE)
    start = LINE_OF_CACHE + (-(piece.ctypes.data // 8)) % LINE_OF_CACHE
    members = {"memory": piece[start : start + sum(words[name] for name in OPENED)]}
    for name in names:
        kind = State.LAYOUT[name][0]
        members[name] = piece[start : start + words[name]].view(kind).reshape(shapes[name])
        start += words[name]
    return State(members)


def copy_state(state: State, entries: int) -> State:
    """Return a copy of a recorded state with room for so many entries; it shares nothing with the original."""
    sizes = {axis: length for name, (_, axes) in State.LAYOUT.items()
             for axis, length in zip(axes.split(), getattr(state, name).shape, strict=True)}  # fmt: skip
    for axis in ("one", "purpose", "row", "word"):
        sizes.pop(axis)
    copy = allocate(**{**sizes, "entry": entries, "page": 2 * entries})
    for name in State.LAYOUT:
        source, target = getattr(state, name), getattr(copy, name)
        rows = min(len(source), len(target))
        target[:rows] = source[:rows]
    return copy
