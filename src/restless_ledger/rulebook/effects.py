"""Effects: what an ability, or a beat of a buff, does to whom."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Discriminator, Field, Tag

from .pages import character_page
from .problems import Report
from .quantities import Entry, Formula, Name, Number, named_one_of

if TYPE_CHECKING:
    from .rulebook import Rulebook

Receiver = Literal["target", "user"]


class DamageEffect(Entry):
    """`{ damage = "crush", times = 0.4 }`: a hit of a kind; `times` multiplies what is settled."""

    damage: Name
    times: Annotated[Number, Field(ge=0)] = 1.0
    to: Receiver = "target"


class HealEffect(Entry):
    """`{ heal = "10 + wits", gauge = "breath" }`: by a formula on the user's page."""

    heal: Formula
    gauge: Name | None = None
    to: Receiver = "target"


class GiveEffect(Entry):
    """`{ give = "scalded" }`: a buff."""

    give: Name
    to: Receiver = "target"


Effect = Annotated[
    Annotated[DamageEffect, Tag("DamageEffect")]
    | Annotated[HealEffect, Tag("HealEffect")]
    | Annotated[GiveEffect, Tag("GiveEffect")],
    Discriminator(
        named_one_of(damage="DamageEffect", heal="HealEffect", give="GiveEffect"),
        custom_error_type="effect",
        custom_error_message="an effect has exactly one of damage, heal or give",
    ),
]


def check_effects(book: Rulebook, report: Report, path: tuple, effects: list[Effect]) -> None:
    """Everything an effect names must exist."""
    for index, effect in enumerate(effects):
        here = (*path, index)
        match effect:
            case DamageEffect():
                report.reference((*here, "damage"), "damage kind", effect.damage, "damage", book.damage)
            case HealEffect():
                report.formula((*here, "heal"), effect.heal, character_page(book))
                report.reference((*here, "gauge"), "gauge", effect.gauge, "gauges", book.gauges)
            case GiveEffect():
                report.reference((*here, "give"), "buff", effect.give, "buffs", book.buffs)
