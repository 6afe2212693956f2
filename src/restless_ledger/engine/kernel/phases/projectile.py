"""Projectiles: launched when an ability lands, on their way, and arriving (phase 3)."""

from __future__ import annotations

from ...codes import LAUNCH, LOST, NEVER, NO_ROOM, ON_THE_FLOOR
from ...compiler.compiled import kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import whole_ticks
from ..books.entries import keep_page, record_amount, write_event
from ..formulas.lines import read_line, read_share, report_fault
from ..formulas.roll import roll_lines
from ..hits.effects import carry_out
from ..places.area import reach_targets
from ..units.distance import length
from .straight import fly_off, fly_on


@kernel_seldom
def launch(tables: Tables, state: State, unit: int, target: int) -> None:
    """Launch a projectile. What its dealer brings is read now."""
    me = state.units[unit]
    row = tables.abilities[me.ability]
    clock = state.clock[0]
    number = clock.shots
    if number >= state.shots.shape[0]:
        report_fault(tables, state, NO_ROOM, -1, unit=unit)
        return
    shot = state.shots[number]
    clock.shots += 1
    clock.launches += 1
    shot.launched = clock.launches
    shot.aim_x = me.aim_x if row.at_place else state.units[target].x
    shot.aim_y = me.aim_y if row.at_place else state.units[target].y
    distance = length(shot.aim_x - me.x, shot.aim_y - me.y)
    ticks = whole_ticks(tables, state, unit, -1, ticks=distance / row.projectile / tables.rules[0].seconds)
    shot.user = unit
    shot.target = target
    shot.ability = me.ability
    shot.part = me.aimed_part
    shot.arrive_at = clock.tick + max(1, ticks)
    shot.scale = 1.0
    shot.straight = row.straight
    if row.straight >= 0:
        fly_off(tables, state, number, unit)
    clock.shot_at = min(clock.shot_at, shot.arrive_at)
    cause = tables.abilities[me.ability].cause
    shot.parent = write_event(state, target, LAUNCH, cause, source=unit, parent=me.use_entry)
    shot.page = keep_page(tables, state, unit) if state.run[0].recording else -1
    record_amount(state, shot.parent, distance)
    for index in range(row.first_load, row.last_load):
        load_shot(tables, state, number, unit, kind=tables.loads[index])


@kernel_apart
def load_shot(tables: Tables, state: State, number: int, unit: int, kind: int) -> None:
    """Keep the values of the dealer's lines of a damage kind as the projectile leaves."""
    row = tables.kinds[kind]
    load = state.launched[number, kind]
    if row.last_roll > row.first_roll:
        roll_lines(tables, state, unit, kind, page=-1)
        for index in range(row.first_roll, row.last_roll):
            state.launched_rolls[number, index] = state.pages[unit, tables.rolls[index].slot]
    load.power = read_line(tables, state, unit, row.power)
    load.aim = read_line(tables, state, unit, row.aim) if row.aim >= 0 else 1.0
    load.chance = read_line(tables, state, unit, row.chance) if row.chance >= 0 else 0.0
    load.critical_times = max(0.0, read_line(tables, state, unit, row.times)) if row.times >= 0 else 1.0
    load.spread = read_share(tables, state, unit, row.spread) if row.spread >= 0 else 0.0
    for index in range(row.first_extra, row.last_extra):
        if tables.extras[index].on_dealer:
            state.launched_extras[number, index] = read_line(tables, state, unit, tables.extras[index].line)


@kernel_apart
def mark_arrivals(state: State) -> int:
    """Mark whose projectiles arrive now, and return how many units that are."""
    tick, shooters = state.clock[0].tick, 0
    for number in range(state.clock[0].shots):
        if state.shots[number].arrive_at <= tick:
            unit = state.units[state.shots[number].user]
            shooters += unit.shot_on != tick
            unit.shot_on = tick
    return shooters


@kernel_apart
def arrive_shots(tables: Tables, state: State, unit: int) -> None:
    """Let the projectiles of one unit that arrive now take effect, in the order in which they were launched."""
    clock = state.clock[0]
    while True:
        first, entry = -1, NEVER
        for number in range(clock.shots):
            shot = state.shots[number]
            if shot.user == unit and shot.arrive_at <= clock.tick and shot.launched < entry:
                first, entry = number, shot.launched
        if first < 0:
            return
        if state.shots[first].straight < 0:
            arrive_shot(tables, state, first)
            forget_shot(tables, state, first)
        elif fly_on(tables, state, first):
            forget_shot(tables, state, first)


@kernel_apart
def arrive_shot(tables: Tables, state: State, number: int) -> None:
    """Let one projectile take effect. Where its target is gone by now, it is lost."""
    shot = state.shots[number]
    cause = tables.abilities[shot.ability].cause
    target = state.units[shot.target]
    if tables.abilities[shot.ability].at_place or (target.up and target.where == ON_THE_FLOOR):
        reach_targets(
            tables, state, shot.ability, shot.user, target=shot.target, part=shot.part, parent=shot.parent, shot=number
        )
        carry_out(tables, state, 0)
    else:
        write_event(state, shot.target, LOST, cause, source=shot.user, parent=shot.parent)


@kernel_apart
def forget_shot(tables: Tables, state: State, number: int) -> None:
    """Take a projectile off the list; the last one takes its place."""
    clock = state.clock[0]
    clock.shots -= 1
    last = clock.shots
    if number == last:
        return
    state.shots[number] = state.shots[last]
    if state.struck.shape[0] > 0:
        for word in range(state.struck.shape[1]):
            state.struck[number, word] = state.struck[last, word]
    for kind in range(tables.kinds.shape[0]):
        state.launched[number, kind] = state.launched[last, kind]
    for index in range(tables.extras.shape[0]):
        state.launched_extras[number, index] = state.launched_extras[last, index]
    for index in range(tables.rolls.shape[0]):
        state.launched_rolls[number, index] = state.launched_rolls[last, index]


@kernel_apart
def schedule_next_shot(state: State) -> None:
    """Note when the next projectile arrives."""
    soonest = NEVER
    for number in range(state.clock[0].shots):
        soonest = min(soonest, state.shots[number].arrive_at)
    state.clock[0].shot_at = soonest
