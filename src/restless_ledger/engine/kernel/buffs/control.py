"""Control: what buffs keep their bearer from, and what they make it do."""

from __future__ import annotations

from ...codes import AT_ANYBODY, AT_GIVER, INTERRUPT, NEVER
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event
from ..units.standing import scatter


@kernel_seldom
def recontrol(tables: Tables, state: State, unit: int) -> None:
    """Work out anew what the buffs that a unit bears keep it from and make it do. Of several, the latest counts."""
    me = state.units[unit]
    me.barred = 0
    me.hidden = 0
    me.confused = 0
    me.taunter = -1
    me.feet = -1
    me.feet_from = -1
    me.side = tables.units[unit].side
    reform(tables, state, unit)
    taunted, lured, led = -1, -1, -1
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        table = tables.buffs[buff]
        if row.on == 0 or table.controls == 0:
            continue
        me.barred |= table.bars
        me.hidden |= table.hides
        for index in range(table.first_barred, table.last_barred):
            for known in range(tables.units[unit].first_known, tables.units[unit].last_known):
                if tables.known[known].basic == tables.barred[index]:
                    state.known[known].barred = 1
        if table.aims_at == AT_ANYBODY:
            me.confused = 1
        if table.aims_at == AT_GIVER and row.began > taunted:
            taunted = row.began
            me.taunter = row.source
        if table.fights_for >= 0 and row.began > lured:
            lured = row.began
            me.side = tables.units[row.source].side
        if table.walks >= 0 and row.began > led:
            led = row.began
            me.feet = table.walks
            me.feet_from = row.source
    scatter(state)
    state.clock[0].stirred = state.clock[0].tick


@kernel_seldom
def reform(tables: Tables, state: State, unit: int) -> None:
    """Work out anew what buffs make of the abilities that a unit knows, and which they let it use.

    Of several buffs that change one ability, the one that began last counts."""
    me = tables.units[unit]
    for known in range(me.first_known, me.last_known):
        row = state.known[known]
        row.barred = tables.known[known].by_buff
        row.ability = tables.known[known].ability
        row.since = -1
    for index in range(me.first_form, me.last_form):
        form = tables.forms[index]
        row = state.known[form.known]
        for buff in range(form.buff, form.buff + tables.buffs[form.buff].copies):
            if state.buffs[unit, buff].on and state.buffs[unit, buff].began > row.since:
                row.since = state.buffs[unit, buff].began
                row.ability = form.ability
    if tables.rules[0].forms:
        for buff in range(tables.buffs.shape[0]):
            if state.buffs[unit, buff].on:
                grant(tables, state, unit, buff)


@kernel_seldom
def grant(tables: Tables, state: State, unit: int, buff: int) -> None:
    """Let a unit use what a buff grants."""
    for index in range(tables.buffs[buff].first_granted, tables.buffs[buff].last_granted):
        for known in range(tables.units[unit].first_known, tables.units[unit].last_known):
            if tables.known[known].basic == tables.barred[index]:
                state.known[known].barred = 0


@kernel_seldom
def begin_control(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Let a buff that has begun keep its bearer from things, and break off what it winds up."""
    recontrol(tables, state, unit)
    if tables.buffs[buff].breaks_off and state.units[unit].land_at != NEVER:
        break_off(tables, state, unit, by=state.buffs[unit, buff].source, parent=parent)


@kernel_seldom
def break_off(tables: Tables, state: State, unit: int, by: int, parent: int) -> None:
    """Break off a wind-up. What it cost and its cooldown stand; its user is free again on the next tick."""
    me = state.units[unit]
    cause = tables.abilities[me.ability].cause
    write_event(state, unit, INTERRUPT, cause, source=by, parent=parent)
    me.land_at = NEVER
    me.free_at = state.clock[0].tick + 1
    me.choose_at = state.clock[0].tick + max(1, tables.units[unit].delay)
