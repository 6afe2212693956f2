"""Pushes, pulls, dashes and lunges: what sets a unit moving apart from its own walking."""

from __future__ import annotations

from ...codes import BARS_DASHING, FALLING, FASTEST, NEVER, ON_THE_FLOOR, PUSH, TOO_FAST, TOSSED
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import whole_ticks
from ..books.entries import record_amount, write_event, write_step
from ..formulas.lines import read_line, report_fault
from ..places.nearest import nearest_foe
from ..places.wall import stop_at_walls
from ..units.distance import distance_between, length
from ..units.sides import is_kept_from

CLOSEST = 0.5
"""Metres that a lunge leaves between the two."""


@kernel_seldom
def push(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Push a unit away from the user of an effect, or pull it nearer; its weight divides the speed."""
    frame = state.frames[at]
    if tables.rules[0].placed == 0 or unit == frame.user or state.units[unit].where != ON_THE_FLOOR:
        return
    weight = max(0.01, read_line(tables, state, unit, tables.place[0].weight))
    speed = tables.effects[index].times * read_line(tables, state, frame.user, tables.effects[index].line) / weight
    if not abs(speed) <= FASTEST:
        report_fault(tables, state, TOO_FAST, tables.effects[index].line, unit=frame.user)
        return
    if tables.effects[index].times == 0.0:
        toss(tables, state, at, index, unit=unit, weight=weight)
        return
    set_moving(tables, state, frame.user, unit, speed=speed)
    me = state.units[unit]
    me.pusher = frame.user
    me.push_entry = write_event(state, unit, PUSH, frame.cause, source=frame.user, parent=frame.parent)
    record_amount(state, me.push_entry, speed)


@kernel_seldom
def toss(tables: Tables, state: State, at: int, index: int, unit: int, weight: float) -> None:
    """Toss a unit straight up: it flies for 2 v / g, can do nothing meanwhile, and lands as from v² / (2 g) metres."""
    frame, me = state.frames[at], state.units[unit]
    speed = read_line(tables, state, frame.user, tables.effects[index].line) / weight
    if not speed <= FASTEST:
        report_fault(tables, state, TOO_FAST, tables.effects[index].line, unit=frame.user)
        return
    if speed <= 0.0 or not me.up:
        return
    gravity = tables.place[0].gravity
    me.pusher = frame.user
    me.push_entry = write_event(state, unit, TOSSED, frame.cause, source=frame.user, parent=frame.parent)
    me.fall_entry = me.push_entry
    record_amount(state, me.push_entry, speed)
    me.where = FALLING
    me.tossed = 1
    me.drop = speed * speed / (2.0 * gravity)
    me.moves = 0
    me.waiting = 0
    me.push_x = 0.0
    me.push_y = 0.0
    me.land_at = NEVER
    me.choose_at = NEVER
    ticks = whole_ticks(tables, state, unit, -1, ticks=2.0 * speed / gravity / tables.rules[0].seconds)
    me.arrive_at = state.clock[0].tick + max(1, ticks)
    state.clock[0].stirred = state.clock[0].tick


@kernel
def set_moving(tables: Tables, state: State, start: int, unit: int, speed: float) -> None:
    """Add a speed, in metres per second, to a unit's sliding: away from where another stands, below 0 towards it."""
    me = state.units[unit]
    other = state.units[start]
    distance = distance_between(tables, state, start, unit)
    if distance > 0.0:
        me.push_x += speed * (me.x - other.x) / distance
        me.push_y += speed * (me.y - other.y) / distance
    else:  # one on top of the other: away is where the middle of the arena is not behind
        me.push_x += speed if me.x <= tables.place[0].width / 2 else -speed


@kernel_seldom
def leap(tables: Tables, state: State, unit: int, ability: int, target: int) -> None:
    """Carry out the dash and the lunge of an ability that lands: relative to its target, or to the nearest foe."""
    if tables.rules[0].placed == 0 or is_kept_from(tables, state, unit, BARS_DASHING):
        return
    row = tables.abilities[ability]
    goal = nearest_foe(tables, state, unit) if target == unit else target
    if goal < 0:
        return
    if row.dash > 0.0:  # in place of what it still slides by
        state.units[unit].push_x = 0.0
        state.units[unit].push_y = 0.0
        set_moving(tables, state, goal, unit, speed=row.dash if state.units[unit].away else -row.dash)
    if row.lunge > 0.0:
        me = state.units[unit]
        you = state.units[goal]
        distance = distance_between(tables, state, unit, goal)
        step = min(row.lunge, distance - CLOSEST)
        if step > 0.0:
            from_x, from_y = me.x, me.y
            me.x += step * (you.x - me.x) / distance
            me.y += step * (you.y - me.y) / distance
            if tables.walls.shape[0] > 0:
                stop_at_walls(tables, state, unit, from_x, from_y=from_y)
            state.clock[0].stirred = state.clock[0].tick
            if state.run[0].recording:
                write_step(state, unit)


@kernel
def sliding(state: State, unit: int) -> float:
    """Return the speed, in metres per second, that pushes and dashes have left a unit with."""
    me = state.units[unit]
    return length(me.push_x, me.push_y)
