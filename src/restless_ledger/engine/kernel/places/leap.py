"""Leaps of one's own: dashes, lunges and jumps."""

from __future__ import annotations

from ...codes import (
    BARS_DASHING,
    FASTEST,
    HEADS_AWAY,
    HEADS_TO_TARGET,
    HEADS_WHERE_MOVING,
    NOW_FACT,
    ON_THE_FLOOR,
    STEP,
    TOO_FAST,
)
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event, write_step
from ..formulas.heights import is_flying
from ..formulas.lines import read_line, report_fault
from ..units.distance import distance_between, length
from ..units.sides import is_kept_from
from ..units.standing import scatter
from .air import jump
from .grid import enter_cell
from .nearest import nearest_foe
from .push import set_moving
from .wall import stop_at_walls

CLOSEST = 0.5
"""Metres that a lunge leaves between the two."""


@kernel_seldom
def leap(tables: Tables, state: State, unit: int, ability: int, target: int) -> None:
    """Carry out the dash and the lunge of an ability that lands: relative to its target, or to the nearest foe."""
    if tables.rules[0].placed == 0 or is_kept_from(tables, state, unit, BARS_DASHING):
        return
    row = tables.abilities[ability]
    goal = nearest_foe(tables, state, unit) if target == unit else target
    if row.dash > 0.0:
        dash(tables, state, unit, ability, goal=goal)
    if row.lunge > 0.0 and goal >= 0:
        lunge(tables, state, unit, ability, goal=goal)


@kernel_seldom
def dash(tables: Tables, state: State, unit: int, ability: int, goal: int) -> None:
    """Let a unit slide at the speed of its dash, in place of what it still slides by."""
    me, row = state.units[unit], tables.abilities[ability]
    heading = HEADS_AWAY if me.away else row.dash_to
    relative = heading in (HEADS_TO_TARGET, HEADS_AWAY)
    if relative and goal < 0:
        return
    speed = row.dash
    if row.dash_times >= 0:
        state.pages[unit, tables.rules[0].facts + NOW_FACT] = speed_now(tables, state, unit)
        speed *= max(0.0, read_line(tables, state, unit, row.dash_times))
        if not speed <= FASTEST:
            report_fault(tables, state, TOO_FAST, row.dash_times, unit=unit)
            return
    me.push_x = 0.0
    me.push_y = 0.0
    me.slid = 0.0
    me.slide_entry = me.use_entry
    if relative:
        set_moving(tables, state, goal, unit, speed=speed if heading == HEADS_AWAY else -speed)
        return
    east, north = me.face_x, me.face_y
    far = length(me.went_x, me.went_y)
    if heading == HEADS_WHERE_MOVING and far > 0.0:
        east, north = me.went_x / far, me.went_y / far
    me.push_x = speed * east
    me.push_y = speed * north


@kernel_seldom
def speed_now(tables: Tables, state: State, unit: int) -> float:
    """Return at what speed a unit walked or slid on the last tick, in metres per second."""
    me = state.units[unit]
    if me.went_at < state.clock[0].tick - 1:
        return 0.0
    return length(me.went_x, me.went_y) / tables.rules[0].seconds


@kernel_seldom
def lunge(tables: Tables, state: State, unit: int, ability: int, goal: int) -> None:
    """Put a unit nearer to another at once: as far as its ability lunges, up to just before it or to a wall."""
    me, you = state.units[unit], state.units[goal]
    me.back_x, me.back_y = me.x, me.y
    distance = distance_between(tables, state, unit, goal)
    step = min(tables.abilities[ability].lunge, distance - CLOSEST)
    if step <= 0.0:
        return
    scatter(state)
    me.x += step * (you.x - me.x) / distance
    me.y += step * (you.y - me.y) / distance
    if tables.walls.shape[0] > 0 and not is_flying(tables, state, unit):
        stop_at_walls(tables, state, unit, me.back_x, from_y=me.back_y)
    if tables.place[0].grid > 0.0:
        enter_cell(tables, state, unit, keeps=False)
    tell_of_leap(tables, state, unit, me.back_x, from_y=me.back_y)


@kernel_seldom
def leap_afterwards(tables: Tables, state: State, unit: int) -> None:
    """Put a unit back to where it lunged from, and let it jump, once all that its ability does has happened, if it
    still stands."""
    me, row = state.units[unit], tables.abilities[state.units[unit].ability]
    if tables.rules[0].placed == 0 or not me.up or me.where != ON_THE_FLOOR:
        return
    if is_kept_from(tables, state, unit, BARS_DASHING):
        return
    if row.lunge_returns:
        lunge_back(tables, state, unit)
    if row.jumps > 0:
        jump(tables, state, unit, me.ability, parent=me.use_entry)


@kernel_seldom
def lunge_back(tables: Tables, state: State, unit: int) -> None:
    """Put a unit back to where it lunged from."""
    me = state.units[unit]
    if me.x == me.back_x and me.y == me.back_y:
        return
    from_x, from_y = me.x, me.y
    scatter(state)
    me.x, me.y = me.back_x, me.back_y
    tell_of_leap(tables, state, unit, from_x, from_y=from_y)


@kernel_seldom
def tell_of_leap(tables: Tables, state: State, unit: int, from_x: float, from_y: float) -> None:
    """Write how far a unit has got at once."""
    me = state.units[unit]
    state.clock[0].stirred = state.clock[0].tick
    cause = tables.abilities[me.ability].cause
    entry = write_event(state, unit, STEP, cause, source=unit, parent=me.use_entry)
    record_amount(state, entry, length(me.x - from_x, me.y - from_y))
    if state.run[0].recording:
        write_step(state, unit)
