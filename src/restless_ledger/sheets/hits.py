"""One hit in closed form: its chance to land, and what it takes. The engine's kernel apart, this is all there is."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike

from ..formula import evaluate
from ..formula.arrays import Array
from ..rulebook.bodies import Body, Part
from ..rulebook.damage import DamageKind
from ..rulebook.effects import DamageEffect, HealEffect
from ..rulebook.words import Rounding

Page = Mapping[str, ArrayLike]
Lines = dict[str, Array]
Ways = tuple[tuple[float, Array], ...]
"""Of each way in which something goes: its chance, and what it multiplies by."""


@dataclass(frozen=True)
class Hit:
    """One hit that is aimed at somebody, luck and all. Arrays broadcast: a hit at many levels is worked out at once.

    What a hit takes is `settled`, times a part's factor, times a critical's, times anything between 1 - `spread` and
    1 + `spread`, rounded by its kind.
    """

    lands: Array
    """The chance to land."""
    settled: Array
    """What power and soak settle for, times everything that luck does not decide."""
    parts: Ways
    """The share of each part that can be hit, and its factor."""
    critical_chance: Array
    critical_times: Array
    spread: Array
    round: Rounding
    never_misses: bool

    def striking(self, body: Body | None, page: Page, part: str | None = None) -> Hit:
        """Return the same hit on a whole body, aimed at a part of it or at none; `page` is its owner's."""
        aim, parts = struck_parts(body, page, part)
        lands = self.lands if self.never_misses else np.minimum(1.0, self.lands * aim)
        return replace(self, lands=lands, parts=parts)

    @property
    def mean(self) -> Array:
        """What it takes on average where it lands, before it is rounded."""
        part = sum(share * times for share, times in self.parts)
        return self.settled * part * (1 + self.critical_chance * (self.critical_times - 1))

    def ways(self) -> Iterator[tuple[float, float]]:
        """Yield the chance of each part with and without a critical, and the amount before spread and rounding; of a
        single hit."""
        chance, times, settled = single(self.critical_chance), single(self.critical_times), single(self.settled)
        for share, part in self.parts:
            for often, factor in ((1 - chance, 1.0), (chance, times)):
                if share * often > 0:
                    yield share * often, settled * single(part) * factor


def single(values: Array) -> float:
    """Return the one value of an array that holds no other."""
    return np.asarray(values).item()


def meet(kind: DamageKind, dealt: Lines, taken: Lines, level_gap: float = 0.0, times: Array | float = 1.0) -> Hit:
    """Return the hit where `dealer_lines` meet `taker_lines`, nowhere in particular, on somebody who has no parts.
    `times` is the effect's own factor."""
    seen = meeting_page(dealt, taken, np.full(1, level_gap), np.zeros(1))
    with np.errstate(all="ignore"):
        lands = np.ones(1) if kind.never_misses else np.clip(evaluate(kind.landing, seen), 0.0, 1.0)
        settled = np.maximum(0.0, evaluate(kind.settle, seen)) * taken["held"] * times
    critical = dealt["critical_chance"], dealt["critical_times"]
    return Hit(lands, settled, ((1.0, np.ones(1)),), *critical, dealt["spread"], kind.round, kind.never_misses)


def meeting_page(dealt: Lines, taken: Lines, level_gap: Array, distance: Array) -> Lines:
    """Return all that `lands` and `settle` of a kind may read where two sets of lines meet."""
    return {"level_gap": level_gap, "distance": distance, **dealt, **taken}


def dealer_lines(kind: DamageKind, page: Page) -> Lines:
    """Return the lines of a kind on a dealer's page: its own, `power`, `aim`, `critical_chance`,
    `critical_times` and `spread`."""
    with np.errstate(all="ignore"):
        lines = {name: evaluate(program, page) for name, program in kind.dealer_lines.items()}
        lines["power"] = evaluate(kind.power, page)
        lines["aim"] = evaluate(kind.aim, page) if kind.aim else np.ones(1)
        lines["critical_chance"], lines["critical_times"] = critical(kind, page)
        lines["spread"] = spread_of(kind, page)
    return lines


def spread_of(kind: DamageKind, page: Page) -> Array:
    """Return the spread of a kind on a dealer's page."""
    return np.clip(evaluate(kind.spread, page), 0.0, 1.0) if kind.spread else np.zeros(1)


def critical(kind: DamageKind, page: Page) -> tuple[Array, Array]:
    """Return the chance of a critical on a dealer's page, and what it multiplies by."""
    if kind.critical is None:
        return np.zeros(1), np.ones(1)
    with np.errstate(all="ignore"):
        chance = np.clip(evaluate(kind.critical.chance, page), 0.0, 1.0)
        return chance, np.maximum(0.0, evaluate(kind.critical.times, page))


def taker_lines(kind: DamageKind, page: Page, who: str) -> Lines:
    """Return the lines of a kind on the page of a taker of a class, of the shape of its `level`: its own, `soak`,
    `dodge`, and `held`: what resistance, guard stance and the class table leave of a hit."""
    with np.errstate(all="ignore"):
        lines = {name: evaluate(program, page) for name, program in kind.taker_lines.items()}
        lines["soak"], lines["dodge"] = evaluate(kind.soak, page), evaluate(kind.dodge, page)
        lines["held"] = np.full(1, kind.against.get(who, 1.0))
        if kind.resist:
            lines["held"] = lines["held"] * np.maximum(0.0, 1 - evaluate(kind.resist, page))
        if kind.guard:
            guarded = np.maximum(0.0, evaluate(kind.guard.times, page))
            lines["held"] = lines["held"] * np.where(evaluate(kind.guard.when, page) != 0, guarded, 1.0)
    return {name: np.broadcast_to(values, np.shape(page["level"])) for name, values in lines.items()}


def effect_times(effect: DamageEffect | HealEffect, page: Page) -> Array:
    """Return how many times as much an effect brings of its kind, on its user's page; never less than nothing."""
    with np.errstate(all="ignore"):
        return np.maximum(0.0, evaluate(effect.times, page)) if effect.times else np.ones(1)


def struck_parts(body: Body | None, page: Page, part: str | None = None) -> tuple[float, Ways]:
    """Return what the chance to land is multiplied by, and share and factor of each part of a whole body that a hit
    can strike which is aimed at a part, or at none."""
    if body is None:
        return 1.0, ((1.0, np.ones(1)),)
    if part in body.parts:
        aimed = body.parts[part or ""]
        return aimed.aim, ((1.0, part_times(aimed, page)),)
    if body.segmented:
        return 1.0, ((1.0, part_times(list(body.parts.values())[-1], page)),)
    *others, last = body.parts.values()
    rest = 1.0 - sum(each.share for each in others)
    return 1.0, (*((each.share, part_times(each, page)) for each in others), (rest, part_times(last, page)))


def part_times(part: Part, page: Page) -> Array:
    """Return what a hit on a part is multiplied by on its owner's page; never less than nothing."""
    with np.errstate(all="ignore"):
        return np.maximum(0.0, evaluate(part.times, page))
