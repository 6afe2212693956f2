"""The timeline of a duel whose luck changes amounts only: what is done to whom on which tick, whoever is lucky."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..engine import Setup
from ..engine.codes import (
    BEGIN,
    BUILDUP,
    CUT,
    DAMAGE_EFFECT,
    DRAIN,
    END,
    GIVE_EFFECT,
    HARM,
    HEAL,
    IMMUNE,
    IN_FRONT,
    LAND,
    NEVER,
    PLAY_FLEE,
    PULSE,
    PUSH_EFFECT,
    REFILL,
    REFRESH,
    USE,
)
from ..engine.layout import State
from ..engine.machine import play_until
from ..rulebook.pages import gauge_names
from ..rulebook.problems import dotted
from .amounts import STEPS, amount_of, critical_of, fixed_times
from .chances import Chances

FIRST_ENTRIES = 4096
MOST_ENTRIES = 1 << 20
CHANGING = (BEGIN, REFRESH, END, BUILDUP)
"""What changes what formulas read."""
PLENTY = 1 << 50
"""Thousandths: more than anything costs."""


class NotExact(Exception):
    """A fight that can't be solved exactly; its text is the reason."""


@dataclass(frozen=True)
class Event:
    """Something that is done to a unit: by how much its gauge that downs changes, in thousandths."""

    tick: int
    change: Chances
    blow: bool
    """Whether it is a hit by the other, and not a beat, a refill or a heal."""
    harm: bool
    """Whether it is harm, for which a refill may wait; a drain is none."""
    refill: bool


@dataclass(frozen=True)
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
    both come to the same uses, so does all that lies between.
    """
    for reason in _reasons(setup):
        raise NotExact(reason)
    poor, rich = (_played(setup, plenty) for plenty in (False, True))
    if _uses(poor) != _uses(rich):
        raise NotExact("what they can pay for depends on luck")
    return _read(setup, poor)


def _reasons(setup: Setup) -> Iterator[str]:
    """Yield why a fight can't be solved, as far as its tables tell."""
    rules = setup.tables.rules[0]
    if len(setup.units) != 2 or len(setup.names.sides) != 2:
        yield "it is no duel of one against one"
        return
    if rules.placed:
        yield "it has a place, in which they move"
    if rules.downs_at_once:
        yield "downs take effect at once, so who goes first matters"
    if rules.reacts:
        yield "somebody reacts to what is done"
    if rules.opens_drawn:
        yield "a gauge opens anywhere in a range"
    yield from _reasons_of_units(setup)
    yield from _reasons_of_deeds(setup)
    yield from _reasons_of_formulas(setup)


def _reasons_of_units(setup: Setup) -> Iterator[str]:
    for unit, name in zip(setup.tables.units, setup.names.units, strict=True):
        if unit.lives > 1:
            yield f"{name} has more than one life"
        if unit.worn or unit.segmented:
            yield f"parts of {name} can break"
        if unit.spared_ticks > 0:
            yield f"a hit makes {name} invulnerable for a while"
        if unit.mistakes > 0:
            yield f"whoever plays {name} makes mistakes"


def _reasons_of_deeds(setup: Setup) -> Iterator[str]:
    tables, downing = setup.tables, setup.names.gauges.index(setup.book.downing_gauge or "")
    for ability, name in zip(tables.abilities, setup.names.abilities, strict=True):
        if ability.interruptible:
            yield f"a hit interrupts {name}"
    if (tables.effects.steal >= 0).any():
        yield "a hit heals its dealer by a share of what it took"
    if (tables.effects.part >= 0).any() or (tables.plays.part >= 0).any():
        yield "somebody aims at a part"
    if (tables.plays.what == PLAY_FLEE).any():
        yield "somebody may flee"
    gauge = tables.gauges[downing]
    if max(gauge.acting, gauge.dealing, gauge.taking) >= 0:
        yield f"{setup.names.gauges[downing]} is earned"
    if any(tables.kinds[kind].gauge != downing for kind in _kinds(setup)):
        yield f"a hit takes something else than {setup.names.gauges[downing]}"


def _reasons_of_formulas(setup: Setup) -> Iterator[str]:
    lucky = [setup.book.downing_gauge or "", *(setup.names.gauges[index] for index in np.flatnonzero(_lucky(setup)))]
    words = {word for name in lucky for word in (gauge_names(name)[0], gauge_names(name)[2])} | {"booked"}
    used = {setup.names.kinds[kind] for kind in _kinds(setup)}
    for line in setup.lines:
        if line.path[0] in ("damage", "healing") and line.path[:2] not in used:
            continue
        if read := words.intersection(line.program.names):
            yield f"{dotted(line.path)} reads {sorted(read)[0]}, which luck decides"


def _kinds(setup: Setup) -> set[int]:
    """Return the kinds of damage and healing that anybody's hits are of."""
    effects = setup.tables.effects
    return set(effects.index[effects.what == DAMAGE_EFFECT].tolist())


def _lucky(setup: Setup) -> np.ndarray:
    """Say of each gauge but the one that downs whether luck changes it: it is earned, or refills only after a while
    without harm. Of shape (gauges,)."""
    gauges = setup.tables.gauges
    found = np.maximum(np.maximum(gauges.acting, gauges.dealing), gauges.taking) >= 0
    found |= (gauges.after_harm > 0) & (gauges.refill >= 0)
    found[setup.names.gauges.index(setup.book.downing_gauge or "")] = False
    return found


def _played(setup: Setup, plenty: bool) -> State:
    """Play a duel to its limit with luck set aside and nobody going down. Gauges that luck changes get nothing but what
    is sure, or are full to overflowing with `plenty`. The gauge that downs opens at nothing, so that every refill
    shows."""
    names, rules, gauges = setup.names, np.array(setup.tables.rules), np.array(setup.tables.gauges)
    rules["earns"] = 0
    downing = names.gauges.index(setup.book.downing_gauge or "")
    lucky = _lucky(setup)
    gauges["after_harm"] = np.where(lucky & (gauges["after_harm"] > 0), 2 * NEVER, 0)
    tables = setup.tables.with_member("rules", rules).with_member("gauges", gauges)
    room = FIRST_ENTRIES
    while True:
        state = setup.new_state(room)
        state.memory[:] = setup.opening.memory
        state.run[0].even, state.run[0].sure = 1, 1
        for unit in range(len(names.units)):
            state.gauges[unit, downing].now = 0
            for gauge in np.flatnonzero(lucky) if plenty else ():
                state.gauges[unit, gauge].now = PLENTY
        play_until(tables, state, setup.limit)
        setup.raise_fault(state)
        clock = state.clock[0]
        if clock.entries <= room and clock.pages <= 2 * room:
            return state
        room = max(int(clock.entries), (int(clock.pages) + 1) // 2)
        if room > MOST_ENTRIES:
            raise NotExact("too much happens before its time-limit")


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
    _check_lists(setup, entries)
    _check_order(setup, entries)
    if (entries["notes"] & IN_FRONT).any() or entries["in_front"].any():
        raise NotExact("a gauge stands in front")
    known: dict[tuple, Chances] = {}
    mine = entries[(entries["gauge"] == downing) & (entries["notes"] & IMMUNE == 0)]
    factors = [fixed_times(row) for row in state.entry_factors[: len(entries)]]
    for number in np.flatnonzero(
        (entries["gauge"] == downing) & (entries["notes"] & IMMUNE == 0) & (entries["verb"] != REFILL)
    ):
        entry = entries[number]
        if entry["verb"] not in (HARM, HEAL, DRAIN):
            raise NotExact("the gauge that downs is paid with" if entry["verb"] != CUT else "its top changes")
        change = Chances.certain(int(entry["asked"]))
        if entry["kind"] >= 0:
            critical = critical_of(setup, state, entry)
            alike = (*(entry[name].item() for name in STEPS), factors[number], critical)
            change = known[alike] = known.get(alike) or amount_of(setup, entry, factors[number], critical)
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
        int(setup.tables.gauges[downing].after_harm),
        setup.limit,
    )


def _refills(setup: Setup, entries: np.ndarray, highest: int, unit: int) -> list[Event]:
    """Return every refill there can be. Those that were skipped because the gauge was full are as all others."""
    downing = setup.names.gauges.index(setup.book.downing_gauge or "")
    row, top = setup.tables.gauges[downing], int(setup.opening.gauges[unit, downing].top)
    if (entries["amount"] != 0).any():
        raise NotExact("a refill comes to parts of a thousandth, which add up for as long as the gauge is not full")
    amounts = dict(zip(entries["tick"].tolist(), entries["asked"].tolist(), strict=True))
    if highest >= top and amounts:
        if row.condition >= 0 or len(set(amounts.values())) > 1:
            raise NotExact("more comes back than is taken")
        amounts = dict.fromkeys(
            range(int(row.refill_ticks), setup.limit + 1, int(row.refill_ticks)), next(iter(amounts.values()))
        )
    return [Event(tick, Chances.certain(amount), False, False, True) for tick, amount in amounts.items()]


def _check_order(setup: Setup, entries: np.ndarray) -> None:
    """Refuse a tick on which what the two do in one phase would come out differently if the other were first."""
    tables, downing = setup.tables, setup.names.gauges.index(setup.book.downing_gauge or "")
    heeds = bool((tables.effects.line[tables.effects.what == GIVE_EFFECT] >= 0).any())
    heeds = heeds or bool((tables.buffs.last_bar > tables.buffs.first_bar).any())
    for rows in _meeting_deeds(entries):
        for mine, yours in ((rows[0], rows[1]), (rows[1], rows[0])):
            for one in mine:
                if reason := next((why for other in yours if (why := _clash(one, other, downing, heeds))), ""):
                    raise NotExact(f"{reason} on the same tick: who is first matters")


def _meeting_deeds(entries: np.ndarray) -> Iterator[tuple[list[np.void], list[np.void]]]:
    """Yield what each of the two does in a phase of a tick in which both do something: land, or let a buff beat."""
    numbers = np.flatnonzero(np.isin(entries["phase"], (PULSE, LAND)))
    keys = entries["tick"][numbers] * (LAND + 1) + entries["phase"][numbers]
    for group in np.split(numbers, np.flatnonzero(np.diff(keys)) + 1):
        rows: tuple[list[np.void], list[np.void]] = ([], [])
        for number in group.tolist():
            rows[_doer(entries, number)].append(entries[number])
        if rows[0] and rows[1]:
            yield rows


def _doer(entries: np.ndarray, number: int) -> int:
    """Return whose turn an entry belongs to: of what lands, the user's; of a beat or a refill, its bearer's."""
    entry = entries[number]
    if entry["parent"] < 0:
        return int(entry["unit"])
    cause = entries[entry["parent"]]
    return int(cause["source"] if entry["phase"] == LAND else cause["unit"])


def _clash(one: np.void, other: np.void, downing: int, heeds: bool) -> str:
    """Return why it matters which of two entries comes first, or nothing."""
    if one["verb"] in CHANGING or (one["gauge"] != downing and one["booked"] != 0):
        if other["verb"] in CHANGING:
            ends = END in (one["verb"], other["verb"])
            return "two buffs meet" if one["unit"] == other["unit"] and (heeds or ends) else ""
        read = other["kind"] >= 0 or other["line"] >= 0
        return (
            "a buff comes beside a blow of the other"
            if read and one["unit"] in (other["unit"], other["source"])
            else ""
        )
    gauge = one["gauge"] == other["gauge"] == downing and one["unit"] == other["unit"]
    return "what heals comes beside what harms" if gauge and int(one["asked"]) > 0 > int(other["asked"]) else ""


def _check_lists(setup: Setup, entries: np.ndarray) -> None:
    """Refuse an ability of which something is missed together with a blow that may miss."""
    tables, first = setup.tables, int(setup.tables.rules[0].first_ability_cause)
    for number, ability in enumerate(tables.abilities):
        hits = entries[(entries["cause"] == first + number) & (entries["kind"] >= 0)]
        sure = bool(np.isnan(hits["chance"]).all())  # nothing is drawn for what is sure
        effects = tables.effects[ability.first_effect : ability.last_effect]
        blows = np.flatnonzero(effects.what == DAMAGE_EFFECT)
        after = effects[blows[0] + 1 :] if len(blows) else effects[:0]
        if not sure and ((after.what != PUSH_EFFECT) & (after.to_user == 0)).any():
            raise NotExact(f"what {setup.names.abilities[number]} does after a blow is missed with it")
