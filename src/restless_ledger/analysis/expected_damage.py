"""ExpectedDamage: what an ability does to somebody on average, worked out on the formulas at every level at once."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np

from ..formula import evaluate
from ..formula.arrays import Array
from ..formula.rounding import whole_above
from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..rulebook.clock import Clock
from ..rulebook.effects import ChoiceEffect, DamageEffect, Effect, GroupEffect
from ..rulebook.meaning import Timed
from ..rulebook.words import After, Receiver
from ..sheets.by_level import Forms, forms_by_level, page_by_level
from ..sheets.hit import Hit, Page, Ways, struck_parts
from ..sheets.hits import Lines, dealer_lines, effect_times, meet, rolled_lines, taker_lines

Takers = tuple[str, ...]
"""Classes that are hit, each by its name."""
FEW = 8
"""Of how many times as many pairs of classes all takers are worked out at once."""


@frozen
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
    """The average blows of one rulebook. What two of them have in common is worked out once: all that a hit does to
    several classes is worked out in one go, on arrays of shape (takers, levels)."""

    def __init__(self, book: Rulebook, meetings: int | None = None) -> None:
        """`meetings` says how many pairs of classes will be asked for, if it is known: of few, each is worked out by
        itself; of many, all takers of a dealer's hit are worked out at once."""
        self.book = book
        self._pairwise = meetings is not None and FEW * meetings < len(book.classes) ** 2
        self._uses: dict[tuple[str, Takers, str], ExpectedHit] = {}
        self._dealing: dict[tuple[str, str], Lines] = {}
        self._taking: dict[tuple[str, Takers], Lines] = {}
        self._struck: dict[tuple[Takers, str | None], tuple[Array, Ways]] = {}
        self._hits: dict[tuple[str, str, Takers, str | None], Hit] = {}
        self._seconds: dict[tuple[str, str], Array] = {}

    def of_ability(self, by: str, on: str, ability: str) -> ExpectedHit:
        """Return what a class's ability does to a class of the same level, on the gauge that takes it down."""
        takers = self.together(on)
        all_of_them, row = self.on_several(by, takers, ability), takers.index(on)
        return ExpectedHit(all_of_them.amount[row], all_of_them.lands[row], all_of_them.seconds)

    def on_several(self, by: str, takers: Takers, ability: str) -> ExpectedHit:
        """Return what a class's ability does to each of several classes of the same level: `amount` and `lands` are of
        shape (takers, levels)."""
        if (by, takers, ability) not in self._uses:
            forms = forms_by_level(self.book, by, ability)
            amounts, chances = zip(*(self._of_form(by, takers, form) for form, _ in forms), strict=True)
            amount, lands = (_by_form(forms, values) for values in (amounts, chances))
            self._uses[by, takers, ability] = ExpectedHit(amount, lands, self.seconds(by, ability))
        return self._uses[by, takers, ability]

    def _of_form(self, by: str, takers: Takers, ability: Ability) -> tuple[Array, Array]:
        """Return what an ability takes, as it is altered, and the chance of its first hit, at every level."""
        pages = page_by_level(self.book, by), PageOfSeveral(self.book, takers)
        shape = len(takers), len(pages[0]["level"])
        amount, first = np.zeros(shape), None
        several = len(ability.effects) > 1
        for effect, often, last in in_order(ability.does, *pages):
            hit = self._hit(effect.damage, by, takers, effect.part)
            reads = effect.times is not None and "booked" in effect.times.names
            page = {**pages[0], "booked": last.booked_by(effect.after)} if reads else pages[0]
            times = effect_times(effect, page)
            taken = hit.multiplied(times).mean
            if several:
                last.hit(np.minimum(1.0, hit.critical_chance), hit.critical_times, taken)
            if self.book.damage[effect.damage].gauge in (None, self.book.downing_gauge):
                amount = amount + taken * often
                first = hit.connects if first is None else first
        return amount, np.broadcast_to(0.0 if first is None else first, shape)

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
        takers = self.together(on)
        shape = len(takers), len(page_by_level(self.book, on)["level"])
        return self._hit(kind, by, takers, part).of(takers.index(on), shape)

    def together(self, on: str) -> Takers:
        """Return the classes whose hits are worked out together with those on one."""
        return (on,) if self._pairwise else tuple(self.book.classes)

    def _hit(self, kind: str, by: str, takers: Takers, part: str | None) -> Hit:
        """Return one hit of a kind on several classes, of shape (takers, levels)."""
        if (kind, by, takers, part) not in self._hits:
            alone = meet(self.book.damage[kind], self._dealer(kind, by), self._taken(kind, takers))
            self._hits[kind, by, takers, part] = alone.on_parts(*self._parts(takers, part))
        return self._hits[kind, by, takers, part]

    def _dealer(self, kind: str, who: str) -> Lines:
        if (kind, who) not in self._dealing:
            entry, page = self.book.damage[kind], page_by_level(self.book, who)
            self._dealing[kind, who] = dealer_lines(entry, page, rolled_lines(entry, page, taker_axes=2))
        return self._dealing[kind, who]

    def _taken(self, kind: str, takers: Takers) -> Lines:
        """Return the lines of a kind on the pages of several classes, and what resistance, guard stance and class table
        leave of a hit: each of shape (takers, levels)."""
        if (kind, takers) not in self._taking:
            entry = self.book.damage[kind]
            rows = [taker_lines(entry, page_by_level(self.book, who), who) for who in takers]
            self._taking[kind, takers] = {name: np.stack([row[name] for row in rows]) for name in rows[0]}
        return self._taking[kind, takers]

    def _parts(self, takers: Takers, part: str | None) -> tuple[Array, Ways]:
        """Return what the chance to land on each of several classes is multiplied by, and the share and the factor of
        each of its parts. Where one has fewer parts than another, the rest have no share."""
        if (takers, part) not in self._struck:
            bodies = [self.book.bodies.get(self.book.classes[who].body or "") for who in takers]
            struck = [
                struck_parts(body, page_by_level(self.book, who), part)
                for who, body in zip(takers, bodies, strict=True)
            ]
            most = max(len(ways) for _, ways in struck)
            filled = [(*ways, *[(0.0, np.ones(1))] * (most - len(ways))) for _, ways in struck]
            levels = np.shape(page_by_level(self.book, takers[0])["level"])
            ways = tuple(
                (
                    np.array([[row[at][0]] for row in filled]),
                    np.stack([np.broadcast_to(row[at][1], levels) for row in filled]),
                )
                for at in range(most)
            )
            self._struck[takers, part] = np.array([[aim] for aim, _ in struck]), ways
        return self._struck[takers, part]


class PageOfSeveral(Mapping[str, Array]):
    """The pages of several classes as one, whose figures have the shape (classes, levels)."""

    def __init__(self, book: Rulebook, classes: Takers) -> None:
        self._pages = [page_by_level(book, who) for who in classes]

    def __getitem__(self, name: str) -> Array:
        levels = np.shape(self._pages[0]["level"])
        return np.stack([np.broadcast_to(page[name], levels) for page in self._pages])

    def __contains__(self, name: object) -> bool:
        return name in self._pages[0]

    def __iter__(self) -> Iterator[str]:
        return iter(self._pages[0])

    def __len__(self) -> int:
        return len(self._pages[0])


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
