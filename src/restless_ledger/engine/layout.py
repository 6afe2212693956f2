"""The engine's memory: what every array holds, field by field. This is the one description of it.

`Tables` stay as they are during a fight, `State` changes. Amounts are thousandths of a point, times are ticks.
A line is a formula that is read on one character's page; -1 stands for "none" wherever an index is wanted.
"""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from .block import Block
from .codes import MORE_ROWS, MOST_FRAMES, PURPOSES

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
    first_ability_cause="i8", first_buff_cause="i8", first_supply_cause="i8",
    gauges_read="i8",  # 1: some line reads a gauge, so that pages must show them at once
    facts="i8",  # the first page slot of the facts of the moment
    invulnerable_next="i8",  # 1: invulnerability begins on the tick after the hit
    reaction_depth="i8",
    reacts="i8",  # a bit for each event that something reacts to
    follows="i8",  # 1: a hit can lead to more than its own entry
    kept_off="i8",  # 1: something can keep a hit off, or make it land more or less often than its kind says
    earns="i8",  # 1: some gauge earns
    opens_drawn="i8",  # 1: some gauge opens anywhere in a range
    actions="i8",  # line
    placed="i8",  # 1: the fight has a place
    seconds="f8",  # that a tick lasts
)  # fmt: skip
PLACE = fields(
    width="f8", depth="f8", pace="i8", weight="i8", friction="f8",  # lines: pace, weight
    gravity="f8", safe_speed="f8", terminal="f8", damage="i8", climb="f8",
    north="i8", south="i8", east="i8", west="i8",  # what the edges are
    north_drop="f8", south_drop="f8", east_drop="f8", west_drop="f8",
    goal_x="f8", goal_y="f8", goal_radius="f8", goal_ticks="i8",  # the objective; no ticks: none
    delay="i8", spared="i8",  # of a return
)  # fmt: skip
UNITS = fields(
    side="i8", first_play="i8", last_play="i8", first_part="i8", last_part="i8",
    first_known="i8", last_known="i8",
    first_reaction="i8", last_reaction="i8",  # of its class and its passive abilities
    worn="i8",  # 1: some part can wear, break or be lost
    segmented="i8", harder="f8", broken_buff="i8",  # the first of the buffs that stand for its broken parts
    spared_ticks="i8", spared_kinds="i8",  # invulnerability after a hit; a bit for each kind that it stops
    reaction="i8", aim="f8", mistakes="f8",  # handling
    keeps="f8", heedless="i8", lives="i8", at_x="f8", at_y="f8", class_cause="i8",
)  # fmt: skip
BASES = fields(start="f8", added="f8", scaled="f8", times="f8")
STATS = fields(slot="i8", floor="f8", ceiling="f8", rounding="i8")
GAUGES = fields(
    slot="i8",  # page slot of the amount; the top and the share follow it
    top="i8",  # line
    opens_share="f8", opens_points="f8",  # of the top, and beside it
    most_share="f8", most_points="f8",  # the other end of a range; NaN where there is none
    returns_share="f8", returns_points="f8",  # on a return
    refill="i8",  # line
    refill_ticks="i8", after_harm="i8", condition="i8",  # condition: line
    acting="i8", dealing="i8", taking="i8",  # lines: what it earns
    keeps="i8",  # 1: what is over a top that has fallen back is kept
    first_front="i8", last_front="i8",  # the gauges before it
)  # fmt: skip
KINDS = fields(
    gauge="i8", heals="i8", never_misses="i8", aim="i8", dodge="i8", power="i8", soak="i8",  # lines
    lands="i8", settle="i8",  # lines of the meeting
    chance="i8", times="i8",  # lines: of a critical
    spread="f8", rounding="i8", first_extra="i8", last_extra="i8",
    moving="i8",  # 1: some line reads a gauge, so that it can change between two hits
    resist="i8", guard_when="i8", guard_times="i8",  # lines
    first_bar="i8", last_bar="i8",
    held_back="i8",  # 1: it knows a resistance, a guard stance, or differs by the taker's class
)  # fmt: skip
EXTRAS = fields(line="i8", on_dealer="i8")
PARTS = fields(
    up_to="f8", times="f8",  # up_to: the sum of the shares up to and with this part
    share="f8", aim="f8", own="i8", vital="i8", lost="i8", first_drop="i8", last_drop="i8", name="i8",
)  # fmt: skip
ABILITIES = fields(
    on="i8", windup="i8", recovery="i8", cooldown="i8",
    first_cost="i8", first_effect="i8", last_effect="i8",  # costs lie just before the effects
    from_finish="i8", cooldown_times="i8", charges="i8", shared="i8", uses="i8", interruptible="i8",
    reach="f8", radius="f8", most="i8", falloff="f8", speed="f8", lunge="f8", dash="f8",
)  # fmt: skip
EFFECTS = fields(
    what="i8",
    index="i8",  # kind, gauge or buff
    line="i8",  # the amount
    times="f8",  # where the amount is a plain number
    to_user="i8",
    part="i8",  # the name of the part that is aimed at
    steal="i8",  # line
    most="i8", first_strip="i8", last_strip="i8",
)  # fmt: skip
BUFFS = fields(
    lasts="i8", every="i8", first_effect="i8", last_effect="i8", first_change="i8", last_change="i8",
    again="i8", most="i8", catches_at="f8", fades="f8",  # fades: a tick
    first_bar="i8", last_bar="i8", first_reaction="i8", last_reaction="i8", outlasts="i8",
)  # fmt: skip
CHANGES = fields(way="i8", index="i8", amount="f8")  # index: the stat, or the page slot of a mark
REACTIONS = fields(event="i8", mark="i8", condition="i8", to="i8", within="f8", first_effect="i8", last_effect="i8",
                   cause="i8")  # fmt: skip
PLAYS = fields(
    what="i8", known="i8", ability="i8", at="i8", when="i8", condition="i8",  # two lines: own page, target's page
    part="i8", hold="i8", supply="i8", away="i8",
)  # fmt: skip
KNOWN = fields(ability="i8")
SPOTS = fields(x="f8", y="f8", supply="i8")
SUPPLIES = fields(every="i8", every_times="i8", first_effect="i8", last_effect="i8")
LINES = fields(
    start="i8", stop="i8",
    page="i8",  # 1: read on a character's page; 0: where two meet
    moving="i8",  # 1: it reads a gauge or a fact, so its result is never kept
    reads="i8",  # the set of slots it reads, a bit each
)  # fmt: skip
CODE = fields(op="i8", argument="i8")


class Tables(Block):
    """What is fixed in a fight. Each member with its dtype and its axes."""

    LAYOUT: ClassVar = {
        "rules": (RULES, "one"),
        "units": (UNITS, "unit"),
        "bases": (BASES, "unit stat"),  # before buffs, limits and rounding
        "stats": (STATS, "stat"),
        "gauges": (GAUGES, "gauge"),
        "fronts": (WHOLE, "front"),  # gauges that stand before another
        "kinds": (KINDS, "kind"),
        "against": (FLOAT, "kind unit"),  # what a kind does to a unit's class
        "bars": (WHOLE, "bar"),  # page slots of marks that bar a kind or a buff
        "extras": (EXTRAS, "extra"),
        "parts": (PARTS, "part"),
        "drops": (WHOLE, "drop"),  # abilities that go with a part
        "abilities": (ABILITIES, "ability"),
        "effects": (EFFECTS, "effect"),
        "strips": (WHOLE, "strip"),  # buffs that an effect takes off
        "buffs": (BUFFS, "buff"),
        "changes": (CHANGES, "change"),
        "reactions": (REACTIONS, "reaction"),
        "plays": (PLAYS, "play"),
        "known": (KNOWN, "known"),
        "place": (PLACE, "one"),
        "spots": (SPOTS, "spot"),
        "supplies": (SUPPLIES, "supply"),
        "checkpoints": (FLOAT, "checkpoint two"),
        "lines": (LINES, "line"),
        "code": (CODE, "instruction"),
        "constants": (FLOAT, "constant"),
    }


CLOCK = fields(
    tick="i8", outcome="i8", fault="i8", fault_line="i8", fault_unit="i8",
    fallen="i8",  # 1: somebody's gauge has come to zero since the last settle
    downs="i8",  # how many have gone down or away since the last judgement
    listed="i8",  # how many units the order of this tick holds
    pulsing="i8", ending="i8", acting="i8",  # who has something to do in those phases
    played="i8",  # 1: this tick has been played
    phase="i8", entries="i8", pages="i8", steps="i8",  # written so far, or wanted where the arrays are full
    frames="i8",  # lists of effects under way
    depth="i8",  # of the reaction that is being carried out
    shots="i8", launches="i8",  # projectiles in the air, and launched so far
    shot_at="i8", supply_at="i8",  # when the next arrives, or lies there
    returning="i8",  # how many are down with a life left
    holder="i8", held_since="i8",  # the side that is alone at the objective (-1: none), counted up to this tick
    key="u8",  # of this fight's draws
)  # fmt: skip
UNIT_STATE = fields(
    up="i8", waiting="i8",  # waiting: free, but nothing could be used; looks again on every tick visited
    refill_at="i8", beat_at="i8", end_at="i8", choose_at="i8", land_at="i8",  # when something is next due
    arrive_at="i8",  # when a fall, a climb or a return ends
    due="i8",  # the soonest of these
    ability="i8", target="i8", aimed_part="i8",  # in the wind-up
    use_entry="i8", harm_entry="i8", push_entry="i8", version="i8", initiative="f8", tie="f8",
    spared_from="i8", spared_until="i8", spared_all="i8",  # invulnerable; spared_all: to every kind
    harmed_at="i8", attacker="i8", dealt="i8",  # dealt: all the harm it has done
    doomed="i8",  # 1: a vital part has broken, so it goes down at settle
    left="i8",  # lives, this one included
    acted="i8", acted_on="i8",  # how often on which tick
    free_at="i8",  # when its recovery is over, so that it may walk
    where="i8", moves="i8",  # moves: 1 while it walks or slides
    want="i8", reach="f8",  # the unit it goes for, and how near it wants to be
    fetch="i8", flees="i8", fled="i8", away="i8",  # fetch: the spot of a supply; away: its dash leads away
    checkpoint="i8", pusher="i8", fall_entry="i8", drop="f8",
    x="f8", y="f8", push_x="f8", push_y="f8",
)  # fmt: skip
GAUGE_STATE = fields(held="i8", now="i8", top="i8", opened="i8", booked="i8", refill_at="i8")
BUFF_STATE = fields(
    on="i8", ends_at="i8", beats_at="i8", source="i8", entry="i8", began="i8", count="i8", strength="f8",
    meter="f8", meter_at="i8",
)  # fmt: skip
PART_STATE = fields(gone="i8", worn="i8", now="i8", top="i8", opened="i8", booked="i8")
KNOWN_STATE = fields(
    ready_at="i8",  # the tick from which it can be used again
    charges="i8", charge_at="i8", uses="i8",
)  # fmt: skip
SPOT_STATE = fields(there="i8", at="i8")
LINE_STATE = fields(value="f8", known="i8")
MEETING = fields(
    taker="i8", dealer_version="i8", taker_version="i8", power="f8", aim="f8", soak="f8", dodge="f8", lands="f8",
    settled="f8", chance="f8", critical_times="f8",
)  # fmt: skip
FRAME = fields(
    at="i8", last="i8",  # the next effect, and where the list ends
    user="i8", target="i8", cause="i8", parent="i8", aimed="i8", depth="i8", missed="i8",
    scale="f8",  # fall-off, stacks and strength
    booked="f8",  # by the hit that caused a reaction, in points
    part="i8",  # the name of the part that is aimed at
    shot="i8",  # the projectile that brought it, -1: none
)  # fmt: skip
HIT = fields(
    drawn="f8", part="i8", notes="i8", times="f8", part_times="f8", resist_times="f8", against_times="f8",
    critical_times="f8", spread_times="f8", guard_times="f8", scale="f8", dealer_page="i8", in_front="i8",
)  # fmt: skip
SHOT = fields(on="i8", user="i8", target="i8", ability="i8", arrive_at="i8", parent="i8", part="i8", launched="i8")
LAUNCHED = fields(power="f8", aim="f8", chance="f8", critical_times="f8")
TALLY = fields(uses="i8", hits="i8", misses="i8", criticals="i8", harm="i8", heal="i8", spent="i8", waste="i8")
RUN = fields(versions="i8", recording="i8")
ENTRY = fields(
    tick="i8", phase="i8", verb="i8", unit="i8",
    gauge="i8", asked="i8", booked="i8", balance="i8", waste="i8",
    cause="i8", source="i8", part="i8", parent="i8", notes="i8",
    kind="i8", line="i8",  # the damage kind of a hit, the formula of a heal, a cost or a refill
    lands="f8", drawn="f8",  # the chance to land and what was drawn; NaN where nothing was
    power="f8", soak="f8", settled="f8", times="f8", part_times="f8", critical_times="f8", spread_times="f8",
    resist_times="f8", against_times="f8", guard_times="f8", scale="f8", in_front="i8",
    dealer_page="i8", taker_page="i8",  # rows of the kept pages
    amount="f8",  # of an event: strength, what is built up, metres, metres per second
)  # fmt: skip
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
        "frames": (FRAME, "frame"),
        "shots": (SHOT, "shot"),
        "launched": (LAUNCHED, "shot kind"),  # what the dealer's lines came to when a projectile left
        "picked": (WHOLE, "unit"),  # who is among the targets of the area in hand
        "stack": (FLOAT, "depth"),
        "turn": (WHOLE, "unit"),  # this tick's order
        "tally": (TALLY, "unit cause"),
        "entries": (ENTRY, "entry"),
        "paths": (PATH, "step"),  # where units have come to, step by step
        "kept": (FLOAT, "page slot"),  # pages kept for explanations
    }


LINE_OF_CACHE = 16  # words: two lines, as processors fetch them in pairs


def allocate(**sizes: int) -> State:
    """Return a state, all zero; `sizes` gives the length of each axis that the layout names.

    All of it lies in one piece, with room on both sides, so that two threads never write to one line of the cache.
    """
    sizes = {**sizes, "one": 1, "purpose": PURPOSES, "row": sizes["unit"] + MORE_ROWS, "frame": MOST_FRAMES}
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
    for axis in ("one", "purpose", "row", "word", "frame"):
        sizes.pop(axis)
    copy = allocate(**{**sizes, "entry": entries, "page": 2 * entries})
    for name in State.LAYOUT:
        source, target = getattr(state, name), getattr(copy, name)
        rows = min(len(source), len(target))
        target[:rows] = source[:rows]
    return copy
