"""What the engine knows of a place, field by field: edges, ways to win, supplies, zones.

Times are ticks, lengths metres; a line is a formula that is read on one character's page; -1 stands for "none" wherever
an index is wanted.
"""

from __future__ import annotations

from .fields import fields

PLACE = fields(
    width="f8",
    depth="f8",
    pace="i8",
    weight="i8",
    crash="i8",  # line
    grid="f8",  # 0: none
    counts="i8",  # how distances are counted
    radius="i8",
    flies="i8",  # lines
    air_friction="f8",
    ways="i8",  # 1: some dash asks how its user moved
    in_order="i8",  # 1: only a later checkpoint counts
    friction="f8",  # lines: pace, weight
    gravity="f8",
    safe_speed="f8",
    terminal="f8",
    terminal_times="i8",  # line
    damage="i8",
    climb="f8",
    north="i8",
    south="i8",
    east="i8",
    west="i8",  # what the edges are
    north_drop="f8",
    south_drop="f8",
    east_drop="f8",
    west_drop="f8",
    goal_x="f8",
    goal_y="f8",
    goal_radius="f8",
    goal="i8",  # 1: there is an objective
    goal_ticks="i8",  # for how long it is to be held to win; no ticks: never
    delay="i8",
    spared="i8",  # of a return
)
WINS = fields(
    side="i8",
    first_down="i8",
    last_down="i8",
    first_fled="i8",
    last_fled="i8",
    first_there="i8",
    last_there="i8",  # of the units that it asks for
    x="f8",
    y="f8",
    radius="f8",
    points="i8",  # 0: it asks for none
    at_time_limit="i8",
)
SPOTS = fields(x="f8", y="f8", supply="i8")
SUPPLIES = fields(every="i8", every_times="i8", first_effect="i8", last_effect="i8")
ZONES = fields(
    cause="i8",
    radius="f8",
    wide="f8",
    deep="f8",  # of a rectangle; its radius is 0
    outside="i8",
    to="i8",
    follows="i8",
    arms="i8",
    lasts="i8",
    shrinks="f8",  # metres a second
    least="f8",
    springs="i8",
    most="i8",
    inside="i8",
    first_entering="i8",
    last_entering="i8",
    first_leaving="i8",
    last_leaving="i8",
    every="i8",
    every_times="i8",  # line
    first_effect="i8",
    last_effect="i8",  # of its beat
)
CHECKPOINTS = fields(x="f8", y="f8", radius="f8", to_x="f8", to_y="f8", once="i8")
WALLS = fields(x="f8", y="f8", to_x="f8", to_y="f8")
HEIGHTS = fields(x="f8", y="f8", wide="f8", deep="f8", up="f8")
LAID = fields(zone="i8", x="f8", y="f8")
STRAIGHTS = fields(width="f8", length="f8", pierces="i8", each_times="i8", returns="i8", to="i8")
