"""The opening of a fight: everybody's page, gauges and timers on tick 0."""

from __future__ import annotations

from ...codes import AWAY, NEVER, NOBODY, ON_THE_FLOOR, OPENING, RUNNING
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import show_gauge, thousandths
from ..books.opening_amount import opening_amount
from ..buffs.control import recontrol
from ..buffs.recompute_stats import fit_top, settle_all
from ..buffs.timers import schedule_due
from ..formulas.draw import draw_at
from ..formulas.lines import read_line, work_out_all
from ..formulas.roll import roll
from ..units.facing import face_nearest
from ..units.standing import scatter

OF_WHAT_VARIES = 1 << 20
"""Where the draws of what varies begin among those of the opening; before that are those of gauges."""


@kernel_apart
def open_units(tables: Tables, state: State) -> None:
    """Fill a state that holds only levels and which gauges are held. Modifies everything in its memory."""
    clock = state.clock[0]
    clock.outcome = RUNNING
    clock.shot_at = NEVER
    clock.later_at = NEVER
    clock.origin = -1
    clock.origin_unit = -1
    clock.supply_at = NEVER
    clock.holder = -1
    clock.first_down = NOBODY
    clock.first_down_at = -1
    for unit in range(state.units.shape[0]):
        open_timers(tables, state, unit)
        if tables.rules[0].company:
            keep_away(tables, state, unit)
        recontrol(tables, state, unit)
        for index in range(tables.units[unit].first_mark, tables.units[unit].last_mark):
            state.pages[unit, tables.own_marks[index]] = 1.0
        vary(tables, state, unit, drawn=False)
        open_figures(tables, state, unit)
        for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
            open_part(tables, state, unit, part)
        schedule_due(tables, state, unit)
        work_out_all(tables, state, unit)
    clock.opened = 1
    for unit in range(state.units.shape[0]):
        if tables.rules[0].placed:
            face_nearest(state, unit)
    for known in range(tables.known.shape[0]):
        row = tables.abilities[tables.known[known].ability]
        state.known[known].ability = tables.known[known].ability
        state.known[known].charges = row.charges
        state.known[known].uses = row.uses
    for spot in range(tables.spots.shape[0]):
        state.spots[spot].at = tables.supplies[tables.spots[spot].supply].every
        clock.supply_at = min(clock.supply_at, state.spots[spot].at)


@kernel_seldom
def keep_away(tables: Tables, state: State, unit: int) -> None:
    """Let a unit be absent that comes later: at a time, on a condition, or as somebody calls it."""
    me, row = state.units[unit], tables.units[unit]
    if row.arrives == 0 and row.arrives_when < 0 and row.root < 0:
        return
    me.absent = 1
    me.up = 0
    me.left = 0
    me.where = AWAY
    scatter(state)
    me.moves = 0
    me.choose_at = NEVER
    if row.arrives > 0:
        me.left = row.lives
        me.arrive_at = row.arrives
        state.clock[0].returning += 1


@kernel
def open_timers(tables: Tables, state: State, unit: int) -> None:
    """Put a unit where it begins, free to act once its player has reacted."""
    me = state.units[unit]
    row = tables.units[unit]
    me.up = 1
    me.left = row.lives
    me.land_at = NEVER
    me.arrive_at = NEVER
    me.choose_at = row.delay
    if row.first_play == row.last_play:
        me.choose_at = NEVER
    me.use_entry = -1
    me.harm_entry = -1
    me.push_entry = -1
    me.fall_entry = -1
    me.attacker = -1
    me.hurt_by = unit
    me.pusher = -1
    me.leaves_at = NEVER
    me.giver = -1
    me.want = -1
    me.fetch = -1
    me.checkpoint = -1
    me.acted_on = -1
    me.harmed_at = -NEVER
    me.where = ON_THE_FLOOR
    scatter(state)
    me.moves = tables.rules[0].placed
    me.x = row.at_x
    me.y = row.at_y


@kernel
def open_gauge(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Open a gauge at its share of the top and its points; what flows by itself does so one period later."""
    row = state.gauges[unit, gauge]
    row.paid_at = -NEVER
    table = tables.gauges[gauge]
    for index in range(table.first_flow, table.last_flow):
        state.flows[unit, index].at = tables.flows[index].every if row.held else NEVER
    if row.held:
        points = table.opens_points
        if table.roll >= 0:
            points = max(0.0, roll(tables, state, unit, table.roll, drawn=0.5))
        fill_gauge(tables, state, unit, gauge, share=table.opens_share, points=points)


@kernel
def fill_gauge(tables: Tables, state: State, unit: int, gauge: int, share: float, points: float) -> None:
    """Open a gauge at a share of its top and a number of points, at most at its top."""
    row = state.gauges[unit, gauge]
    amount = share * read_line(tables, state, unit, tables.gauges[gauge].top) + points
    row.opened = min(row.top, thousandths(tables, state, unit, amount))
    row.now = row.opened
    show_gauge(tables, state, unit, gauge)


@kernel_apart
def open_figures(tables: Tables, state: State, unit: int) -> None:
    """Settle a unit's stats and open its gauges."""
    settle_all(tables, state, unit)
    rounds = tables.gauges.shape[0] + 1 if tables.rules[0].figures else 1
    for _ in range(rounds):  # a stat may read a gauge, whose top reads another stat
        for gauge in range(tables.gauges.shape[0]):
            state.gauges[unit, gauge].now = 0
            fit_top(tables, state, unit, gauge, parent=-1)
            open_gauge(tables, state, unit, gauge)
        if tables.rules[0].figures:
            settle_all(tables, state, unit)


@kernel_seldom
def vary(tables: Tables, state: State, unit: int, drawn: bool) -> None:
    """Roll what varies of a unit; where it is not `drawn`, it is as it is on average. Modifies what was rolled."""
    for index in range(tables.units[unit].first_change, tables.units[unit].last_change):
        change = tables.changes[index]
        if change.varied >= 0:
            amount = change.amount
            if drawn:
                place = OF_WHAT_VARIES + change.varied
                amount = roll(tables, state, unit, change.roll, drawn=draw_at(state, unit, OPENING, place))
            state.varied[unit, change.varied] = amount


@kernel_seldom
def draw_variation(tables: Tables, state: State) -> None:
    """Roll anew, for one fight, what varies of its units. A gauge that begins as its rulebook says does so under its
    new top; any other keeps its amount, as far as its top allows."""
    clock = state.clock[0]
    clock.opened = 0
    for unit in range(state.units.shape[0]):
        if not varies(tables, unit):
            continue
        for gauge in range(tables.gauges.shape[0]):
            row = state.gauges[unit, gauge]
            row.by_rule = int(row.now == opening_amount(tables, state, unit, gauge))
        vary(tables, state, unit, drawn=True)
        settle_all(tables, state, unit)
        for gauge in range(tables.gauges.shape[0]):
            row = state.gauges[unit, gauge]
            kept = row.now
            row.now = 0
            fit_top(tables, state, unit, gauge, parent=-1)
            row.now = opening_amount(tables, state, unit, gauge) if row.by_rule else min(kept, row.top)
            row.opened = row.now
            row.booked = 0
            show_gauge(tables, state, unit, gauge)
        if tables.rules[0].figures:
            settle_all(tables, state, unit)
        work_out_all(tables, state, unit)
    clock.opened = 1


@kernel_seldom
def varies(tables: Tables, unit: int) -> bool:
    """Say whether anything of a unit is rolled for each fight."""
    for index in range(tables.units[unit].first_change, tables.units[unit].last_change):
        if tables.changes[index].varied >= 0:
            return True
    return False


@kernel_seldom
def draw_openings(tables: Tables, state: State) -> None:
    """Open anew, for one fight, the gauges that begin at a roll."""
    for unit in range(state.units.shape[0]):
        number = -1
        for gauge in range(tables.gauges.shape[0]):
            table = tables.gauges[gauge]
            if table.roll < 0:
                continue
            number += 1  # counted among these, so that another gauge more moves no draw
            if state.gauges[unit, gauge].held:
                points = roll(tables, state, unit, table.roll, drawn=draw_at(state, unit, OPENING, number))
                fill_gauge(tables, state, unit, gauge, share=0.0, points=max(0.0, points))
        if tables.rules[0].figures:
            settle_all(tables, state, unit)


@kernel
def open_part(tables: Tables, state: State, unit: int, part: int) -> None:
    """Fill a part's own gauge."""
    row = state.parts[part]
    if tables.parts[part].own >= 0:
        row.top = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, tables.parts[part].own)))
        row.opened = row.top
        row.now = row.top
