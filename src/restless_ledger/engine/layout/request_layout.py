"""What the front asks of the kernel, and how the kernel goes about it, field by field."""

from __future__ import annotations

from .fields import fields

REQUEST = fields(
    ask="i8",  # what is asked for: one of ASK_OPEN and so on; it says which of the other fields count
    common="i8",  # 1: fights or their opening, which every program can do
    seed="i8",
    fight="i8",  # the number of a fight, or of the first of several
    count="i8",  # how many fights, or the number of a draw at its address
    until="i8",  # the tick up to which is played
    unit="i8",
    verb="i8",  # of a script: what it does
    index="i8",  # of a script: the gauge, the ability, the buff or the kind that it does it with
    amount="f8",
    target="i8",  # of a script that uses an ability: on whom
    source="i8",  # of a script that hits or pushes: who does; the unit itself where nobody does
    part="i8",  # of a script: the name of the part that is hit or aimed at; -1: none
    away="i8",  # of a script that uses a dash: 1: away from the target
    strict="i8",  # of a script that uses an ability: 1: only on whom it may be aimed at, in reach and in sight
    x="f8",
    y="f8",  # of a script that moves a unit: to where; that pushes one: how fast east and north
    line="i8",  # a formula, and the row of the pages that it is read on
    row="i8",
    purpose="i8",  # of a draw
)
"""What the front asks of the kernel."""
RUN = fields(
    versions="i8",
    recording="i8",
    work="i8",  # effects carried out on this tick
    budget="i8",  # how many ticks may still be played until the front is asked whether to go on
    index="i8",
    under_way="i8",  # the fight that comes next of those asked for; 1: it has begun
    slice_ticks="i8",  # above 0: the fights are watched, and their course is counted every this many ticks
    every="i8",  # 1: every tick is played, also those on which nothing is due
    fixed_luck="i8",  # 1: luck is set aside, and every draw comes out in the middle
    force_hits="i8",  # 1: all possible hits land and nobody goes down, so that the schedule runs to the time-limit
)
