"""The usual mistakes of a game that follows a rulebook: each a change of what the rules say."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ..frozen_classes import frozen
from .expressions import Expression, Function
from .interpret import replaced


@frozen
class Mistake:
    """One mistake: its name, what is said of it, and what it changes: a hit's function, or one of the words below."""

    name: str
    says: str
    hit: Callable[[Function], Function] | None = None
    page: str = ""
    """How characters come out wrong: `level_below`, `level_above`, `no_gear`, `multiplied`, `no_buffs`,
    `endless_buffs`."""
    booking: str = ""
    """How gauges are booked wrong: `stale_top`, `no_floor`, `no_top`."""


Change = Callable[[Function], Function]
FACTORS = ("times", "part_times", "critical_times", "spread_times", "scale")
CRITICAL = ("critical_chance", "each_times", "sure", "tiers", "critical_times")


def _to(step: str, value: Expression) -> Change:
    """Return a change that gives a step of a hit another value; a hit without the step stays as it is."""
    return lambda function: replaced(function, **{step: value})


def _by(step: str, change: Callable[[Expression], Expression]) -> Change:
    """Return a change that makes something of the value of a step; a hit without the step stays as it is."""

    def changed(function: Function) -> Function:
        found = next((each.value for each in function.steps if each.name == step), None)
        return function if found is None else replaced(function, **{step: change(found)})

    return changed


def _of_the_dealer(value: Expression) -> Expression:
    """Return an expression that reads the dealer's page in place of the taker's."""
    if isinstance(value, tuple):
        if value[0] == "page":
            return ("page", "dealer", value[2])
        return (value[0], *(_of_the_dealer(each) for each in value[1:]))
    return value


def _struck(*factors: str) -> Change:
    """Multiply what settled by these factors alone."""
    value: Expression = "settled"
    for factor in factors:
        value = ("*", value, factor)
    return _to("struck", value)


def _without(*factors: str) -> tuple[str, ...]:
    return tuple(each for each in FACTORS if each not in factors)


def _early_critical(function: Function) -> Function:
    """Multiply by the critical before soak is taken off."""
    first = [step for step in function.steps if step.name in CRITICAL]
    rest = [step for step in function.steps if step.name not in CRITICAL]
    at = next(place for place, step in enumerate(rest) if step.name == "meet.power")
    early = rest[at]._replace(value=("*", "power", "critical_times"))
    return _struck(*_without("critical_times"))(replace(function, steps=(*rest[:at], *first, early, *rest[at + 1 :])))


WHOLE: Expression = ("*", "blocked", "graze_times")
"""The amount of a hit before it is rounded."""
NO_CLASS: Expression = ("*", "struck", ("*", "resist_times", "guard_times"))
OF_HITS: tuple[tuple[str, str, Change], ...] = (
    ("soak_left_out", "soak is left out", _to("soak", 0.0)),
    ("soak_twice", "soak is taken off twice", _by("soak", lambda soak: ("*", 2.0, soak))),
    ("soak_of_the_dealer", "soak is read from the dealer", _by("soak", _of_the_dealer)),
    ("early_critical", "a critical multiplies before soak is taken off, not after", _early_critical),
    ("no_critical", "criticals do not multiply", _to("critical_times", 1.0)),
    ("critical_added", "a critical adds its factor to the whole hit", _by("each_times", lambda each: ("+", 1.0, each))),
    ("rounded_down", "amounts are rounded down", _to("whole", ("floor", WHOLE))),
    ("rounded_up", "amounts are rounded up", _to("whole", ("ceil", WHOLE))),
    ("rounded_nearest", "amounts are rounded to the nearest", _to("whole", ("round", WHOLE))),
    ("not_rounded", "amounts are not rounded", _to("whole", WHOLE)),
    ("rounded_early", "what settles is rounded down before its factors", _by("settled", lambda each: ("floor", each))),
    ("no_resistance", "resistance is left out", _to("resist_times", 1.0)),
    ("resistance_of_the_dealer", "resistance is read from the dealer", _by("resist_times", _of_the_dealer)),
    ("resistance_upside_down", "resistance makes hits stronger", _by("resist_times", lambda each: ("-", 2.0, each))),
    ("resistance_twice", "resistance is applied twice", _by("resist_times", lambda each: ("*", each, each))),
    ("no_part", "the factor of the part is left out", _struck(*_without("part_times"))),
    ("part_twice", "the factor of the part is applied twice", _struck("part_times", *FACTORS)),
    ("no_spread", "amounts do not vary", _to("spread_times", 1.0)),
    ("spread_upside_down", "spread is drawn upside down", _by("spread_times", lambda each: ("-", 2.0, each))),
    ("no_guard", "the guard stance is left out", _to("guard_times", 1.0)),
    ("no_class_table", "what a kind does to a class is left out", _to("held_back", NO_CLASS)),
    ("no_limits", "the least and the most are left out", _to("amount", ("choose", "missed", 0.0, "whole"))),
    ("landing_upside_down", "a draw below the chance misses, one above lands", _to("over", ("<", "land", "lands"))),
    ("dodge_left_out", "dodging is left out", _to("meet.dodge", 0.0)),
)
OF_PAGES = (
    ("level_below", "figures are those of one level below"),
    ("level_above", "figures are those of one level above"),
    ("no_gear", "gear is left out"),
    ("multiplied", "percentages are multiplied instead of summed"),
    ("no_buffs", "buffs are left out"),
    ("endless_buffs", "a buff never ends"),
)
OF_BOOKING = (
    ("stale_top", "the top of a gauge did not grow along"),
    ("no_floor", "a gauge goes below its bottom"),
    ("no_top", "a gauge goes above its top"),
)
MISTAKES: tuple[Mistake, ...] = (
    *(Mistake(name, says, hit=change) for name, says, change in OF_HITS),
    *(Mistake(name, says, page=name) for name, says in OF_PAGES),
    *(Mistake(name, says, booking=name) for name, says in OF_BOOKING),
)
"""Each mistake that is tried."""
