"""Who is up and on the floor, listed by side: gathered when somebody asks after it has changed."""

from __future__ import annotations

from ...codes import FALLEN_ALLY, ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables


@kernel
def is_on_the_floor(tables: Tables, state: State, unit: int) -> bool:
    """Say whether a unit that is up stands on the floor. Nobody is anywhere else where there is no place."""
    return tables.rules[0].placed == 0 or state.units[unit].where == ON_THE_FLOOR


@kernel
def may_be_aimed_at(tables: Tables, state: State, unit: int, on: int) -> bool:
    """Say whether a unit is there for an ability that aims at those whom a word names: up, or fallen."""
    fallen = tables.rules[0].helps_fallen != 0 and on == FALLEN_ALLY
    if (state.units[unit].up == 0) != fallen:
        return False
    return is_on_the_floor(tables, state, unit) if not fallen else state.units[unit].where == ON_THE_FLOOR


@kernel
def scatter(state: State) -> None:
    """Note that the lists of who is up and on the floor do not hold any more."""
    state.clock[0].gathered = 0


@kernel
def gather(state: State) -> None:
    """Make sure that the lists of who is up and on the floor hold."""
    if state.clock[0].gathered == 0:
        gather_anew(state)


@kernel_apart
def gather_anew(state: State) -> None:
    """List who is up, and who of them is on the floor, against each side and on it, in the order of the encounter."""
    clock = state.clock[0]
    clock.gatherings += 1
    clock.gathered = clock.gatherings
    clock.present = 0
    clock.aloft = 0
    for unit in range(state.units.shape[0]):
        if state.units[unit].up:
            state.present[clock.present] = unit
            clock.present += 1
            clock.aloft += state.units[unit].where != ON_THE_FLOOR
    for side in range(state.gathered.shape[0]):
        row = state.gathered[side]
        row.foes = 0
        row.mates = 0
        for unit in range(state.units.shape[0]):
            if state.units[unit].up == 0 or state.units[unit].where != ON_THE_FLOOR:
                continue
            if state.units[unit].side == side:
                state.mates[side, row.mates] = unit
                row.mates += 1
            else:
                state.foes[side, row.foes] = unit
                row.foes += 1


@kernel
def stride(tables: Tables, state: State, metres: float) -> None:
    """Note how far a unit walks or slides in a tick, at most: on a grid also out of the middle of a cell and into that
    of another. Whatever puts a unit elsewhere scatters the lists."""
    state.clock[0].stride = max(state.clock[0].stride, metres + 2.0 * tables.place[0].grid)


@kernel
def end_stride(state: State) -> None:
    """Count the farthest way of a tick to those of the ticks before."""
    clock = state.clock[0]
    clock.strode += clock.stride
    clock.stride = 0.0
