"""Units that are called into a fight: each is one of those that are kept ready for a caller."""

from __future__ import annotations

from ...codes import NEVER, ON_OPENING, RETURNING, REVIVE, SUMMON
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, stretched
from ..books.counters import count_borne
from ..books.entries import write_event, write_step
from ..books.events import trigger
from ..books.opening_amount import opening_amount
from ..buffs.buff import give_buff
from ..formulas.lines import read_line
from ..units.facing import face_nearest
from .rise import stand_up


@kernel_seldom
def summon(tables: Tables, state: State, at: int, index: int, goal: int) -> None:
    """Call as many units as an effect says to where a unit stands, as far as there may be more of them at a time."""
    frame, effect = state.frames[at], tables.effects[index]
    user, cause, parent = frame.user, frame.cause, frame.parent
    root = tables.units[user].root if tables.units[user].root >= 0 else user
    count = min(float(effect.most), max(0.0, read_line(tables, state, user, effect.line)))
    there = 0
    for unit in range(state.units.shape[0]):
        if is_of(tables, unit, root, effect.index) and state.units[unit].up:
            there += 1
    left = min(int(count), effect.most - there)
    ticks = stretched(tables, state, user, effect.by, line=effect.by_times) if effect.by < NEVER else NEVER
    for unit in range(state.units.shape[0]):
        if left > 0 and is_of(tables, unit, root, effect.index) and state.units[unit].up == 0:
            left -= 1
            me = state.units[unit]
            me.x, me.y = state.units[goal].x, state.units[goal].y
            entry = write_event(state, unit, SUMMON, cause, source=user, parent=parent)
            begin_afresh(tables, state, unit, entry=entry)
            me.giver = user
            me.bound = int(effect.times > 0.0)
            me.leaves_at = state.clock[0].tick + ticks if ticks < NEVER else NEVER
            if effect.stacks >= 0:
                strength = read_line(tables, state, user, effect.steal) if effect.steal >= 0 else 1.0
                give_buff(tables, state, user, unit, buff=effect.stacks, strength=strength, parent=entry)
            trigger(tables, state, ON_OPENING, unit, source=-1, booked=0, parent=entry)


@kernel_seldom
def is_of(tables: Tables, unit: int, root: int, sort: int) -> bool:
    """Say whether a unit is kept ready for another one, and of a sort."""
    return tables.units[unit].root == root and tables.units[unit].called == sort


@kernel_seldom
def begin_afresh(tables: Tables, state: State, unit: int, entry: int) -> None:
    """Let a unit be there as at the opening of a fight: its gauges, what it knows, and nothing on it."""
    me = state.units[unit]
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on:
            row.on = 0
            count_borne(state, unit, buff)
        row.meter = 0.0
    me.absent = 0
    me.left = 1
    me.attacker = -1
    me.hurt_by = unit
    me.harmed_at = -NEVER
    me.spared_from = 0
    me.spared_until = 0
    me.dealt = 0
    me.taken = 0
    me.healed = 0
    me.turn = 0
    stand_up(tables, state, unit, 1)
    for gauge in range(tables.gauges.shape[0]):
        row = state.gauges[unit, gauge]
        wanted = opening_amount(tables, state, unit, gauge)
        row.paid_at = -NEVER
        if row.held and wanted != row.now:
            asked = wanted - row.now
            book_change(
                tables, state, unit, gauge, asked=asked, verb=REVIVE, cause=RETURNING, source=unit, parent=entry
            )
    for known in range(tables.units[unit].first_known, tables.units[unit].last_known):
        row = state.known[known]
        ability = tables.abilities[row.ability]
        row.ready_at = 0
        row.charges = ability.charges
        row.charge_at = 0
        row.uses = ability.uses
    if tables.rules[0].placed:
        face_nearest(state, unit)
    if state.run[0].recording:
        write_step(state, unit)
