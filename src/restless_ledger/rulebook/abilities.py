"""Abilities: what a character can do, what it costs, how long it takes and what it does."""

from __future__ import annotations

from decimal import Decimal
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .effects import DamageEffect, Effect, check_effects
from .pages import character_page
from .problems import Report
from .quantities import Duration, DurationField, Entry, Formula, Label, LengthField, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

NO_TIME = Duration(Decimal(0), "ticks")


class Ability(Entry):
    """`[abilities.hook_swing]`. Used on tick t it lands on t + windup, its user is free on t + windup + recovery
    and it is ready again on t + cooldown. `reach` is read and kept; fights without a place pay it no heed.
    """

    label: Label | None = None
    on: Literal["foe", "ally", "self"] = "foe"
    cost: dict[Name, Formula] = Field(default_factory=dict)
    windup: DurationField = NO_TIME
    recovery: DurationField = NO_TIME
    cooldown: DurationField = NO_TIME
    reach: LengthField | None = None
    does: Annotated[list[Effect], Field(min_length=1)]

    @property
    def harms(self) -> bool:
        return any(isinstance(effect, DamageEffect) for effect in self.does)


def check(book: Rulebook, report: Report) -> None:
    """Everything an ability names must exist."""
    for name, ability in book.abilities.items():
        for gauge, amount in ability.cost.items():
            report.reference(("abilities", name, "cost", gauge), "gauge", gauge, "gauges", book.gauges)
            report.formula(("abilities", name, "cost", gauge), amount, character_page(book))
        check_effects(book, report, ("abilities", name, "does"), ability.does)
