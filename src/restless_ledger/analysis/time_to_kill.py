"""Strokes: one ability used on somebody again and again, exactly: how many hits, uses and seconds it takes."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import cached_property
from typing import Any

import numpy as np

from ..formula.rounding import nearest_whole
from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.effect_lists import branches
from ..rulebook.effects import DamageEffect
from ..rulebook.pages import FACTS
from ..rulebook.words import Targets
from ..sheets import Sheet
from ..sheets.altered import usable
from ..sheets.hit import Page, single
from ..sheets.hits import dealer_lines, effect_times, meet, rolled_lines, taker_lines
from ..sheets.resolve import THOUSAND
from ..statistics.distribution import ENOUGH, Distribution, TooFine, mixed, quantile_of
from .expected_damage import downing_effects, seconds_between, stretched
from .hit_distribution import taken_by
from .left_out import fronts_of, left_out

MOST_USES = 2000
FEW_VALUES, MOST_STEPS = 64, 50_000
FINEST = 20
"""Thousandths of a point that are kept apart where nothing finer is asked for: it changes no chance by a millionth."""


@frozen
class TimeToKill:
    """One ability of somebody, used on somebody else as they open, and nothing coming back in between."""

    ability: str
    label: str
    lands: float
    """The chance of its first hit to land."""
    amount: Distribution
    """What a use takes where its first hit lands, in thousandths of a point."""
    use: Distribution
    """What a use takes, misses and all."""
    health: int
    """What there is to take, what stands in front included, in thousandths of a point."""
    first_seconds: float
    """From its use until it lands."""
    seconds: float
    """From one use to the next."""
    shared_out: bool = False
    """Whether the amounts are shared out to steps of some thousandths, as they are too many."""

    @cached_property
    def hits_to_kill(self) -> dict[int, float]:
        """The chance of each number of uses that land until nothing is left; empty where they take nothing."""
        return _counts(self.amount, self.health, self.shared_out)

    @cached_property
    def uses_to_kill(self) -> dict[int, float]:
        """The chance of each number of uses until nothing is left, whether they land or not."""
        return _counts(self.use, self.health, self.shared_out)

    def seconds_to_kill(self, share: float) -> float:
        """Return a quantile of the time until nothing is left, in seconds (or rounds); infinite where it never is."""
        if not self.uses_to_kill:
            return float("inf")
        return self.first_seconds + (quantile_of(self.uses_to_kill, share) - 1) * self.seconds

    def record(self) -> dict[str, Any]:
        """Return the kill as a record: medians, and what 10% and 90% stay below."""
        hits = [quantile_of(self.hits_to_kill, share) if self.hits_to_kill else None for share in (0.1, 0.5, 0.9)]
        seconds = [self.seconds_to_kill(share) for share in (0.1, 0.5, 0.9)]
        names = ("hits_10", "hits", "hits_90", "seconds_10", "seconds", "seconds_90")
        return {
            "ability": self.ability,
            "lands": self.lands,
            "amount": self.amount.mean / THOUSAND,
            **dict(zip(names, (*hits, *seconds), strict=True)),
        }


def times_to_kill(book: Rulebook, dealer: Sheet, taker: Sheet, finest: int = FINEST) -> list[TimeToKill]:
    """Return every ability of a character that takes something off another's gauge that downs, quickest first.

    Both are as they open: at full health, without the buffs and the marks that a fight brings, nowhere in particular.
    Costs are not looked at. Amounts are kept apart by `finest` thousandths of a point, or whole points where they are
    rounded.
    """
    found = [kill for name in dealer.abilities for kill in _time_to_kill(book, name, dealer, taker, finest)]
    return sorted(found, key=lambda kill: kill.seconds_to_kill(0.5))


def _time_to_kill(book: Rulebook, name: str, dealer: Sheet, taker: Sheet, finest: int) -> Iterator[TimeToKill]:
    try:
        yield from _told(book, name, dealer, taker, finest)
    except TooFine:
        return  # amounts of so many parts have no count that could be told


def _told(book: Rulebook, name: str, dealer: Sheet, taker: Sheet, finest: int) -> Iterator[TimeToKill]:
    ability, downing = usable(book, dealer, name), book.downing_gauge
    if left_out(book, taker):
        return
    effects = downing_effects(book, ability)
    if branches(ability.effects):
        return  # one use has more ways to come out than one hit after the other
    if ability.targets != Targets.FOES or not effects or downing not in taker.gauges:
        return
    hits = [_hit(book, effect, dealer, taker) for effect in effects]
    rest = Distribution.certain(0)
    for lands, amount in hits[:0:-1]:  # what follows a missed hit does not reach its target
        rest = _maybe(lands, amount + rest)
    health = sum(
        int(nearest_whole(THOUSAND * taker.gauges[name].begins)) for name in (downing or "", *fronts_of(book, taker))
    )
    whole = hits[0][1] + rest
    lands, exact = hits[0][0], _in_steps(whole, health)
    amount = exact or whole.coarser(max(finest, health // MOST_STEPS))
    shared_out = exact is None and whole.step < amount.step
    label = ability.label or name
    first = book.clock.seconds(single(stretched(book.clock, ability.windup, _page(dealer))))
    every = single(seconds_between(book.clock, ability, _page(dealer)))
    yield TimeToKill(name, label, lands, amount, _maybe(lands, amount), health, first, every, shared_out)


def _in_steps(amount: Distribution, health: int) -> Distribution | None:
    """Return an amount over the largest steps that its values and what there is to take have in common; None where
    they are too many."""
    values = amount.values[amount.probabilities > 0].astype(np.int64)
    step = math.gcd(health, *values.tolist()) if len(values) <= FEW_VALUES else 0
    if step == 0 or health // step > MOST_STEPS:
        return None
    low = int(values.min()) // step
    shares = np.zeros(int(values.max()) // step - low + 1)
    np.add.at(shares, values // step - low, amount.probabilities[amount.probabilities > 0])
    return Distribution(low, shares, step)


def _maybe(chance: float, amount: Distribution) -> Distribution:
    return mixed([Distribution.certain(0).weighted(1 - chance), amount.weighted(chance)])


def _hit(book: Rulebook, effect: DamageEffect, dealer: Sheet, taker: Sheet) -> tuple[float, Distribution]:
    """Return the chance of one hit to land, and the distribution of what it takes if it does."""
    kind, dealing, body = book.damage[effect.damage], _page(dealer), book.classes[taker.who].body
    dealt, taken = dealer_lines(kind, dealing, rolled_lines(kind, dealing)), taker_lines(kind, _page(taker), taker.who)
    hit = meet(kind, dealt, taken, float(dealer.level - taker.level), effect_times(effect, dealing))
    hit = hit.striking(book.bodies[body] if body else None, _page(taker), effect.part)
    return single(hit.connects), taken_by(hit)


def _page(sheet: Sheet) -> Page:
    page = {**dict.fromkeys((*FACTS, "safe_speed"), 0.0), **sheet.page}
    return {name: np.full(1, value) for name, value in page.items()}


def _counts(amount: Distribution, health: int, shared_out: bool) -> dict[int, float]:
    """Return the chance of each number of amounts that it takes to reach a sum. Amounts may be `shared_out` to steps
    that they do not lie on."""
    found: dict[int, float] = {}
    if amount.mean <= 0:
        return found
    left = Distribution.certain(health)
    if shared_out:
        # what lies between two steps is shared out to both, so that half a step is too much to take, less the half of a
        # thousandth by which whole thousandths lie above what is between them
        less = 0.5 / amount.step
        left = left + Distribution(0, np.array([0.5 + less, 0.5 - less]), amount.step)
    for count in range(1, MOST_USES + 1):
        down, left = (left + -amount).clamped(0, 2 * health).split_at_zero()
        if down > 0:
            found[count] = down
        if float(left.probabilities.sum()) < ENOUGH:
            break
    return found
