"""One hit in closed form: its chance to land, and what it takes. The engine's kernel apart, this is all there is."""

from __future__ import annotations

import numpy as np

from ..formula import evaluate
from ..formula.arrays import Array, shaped
from ..rulebook.damage import DamageKind
from ..rulebook.effects import DamageEffect, HealEffect
from .hit import Hit, Page
from .rolls import joint, numbers_at

Lines = dict[str, Array]
NO_SIDE = np.zeros(1)
"""Face to face and on even ground, as in every closed form."""


def meet(kind: DamageKind, dealt: Lines, taken: Lines, level_gap: float = 0.0, times: Array | float = 1.0) -> Hit:
    """Return the hit where `dealer_lines` meet `taker_lines`, nowhere in particular, on somebody who has no parts.
    `times` is the effect's own factor."""
    seen = meeting_page(dealt, taken, np.full(1, level_gap), np.zeros(1))
    with np.errstate(all="ignore"):
        lands = np.ones(1) if kind.never_misses else np.clip(evaluate(kind.landing, seen), 0.0, 1.0)
        settled = np.maximum(0.0, evaluate(kind.settle, seen)) * taken["held"] * times
    rolled: tuple[tuple[Array, Array], ...] = ()
    if kind.rolled:
        lands, settled, rolled = _over_rolls(dealt["rolled_chance"], lands, settled)
    chance = np.maximum(0.0, dealt["critical_chance"] - taken["critical_avoid"])
    more = ((1 - taken["blocked"], np.ones(1)), (taken["blocked"], taken["block_times"])) if kind.block else ()
    return Hit(
        lands,
        settled,
        ((1.0, np.ones(1)),),
        chance,
        dealt["critical_times"],
        dealt["spread"],
        kind.round,
        kind.never_misses,
        rolled,
        more,
        (dealt["graze_within"], dealt["graze_times"]) if kind.grazes and not kind.never_misses else None,
        (kind.limits[0], kind.limits[1]) if kind.limits else None,
        kind.critical.tiers if kind.critical else 1,
    )


def _over_rolls(chance: Array, lands: Array, settled: Array) -> tuple[Array, Array, tuple[tuple[Array, Array], ...]]:
    """Return the chance to land over all that can be rolled, what a hit that lands settles for on average, and of each
    outcome its chance among those that land and what settles. The first axis of each is that of the outcomes."""
    chance, lands, settled = np.broadcast_arrays(chance, lands, settled)
    landing = chance * lands
    often = landing.sum(axis=0)
    share = np.where(often > 0, landing / np.maximum(often, 1e-300), chance)
    outcomes = tuple(zip(share, settled, strict=True))
    return often, (share * settled).sum(axis=0), outcomes


def meeting_page(dealt: Lines, taken: Lines, level_gap: Array, distance: Array) -> Lines:
    """Return all that `lands` and `settle` of a kind may read where two sets of lines meet."""
    return {"level_gap": level_gap, "distance": distance, "behind": NO_SIDE, "above": NO_SIDE, **dealt, **taken}


def dealer_lines(kind: DamageKind, page: Page, rolled: Page | None = None) -> Lines:
    """Return the lines of a kind on a dealer's page: its own, `power`, `aim`, `critical_chance`, `critical_times`,
    `spread`, `graze_within` and `graze_times`. `rolled` gives the lines that are drawn for each hit, where there are
    any (see `rolled_lines`)."""
    found = rolled or {}
    full = {**page, **found}
    with np.errstate(all="ignore"):
        lines: Lines = {name: np.asarray(values, dtype=np.float64) for name, values in found.items()}
        lines |= {name: evaluate(program, full) for name, program in kind.dealer_lines.items()}
        lines["power"] = evaluate(kind.power, full)
        lines["aim"] = evaluate(kind.aim, full) if kind.aim else np.ones(1)
        lines["critical_chance"], lines["critical_times"] = critical(kind, page)
        lines["spread"] = spread_of(kind, page)
        if kind.grazes:
            lines["graze_within"] = np.maximum(0.0, evaluate(kind.grazes.within, page))
            lines["graze_times"] = np.maximum(0.0, evaluate(kind.grazes.times, page))
    return lines


def rolled_lines(kind: DamageKind, page: Page, taker_axes: int = 1) -> Lines:
    """Return every outcome of the lines of a kind that are drawn for each hit, and as `rolled_chance` the chance of
    each. The first axis is that of the outcomes, the last that of the page; `taker_axes` is how many axes the taker's
    lines have."""
    if not kind.rolled:
        return {}
    values, chance = joint(kind.rolled, page)
    return {name: _spaced(each, taker_axes) for name, each in {**values, "rolled_chance": chance}.items()}


def drawn_lines(kind: DamageKind, page: Page, draws: Array) -> Lines:
    """Return the lines of a kind that are drawn for each hit, as some draws give them."""
    return {name: numbers_at(roll, draws, page) for name, roll in kind.rolled.items()}


def _spaced(values: Array, axes: int) -> Array:
    """Return values of shape (outcomes, levels) with as many axes in between as to go with a taker's lines."""
    return values.reshape(values.shape[0], *([1] * (axes - 1)), values.shape[1])


def spread_of(kind: DamageKind, page: Page) -> Array:
    """Return the spread of a kind on a dealer's page."""
    return np.clip(evaluate(kind.spread, page), 0.0, 1.0) if kind.spread else np.zeros(1)


def critical(kind: DamageKind, page: Page) -> tuple[Array, Array]:
    """Return the chance of a critical on a dealer's page, and what it multiplies by."""
    if kind.critical is None:
        return np.zeros(1), np.ones(1)
    with np.errstate(all="ignore"):
        chance = np.maximum(0.0, evaluate(kind.critical.chance, page))
        return chance, np.maximum(0.0, evaluate(kind.critical.times, page))


def taker_lines(kind: DamageKind, page: Page, who: str) -> Lines:
    """Return the lines of a kind on the page of a taker of a class, of the shape of its `level`: its own, `soak`,
    `dodge`, and `held`: what resistance, guard stance and the class table leave of a hit."""
    with np.errstate(all="ignore"):
        lines = {name: evaluate(program, page) for name, program in kind.taker_lines.items()}
        lines["soak"], lines["dodge"] = evaluate(kind.soak, page), evaluate(kind.dodge, page)
        avoid = kind.critical.avoid if kind.critical else None
        lines["critical_avoid"] = evaluate(avoid, page) if avoid else np.zeros(1)
        if kind.block:
            lines["blocked"] = np.clip(evaluate(kind.block.chance, page), 0.0, 1.0)
            lines["block_times"] = np.maximum(0.0, evaluate(kind.block.times, page))
        lines["held"] = np.full(1, kind.against.get(who, 1.0))
        if kind.resist:
            lines["held"] = lines["held"] * np.maximum(0.0, 1 - evaluate(kind.resist, page))
        if kind.guard:
            guarded = np.maximum(0.0, evaluate(kind.guard.times, page))
            lines["held"] = lines["held"] * np.where(evaluate(kind.guard.when, page) != 0, guarded, 1.0)
    return {name: shaped(values, np.shape(page["level"])) for name, values in lines.items()}


def effect_times(effect: DamageEffect | HealEffect, page: Page) -> Array:
    """Return how many times as much an effect brings of its kind, on its user's page; never less than nothing."""
    with np.errstate(all="ignore"):
        return np.maximum(0.0, evaluate(effect.times, page)) if effect.times else np.ones(1)
