"""The air: who is tossed up, who jumps, and how long a fall takes."""

from __future__ import annotations

import math

from ...codes import FALLING, FASTEST, JUMPED, JUMPING, NEVER, TOO_FAST, TOSSED, TOSSED_UP
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import whole_ticks
from ..books.entries import record_amount, write_event
from ..formulas.lines import read_line, report_fault
from ..units.standing import scatter


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
    me.push_x = 0.0
    me.push_y = 0.0
    me.drop = speed * speed / (2.0 * gravity)
    me.tossed = TOSSED_UP
    lose_ground(tables, state, unit)
    ticks = whole_ticks(tables, state, unit, -1, ticks=2.0 * speed / gravity / tables.rules[0].seconds)
    me.arrive_at = state.clock[0].tick + max(1, ticks)


@kernel_seldom
def jump(tables: Tables, state: State, unit: int, ability: int, parent: int) -> None:
    """Let a unit take so many of its own jumps, each at the top of the one before: v² / (2 g) higher each. It comes
    down as from the height of all together, and slides on meanwhile."""
    me, row = state.units[unit], tables.units[unit]
    last = min(row.last_jump, row.first_jump + tables.abilities[ability].jumps)
    gravity, height, rise = tables.place[0].gravity, 0.0, 0.0
    for at in range(row.first_jump, last):
        height += tables.jumps[at] * tables.jumps[at] / (2.0 * gravity)
        rise += tables.jumps[at] / gravity
    if height <= 0.0:
        return
    me.pusher = -1
    me.fall_entry = write_event(state, unit, JUMPED, tables.abilities[ability].cause, source=unit, parent=parent)
    record_amount(state, me.fall_entry, height)
    me.drop = height
    me.rise = rise
    me.jumped_at = state.clock[0].tick
    me.tossed = JUMPING
    lose_ground(tables, state, unit)
    come_down(tables, state, unit)


@kernel_seldom
def lose_ground(tables: Tables, state: State, unit: int) -> None:
    """Let a unit be in the air: it can do nothing, and what it wound up is broken off."""
    me = state.units[unit]
    if me.land_at != NEVER:
        me.free_at = state.clock[0].tick
    me.where = FALLING
    scatter(state)
    me.moves = 0
    me.waiting = 0
    me.land_at = NEVER
    me.choose_at = NEVER
    me.terminal = terminal_speed(tables, state, unit)
    state.clock[0].stirred = state.clock[0].tick


@kernel_seldom
def come_down(tables: Tables, state: State, unit: int) -> None:
    """Note when a jump ends, over an edge too."""
    me = state.units[unit]
    seconds = me.rise + fall_time(tables, state, unit, me.drop)
    ticks = whole_ticks(tables, state, unit, -1, ticks=seconds / tables.rules[0].seconds)
    me.arrive_at = me.jumped_at + max(1, ticks)


@kernel_seldom
def terminal_speed(tables: Tables, state: State, unit: int) -> float:
    """Return the highest speed at which a unit falls."""
    place = tables.place[0]
    if place.terminal_times < 0:
        return place.terminal
    return place.terminal * max(0.0, read_line(tables, state, unit, place.terminal_times))


@kernel_seldom
def fall_time(tables: Tables, state: State, unit: int, height: float) -> float:
    """Return how many seconds a unit falls from a height: sqrt(2 h / g), and at its terminal speed from where it has
    reached that."""
    gravity, terminal = tables.place[0].gravity, state.units[unit].terminal
    free = terminal * terminal / (2.0 * gravity)
    if height <= free:
        return math.sqrt(2.0 * height / gravity)
    return terminal / gravity + (height - free) / terminal if terminal > 0.0 else math.sqrt(2.0 * height / gravity)
