"""Steps: what puts a unit somewhere else at once."""

from __future__ import annotations

from ...codes import BARS_DASHING, ENDS_ON_MOVING, ON_THE_FLOOR, STEP, STEP_AWAY, STEP_BEHIND, STEP_SWAP
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event, write_step
from ..buffs.ends import end_on
from ..formulas.lines import read_line
from ..units.distance import length
from ..units.facing import turn_to
from ..units.sides import is_kept_from
from ..units.standing import scatter
from .grid import enter_cell
from .leap import CLOSEST


@kernel_seldom
def step_to(tables: Tables, state: State, at: int, index: int, goal: int) -> None:
    """Put the user of an effect beside or behind a unit, in its place, or away from it; always within the arena.

    Where the two stand on the same spot, the way from the one to the other is due east.
    """
    frame, effect = state.frames[at], tables.effects[index]
    user = frame.user
    me, you = state.units[user], state.units[goal]
    if tables.rules[0].placed == 0 or user == goal or not me.up:
        return
    if me.where != ON_THE_FLOOR or you.where != ON_THE_FLOOR or is_kept_from(tables, state, user, BARS_DASHING):
        return
    from_x, from_y, to_x, to_y = me.x, me.y, you.x, you.y
    far = length(to_x - from_x, to_y - from_y)
    east, north = 1.0, 0.0
    if far > 0.0:
        east, north = (to_x - from_x) / far, (to_y - from_y) / far
    entry = write_event(state, user, STEP, frame.cause, source=user, parent=frame.parent)
    if effect.index == STEP_SWAP:
        put(tables, state, goal, from_x, y=from_y)
        put(tables, state, user, to_x, y=to_y)
    elif effect.index == STEP_AWAY:
        metres = max(0.0, read_line(tables, state, user, effect.line))
        put(tables, state, user, from_x - east * metres, y=from_y - north * metres)
    else:
        beyond = CLOSEST if effect.index == STEP_BEHIND else -CLOSEST
        put(tables, state, user, to_x + east * beyond, y=to_y + north * beyond)
    turn_to(state, user, state.units[goal].x, y=state.units[goal].y)
    record_amount(state, entry, length(me.x - from_x, me.y - from_y))


@kernel_seldom
def put(tables: Tables, state: State, unit: int, x: float, y: float) -> None:
    """Put a unit somewhere, or as near to it as the arena reaches. It slides no more."""
    me = state.units[unit]
    scatter(state)
    me.x = min(max(x, 0.0), tables.place[0].width)
    me.y = min(max(y, 0.0), tables.place[0].depth)
    if tables.place[0].grid > 0.0:
        enter_cell(tables, state, unit, keeps=False)
    me.push_x = 0.0
    me.push_y = 0.0
    state.clock[0].stirred = state.clock[0].tick
    if state.run[0].recording:
        write_step(state, unit)
    end_on(tables, state, unit, ENDS_ON_MOVING, parent=-1)
