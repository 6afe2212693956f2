"""Promises of duels that are solved exactly: no fight is fought for them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from ...rulebook import InputError, Rulebook
from ...rulebook.encounters import Encounter
from ...rulebook.expectations import NO_WINNER, QUANTILES
from ...rulebook.pages import gauge_names
from ...rulebook.promises import FightPromise
from .claims import Claim, Judgement
from .variants import Variant, variants

if TYPE_CHECKING:
    from ...duels.exact import Exact


FIVE_ERRORS = 3e-7
"""The chance of being five standard errors off on one side."""
CHECKED = 300
"""Fights that check each exact solution."""


def solved(book: Rulebook) -> Iterator[Judgement]:
    """Judge the figures of encounters that can be solved: shares of wins and of survivors, quantiles of lengths."""
    for variant in variants(book):
        promise = book.promises[variant.name]
        if isinstance(promise, FightPromise) and is_simple(book, book.encounters[promise.encounter]):
            solution = _solution(book, promise.encounter, variant)
            contradicted = contradiction(solution, CHECKED) if solution else ""
            for claim in variant.claims if solution else ():
                if (figure := _figure(solution, claim)) is not None:
                    low, high = claim.bounds
                    verdict = None if contradicted else low <= figure <= high
                    note = contradicted or f"solved exactly; {CHECKED} fights do not contradict it"
                    yield claim.judged(book, verdict, figure, figure, figure, note=note)


def is_simple(book: Rulebook, encounter: Encounter) -> bool:
    """Say whether it is worth the engine's while to try: one against one, nowhere, and no play that looks at how much
    is left."""
    groups = [side.units for side in encounter.sides]
    if encounter.arena or [len(units) for units in groups] != [1, 1] or any(units[0].count > 1 for units in groups):
        return False
    amount, _, share = gauge_names(book.downing_gauge or "")
    playbooks = [units[0].playbook or book.classes[units[0].who].playbook for units in groups]
    plays = [play for name in playbooks if name for play in book.playbooks[name].plays]
    conditions = [condition for play in plays for condition in (play.when, play.if_) if condition]
    return not any({amount, share}.intersection(condition.names) for condition in conditions)


def _solution(book: Rulebook, encounter: str, variant: Variant) -> Exact | None:
    from ...duels.exact import exact_or_why
    from ...engine import set_up
    from ...monte_carlo.sample import at_level

    try:
        found = exact_or_why(set_up(book, at_level(book.encounters[encounter], variant.level, variant.handling)))
    except InputError:
        return None  # what can't be set up is told where it is fought
    return None if isinstance(found, str) else found


def contradiction(solution: Exact, fights: int, seed: int = 1) -> str:
    """Fight the same duel; return what of an exact solution the fights contradict by five standard errors, or
    nothing."""
    from ...engine import fight_many
    from ...monte_carlo.trials import Trials
    from ...statistics.intervals import binomial_tails

    trials = Trials(fight_many(solution.setup, fights, seed, chunk=fights))
    for name, chance in solution.chances.items():
        if min(binomial_tails(trials.rate(name).count, fights, chance)) < FIVE_ERRORS:
            return (
                f"a fault of this library, please report it: {name} was solved as {chance:.1%}, and of {fights} "
                f"fights {trials.rate(name).estimate:.1%} end so"
            )
    return ""


def _figure(solution: Exact | None, claim: Claim) -> float | None:
    """Return the value of a figure, or None for those that are not solved: shares of harm and of uses."""
    assert solution
    key, sides = claim.path[0], solution.setup.names.sides
    if key == "wins":
        return solution.chance(claim.path[1])
    if key in ("mutual_downs", "time_outs"):
        return solution.chance(NO_WINNER[key])
    if key == "survival":
        units = [unit for unit in solution.setup.units if unit.sheet.who == claim.path[1]]
        called_off = solution.chance(NO_WINNER["time_outs"])
        return called_off + sum(solution.chance(sides[unit.side]) for unit in units) / len(units)
    if key.startswith("seconds"):
        return solution.seconds(QUANTILES[key.partition("_")[2]])
    return None
