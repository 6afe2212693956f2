"""The opening of a fight: everybody's page, gauges and timers on tick 0."""

from __future__ import annotations

import math

from ...codes import NEVER, NOBODY, ON_THE_FLOOR, OPENING, RUNNING
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import show_gauge, thousandths
from ..buffs.control import recontrol
from ..buffs.recompute_stats import fit_top, settle_all
from ..buffs.timers import schedule_due
from ..formulas.draw import draw_at
from ..formulas.lines import read_line, work_out_all


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
        recontrol(tables, state, unit)
        for index in range(tables.units[unit].first_mark, tables.units[unit].last_mark):
            state.pages[unit, tables.own_marks[index]] = 1.0
        settle_all(tables, state, unit)
        rounds = tables.gauges.shape[0] + 1 if tables.rules[0].figures else 1
        for _ in range(rounds):  # a stat may read a gauge, whose top reads another stat
            for gauge in range(tables.gauges.shape[0]):
                state.gauges[unit, gauge].now = 0
                fit_top(tables, state, unit, gauge, parent=-1)
                open_gauge(tables, state, unit, gauge)
            if tables.rules[0].figures:
                settle_all(tables, state, unit)
        for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
            open_part(tables, state, unit, part)
        schedule_due(tables, state, unit)
        work_out_all(tables, state, unit)
    for known in range(tables.known.shape[0]):
        row = tables.abilities[tables.known[known].ability]
        state.known[known].charges = row.charges
        state.known[known].uses = row.uses
    for spot in range(tables.spots.shape[0]):
        state.spots[spot].at = tables.supplies[tables.spots[spot].supply].every
        clock.supply_at = min(clock.supply_at, state.spots[spot].at)


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
    me.want = -1
    me.fetch = -1
    me.checkpoint = -1
    me.acted_on = -1
    me.harmed_at = -NEVER
    me.where = ON_THE_FLOOR
    me.moves = tables.rules[0].placed
    me.x = row.at_x
    me.y = row.at_y


@kernel
def open_gauge(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Open a gauge at its share of the top and its points; the first refill is one period away."""
    row = state.gauges[unit, gauge]
    row.refill_at = NEVER
    if not row.held:
        return
    table = tables.gauges[gauge]
    fill_gauge(tables, state, unit, gauge, share=table.opens_share, points=table.opens_points)
    if table.refill >= 0:
        row.refill_at = table.refill_ticks


@kernel
def fill_gauge(tables: Tables, state: State, unit: int, gauge: int, share: float, points: float) -> None:
    """Open a gauge at a share of its top and a number of points, at most at its top."""
    row = state.gauges[unit, gauge]
    amount = share * read_line(tables, state, unit, tables.gauges[gauge].top) + points
    row.opened = min(row.top, thousandths(tables, state, unit, amount))
    row.now = row.opened
    show_gauge(tables, state, unit, gauge)


@kernel_seldom
def draw_openings(tables: Tables, state: State) -> None:
    """Open anew, for one fight, the gauges that open anywhere in a range."""
    for unit in range(state.units.shape[0]):
        number = -1
        for gauge in range(tables.gauges.shape[0]):
            table = tables.gauges[gauge]
            if math.isnan(table.most_share):
                continue
            number += 1  # counted among these, so that another gauge more moves no draw
            if state.gauges[unit, gauge].held:
                drawn = draw_at(state, unit, OPENING, number)
                share = table.opens_share + drawn * (table.most_share - table.opens_share)
                points = table.opens_points + drawn * (table.most_points - table.opens_points)
                fill_gauge(tables, state, unit, gauge, share=share, points=points)
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
