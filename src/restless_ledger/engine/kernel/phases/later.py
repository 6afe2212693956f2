"""Phase 5: first, what was put off takes effect: effects that come later, each while, or as a wind-up goes on."""

from __future__ import annotations

from ...codes import NEVER
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched
from ..books.effect_stack import push_frame, push_like
from ..books.waiting import forget_later, put_off, schedule_later, take_up
from ..formulas.draw import draw_tie
from ..hits.branches import begin_times, push_times
from ..hits.effects import carry_out
from ..units.distance import NEARLY, distance_between
from .turn_order import initiative_of


@kernel_seldom
def play_later(tables: Tables, state: State) -> None:
    """Let take effect all that is due: of the user with the highest initiative first, ties by the draw of this tick,
    then in the order in which it was put off."""
    while True:
        place = first_due(tables, state)
        if place < 0:
            break
        row = state.later[place]
        at = take_up(tables, state, place)
        index, left, channel, used_at = row.effect, row.left, row.channel, row.used_at
        user, target = row.user, row.target
        forget_later(state, place)
        if channel:
            if winds_up(tables, state, user, target=target, used_at=used_at):
                effect = tables.effects[index]
                go_on(tables, state, at, index, used_at=used_at)
                push_like(tables, state, at, effect.first, last=effect.last)
        elif left < 0:
            begin_times(tables, state, at, index)
        elif state.units[user].up:
            if left > 1:
                effect = tables.effects[index]
                ticks = stretched(tables, state, user, effect.every, line=effect.every_times)
                put_off(tables, state, at, index, ticks=max(1, ticks), left=left - 1)
            push_times(tables, state, at, index, times=1)
        carry_out(tables, state, 0)
    schedule_later(state)


@kernel_seldom
def first_due(tables: Tables, state: State) -> int:
    """Return which of the effects that are due takes effect next, or -1."""
    clock = state.clock[0]
    first, best, tie, number = -1, 0.0, 0.0, NEVER
    for place in range(clock.waiting):
        row = state.later[place]
        if row.due_at > clock.tick:
            continue
        mine = 0.0
        if tables.rules[0].initiative >= 0:
            mine = initiative_of(tables, state, row.user)
        drawn = draw_tie(state, row.user)
        sooner = mine > best or (mine == best and (drawn > tie or (drawn == tie and row.number < number)))
        if first < 0 or sooner:
            first, best, tie, number = place, mine, drawn, row.number
    return first


@kernel_seldom
def winds_up(tables: Tables, state: State, user: int, target: int, used_at: int) -> bool:
    """Say whether a unit still winds up what it began then, and its target is there and in reach."""
    me = state.units[user]
    if not me.up or me.land_at == NEVER or me.used_at != used_at or not state.units[target].up:
        return False
    return distance_between(tables, state, user, target) <= tables.abilities[me.ability].reach + NEARLY


@kernel_seldom
def begin_channel(tables: Tables, state: State, unit: int, target: int) -> None:
    """Begin what a wind-up does again and again: the first time one period after the use."""
    me = state.units[unit]
    at = push_frame(
        tables,
        state,
        0,
        0,
        user=unit,
        target=target,
        cause=tables.abilities[me.ability].cause,
        parent=me.use_entry,
        aimed=1,
        scale=1.0,
    )
    state.frames[at].part = me.aimed_part
    go_on(tables, state, at, tables.abilities[me.ability].channel, used_at=me.used_at)
    state.clock[0].frames = at


@kernel_seldom
def go_on(tables: Tables, state: State, at: int, index: int, used_at: int) -> None:
    """Put off the next time of what a wind-up repeats, if it comes before the wind-up ends."""
    me = state.units[state.frames[at].user]
    row = tables.abilities[me.ability]
    unit = state.frames[at].user
    ticks = max(1, stretched(tables, state, unit, row.channel_every, line=row.channel_times))
    if state.clock[0].tick + ticks <= me.land_at:
        place = put_off(tables, state, at, index, ticks=ticks, left=1)
        if place >= 0:
            state.later[place].channel = 1
            state.later[place].used_at = used_at
