"""Abilities: what a character can do, what it costs, how long it takes and what it does."""

from __future__ import annotations

from decimal import Decimal
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .effects import DamageEffect, Effect, check_effects
from .pages import character_page
from .problems import Report
from .quantities import Count, Duration, DurationField, Entry, Formula, Label, LengthField, Name, SpeedField
from .reactions import Reaction, check_reactions
from .stats import StatChange

if TYPE_CHECKING:
    from .rulebook import Rulebook

NO_TIME = Duration(Decimal(0), "ticks")


class Area(Entry):
    """`area = { radius = "1.2 m", most = 3, falloff = 0.5 }`: others near the target, on the target's side.

    `falloff` is the share of the amount that is gone at the rim. Without a place everybody is near.
    """

    radius: LengthField
    most: Count = 1000
    falloff: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0


class Ability(Entry):
    """`[abilities.hook_swing]`. Used on tick t it lands on t + windup, its user is free on t + windup + recovery
    and it is ready again on t + cooldown (with `cooldown_from = "finish"`, that long after its user is free).

    `charges` can be used one after the other and come back one a cooldown; abilities of one `shared` group cool
    down together; `uses` is how often in a fight. A passive ability is never used: it has stat lines and reactions.
    """

    label: Label | None = None
    school: Name | None = None
    on: Literal["foe", "ally", "self", "fallen_ally"] = "foe"
    cost: dict[Name, Formula] = Field(default_factory=dict)
    windup: DurationField = NO_TIME
    recovery: DurationField = NO_TIME
    cooldown: DurationField = NO_TIME
    cooldown_from: Literal["use", "finish"] = "use"
    cooldown_times: Formula | None = None
    charges: int = Field(1, ge=1, le=1000)
    shared: Name | None = None
    uses: Count | None = None
    interruptible: bool = False
    reach: LengthField | None = None
    area: Area | None = None
    projectile: SpeedField | None = None
    lunge: LengthField | None = None
    dash: SpeedField | None = None
    does: list[Effect] = Field(default_factory=list)
    passive: bool = False
    stats: dict[Name, StatChange] = Field(default_factory=dict)
    reacts: list[Reaction] = Field(default_factory=list)

    @property
    def harms(self) -> bool:
        return any(isinstance(effect, DamageEffect) for effect in self.does)


def check(book: Rulebook, report: Report) -> None:
    """Everything an ability names must exist; a passive one has lines, any other one does something."""
    for name, ability in book.abilities.items():
        here = ("abilities", name)
        for gauge, amount in ability.cost.items():
            report.reference((*here, "cost", gauge), "gauge", gauge, "gauges", book.gauges)
            report.formula((*here, "cost", gauge), amount, character_page(book))
        report.formula((*here, "cooldown_times"), ability.cooldown_times, character_page(book))
        check_effects(book, report, (*here, "does"), ability.does)
        check_reactions(book, report, (*here, "reacts"), ability.reacts)
        for stat in ability.stats:
            report.reference((*here, "stats", stat), "stat", stat, "stats", book.stats)
        active = [key for key in ("does", "cost", "uses", "area", "projectile") if key in ability.model_fields_set]
        passive = [key for key in ("stats", "reacts") if key in ability.model_fields_set]
        if ability.passive and active:
            report.add((*here, active[0]), "a passive ability is never used", active[0], "remove it, or remove passive")
        if not ability.passive and passive:
            report.add(
                (*here, passive[0]),
                "only a passive ability has lines of its own",
                passive[0],
                "write passive = true, or give a buff",
            )
        broken = name in report.broken.get("abilities", ())
        if not ability.passive and not broken and not (ability.does or ability.lunge or ability.dash):
            report.add((*here, "does"), "this ability does nothing", "", "write does = [...]")
