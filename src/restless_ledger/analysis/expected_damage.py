"""ExpectedDamage: what an ability does to somebody on average, worked out on the formulas at every level at once."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from ..formula import evaluate
from ..formula.arrays import Array
from ..formula.rounding import whole_above
from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..rulebook.clock import Clock
from ..rulebook.effects import ChoiceEffect, DamageEffect, Effect, GroupEffect
from ..rulebook.meaning import Timed
from ..rulebook.words import After, Receiver
from ..sheets.by_level import Forms, forms_by_level, page_by_level
from ..sheets.hit import Hit, Page
from ..sheets.hits import Lines, dealer_lines, effect_times, meet, rolled_lines, taker_lines

FEW = 8
"""Of how many times as many pairs of classes all takers are worked out at once."""


@dataclass(frozen=True)
class ExpectedHit:
    """One use of an ability on somebody at full health, at each level, of shape (levels,).

    `amount` is what its hits take when they land, on average over parts, criticals and spread, resistance and class
    table included; `lands` the chance of its first hit.
    """

    amount: Array
    lands: Array
    seconds: Array
    """How long until the same ability can be used again, in seconds (or rounds)."""

    @property
    def per_second(self) -> Array:
        """What it takes on average for each second, misses counted, of shape (levels,)."""
        return self.lands * self.amount / self.seconds


class ExpectedDamage:
    """The average blows of one rulebook. What two of them have in common is worked out once."""

    def __init__(self, book: Rulebook, meetings: int | None = None) -> None:
        """`meetings` says how many pairs of classes will be asked for, if it is known: of few, each is worked out by
        itself; of many, all takers of a dealer's hit are worked out at once."""
        self.book = book
        self._pairwise = meetings is not None and FEW * meetings < len(book.classes) ** 2
        self._uses: dict[tuple[str, str, str], ExpectedHit] = {}
        self._alone: dict[tuple[str, str, str], Hit] = {}
        self._dealing: dict[tuple[str, str], Lines] = {}
        self._taking: dict[str, Lines] = {}
        self._taken: dict[tuple[str, str], Lines] = {}
        self._met: dict[tuple[str, str], Hit] = {}
        self._rows = {who: row for row, who in enumerate(book.classes)}
        self._seconds: dict[tuple[str, str], Array] = {}

    def of_ability(self, by: str, on: str, ability: str) -> ExpectedHit:
        """Return what a class's ability does to a class of the same level, on the gauge that takes it down."""
        if (by, on, ability) not in self._uses:
            self._uses[by, on, ability] = self._of_ability(by, on, ability)
        return self._uses[by, on, ability]

    def _of_ability(self, by: str, on: str, ability: str) -> ExpectedHit:
        forms = forms_by_level(self.book, by, ability)
        amounts, chances = zip(*(self._of_form(by, on, form) for form, _ in forms), strict=True)
        amount, lands = (_by_form(forms, values) for values in (amounts, chances))
        return ExpectedHit(amount, lands, self.seconds(by, ability))

    def _of_form(self, by: str, on: str, ability: Ability) -> tuple[Array, Array]:
        """Return what an ability takes, as it is altered, and the chance of its first hit, at every level."""
        pages = page_by_level(self.book, by), page_by_level(self.book, on)
        count = len(pages[0]["level"])
        amount, first = np.zeros(count), None
        several = len(ability.effects) > 1
        for effect, often, last in in_order(ability.does, *pages):
            hit = self.hit(effect.damage, by, on, effect.part)
            reads = effect.times is not None and "booked" in effect.times.names
            page = {**pages[0], "booked": last.booked_by(effect.after)} if reads else pages[0]
            times = effect_times(effect, page)
            taken = hit.multiplied(times).mean
            if several:
                last.hit(np.minimum(1.0, hit.critical_chance), hit.critical_times, taken)
            if self.book.damage[effect.damage].gauge in (None, self.book.downing_gauge):
                amount = amount + taken * often
                first = hit.connects if first is None else first
        return amount, np.zeros(count) if first is None else first

    def seconds(self, by: str, ability: str) -> Array:
        """Return how long it is at least from one use by a class to the next, at each level (see `seconds_between`)."""
        if (by, ability) not in self._seconds:
            page = page_by_level(self.book, by)
            forms, shape = forms_by_level(self.book, by, ability), np.shape(page["level"])
            every = [np.broadcast_to(seconds_between(self.book.clock, form, page), shape) for form, _ in forms]
            self._seconds[by, ability] = _by_form(forms, every)
        return self._seconds[by, ability]

    def hits_to_kill(self, by: str, on: str, ability: str) -> Array:
        """Return how many average hits that land take a class from full to zero, at each level: infinite where they
        take nothing."""
        top = page_by_level(self.book, on)[f"{self.book.downing_gauge}_top"]
        amount = self.of_ability(by, on, ability).amount
        with np.errstate(all="ignore"):
            return np.where(amount > 0, np.ceil(top / np.maximum(amount, 1e-300) - 1e-9), np.inf)

    def hit(self, kind: str, by: str, on: str, part: str | None = None) -> Hit:
        """Return one hit of a kind between two classes of the same level, at each level, of shape (levels,)."""
        alone = self._between(kind, by, on) if self._pairwise else self._among_all(kind, by, on)
        body = self.book.classes[on].body
        return alone.striking(self.book.bodies[body], page_by_level(self.book, on), part) if body else alone

    def _between(self, kind: str, by: str, on: str) -> Hit:
        """Return a hit between two classes, worked out by itself."""
        if (kind, by, on) not in self._alone:
            entry = self.book.damage[kind]
            if (kind, on) not in self._taken:
                self._taken[kind, on] = taker_lines(entry, page_by_level(self.book, on), on)
            self._alone[kind, by, on] = meet(entry, self._dealer(kind, by, 1), self._taken[kind, on])
        return self._alone[kind, by, on]

    def _among_all(self, kind: str, by: str, on: str) -> Hit:
        """Return a hit between two classes, worked out together with those on all other classes."""
        if (kind, by) not in self._met:
            self._met[kind, by] = meet(self.book.damage[kind], self._dealer(kind, by, 2), self._takers(kind))
        return self._met[kind, by].of(self._rows[on], self._takers(kind)["held"].shape)

    def _dealer(self, kind: str, who: str, axes: int) -> Lines:
        if (kind, who) not in self._dealing:
            entry, page = self.book.damage[kind], page_by_level(self.book, who)
            self._dealing[kind, who] = dealer_lines(entry, page, rolled_lines(entry, page, axes))
        return self._dealing[kind, who]

    def _takers(self, kind: str) -> Lines:
        """Return the lines of a kind on the page of every class, and what resistance, guard stance and class table
        leave of a hit: each of shape (classes, levels)."""
        if kind not in self._taking:
            entry = self.book.damage[kind]
            rows = [taker_lines(entry, page_by_level(self.book, who), who) for who in self.book.classes]
            self._taking[kind] = {name: np.stack([row[name] for row in rows]) for name in rows[0]}
        return self._taking[kind]


def _by_form(forms: Forms, values: Sequence[Array]) -> Array:
    """Return at each level the value of the form that an ability has there."""
    return values[0] if len(forms) == 1 else np.select([held for _, held in forms], list(values))


class LastHit:
    """What the last hit of a list did, on average, if it landed."""

    def __init__(self) -> None:
        self.critical: Array | float = 0.0
        self.booked: Array | float = 0.0
        self.critically: Array | float = 0.0

    def hit(self, critical: Array, times: Array, booked: Array) -> None:
        """Remember a hit that landed: how often it is critical, what that multiplies it by, and what it took."""
        self.critical, self.booked = critical, booked
        self.critically = booked * times / np.maximum(1e-300, 1 + critical * (times - 1))

    def booked_by(self, after: After | None) -> Array | float:
        """Return what it took, where it is followed by what comes `after` it."""
        return self.critically if after is After.CRITICAL else self.booked

    def share(self, after: After | None) -> Array | float:
        """Return how often what comes `after` it follows, of a use whose hits all land."""
        match after:
            case After.CRITICAL:
                return self.critical
            case After.MISS:
                return 0.0
        return 1.0


def in_order(
    effects: Sequence[Effect], mine: Page, theirs: Page, last: LastHit | None = None, often: Array | float = 1.0
) -> Iterator[tuple[DamageEffect, Array | float, LastHit]]:
    """Yield every hit of a list on the target, with how many times it happens on average: conditions are read on both
    pages, and chances, numbers of times and weights count with their share. The caller tells `last` of each hit."""
    last = last or LastHit()
    for effect in effects:
        if effect.to not in (Receiver.TARGET, Receiver.FOES, Receiver.ALL):
            continue
        times = often * _times(effect, mine, theirs) * last.share(effect.after)
        match effect:
            case DamageEffect():
                yield effect, times, last
            case GroupEffect():
                yield from in_order(effect.does, mine, theirs, last, times)
            case ChoiceEffect():
                with np.errstate(all="ignore"):
                    weights = [np.maximum(0.0, evaluate(choice.weight, mine)) for choice in effect.one_of]
                    total = np.maximum(sum(weights), 1e-300)
                for choice, weight in zip(effect.one_of, weights, strict=True):
                    yield from in_order(choice.does, mine, theirs, last, times * weight / total)


def _times(effect: Effect, mine: Page, theirs: Page) -> Array | float:
    """Return how many times an effect happens on average, by its own conditions, chance and number of times."""
    times: Array | float = 1.0
    with np.errstate(all="ignore"):
        if effect.repeat is not None:
            times = np.floor(np.maximum(0.0, evaluate(effect.repeat, mine)))
        if effect.when is not None:
            times = times * (evaluate(effect.when, mine) != 0)
        if effect.if_ is not None:
            times = times * (evaluate(effect.if_, theirs) != 0)
        if effect.chance is not None:
            avoid = evaluate(effect.avoid, theirs) if effect.avoid is not None else 0.0
            times = times * np.clip(evaluate(effect.chance, mine) - avoid, 0.0, 1.0)
    return times


def downing_effects(book: Rulebook, ability: Ability) -> list[DamageEffect]:
    """Return the effects of an ability that harm its target's gauge that downs."""
    return [
        effect
        for effect in ability.does
        if isinstance(effect, DamageEffect)
        and effect.to == "target"
        and book.damage[effect.damage].gauge in (None, book.downing_gauge)
    ]


def seconds_between(clock: Clock, entry: Ability, page: Page) -> Array:
    """Return how long it is at least from one use to the next on its user's page, in seconds (or rounds); never
    nothing. Charges change when they come, and not how many there are in the long run."""
    busy = stretched(clock, entry.windup, page) + stretched(clock, entry.recovery, page)
    cooldown = stretched(clock, entry.cooldown, page) + (busy if entry.cooldown_from == "finish" else 0)
    return np.maximum(np.maximum(busy, cooldown), 1) * clock.seconds(1)


def stretched(clock: Clock, time: Timed, page: Page) -> Array:
    """Return a time in ticks, as long as figures on a page make it."""
    ticks = np.float64(clock.ticks(time))
    if time.times is None:
        return np.asarray(ticks)
    with np.errstate(all="ignore"):
        return np.asarray(whole_above(ticks * np.maximum(0.0, evaluate(time.times, page))))
