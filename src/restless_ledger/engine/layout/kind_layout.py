"""What the engine knows of damage and healing kinds, and of rolls, field by field."""

from __future__ import annotations

from .fields import fields

KINDS = fields(
    gauge="i8",
    heals="i8",
    never_misses="i8",
    aim="i8",
    dodge="i8",
    power="i8",
    soak="i8",  # lines
    lands="i8",
    settle="i8",  # lines of the meeting
    chance="i8",
    times="i8",
    avoid="i8",  # lines: of a critical
    tiers="i8",
    even="i8",  # the number of a critical's chance that evens out, -1: it does not
    spread="i8",  # line
    first_roll="i8",
    last_roll="i8",  # the lines that are drawn for each hit
    within="i8",
    graze_times="i8",  # lines: of a grazing hit
    block_chance="i8",
    block_times="i8",  # lines: of a blocked hit
    limited="i8",  # 1: what it takes has a least and a most
    least="f8",
    most="f8",
    rounding="i8",
    first_extra="i8",
    last_extra="i8",
    moving="i8",  # 1: some line reads a gauge, so that it can change between two hits
    resist="i8",
    guard_when="i8",
    guard_times="i8",  # lines
    first_bar="i8",
    last_bar="i8",
    held_back="i8",  # 1: it knows a resistance, a guard stance, or differs by the taker's class
)
ROLLS = fields(
    low="i8",
    high="i8",  # lines: the ends of a range
    whole="i8",
    first_face="i8",
    last_face="i8",  # the numbers of dice or of a deck
    deck="i8",
    rolls="i8",
    best="i8",
    slot="i8",
)
FACES = fields(value="f8", up_to="f8")
EXTRAS = fields(line="i8", on_dealer="i8")
