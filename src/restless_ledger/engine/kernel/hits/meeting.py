"""Where two characters meet: the dealer's lines and the taker's, and what comes of them."""

from __future__ import annotations

import math

from ...codes import (
    ABOVE_SLOT,
    AIM_SLOT,
    BEHIND_SLOT,
    DISTANCE_SLOT,
    DODGE_SLOT,
    EXTRA_SLOT,
    GAP_SLOT,
    MEETING_ROW,
    NOT_FINITE,
    POWER_SLOT,
    SOAK_SLOT,
)
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from ..formulas.evaluate import evaluate
from ..formulas.heights import above
from ..formulas.lines import read_line, read_share, report_fault
from ..formulas.roll import roll_lines
from ..units.distance import distance_between
from ..units.facing import behind


@kernel
def meet(tables: Tables, state: State, dealer: int, taker: int, kind: int, shot: int) -> None:
    """Work out the chances to land and to be critical, power, soak and what settles.

    Done once for a pair, until either's stats change. What a projectile (`shot`, or -1) brings was worked out when it
    left its dealer. Modifies `state.meetings[dealer, kind]`, the meeting's row of
    the pages, and what is kept of lines.
    """
    meeting = state.meetings[dealer, kind]
    row = tables.kinds[kind]
    if (
        row.moving == 0
        and shot < 0
        and meeting.taker == taker
        and meeting.dealer_version == state.units[dealer].dealing_version
        and meeting.taker_version == state.units[taker].taking_version
    ):
        return
    meet_anew(tables, state, dealer, taker, kind=kind, shot=shot)


@kernel_apart
def meet_anew(tables: Tables, state: State, dealer: int, taker: int, kind: int, shot: int) -> None:
    """Work a meeting out."""
    meeting = state.meetings[dealer, kind]
    row = tables.kinds[kind]
    meeting.dealer_version = state.units[dealer].dealing_version
    meeting.taker_version = state.units[taker].taking_version
    if shot >= 0:
        meeting.dealer_version = -1
        brought = state.launched[shot, kind]
        power = brought.power
        aim = brought.aim
        meeting.chance = brought.chance
        meeting.critical_times = brought.critical_times
        meeting.spread = brought.spread
    else:
        if row.last_roll > row.first_roll:
            roll_lines(tables, state, dealer, kind, page=state.hit[0].dealer_page if state.run[0].recording else -1)
        power = read_line(tables, state, dealer, row.power)
        aim = read_line(tables, state, dealer, row.aim) if row.aim >= 0 else 1.0
        if row.chance >= 0:
            meeting.chance = read_line(tables, state, dealer, row.chance)
            meeting.critical_times = max(0.0, read_line(tables, state, dealer, row.times))
        if row.spread >= 0:
            meeting.spread = read_share(tables, state, dealer, row.spread)
    stays = meeting.taker == taker and row.moving == 0 and row.last_extra == row.first_extra
    same_chance = stays and meeting.aim == aim
    same_amount = stays and meeting.power == power
    meeting.taker = taker
    meeting.power = power
    meeting.aim = aim
    dodge, soak = meeting.dodge, meeting.soak
    if row.avoid >= 0:
        meeting.chance = max(0.0, meeting.chance - read_line(tables, state, taker, row.avoid))
    fill_taker(tables, state, dealer, taker, kind=kind, shot=shot)
    same_chance = same_chance and meeting.dodge == dodge
    same_amount = same_amount and meeting.soak == soak
    if same_chance and same_amount:
        return
    at = state.units.shape[0] + MEETING_ROW
    state.pages[at, POWER_SLOT] = power
    state.pages[at, AIM_SLOT] = aim
    fill_between(tables, state, dealer, taker)
    if row.never_misses:
        meeting.lands = 1.0
    elif not same_chance:
        meeting.lands = min(max(evaluate_meeting(tables, state, row.lands, dealer), 0.0), 1.0)
    meeting.settled = max(0.0, evaluate_meeting(tables, state, row.settle, dealer))


@kernel
def fill_taker(tables: Tables, state: State, dealer: int, taker: int, kind: int, shot: int) -> None:
    """Put the taker's lines, and the extra lines of both, into the meeting; a projectile brings its dealer's."""
    meeting = state.meetings[dealer, kind]
    row = tables.kinds[kind]
    at = state.units.shape[0] + MEETING_ROW
    dodge = read_line(tables, state, taker, row.dodge)
    soak = read_line(tables, state, taker, row.soak)
    meeting.dodge = dodge
    meeting.soak = soak
    state.pages[at, DODGE_SLOT] = dodge
    state.pages[at, SOAK_SLOT] = soak
    for index in range(row.first_extra, row.last_extra):
        slot = EXTRA_SLOT + index - row.first_extra
        if tables.extras[index].on_dealer and shot >= 0:
            state.pages[at, slot] = state.launched_extras[shot, index]
        else:
            reader = dealer if tables.extras[index].on_dealer else taker
            state.pages[at, slot] = read_line(tables, state, reader, tables.extras[index].line)


@kernel
def fill_between(tables: Tables, state: State, dealer: int, taker: int) -> None:
    """Put into the meeting how the two stand to each other: distance, behind, above, levels."""
    at = state.units.shape[0] + MEETING_ROW
    if tables.rules[0].placed:
        state.pages[at, DISTANCE_SLOT] = distance_between(tables, state, dealer, taker)
    if tables.rules[0].sided:
        state.pages[at, BEHIND_SLOT] = behind(state, taker, dealer)
        state.pages[at, ABOVE_SLOT] = above(tables, state, taker, dealer)
    state.pages[at, GAP_SLOT] = state.pages[dealer, 0] - state.pages[taker, 0]


@kernel
def evaluate_meeting(tables: Tables, state: State, line: int, dealer: int) -> float:
    """Return the value of a line on the meeting's row; a value that is not finite is a fault."""
    value = evaluate(tables, state, line, state.units.shape[0] + MEETING_ROW)
    if not math.isfinite(value):
        report_fault(tables, state, NOT_FINITE, line, unit=dealer)
        return 0.0
    return value
