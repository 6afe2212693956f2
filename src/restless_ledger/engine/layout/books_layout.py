"""What is written of fights: entries, paths, and what is added up over many.

Amounts are thousandths of a point, times are ticks; -1 stands for "none" wherever an index is wanted."""

from __future__ import annotations

from .fields import fields

ACTION_TOTALS = fields(  # amounts in thousandths; those of many fights with very large ones outgrow 64 bits
    uses="i8", hits="i8", misses="i8", criticals="i8", harm="f8", heal="f8", spent="f8", waste="f8"
)
UP_TOTALS = fields(up="i8")  # in how many fights a unit was up at the end
HIT_TOTALS = fields(hits="i8", booked="f8")  # booked: what was taken off all gauges, or healed
BUFF_TOTALS = fields(times="i8", ticks="i8")  # how often a buff began on a unit, and for how long it was on in all
RESULT = fields(
    outcome="i8",
    ticks="i8",
    first="i8",  # the unit that went down first; NOBODY, or SEVERAL where two sides lost one on the same tick
    harm="i8",  # all that everybody dealt together
    left="f8",  # the share that the winner's units have left of the gauge that downs; NaN where nobody wins
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
    drawn="f8",  # the value of `lands`, the chance it made, what was drawn (NaN: nothing)
    power="f8",
    soak="f8",
    settled="f8",
    distance="f8",
    behind="f8",
    above="f8",
    in_front="i8",
    mitigated="i8",  # what was held back before it was booked; below zero what was added
    dealer_page="i8",
    taker_page="i8",  # rows of the kept pages
    amount="f8",  # of an event: strength, what is built up, metres, metres per second
    x="f8",
    y="f8",  # where the unit stands, or a zone is laid
    from_x="f8",
    from_y="f8",  # where the source stands
    hit="i8",
    aimed="i8",  # of a hit: its number among its dealer's hits, -1 for none; 1: it is no beat
)
PATH = fields(tick="i8", unit="i8", x="f8", y="f8", face_x="f8", face_y="f8")
