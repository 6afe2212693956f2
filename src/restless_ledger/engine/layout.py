"""The engine's memory that changes during a fight, field by field; `table_layout.py` describes what stays as it is.

The two are the one description of it. Amounts are thousandths of a point, times are ticks; -1 stands for "none"
wherever an index is wanted.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar

import numpy as np

from .block import Block
from .codes import BANDS, FACTORS, MORE_ROWS, PURPOSES
from .table_layout import FLOAT, WHOLE, fields
from .table_layout import Tables as Tables

CLOCK = fields(
    tick="i8",
    outcome="i8",
    fault="i8",
    fault_line="i8",
    fault_unit="i8",
    fallen="i8",  # 1: somebody's gauge has come to zero since the last settle
    downs="i8",  # how many have gone down or away since the last judgement
    listed="i8",  # how many units the order of this tick holds
    pulsing="i8",
    ending="i8",
    acting="i8",  # who has something to do in those phases
    played="i8",  # 1: this tick has been played
    stirred="i8",  # the tick on which anything last changed that a formula or a play can see
    phase="i8",
    entries="i8",
    pages="i8",
    steps="i8",  # written so far, or wanted where the arrays are full
    frames="i8",  # lists of effects under way
    depth="i8",  # of the reaction that is being carried out
    shots="i8",
    launches="i8",  # projectiles in the air, and launched so far
    shot_at="i8",
    supply_at="i8",  # when the next arrives, or lies there
    returning="i8",  # how many are down with a life left
    first_down="i8",
    first_down_at="i8",  # who went down first, NOBODY or SEVERAL; and when
    harm="i8",  # all that was taken off all gauges as harm
    slice="i8",
    slice_at="i8",  # how many slices of the fight's course are counted, and when the next is due
    holder="i8",
    held_since="i8",  # the side that is alone at the objective (-1: none), counted up to this tick
    key="u8",  # of this fight's draws
)
UNIT_STATE = fields(
    up="i8",
    waiting="i8",  # waiting: free, but nothing could be used; looks again after every change
    refill_at="i8",
    beat_at="i8",
    end_at="i8",
    choose_at="i8",
    land_at="i8",  # when something is next due
    arrive_at="i8",  # when a fall, a climb or a return ends
    due="i8",  # the soonest of these
    ability="i8",
    target="i8",
    aimed_part="i8",  # in the wind-up
    use_entry="i8",
    harm_entry="i8",
    push_entry="i8",
    dealing_version="i8",
    taking_version="i8",
    initiative="f8",
    tie="f8",
    spared_from="i8",
    spared_until="i8",
    spared_all="i8",  # invulnerable; spared_all: to every kind
    harmed_at="i8",
    attacker="i8",
    dealt="i8",  # dealt: all the harm it has done
    doomed="i8",  # 1: a vital part has broken, so it goes down at settle
    left="i8",  # lives, this one included
    acted="i8",
    acted_on="i8",  # how often on which tick
    free_at="i8",  # when its recovery is over, so that it may walk
    where="i8",
    moves="i8",  # moves: 1 while it walks or slides
    want="i8",
    reach="f8",  # the unit it goes for, and how near it wants to be
    fetch="i8",
    flees="i8",
    fled="i8",
    away="i8",  # fetch: the spot of a supply; away: its dash leads away
    checkpoint="i8",
    pusher="i8",
    fall_entry="i8",
    drop="f8",
    x="f8",
    y="f8",
    push_x="f8",
    push_y="f8",
    hurt_by="i8",
    hurt_with="i8",  # the source and the cause of what took something off the gauge that downs, last
)
GAUGE_STATE = fields(
    held="i8",
    now="i8",
    top="i8",
    opened="i8",
    booked="i8",
    refill_at="i8",
    rest="f8",  # parts of a thousandth that refills have come to, carried over to the next
)
BUFF_STATE = fields(
    on="i8",
    ends_at="i8",
    beats_at="i8",
    source="i8",
    entry="i8",
    began="i8",
    count="i8",
    strength="f8",
    meter="f8",
    meter_at="i8",
    since="i8",
)
PART_STATE = fields(gone="i8", worn="i8", now="i8", top="i8", opened="i8", booked="i8")
KNOWN_STATE = fields(
    ready_at="i8",  # the tick from which it can be used again
    charges="i8",
    charge_at="i8",
    uses="i8",
)
SPOT_STATE = fields(there="i8", at="i8")
LINE_STATE = fields(value="f8", known="i8")
MEETING = fields(
    taker="i8",
    dealer_version="i8",
    taker_version="i8",
    power="f8",
    aim="f8",
    soak="f8",
    dodge="f8",
    lands="f8",
    settled="f8",
    chance="f8",
    critical_times="f8",
)
FRAME = fields(
    at="i8",
    last="i8",  # the next effect, and where the list ends
    user="i8",
    target="i8",
    cause="i8",
    parent="i8",
    aimed="i8",
    depth="i8",
    missed="i8",
    stops="i8",  # 1: once its user is down, no more of it is carried out
    reaction="i8",  # that waits for its turn to answer to its target; -1: a list of effects
    given="f8",  # the power of a script's hit; NaN for any other
    scale="f8",  # fall-off, stacks and strength
    booked="f8",  # by the hit that caused a reaction, in points
    part="i8",  # the name of the part that is aimed at
    shot="i8",  # the projectile that brought it, -1: none
)
HIT = fields(drawn="f8", chance="f8", part="i8", notes="i8", dealer_page="i8", taker_page="i8", in_front="i8")
SHOT = fields(
    user="i8",
    target="i8",
    ability="i8",
    arrive_at="i8",
    parent="i8",
    part="i8",
    launched="i8",
    page="i8",  # the page of its user as it was launched, kept where a fight is recorded
)
LAUNCHED = fields(power="f8", aim="f8", chance="f8", critical_times="f8")
TALLY = fields(uses="i8", hits="i8", misses="i8", criticals="i8", harm="i8", heal="i8", spent="i8", waste="i8")
ENDS = fields(
    up="i8"  # in how many fights a unit was up at the end
)
TAKEN = fields(hits="i8", booked="i8")  # booked: what was taken off all gauges, or healed
BORNE = fields(times="i8", ticks="i8")  # how often a buff began on a unit, and for how long it was on in all
RESULT = fields(
    outcome="i8",
    ticks="i8",
    first="i8",  # the unit that went down first; NOBODY, or SEVERAL where two sides lost one on the same tick
    harm="i8",  # all that everybody dealt together
    left="f8",  # the share that the winner's units have left of the gauge that downs; NaN where nobody wins
)
RUN = fields(
    versions="i8",
    recording="i8",
    work="i8",  # effects carried out on this tick
    budget="i8",  # how many ticks may still be played until the front is asked whether to go on
    index="i8",
    under_way="i8",  # the fight that comes next of those asked for; 1: it has begun
    slice_ticks="i8",  # above 0: the fights are watched, and their course is counted every so many ticks
    every="i8",  # 1: every tick is played, also those on which nothing is due
    even="i8",  # 1: luck is set aside, and every draw comes out in the middle
    sure="i8",  # 1: what can land lands, and nobody goes down: what is done shows for as long as there is time
)
ENTRY = fields(
    tick="i8",
    phase="i8",
    verb="i8",
    unit="i8",
    gauge="i8",
    asked="i8",
    booked="i8",
    balance="i8",
    top="i8",
    waste="i8",
    cause="i8",
    source="i8",
    part="i8",
    parent="i8",
    notes="i8",
    kind="i8",
    line="i8",  # the damage kind of a hit, the formula of a heal, a cost or a refill
    lands="f8",
    chance="f8",
    drawn="f8",  # what `lands` came to, the chance it made, what was drawn (NaN: nothing)
    power="f8",
    soak="f8",
    settled="f8",
    distance="f8",
    in_front="i8",
    dealer_page="i8",
    taker_page="i8",  # rows of the kept pages
    amount="f8",  # of an event: strength, what is built up, metres, metres per second
)
PATH = fields(tick="i8", unit="i8", x="f8", y="f8")

OPENED = {
    "clock": (CLOCK, "one"),
    "units": (UNIT_STATE, "unit"),
    "pages": (FLOAT, "row slot"),  # what formulas read: a row a unit, then the meeting, then a fault
    "gauges": (GAUGE_STATE, "unit gauge"),
    "parts": (PART_STATE, "part"),
    "known": (KNOWN_STATE, "known"),
    "buffs": (BUFF_STATE, "unit buff"),
    "spots": (SPOT_STATE, "spot"),
    "holding": (WHOLE, "side"),  # for how many ticks a side has held the objective
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
        "hit": (HIT, "one"),  # the steps of the hit in hand
        "hit_factors": (FLOAT, "factor"),
        "frames": (FRAME, "frame"),
        "shots": (SHOT, "shot"),
        "launched": (LAUNCHED, "shot kind"),  # what the dealer's lines came to when a projectile left
        "launched_extras": (FLOAT, "shot extra"),
        "fresh": (WHOLE, "change"),  # 1: a mark that a buff which begins gives anew
        "picked": (WHOLE, "unit"),  # who is among the targets of the area in hand
        "stack": (FLOAT, "depth"),
        "turn": (WHOLE, "unit"),  # this tick's order
        "tally": (TALLY, "unit cause"),
        "ends": (ENDS, "unit"),  # these and all that follows to the entries: of all fights since it was last cleared
        "left": (WHOLE, "watched gauge"),  # what each gauge of those up at the end held, summed
        "by_kind": (TAKEN, "watched kind"),  # what each unit's hits of a kind did
        "by_part": (TAKEN, "watched_part"),  # what was done to each part
        "borne": (BORNE, "watched buff"),
        "felled": (WHOLE, "watched unit"),  # how often one took another down
        "finished": (WHOLE, "watched cause"),  # how often somebody went down by a cause of one's own
        "course": (WHOLE, "side slice band"),  # in how many fights a side had so much left at a time
        "entries": (ENTRY, "entry"),
        "entry_factors": (FLOAT, "entry factor"),
        "paths": (PATH, "step"),  # where units have come to, step by step
        "kept": (FLOAT, "page slot"),  # pages kept for explanations
    }

    @classmethod
    def rebuilt(cls, members: Mapping[str, np.ndarray]) -> State:
        """Return a state of its own that holds the same; what lies in its memory lies there again."""
        sizes = {
            axis: length
            for name, (_, axes) in cls.LAYOUT.items()
            for axis, length in zip(axes.split(), members[name].shape, strict=True)
        }
        for axis in ("one", "purpose", "row", "word", "factor"):
            sizes.pop(axis)
        state = allocate(**sizes)
        for name, member in members.items():
            getattr(state, name)[...] = member
        return state


ADDED_UP = ("tally", "ends", "left", "by_kind", "by_part", "borne", "felled", "finished", "course")
"""The members of a state that go on from fight to fight; those after `ends` only where the fights are watched."""

PLAIN: dict[str, dict[str, int]] = {
    "rules": {
        "judged": 1,
        "downs_at_once": 0,
        "reacts": 0,
        "follows": 0,
        "kept_off": 0,
        "earns": 0,
        "opens_drawn": 0,
        "actions": -1,
        "placed": 0,
    },
    "place": {"goal_ticks": 0},
    "gauges": {"first_front": 0, "last_front": 0},
    "kinds": {"held_back": 0},
    "units": {"worn": 0},
    "abilities": {"charges": 1, "shared": -1, "most": 1, "speed": 0, "lunge": 0, "dash": 0},
    "run": {"recording": 0, "even": 0, "every": 0},
}
"""What is the same in every plain fight, so that the compiler can leave out what it rules out."""


class PlainTables(Tables):
    """The tables of a plain fight."""

    @staticmethod
    def fit(tables: Tables) -> bool:
        """Say whether tables are those of a plain fight."""
        kept = tables.__dict__
        if "plain" not in kept:  # asked before every chunk, and in a journey before every fight
            fixed = (
                (member, field, value)
                for member, row in PLAIN.items()
                if member in Tables.LAYOUT
                for field, value in row.items()
            )
            kept["plain"] = all((getattr(tables, member)[field] == value).all() for member, field, value in fixed)
        return kept["plain"]


class PlainState(State):
    """The state of a plain fight, of which nothing is recorded."""


LINE_OF_CACHE = 16  # words: two lines, as processors fetch them in pairs


def allocate(**sizes: int) -> State:
    """Return a state, all zero; `sizes` gives the length of each axis that the layout names. What is watched has no
    room unless that is given.

    All of it lies in one piece, with room on both sides, so that two threads never write to one line of the cache.
    """
    unwatched = {"frame": 64, "extra": 0, "change": 0, "watched": 0, "watched_part": 0, "slice": 0, "band": BANDS}
    fixed = {"one": 1, "purpose": PURPOSES, "row": sizes["unit"] + MORE_ROWS, "factor": len(FACTORS)}
    sizes = {**unwatched, **sizes, **fixed}
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
    sizes = {
        axis: length
        for name, (_, axes) in State.LAYOUT.items()
        for axis, length in zip(axes.split(), getattr(state, name).shape, strict=True)
    }
    for axis in ("one", "purpose", "row", "word", "factor"):
        sizes.pop(axis)
    copy = allocate(**{**sizes, "entry": entries, "page": 2 * entries})
    for name in State.LAYOUT:
        source, target = getattr(state, name), getattr(copy, name)
        rows = min(len(source), len(target))
        target[:rows] = source[:rows]
    return copy
