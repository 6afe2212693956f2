"""Effects that are put off: what an effect does later, each while, or as long as a wind-up lasts."""

from __future__ import annotations

from ...codes import NEVER, NO_ROOM, PUT_OFF
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.lines import report_fault
from .effect_stack import push_frame
from .entries import record_amount, write_event


@kernel_seldom
def put_off(tables: Tables, state: State, at: int, index: int, ticks: int, left: int) -> int:
    """Put an effect off by a time, with all that its frame knows; return its place. It counts its times as it comes due
    where `left` is -1."""
    clock = state.clock[0]
    place = clock.waiting
    frame = state.frames[at]
    if place >= state.later.shape[0]:
        report_fault(tables, state, NO_ROOM, -1, unit=frame.user)
        return -1
    clock.waiting = place + 1
    clock.put_off += 1
    row = state.later[place]
    row.number = clock.put_off
    row.due_at = clock.tick + ticks
    row.effect = index
    row.left = left
    row.channel = 0
    row.user = frame.user
    row.target = frame.target
    row.cause = frame.cause
    row.parent = frame.parent
    row.aimed = frame.aimed
    row.depth = frame.depth
    row.scale = frame.scale
    row.booked = frame.booked
    row.part = frame.part
    row.landed = frame.landed
    row.critical = frame.critical
    row.origin = frame.origin
    row.origin_unit = frame.origin_unit
    row.giver = frame.giver
    if left < 0:
        row.parent = write_event(state, frame.target, PUT_OFF, frame.cause, source=frame.user, parent=frame.parent)
        record_amount(state, row.parent, ticks * tables.rules[0].seconds)
    clock.later_at = min(clock.later_at, row.due_at)
    return place


@kernel_seldom
def take_up(tables: Tables, state: State, place: int) -> int:
    """Put the frame of an effect that was put off back on the stack; return its place there."""
    row = state.later[place]
    at = push_frame(
        tables,
        state,
        row.effect,
        row.effect,
        user=row.user,
        target=row.target,
        cause=row.cause,
        parent=row.parent,
        aimed=row.aimed,
        scale=row.scale,
    )
    frame = state.frames[at]
    frame.depth = row.depth
    frame.part = row.part
    frame.booked = row.booked
    frame.landed = row.landed
    frame.critical = row.critical
    frame.origin = row.origin
    frame.origin_unit = row.origin_unit
    frame.giver = row.giver
    return at


@kernel_seldom
def forget_later(state: State, place: int) -> None:
    """Take an effect that was put off off the list; the last one takes its place."""
    clock = state.clock[0]
    clock.waiting -= 1
    last = clock.waiting
    if place != last:
        state.later[place] = state.later[last]


@kernel_seldom
def schedule_later(state: State) -> None:
    """Note when the next effect that was put off is due."""
    soonest = NEVER
    for place in range(state.clock[0].waiting):
        soonest = min(soonest, state.later[place].due_at)
    state.clock[0].later_at = soonest
