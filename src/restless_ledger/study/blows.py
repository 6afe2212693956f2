"""Blows: what an ability does to somebody on average, worked out on the formulas at every level at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..formula import evaluate
from ..formula.arrays import Array
from ..rulebook import Rulebook
from ..rulebook.damage import DamageKind
from ..rulebook.effects import DamageEffect
from ..sheet.by_level import page_by_level

Page = Mapping[str, ArrayLike]


@dataclass(frozen=True)
class Blow:
    """One use of an ability on somebody at full health, at each level, of shape (levels,).

    `amount` is what its hits take when they land, on average over parts, criticals and spread, resistance and class
    table included; `lands` the chance of its first hit.
    """

    amount: Array
    lands: Array
    seconds: float
    """How long until the same ability can be used again, in seconds (or rounds)."""

    @property
    def per_second(self) -> Array:
        return self.lands * self.amount / self.seconds


class Blows:
    """The average blows of one rulebook. What two of them have in common is worked out once."""

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        self._dealing: dict[tuple[str, str], dict[str, Array]] = {}
        self._taking: dict[str, dict[str, Array]] = {}
        self._struck: dict[tuple[str, str], tuple[Array, Array]] = {}
        self._rows = {who: row for row, who in enumerate(book.classes)}
        self._hits: dict[tuple[str, str], list[tuple[str, Array, str | None]]] = {}
        self._parts: dict[tuple[str, str | None], float] = {}
        self._seconds = {name: seconds_between(book, name) for name in book.abilities}

    def blow(self, by: str, on: str, ability: str) -> Blow:
        """Return what a class's ability does to a class of the same level, on the gauge that takes it down."""
        count = len(page_by_level(self.book, by)["level"])
        amount, lands = np.zeros(count), None
        for kind, times, part in self._hits_of(by, ability):
            struck = self.struck(kind, by, on)
            amount = amount + struck.taken * (times * self._mean_part(on, part))
            lands = struck.lands if lands is None else lands
        return Blow(amount, np.zeros(count) if lands is None else lands, self._seconds[ability])

    def _hits_of(self, by: str, ability: str) -> list[tuple[str, Array, str | None]]:
        """Return the hits of an ability on the gauge that downs: kind, how many times as much, and the part aimed
        at."""
        if (by, ability) not in self._hits:
            book, found = self.book, []
            for effect in book.abilities[ability].does:
                if not isinstance(effect, DamageEffect) or effect.to != "target":
                    continue
                if book.damage[effect.damage].gauge in (None, book.downing_gauge):
                    times = evaluate(effect.times, page_by_level(book, by)) if effect.times else np.ones(1)
                    found.append((effect.damage, np.maximum(0.0, times), effect.part))
            self._hits[by, ability] = found
        return self._hits[by, ability]

    def _mean_part(self, who: str, part: str | None) -> float:
        if (who, part) not in self._parts:
            self._parts[who, part] = mean_part(self.book, who, part)
        return self._parts[who, part]

    def hits_to_kill(self, by: str, on: str, ability: str) -> Array:
        """Return how many average hits that land take a class from full to zero, at each level: infinite where they
        take nothing."""
        top = page_by_level(self.book, on)[f"{self.book.downing_gauge}_top"]
        amount = self.blow(by, on, ability).amount
        with np.errstate(all="ignore"):
            return np.where(amount > 0, np.ceil(top / np.maximum(amount, 1e-300) - 1e-9), np.inf)

    def struck(self, kind: str, by: str, on: str) -> Struck:
        """Return what one hit of a kind comes to between two classes of the same level, at level gap 0."""
        if (kind, by) not in self._struck:
            self._struck[kind, by] = self._strike_all(kind, by)
        row = self._rows[on]
        taken, lands = self._struck[kind, by]
        return Struck(taken[row], lands[row])

    def _strike_all(self, kind: str, by: str) -> tuple[Array, Array]:
        """Return what a hit takes from each class and its chance to land, both of shape (classes, levels)."""
        entry = self.book.damage[kind]
        with np.errstate(all="ignore"):
            dealt, taken = self._dealer(kind, by), self._takers(kind)
            lands, settled = meet(entry, dealt, taken)
            settled = settled * (1 + dealt["chance"] * (dealt["critical_times"] - 1))
        shape = taken["held"].shape
        return np.broadcast_to(settled, shape), np.broadcast_to(lands, shape)

    def _dealer(self, kind: str, who: str) -> dict[str, Array]:
        if (kind, who) not in self._dealing:
            self._dealing[kind, who] = dealer_lines(self.book.damage[kind], page_by_level(self.book, who))
        return self._dealing[kind, who]

    def _takers(self, kind: str) -> dict[str, Array]:
        """Return the lines of a kind on the page of every class, and what resistance, guard stance and class table
        leave of a hit: each of shape (classes, levels)."""
        if kind not in self._taking:
            entry = self.book.damage[kind]
            rows = [taker_lines(entry, page_by_level(self.book, who), who) for who in self.book.classes]
            self._taking[kind] = {name: np.stack([row[name] for row in rows]) for name in rows[0]}
        return self._taking[kind]


def dealer_lines(entry: DamageKind, page: Page) -> dict[str, Array]:
    """Return the lines of a damage kind on a dealer's page: its own, `power`, `aim`, and `chance` and `critical_times`
    of a critical."""
    lines = {name: evaluate(program, page) for name, program in entry.dealer_lines.items()}
    lines["power"] = evaluate(entry.power, page)
    lines["aim"] = evaluate(entry.aim, page) if entry.aim else np.ones(1)
    lines["chance"], lines["critical_times"] = np.zeros(1), np.ones(1)
    if entry.critical:
        lines["chance"] = np.clip(evaluate(entry.critical.chance, page), 0.0, 1.0)
        lines["critical_times"] = np.maximum(0.0, evaluate(entry.critical.times, page))
    return lines


def taker_lines(entry: DamageKind, page: Page, who: str) -> dict[str, Array]:
    """Return the lines of a damage kind on a taker's page: its own, `soak`, `dodge`, and `held`: what resistance, guard
    stance and the class table leave of a hit."""
    lines = {name: evaluate(program, page) for name, program in entry.taker_lines.items()}
    lines["soak"], lines["dodge"] = evaluate(entry.soak, page), evaluate(entry.dodge, page)
    lines["held"] = np.full(1, entry.against.get(who, 1.0))
    if entry.resist:
        lines["held"] = lines["held"] * np.maximum(0.0, 1 - evaluate(entry.resist, page))
    if entry.guard:
        guarded = np.maximum(0.0, evaluate(entry.guard.times, page))
        lines["held"] = lines["held"] * np.where(evaluate(entry.guard.when, page) != 0, guarded, 1.0)
    return {name: np.broadcast_to(values, np.shape(page["level"])) for name, values in lines.items()}


def meet(entry: DamageKind, dealt: Mapping[str, Array], taken: Mapping[str, Array],
         level_gap: float = 0.0) -> tuple[Array, Array]:  # fmt: skip
    """Return the chance to land where a dealer's lines meet a taker's, and what settles before parts and criticals."""
    seen = {"level_gap": np.full(1, level_gap), "distance": np.zeros(1), **dealt, **taken}
    lands = np.ones(1) if entry.never_misses else np.clip(evaluate(entry.landing, seen), 0.0, 1.0)
    return lands, np.maximum(0.0, evaluate(entry.settle, seen)) * taken["held"]


@dataclass(frozen=True)
class Struck:
    """One hit of a kind: what it takes where it lands, on average, parts apart; and the chance that it lands."""

    taken: Array
    lands: Array


def seconds_between(book: Rulebook, ability: str) -> float:
    """Return how long it is at least from one use to the next, in seconds (or rounds); never nothing."""
    entry, clock = book.abilities[ability], book.clock
    busy = clock.ticks(entry.windup) + clock.ticks(entry.recovery)
    cooldown = clock.ticks(entry.cooldown) + (busy if entry.cooldown_from == "finish" else 0)
    return clock.seconds(max(busy, cooldown, 1))


def mean_part(book: Rulebook, who: str, aimed: str | None = None) -> float:
    """Return what a hit on a whole body of a class is multiplied by on average, or at the part that is aimed at."""
    body = book.classes[who].body
    parts = book.bodies[body].parts if body else {}
    if aimed in parts:
        return parts[aimed or ""].times
    if body and book.bodies[body].segmented:
        return list(parts.values())[-1].times
    return sum(part.share * part.times for part in parts.values()) if parts else 1.0
