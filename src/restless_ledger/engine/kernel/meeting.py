"""Where two characters meet: the dealer's lines and the taker's, and what comes of them."""

from __future__ import annotations

import math

from ..codes import (
    AIM_SLOT, DODGE_SLOT, EXTRA_SLOT, GAP_SLOT, MEETING_ROW, NOT_FINITE, POWER_SLOT, SOAK_SLOT,
)  # fmt: skip
from ..compiled import kernel
from ..layout import State, Tables
from .evaluate import evaluate
from .lines import read_line, report_fault


@kernel
def meet(tables: Tables, state: State, dealer: int, taker: int, kind: int) -> None:
    """Work out the chance to land, power, soak and what settles, once for a pair until either's stats change.

    Modifies `state.meetings[dealer, kind]`, the meeting's row of the scratch array, and what is kept of lines.
    """
    meeting = state.meetings[dealer, kind]
    dealer_version = state.units[dealer].version
    taker_version = state.units[taker].version
    row = tables.kinds[kind]
    if (row.moving == 0 and meeting.taker == taker and meeting.dealer_version == dealer_version
            and meeting.taker_version == taker_version):  # fmt: skip
        return
    meeting.taker = taker
    meeting.dealer_version = dealer_version
    meeting.taker_version = taker_version
    values = state.scratch
    values[MEETING_ROW, POWER_SLOT] = read_line(tables, state, dealer, row.power)
    values[MEETING_ROW, AIM_SLOT] = read_line(tables, state, dealer, row.aim) if row.aim >= 0 else 1.0
    values[MEETING_ROW, GAP_SLOT] = state.pages[dealer, 0] - state.pages[taker, 0]
    fill_taker(tables, state, dealer, taker, kind)
    meeting.lands = 1.0
    if not row.never_misses:
        lands = evaluate_meeting(tables, state, row.lands, dealer)
        meeting.lands = min(max(lands, 0.0), 1.0)
    meeting.power = values[MEETING_ROW, POWER_SLOT]
    meeting.soak = values[MEETING_ROW, SOAK_SLOT]
    meeting.settled = max(0.0, evaluate_meeting(tables, state, row.settle, dealer))


@kernel
def fill_taker(tables: Tables, state: State, dealer: int, taker: int, kind: int) -> None:
    """Put the taker's lines, and the extra lines of both, into the meeting."""
    row = tables.kinds[kind]
    values = state.scratch
    values[MEETING_ROW, DODGE_SLOT] = read_line(tables, state, taker, row.dodge)
    values[MEETING_ROW, SOAK_SLOT] = read_line(tables, state, taker, row.soak)
    for index in range(row.first_extra, row.last_extra):
        reader = dealer if tables.extras[index].on_dealer else taker
        slot = EXTRA_SLOT + index - row.first_extra
        values[MEETING_ROW, slot] = read_line(tables, state, reader, tables.extras[index].line)


@kernel
def evaluate_meeting(tables: Tables, state: State, line: int, dealer: int) -> float:
    """Return what a line comes to on the meeting's row; a value that is not finite is a fault."""
    value = evaluate(tables, state, line, state.scratch, MEETING_ROW)
    if not math.isfinite(value):
        report_fault(tables, state, NOT_FINITE, line, dealer)
        return 0.0
    return value
