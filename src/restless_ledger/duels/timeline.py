"""The timeline of a duel whose luck changes amounts only: what is done to whom on which tick, whatever the luck."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..engine import Setup
from ..engine.codes import BEGIN, CUT, DRAIN, END, HARM, HEAL, IMMUNE, IN_FRONT, NEVER, REFILL, REFRESH, USE
from ..engine.layout.layout import State
from ..engine.machine import play_until
from ..engine.recording import recorded
from ..frozen_classes import frozen
from ..statistics.distribution import Distribution
from .amounts import STEPS, amount_of, fixed_times, luck_of
from .solvable import NotExact, check_lists, check_order, luck_changes, reasons

MOST_ENTRIES = 1 << 20
PLENTY = 1 << 50
"""Thousandths: more than anything costs."""


@frozen
class Event:
    """Something that is done to a unit: by how much its gauge that downs changes, in thousandths."""

    tick: int
    change: Distribution
    blow: bool
    """Whether it is a hit by the other, and not a beat, a refill or a heal."""
    harm: bool
    """Whether it is harm, for which a refill may wait; a drain is none."""
    refill: bool


@frozen
class Timeline:
    """What is done to each of two units, in order; what they open with, and their tops, in thousandths."""

    events: tuple[list[Event], list[Event]]
    opens: tuple[int, int]
    tops: tuple[int, int]
    after_harm: int
    """For how many ticks after harm nothing refills."""
    limit: int


def timeline(setup: Setup) -> Timeline:
    """Draw up the timeline of a duel. Raises `NotExact` with the reason where luck changes more than amounts.

    The rules themselves say what is done when: the duel is played with luck set aside, everything landing that can, and
    nobody going down. It is played twice, without anything that luck brings to pay with and with plenty of it; where
    both lead to the same uses, so does all that lies between.
    """
    for reason in reasons(setup):
        raise NotExact(reason)
    poor, rich = (_played(setup, plenty) for plenty in (False, True))
    if _uses(poor) != _uses(rich):
        raise NotExact("what they can pay for depends on luck")
    return _read(setup, poor)


def _played(setup: Setup, plenty: bool) -> State:
    """Play a duel to its limit with luck set aside and nobody going down. Gauges that luck changes get nothing but what
    is sure, or are full to overflowing with `plenty`. The gauge that downs opens at nothing, so that every refill
    shows."""
    names, rules, flows = setup.names, np.array(setup.tables.rules), np.array(setup.tables.flows)
    rules["earns"] = 0
    downing = names.gauges.index(setup.book.downing_gauge or "")
    lucky = luck_changes(setup)
    flows["after_harm"] = np.where(lucky[flows["gauge"]] & (flows["after_harm"] > 0), 2 * NEVER, 0)
    tables = setup.tables.with_member("rules", rules).with_member("flows", flows)

    def play(room: int) -> State:
        if room > MOST_ENTRIES:
            raise NotExact("too much happens before its time-limit")
        state = setup.new_state(room)
        state.memory[:] = setup.opening.memory
        state.run[0].fixed_luck, state.run[0].force_hits = 1, 1
        for unit in range(len(names.units)):
            state.gauges[unit, downing].now = 0
            for gauge in np.flatnonzero(lucky) if plenty else ():
                state.gauges[unit, gauge].now = PLENTY
        play_until(tables, state, setup.limit)
        setup.raise_fault(state)
        return state

    return recorded(play)


def _entries(state: State) -> np.ndarray:
    return np.array(state.entries[: int(state.clock[0].entries)])


def _uses(state: State) -> list[tuple]:
    """Return everything that is used and borne, and when."""
    entries = _entries(state)
    shown = entries[np.isin(entries["verb"], (USE, BEGIN, REFRESH, END))]
    return [tuple(row) for row in shown[["tick", "verb", "unit", "cause", "source"]].tolist()]


def _read(setup: Setup, state: State) -> Timeline:
    """Read the timeline off the entries. Raises `NotExact` where one of them can't be told without luck."""
    downing = setup.names.gauges.index(setup.book.downing_gauge or "")
    events: tuple[list[Event], list[Event]] = ([], [])
    entries = _entries(state)
    check_lists(setup, entries)
    check_order(setup, entries)
    if (entries["notes"] & IN_FRONT).any() or entries["in_front"].any():
        raise NotExact("a gauge stands in front")
    known: dict[tuple, Distribution] = {}
    mine = entries[(entries["gauge"] == downing) & (entries["notes"] & IMMUNE == 0)]
    factors = [fixed_times(row) for row in state.entry_factors[: len(entries)]]
    for number in np.flatnonzero(
        (entries["gauge"] == downing) & (entries["notes"] & IMMUNE == 0) & (entries["verb"] != REFILL)
    ):
        entry = entries[number]
        if entry["verb"] not in (HARM, HEAL, DRAIN):
            raise NotExact("the gauge that downs is paid with" if entry["verb"] != CUT else "its top changes")
        change = Distribution.certain(int(entry["asked"]))
        if entry["kind"] >= 0:
            luck = luck_of(setup, state, entry)
            alike = (*(entry[name].item() for name in STEPS), factors[number], luck)
            change = known[alike] = known.get(alike) or amount_of(setup, entry, factors[number], luck)
        harm = entry["verb"] == HARM
        blow = harm and setup.names.cause_kind(int(entry["cause"])) == "ability"
        events[int(entry["unit"])].append(Event(int(entry["tick"]), change, blow, harm, False))
    opening = setup.opening.gauges[:, downing]
    if (state.gauges[:, downing].top != opening.top).any():
        raise NotExact("its top changes")
    for unit in (0, 1):
        own = mine[(mine["unit"] == unit) & (mine["verb"] == REFILL)]
        events[unit].extend(_refills(setup, own, int(mine["balance"][mine["unit"] == unit].max(initial=0)), unit))
        events[unit].sort(key=lambda event: (event.tick, not event.refill))
    return Timeline(
        events,
        (int(opening[0].now), int(opening[1].now)),
        (int(opening[0].top), int(opening[1].top)),
        int(_flow(setup, downing).after_harm) if _flow(setup, downing) is not None else 0,
        setup.limit,
    )


def _flow(setup: Setup, gauge: int) -> Any:
    """Return what refills a gauge, or None. What wanes is refused."""
    row = setup.tables.gauges[gauge]
    return setup.tables.flows[row.first_flow] if row.last_flow > row.first_flow else None


def _refills(setup: Setup, entries: np.ndarray, highest: int, unit: int) -> list[Event]:
    """Return every refill there can be. Those that were skipped because the gauge was full are as all others."""
    downing = setup.names.gauges.index(setup.book.downing_gauge or "")
    row, top = _flow(setup, downing), int(setup.opening.gauges[unit, downing].top)
    if (entries["amount"] != 0).any():
        raise NotExact("a refill has parts of a thousandth, which add up for as long as the gauge is not full")
    amounts = dict(zip(entries["tick"].tolist(), entries["asked"].tolist(), strict=True))
    if highest >= top and amounts and row is not None:
        if row.when >= 0 or len(set(amounts.values())) > 1:
            raise NotExact("more comes back than is taken")
        amounts = dict.fromkeys(range(int(row.every), setup.limit + 1, int(row.every)), next(iter(amounts.values())))
    return [Event(tick, Distribution.certain(amount), False, False, True) for tick, amount in amounts.items()]
