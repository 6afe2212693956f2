"""Zones: how one is laid and ended, and whom it takes. What it does comes at the end of the moves: `phases/tend.py`."""

from __future__ import annotations

from ...codes import LAY, LIFT, NEVER, NO_ROOM, ON_THE_FLOOR
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched
from ..books.entries import record_amount, record_place, write_event
from ..formulas.lines import report_fault
from ..units.distance import NEARLY, metres
from ..units.sides import is_taken


@kernel_seldom
def lay_or_lift(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Lay a zone where the receiver of an effect stands, or end those of one name that are its own or follow it."""
    frame, effect = state.frames[at], tables.effects[index]
    if effect.times > 0.0:
        me = state.units[unit]
        lay_zone(tables, state, effect.index, frame.user, host=unit, x=me.x, y=me.y, parent=frame.parent)
        return
    for number in range(state.clock[0].zones):
        row = state.zones[number]
        if row.zone == effect.index and (row.giver == unit or row.host == unit):
            row.ends_at = state.clock[0].tick
            state.clock[0].stirred = state.clock[0].tick


@kernel_seldom
def lay_zone(tables: Tables, state: State, zone: int, giver: int, host: int, x: float, y: float, parent: int) -> None:
    """Lay a zone around a point; `giver` is -1 for an arena's own. It is there from the end of this tick's moves on,
    and what a zone itself lays from the next tick on. Where its giver has enough of them, the oldest ends."""
    clock, table = state.clock[0], tables.zones[zone]
    number = end_oldest(tables, state, zone, giver) if giver >= 0 else -1
    if number < 0:
        number = clock.zones
        if number >= state.zones.shape[0]:
            report_fault(tables, state, NO_ROOM, -1, unit=max(0, giver))
            return
        clock.zones = number + 1
    row = state.zones[number]
    row.zone = zone
    row.giver = giver
    row.host = host if table.follows else -1
    row.x = x
    row.y = y
    row.laid_at = clock.tick
    row.ends_at = clock.tick + table.lasts if table.lasts < NEVER else NEVER
    row.beats_at = clock.tick + table.arms + beat_wait(tables, state, number) if table.every > 0 else NEVER
    row.sprung = 0
    clock.lays += 1
    row.order = clock.lays
    row.seen_at = clock.tick + clock.tending
    for unit in range(state.units.shape[0]):
        state.within[number, unit] = 0
    row.entry = write_event(state, max(0, host), LAY, table.cause, source=max(0, giver), parent=parent)
    record_place(state, row.entry, x, y=y)
    record_amount(state, row.entry, 1.0 if giver < 0 else 0.0)
    clock.stirred = clock.tick


@kernel_seldom
def end_oldest(tables: Tables, state: State, zone: int, giver: int) -> int:
    """End the oldest of a giver's zones of one name, where one more would be too many. One that nobody has looked at
    yet never was there: return its place, which the next one takes; -1 for none."""
    tick = state.clock[0].tick
    count, oldest = 0, -1
    for number in range(state.clock[0].zones):
        row = state.zones[number]
        if row.zone == zone and row.giver == giver and row.ends_at > tick:
            count += 1
            if oldest < 0 or row.order < state.zones[oldest].order:
                oldest = number
    if count < tables.zones[zone].most:
        return -1
    if state.zones[oldest].seen_at >= tick:
        write_event(state, giver, LIFT, tables.zones[zone].cause, source=giver, parent=state.zones[oldest].entry)
        return oldest
    state.zones[oldest].ends_at = tick
    return -1


@kernel_seldom
def beat_wait(tables: Tables, state: State, number: int) -> int:
    """Return the time from one beat of a zone to the next: at least one tick."""
    row = state.zones[number]
    table = tables.zones[row.zone]
    return max(1, stretched(tables, state, max(0, row.giver), table.every, line=table.every_times))


@kernel_seldom
def takes_unit(tables: Tables, state: State, number: int, unit: int) -> bool:
    """Say whether a zone takes a unit, as the two are now."""
    row, me = state.zones[number], state.units[unit]
    table = tables.zones[row.zone]
    tick = state.clock[0].tick
    if not me.up or me.where != ON_THE_FLOOR or tick < row.laid_at + table.arms or tick < row.seen_at:
        return False
    if row.giver >= 0 and not is_taken(state, row.giver, unit, target=unit, to=table.to):
        return False
    if tables.rules[0].placed == 0:
        return table.outside == 0
    return is_within(tables, state, number, me.x, y=me.y) != (table.outside != 0)


@kernel_seldom
def is_within(tables: Tables, state: State, number: int, x: float, y: float) -> bool:
    """Say whether a point lies in a zone, its rim included."""
    row = state.zones[number]
    table = tables.zones[row.zone]
    if table.radius == 0.0 and table.wide > 0.0:
        return abs(x - row.x) <= table.wide / 2.0 + NEARLY and abs(y - row.y) <= table.deep / 2.0 + NEARLY
    return metres(tables, x - row.x, y - row.y) <= radius_now(tables, state, number) + NEARLY


@kernel_seldom
def radius_now(tables: Tables, state: State, number: int) -> float:
    """Return the radius of a zone, which may shrink."""
    row = state.zones[number]
    table = tables.zones[row.zone]
    if table.shrinks == 0.0:
        return table.radius
    seconds = (state.clock[0].tick - row.laid_at) * tables.rules[0].seconds
    return max(min(table.least, table.radius), table.radius - table.shrinks * seconds)
