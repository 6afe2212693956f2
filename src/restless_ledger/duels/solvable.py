"""Whether a duel can be solved exactly: what its tables tell, and what must not meet on one tick."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from ..engine import Setup
from ..engine.codes import (
    BEGIN,
    BUILDUP,
    DAMAGE_EFFECT,
    END,
    GIVE_EFFECT,
    HOLD_OFF,
    LAND,
    PLAY_FLEE,
    PROLONG,
    PULSE,
    PUSH_EFFECT,
    READY,
    REFRESH,
)
from ..rulebook.pages import gauge_names
from ..rulebook.problems import dotted

CHANGING = (BEGIN, REFRESH, END, BUILDUP, PROLONG, READY, HOLD_OFF)
"""What changes what formulas read."""


class NotExact(Exception):
    """A fight that can't be solved exactly; its text is the reason."""


def reasons(setup: Setup) -> Iterator[str]:
    """Yield why a fight can't be solved, as far as its tables tell."""
    rules = setup.tables.rules[0]
    if len(setup.units) != 2 or len(setup.names.sides) != 2:
        yield "it is no duel of one against one"
        return
    if rules.placed:
        yield "it has a place, in which they move"
    if rules.downs_at_once:
        yield "downs take effect at once, so it matters which unit goes first"
    if rules.reacts:
        yield "somebody reacts to what is done"
    if rules.controls or rules.ends_on:
        yield "a buff keeps its bearer from something, makes it do something, or ends by what happens to it"
    if rules.turns:
        yield "each acts before the next one chooses"
    if rules.company:
        yield "others can come later"
    if rules.zones:
        yield "zones can be laid, and what they do depends on who is in them"
    if rules.wins:
        yield "it can be won otherwise than by being the last that stands"
    if rules.mitigates:
        yield "somebody changes hits before they are booked"
    if rules.branches:
        yield "an effect asks for something, waits, happens several times or reads what is booked"
    if rules.varies:
        yield "stats are rolled for each fight"
    if rules.initiative_roll >= 0:
        yield "initiative is rolled"
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
            yield f"the handling {name} makes mistakes"


def _reasons_of_deeds(setup: Setup) -> Iterator[str]:
    tables, downing = setup.tables, setup.names.gauges.index(setup.book.downing_gauge or "")
    for ability, name in zip(tables.abilities, setup.names.abilities, strict=True):
        if ability.interruptible:
            yield f"a hit interrupts {name}"
    for kind in _kinds(setup):
        yield from _reasons_of_luck(setup, tables.kinds[kind], setup.names.kinds[kind][1])
    if (tables.effects.steal >= 0).any():
        yield "a hit heals its dealer by a share of what it took"
    if (tables.effects.part >= 0).any() or (tables.plays.part >= 0).any():
        yield "somebody aims at a part"
    if (tables.plays.what == PLAY_FLEE).any():
        yield "somebody may flee"
    gauge = tables.gauges[downing]
    if max(gauge.acting, gauge.dealing, gauge.taking) >= 0:
        yield f"{setup.names.gauges[downing]} is earned"
    if (tables.flows.gains[tables.flows.gauge == downing] < 0).any():
        yield f"{setup.names.gauges[downing]} wanes"
    wanes = tables.flows.gauge[tables.flows.gains < 0]
    if luck_changes(setup)[wanes].any():
        yield "what luck changes wanes besides"
    if tables.rules[0].more_downs:
        yield "more than one gauge takes its character down"
    if tables.rules[0].forms or tables.rules[0].meanwhile:
        yield "abilities change in the fight, or are used beside others"
    if tables.rules[0].watched:
        yield "a formula asks something of the fight"
    if any(tables.kinds[kind].gauge != downing for kind in _kinds(setup)):
        yield f"a hit takes something else than {setup.names.gauges[downing]}"


def _reasons_of_luck(setup: Setup, kind: Any, name: str) -> Iterator[str]:
    """Yield what luck decides of a hit of a kind besides landing, part, critical and spread."""
    if kind.last_roll > kind.first_roll:
        yield f"lines of {name} are drawn for each hit"
    if kind.block_chance >= 0:
        yield f"{name} can be blocked by chance"
    if kind.within >= 0:
        yield f"{name} can graze"
    if kind.limited:
        yield f"{name} has a least and a most"
    if kind.tiers > 1 or kind.avoid >= 0 or kind.even >= 0:
        yield f"criticals of {name} have tiers, are avoided or even out"


def _reasons_of_formulas(setup: Setup) -> Iterator[str]:
    lucky = [
        setup.book.downing_gauge or "",
        *(setup.names.gauges[index] for index in np.flatnonzero(luck_changes(setup))),
    ]
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


def check_order(setup: Setup, entries: np.ndarray) -> None:
    """Refuse a tick on which what the two do in one phase would come out differently if the other were first."""
    tables, downing = setup.tables, setup.names.gauges.index(setup.book.downing_gauge or "")
    heeds = bool((tables.effects.line[tables.effects.what == GIVE_EFFECT] >= 0).any())
    heeds = heeds or bool((tables.buffs.last_bar > tables.buffs.first_bar).any())
    for rows in _meeting_deeds(entries):
        for mine, yours in ((rows[0], rows[1]), (rows[1], rows[0])):
            for one in mine:
                if reason := next((why for other in yours if (why := _clash(one, other, downing, heeds))), ""):
                    raise NotExact(f"{reason} on the same tick: it matters which is first")


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
            "a buff and a blow of the other fall on one tick"
            if read and one["unit"] in (other["unit"], other["source"])
            else ""
        )
    gauge = one["gauge"] == other["gauge"] == downing and one["unit"] == other["unit"]
    return "what heals and what harms fall on one tick" if gauge and int(one["asked"]) > 0 > int(other["asked"]) else ""


def check_lists(setup: Setup, entries: np.ndarray) -> None:
    """Refuse an ability of which something is missed together with a blow that may miss."""
    tables = setup.tables
    for number, ability in enumerate(tables.abilities):
        hits = entries[(entries["cause"] == ability.cause) & (entries["kind"] >= 0)]
        sure = bool(np.isnan(hits["chance"]).all())  # nothing is drawn for what is sure
        effects = tables.effects[ability.first_effect : ability.last_effect]
        blows = np.flatnonzero(effects.what == DAMAGE_EFFECT)
        after = effects[blows[0] + 1 :] if len(blows) else effects[:0]
        if not sure and ((after.what != PUSH_EFFECT) & (after.to_user == 0)).any():
            raise NotExact(f"what {setup.names.abilities[number]} does after a blow is missed with it")


def luck_changes(setup: Setup) -> np.ndarray:
    """Say of each gauge but the one that downs whether luck changes it: it is earned, or refills only after a while
    without harm. Of shape (gauges,)."""
    gauges = setup.tables.gauges
    found = np.maximum(np.maximum(gauges.acting, gauges.dealing), gauges.taking) >= 0
    found[np.unique(setup.tables.flows.gauge[setup.tables.flows.after_harm > 0])] = True
    found[setup.names.gauges.index(setup.book.downing_gauge or "")] = False
    return found
