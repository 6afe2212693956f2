"""Checkpoints that are reached, and the objective that is held."""

from __future__ import annotations

import numpy as np

from ...codes import CHECKPOINT, ON_THE_FLOOR, SCRIPT
from ...compiler.compiled import kernel_apart
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event
from ..units.distance import metres


@kernel_apart
def reach_checkpoint(tables: Tables, state: State, unit: int) -> None:
    """Remember the checkpoint that a unit with more than one life reaches: the nearest of those in reach.

    Of two that are as near, the one that it has reached before stays.
    """
    me = state.units[unit]
    if me.left < 2 or me.where != ON_THE_FLOOR:
        return
    best, nearest = np.inf, -1
    for point in range(tables.checkpoints.shape[0]):
        row = tables.checkpoints[point]
        distance = metres(tables, row.x - me.x, row.y - me.y)
        again = point != me.checkpoint and row.once != 0 and me.passed & (1 << point)
        back = tables.place[0].in_order != 0 and point < me.checkpoint
        if distance >= row.radius or again or back:
            continue
        if distance < best or (distance == best and (nearest < 0 or point == me.checkpoint)):
            best, nearest = distance, point
    if nearest >= 0 and nearest != me.checkpoint:
        me.checkpoint = nearest
        me.passed |= 1 << nearest
        record_amount(state, write_event(state, unit, CHECKPOINT, SCRIPT, source=unit, parent=-1), nearest + 1)


@kernel_apart
def hold_objective(tables: Tables, state: State) -> None:
    """Count the time for which one side alone has been at the objective."""
    clock = state.clock[0]
    place = tables.place[0]
    if clock.holder >= 0:
        state.holding[clock.holder] += clock.tick - clock.held_since
    clock.held_since = clock.tick
    clock.holder = -1
    several = False
    for unit in range(state.units.shape[0]):
        me = state.units[unit]
        near = metres(tables, me.x - place.goal_x, me.y - place.goal_y) <= place.goal_radius
        if me.up and me.where == ON_THE_FLOOR and near:
            side = tables.units[unit].side
            several = several or (clock.holder >= 0 and clock.holder != side)
            clock.holder = side
    if several:
        clock.holder = -1
