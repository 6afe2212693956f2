"""Zones, at the end of phase 6: who has entered, who has left, their beats and their ends."""

from __future__ import annotations

from ...codes import ENTER, LEAVE, LIFT, MOVE, NEVER, ON_ENTERING, ON_LEAVING
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_frame
from ..books.entries import write_event
from ..books.events import trigger_about
from ..buffs.buff import give_buff, lasting
from ..buffs.take_off import take_off
from ..buffs.timers import schedule_next_end
from ..places.zone import beat_wait, lay_zone, radius_now, takes_unit
from ..units.within import is_held
from .answer import answer
from .turn_order import sort_turn


@kernel_seldom
def tend_zones(tables: Tables, state: State) -> None:
    """Tend every zone in the order in which they were laid; what they lay themselves waits for the next tick."""
    clock = state.clock[0]
    clock.phase = MOVE
    if clock.zoned == 0:
        clock.zoned = 1
        for index in range(tables.laid.shape[0]):
            laid = tables.laid[index]
            lay_zone(tables, state, laid.zone, -1, host=-1, x=laid.x, y=laid.y, parent=-1)
    zones = clock.zones
    clock.tending = 1
    if has_work(tables, state):
        list_all(tables, state)
        for number in range(zones):
            tend_zone(tables, state, number)
        for number in range(zones - 1, -1, -1):
            if state.zones[number].zone < 0:
                forget_zone(state, number)
    clock.tending = 0
    schedule_zones(tables, state)


@kernel_seldom
def has_work(tables: Tables, state: State) -> bool:
    """Say whether anybody enters or leaves a zone, or one beats or ends."""
    tick = state.clock[0].tick
    for number in range(state.clock[0].zones):
        row = state.zones[number]
        host = row.host
        if host >= 0:
            row.x = state.units[host].x
            row.y = state.units[host].y
        if row.ends_at <= tick or row.beats_at <= tick:
            return True
        for unit in range(state.units.shape[0]):
            if takes_unit(tables, state, number, unit) != (state.within[number, unit] != 0):
                return True
    return False


@kernel_seldom
def list_all(tables: Tables, state: State) -> None:
    """List everybody who is up, in the order of the turn."""
    listed = 0
    for unit in range(state.units.shape[0]):
        if state.units[unit].up:
            state.turn[listed] = unit
            listed += 1
    state.clock[0].listed = listed
    if listed > 1:
        sort_turn(tables, state, listed)


@kernel_seldom
def tend_zone(tables: Tables, state: State, number: int) -> None:
    """See who has entered a zone and who has left it; then comes its beat, and then its end."""
    clock, row = state.clock[0], state.zones[number]
    if row.seen_at > clock.tick:
        return
    row.seen_at = -1
    table = tables.zones[row.zone]
    if row.host >= 0:
        row.x = state.units[row.host].x
        row.y = state.units[row.host].y
    for at in range(clock.listed):
        unit = state.turn[at]
        now = takes_unit(tables, state, number, unit)
        if now and state.within[number, unit] == 0:
            enter_zone(tables, state, number, unit)
        elif not now and state.within[number, unit]:
            leave_zone(tables, state, number, unit, parent=row.entry)
    if row.beats_at <= clock.tick:
        row.beats_at = clock.tick + beat_wait(tables, state, number)
        for at in range(clock.listed):
            unit = state.turn[at]
            if state.units[unit].up and state.within[number, unit]:
                do_to(tables, state, number, unit, first=table.first_effect, last=table.last_effect, parent=row.entry)
    if row.ends_at <= clock.tick or (table.springs and row.sprung):
        owner = max(0, row.giver)
        entry = write_event(state, owner, LIFT, table.cause, source=owner, parent=row.entry)
        for at in range(clock.listed):
            unit = state.turn[at]
            if state.within[number, unit]:
                leave_zone(tables, state, number, unit, parent=entry)
        row.zone = -1


@kernel_seldom
def enter_zone(tables: Tables, state: State, number: int, unit: int) -> None:
    """Let a unit enter a zone: its buff begins there, and what is done to who enters is done."""
    row = state.zones[number]
    table = tables.zones[row.zone]
    source = row.giver if row.giver >= 0 else unit
    state.within[number, unit] = 1
    row.sprung = 1
    entry = write_event(state, unit, ENTER, table.cause, source=source, parent=row.entry)
    if table.inside >= 0 and not is_held(tables, state, unit, table.inside, but=number):
        give_buff(tables, state, source, unit, buff=table.inside, strength=1.0, parent=entry)
        state.buffs[unit, table.inside].ends_at = NEVER
        schedule_next_end(tables, state, unit)
    trigger_about(tables, state, ON_ENTERING, unit, source=source, what=row.zone, parent=entry)
    do_to(tables, state, number, unit, first=table.first_entering, last=table.last_entering, parent=entry)


@kernel_seldom
def leave_zone(tables: Tables, state: State, number: int, unit: int, parent: int) -> None:
    """Let a unit leave a zone: its buff ends, or lasts on for its time, and what is done to who leaves is done."""
    row = state.zones[number]
    table = tables.zones[row.zone]
    source = row.giver if row.giver >= 0 else unit
    state.within[number, unit] = 0
    entry = write_event(state, unit, LEAVE, table.cause, source=source, parent=parent)
    if table.inside >= 0 and not is_held(tables, state, unit, table.inside, but=number):
        let_go(tables, state, unit, table.inside, parent=entry)
    trigger_about(tables, state, ON_LEAVING, unit, source=source, what=row.zone, parent=entry)
    do_to(tables, state, number, unit, first=table.first_leaving, last=table.last_leaving, parent=entry)


@kernel_seldom
def let_go(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """End the buff of who leaves; one with a time of its own lasts that long."""
    if state.buffs[unit, buff].on == 0:
        return
    if tables.buffs[buff].lasts >= NEVER:
        take_off(tables, state, unit, buff, stripped=False, parent=parent)
        return
    row = state.buffs[unit, buff]
    row.ends_at = state.clock[0].tick + max(1, lasting(tables, state, row.source, unit, buff=buff))
    schedule_next_end(tables, state, unit)


@kernel_seldom
def do_to(tables: Tables, state: State, number: int, unit: int, first: int, last: int, parent: int) -> None:
    """Carry out what a zone does to a unit, and all that follows; by who laid it, in an arena's own by that unit."""
    row = state.zones[number]
    if last > first:
        push_frame(
            tables,
            state,
            first,
            last,
            user=row.giver if row.giver >= 0 else unit,
            target=unit,
            cause=tables.zones[row.zone].cause,
            parent=parent,
            aimed=0,
            scale=1.0,
        )
    answer(tables, state)


@kernel_seldom
def forget_zone(state: State, number: int) -> None:
    """Take a zone off the list; those after it move up."""
    clock = state.clock[0]
    clock.zones -= 1
    for place in range(number, clock.zones):
        state.zones[place] = state.zones[place + 1]
        for unit in range(state.units.shape[0]):
            state.within[place, unit] = state.within[place + 1, unit]


@kernel_seldom
def schedule_zones(tables: Tables, state: State) -> None:
    """Note when a zone next begins to take somebody, beats or ends; while one shrinks, that is the very next tick."""
    clock = state.clock[0]
    soonest = NEVER
    for number in range(clock.zones):
        row = state.zones[number]
        table = tables.zones[row.zone]
        soonest = min(soonest, row.ends_at, row.beats_at)
        if row.laid_at + table.arms > clock.tick:
            soonest = min(soonest, row.laid_at + table.arms)
        if table.shrinks > 0.0 and tables.rules[0].placed and radius_now(tables, state, number) > table.least:
            soonest = clock.tick + 1
    clock.zone_at = soonest
