"""Who is up and on the floor, listed by side: gathered when somebody asks after it has changed."""

from __future__ import annotations

from ...codes import ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State


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
    """List who is up and on the floor, against each side and on it, as they are listed in the encounter."""
    state.clock[0].gathered = 1
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
