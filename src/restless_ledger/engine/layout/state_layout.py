"""What the engine's memory that changes during a fight is made of, field by field.

Amounts are thousandths of a point, times are ticks; -1 stands for "none" wherever an index is wanted."""

from __future__ import annotations

from .effect_layout import REACTED
from .fields import FLOAT, WHOLE, fields, single

CLOCK = single(
    tick="i8",
    outcome="i8",
    fault="i8",
    fault_line="i8",
    fault_unit="i8",
    fallen="i8",  # 1: some gauge has reached zero since the last settle
    downs="i8",  # how many have gone down or away since the last judgement
    listed="i8",  # how many units the order of this tick holds
    pulsing="i8",
    ending="i8",
    acting="i8",  # how many units have something to do in those phases
    played="i8",  # 1: this tick has been played
    stirred="i8",  # the tick on which anything last changed that a formula or a play can see
    phase="i8",
    entries="i8",
    pages="i8",
    steps="i8",  # written so far, or wanted where the arrays are full
    frames="i8",  # lists of effects under way
    depth="i8",  # of the reaction that is being carried out
    origin="i8",
    origin_unit="i8",  # the reaction that is being carried out, and whose it is; -1: none
    gathered="i8",
    gatherings="i8",  # the number of the lists of who is up and on the floor, 0 where they don't hold; the last number
    present="i8",
    aloft="i8",  # how many are up, and how many of them not on the floor, while the lists hold
    strode="f8",
    stride="f8",  # how far any unit has walked or slid at most: all ticks before this one together, and this one
    shots="i8",
    launches="i8",  # projectiles in the air, and launched so far
    shot_at="i8",
    waiting="i8",
    put_off="i8",  # effects that are put off, and how many ever were
    later_at="i8",  # when the next of them is due
    followed="i8",  # 1: a gauge has changed that some stat reads
    opened="i8",  # 1: the fight has been opened
    announced="i8",  # 1 more than the last tick on which the opening or a round was announced
    supply_at="i8",  # when the next arrives, or lies there
    returning="i8",  # how many are down with a life left
    first_down="i8",
    first_down_at="i8",  # who went down first, NOBODY or SEVERAL; and when
    harm="i8",  # all that was taken off all gauges as harm
    vast="f8",  # the sum of all very large amounts, in points
    slice="i8",
    slice_at="i8",  # how many slices of the fight's course are counted, and when the next is due
    holder="i8",
    held_since="i8",  # the side that is alone at the objective (-1: none), counted up to this tick
    key="u8",  # of this fight's draws
    zones="i8",
    zone_at="i8",  # how many there are, and when one next needs to be looked at
    zoned="i8",
    tending="i8",  # 1: those of the arena are there; 1: zones are being looked at
    lays="i8",  # how many were ever laid
)
UNIT_STATE = fields(
    # What is asked of everybody on every tick comes first, a line of the cache for each purpose: when something is due,
    up="i8",
    waiting="i8",  # waiting: free, but nothing could be used; looks again after every change
    refill_at="i8",
    beat_at="i8",
    end_at="i8",
    choose_at="i8",
    land_at="i8",  # when something is next due
    arrive_at="i8",  # when a fall, a climb or a return ends
    # where it is and whether it moves,
    where="i8",
    moves="i8",  # moves: 1 while it walks or slides
    free_at="i8",  # when its recovery is over, so that it may walk
    walked_at="i8",  # 1 more than the tick on which it last walked in its turn
    x="f8",
    y="f8",
    push_x="f8",
    push_y="f8",
    # who was found nearest,
    nearest="i8",
    first="f8",
    others="f8",  # the nearest foe at the last search, and how far away that one and all others were at least
    searched="i8",
    searched_x="f8",
    searched_y="f8",
    searched_strode="f8",  # by which lists that search was made, where the unit stood, and how far all had come
    side="i8",  # on which it fights now
    # and where it goes.
    want="i8",
    reach="f8",  # the unit it goes for, and how near it wants to be
    fetch="i8",  # the spot of a supply
    flees="i8",
    shot_on="i8",  # the last tick on which a projectile of it arrived
    near="f8",  # how far away the nearest foe is; below 0: that is not known in this look
    ability="i8",
    due="i8",  # the soonest of all that is due
    target="i8",
    aimed_part="i8",  # in the wind-up
    aim_x="f8",
    aim_y="f8",  # where its target stood as it began that
    used_at="i8",
    used_version="i8",  # when it began that, in ticks and in versions
    use_entry="i8",
    harm_entry="i8",
    push_entry="i8",
    dealing_version="i8",
    taking_version="i8",
    spared_from="i8",
    spared_until="i8",
    spared_all="i8",  # invulnerable; spared_all: to every kind
    harmed_at="i8",
    attacker="i8",
    dealt="i8",
    taken="i8",
    healed="i8",  # all the harm that it has done and that was done to it, and what it has healed
    turn="i8",  # which of its playbook's turns comes next
    doomed="i8",  # 1: a vital part has broken, so it goes down at settle
    left="i8",  # lives, this one included
    acted="i8",
    acted_on="i8",  # how often on which tick
    fled="i8",
    away="i8",  # its dash leads away
    checkpoint="i8",
    pusher="i8",
    fall_entry="i8",
    drop="f8",
    barred="i8",
    hidden="i8",  # what buffs bar, and hide it from: sets of words
    taunter="i8",  # whom it must aim at; -1: nobody
    confused="i8",  # 1: it aims at anybody
    feet="i8",
    feet_from="i8",  # where it must walk, -1: nowhere; and away from whom, or to whom
    hurt_by="i8",
    hurt_with="i8",  # the source and the cause of what took something off the gauge that downs, last
    passed="i8",  # the checkpoints that it has reached, a bit each
    tossed="i8",  # why it is in the air and comes down again: tossed up, or jumping; 0: neither
    face_x="f8",
    face_y="f8",  # the direction that it faces
    absent="i8",  # 1: it has not come yet, or has gone again
    leaves_at="i8",
    giver="i8",
    bound="i8",  # who called it; 1: it leaves with that one
    deep="f8",  # how far it has to climb back
    terminal="f8",  # the highest speed of its fall
    rise="f8",
    jumped_at="i8",  # for how many seconds its jump takes it up, and when that began
    back_x="f8",
    back_y="f8",  # from where it lunged
    went_x="f8",
    went_y="f8",
    went_at="i8",  # how far it last walked or slid in a tick, and on which
    postponed="i8",  # 1 more than the round in which it has put off its turn
    off_x="f8",
    off_y="f8",  # on a grid: how far from the middle of its cell it has walked
    slid="f8",
    slide_entry="i8",  # how far it has slid, and what began that
)
RANKS = fields(  # how the units of a tick were sorted; by place of the turn, but for what is said to be by unit
    initiative="f8",
    drawn="i8",
    dealt="i8",
    dealt_draw="i8",  # the unit that a place was dealt, and the bits of its draw
    bucket="i8",
    count="i8",  # where the unit at this place was dealt to; and how many a place was dealt, then the next free one
    listed="i8",  # by unit: 1 while it is listed and not yet found in the order that is kept
    slot="i8",  # its place in the order that is kept
    kept="i8",  # all units, in the order of initiative of the last time that it was worked out
)
GATHERED = fields(foes="i8", mates="i8")  # how many are listed against a side and on it
GAUGE_STATE = fields(
    held="i8",
    now="i8",
    top="i8",
    opened="i8",
    booked="i8",
    paid_at="i8",  # when a cost was last paid with it
    by_rule="i8",  # 1: it begins as its rulebook says, while what varies is rolled
)
FLOW_STATE = fields(at="i8", rest="f8")  # when it is next due; parts of a thousandth that are carried over to then
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
    harm="i8",  # that its bearer has taken since it began
)
EVENED = fields(
    so_far="f8",  # the sum of the chances
    mark="f8",
    marks="i8",  # where it happens next, and how many marks there were
)
DULLED = fields(count="i8", until="i8")
PART_STATE = fields(gone="i8", worn="i8", now="i8", top="i8", opened="i8", booked="i8")
KNOWN_STATE = fields(
    ability="i8",
    since="i8",  # what it is now, and since which buff began
    ready_at="i8",  # the tick from which it can be used again
    charges="i8",
    charge_at="i8",
    uses="i8",
    barred="i8",  # 1: a buff bars it
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
    spread="f8",
)

OPENED = {
    "units": (UNIT_STATE, "unit"),  # the first, as its rows are to begin where lines of the cache do
    "gauges": (GAUGE_STATE, "unit gauge"),
    "flows": (FLOW_STATE, "unit flow"),
    "parts": (PART_STATE, "part"),
    "known": (KNOWN_STATE, "known"),
    "buffs": (BUFF_STATE, "unit buff"),
    "dulled": (DULLED, "unit dull"),  # how often buffs of a group have begun, and until when that counts
    "evened": (EVENED, "unit even"),
    "cards": (WHOLE, "roller roll"),  # how many cards each unit has drawn
    "varied": (FLOAT, "unit varied"),  # what was drawn of what varies
    "spots": (SPOT_STATE, "spot"),
    "losses": (WHOLE, "side"),  # how often units of a side went down
    "holding": (WHOLE, "side"),  # for how many ticks a side has held the objective
    "lines": (LINE_STATE, "unit line"),  # results kept until the unit's stats change
    "reacted": (REACTED, "reactor reaction"),  # where some reaction counts or rests
    "mitigated": (REACTED, "mitigator mitigation"),
    "pages": (FLOAT, "row slot"),  # what formulas read: a row a unit, then the meeting, then a fault
    "clock": (CLOCK, "one"),
    "draws": (WHOLE, "unit purpose"),  # how many were made
}
"""The members of a state that every fight opens anew."""
