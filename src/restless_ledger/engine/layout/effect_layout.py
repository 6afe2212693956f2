"""What is under way in a fight, field by field: lists of effects, events, hits, projectiles, zones.

Amounts are thousandths of a point, times are ticks; -1 stands for "none" wherever an index is wanted.
"""

from __future__ import annotations

from .fields import fields

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
    stage="i8",  # what it is: a list, the times of one effect, or its receivers
    left="i8",  # how many more times
    its_list="i8",  # the frame of the list that its hits are told to
    landed="i8",
    critical="i8",  # what the last hit of the list did
    origin="i8",
    origin_unit="i8",  # the reaction that it comes of, and whose that is; -1: none
    giver="i8",  # of the buff that a reaction stands in
)
LATER = fields(
    due_at="i8",
    number="i8",  # in the order in which they were put off
    effect="i8",
    left="i8",  # how many times there still are; -1: that is not known yet
    channel="i8",  # 1: a wind-up goes on with it
    used_at="i8",  # when that wind-up began
    user="i8",
    target="i8",
    cause="i8",
    parent="i8",
    aimed="i8",
    depth="i8",
    scale="f8",
    booked="f8",
    part="i8",
    landed="i8",
    critical="i8",
    origin="i8",
    origin_unit="i8",
    giver="i8",
)
"""An effect that is put off, with all that its frame knew."""
EVENT = fields(
    kind="i8",
    cause="i8",
    part="i8",
    notes="i8",  # of the hit
    what="i8",  # the mark, the buff, the gauge or the cause that it is about
    before="f8",
    after="f8",  # shares of a gauge
)
"""What is known of the event in hand."""
REACTED = fields(count="i8", rests_until="i8")
HIT = fields(
    drawn="f8",
    chance="f8",
    part="i8",
    notes="i8",
    dealer_page="i8",
    taker_page="i8",
    in_front="i8",
    mitigated="i8",
    line="i8",  # of its effect's `times`
    number="i8",  # among all hits of its dealer: where its draws lie; -1: nothing is drawn for it
    aimed="i8",
)
UNITS_A_WORD = 62
"""How many units one word of those that a missile has hit stands for."""
SHOT = fields(
    user="i8",
    target="i8",
    ability="i8",
    arrive_at="i8",
    parent="i8",
    part="i8",
    launched="i8",
    aim_x="f8",
    aim_y="f8",  # where it flies to
    page="i8",  # the page of its user as it was launched, kept where a fight is recorded
    straight="i8",  # how it flies straight on; -1: it follows its target
    at="i8",  # when it was launched
    x="f8",
    y="f8",
    east="f8",
    north="f8",  # from where, and in which direction
    length="f8",  # of its way out
    scale="f8",
    each_times="f8",  # of what it does to the next one, and what that is multiplied by each time
    hits="i8",  # how many it has hit
)
ZONE_STATE = fields(
    zone="i8",  # -1: it has ended on this tick
    giver="i8",
    host="i8",  # who laid it, and whom it follows; -1: nobody
    x="f8",
    y="f8",
    laid_at="i8",
    ends_at="i8",
    beats_at="i8",
    sprung="i8",  # 1: somebody has entered
    order="i8",  # in which it was laid
    seen_at="i8",  # from which tick on it is looked at, and 1 below that once it has been
    entry="i8",
)
LAUNCHED = fields(power="f8", aim="f8", chance="f8", critical_times="f8", spread="f8")
