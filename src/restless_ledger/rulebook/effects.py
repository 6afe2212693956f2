"""Effects: what an ability, a beat of a buff, a reaction or a supply does to whom."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Discriminator, Tag

from .pages import character_page, marks, page_with
from .problems import Report, nearest
from .quantities import Count, Entry, Formula, Name, named_one_of

if TYPE_CHECKING:
    from .rulebook import Rulebook

Receiver = Literal["target", "user"]


class DamageEffect(Entry):
    """`{ damage = "crush", times = 0.4 }`: a hit of a kind; `times` multiplies what is settled.

    `times` may be a formula on the user's page. `part` aims at a part; `steal` (user's page) is the share of what
    was booked that heals the user.
    """

    damage: Name
    times: Formula | None = None
    to: Receiver = "target"
    part: Name | None = None
    steal: Formula | None = None


class HealEffect(Entry):
    """`{ heal = "10 + wits", gauge = "breath" }`: fills a gauge by a formula on the user's page."""

    heal: Formula
    gauge: Name | None = None
    to: Receiver = "target"


class MendEffect(Entry):
    """`{ mend = "balm", times = 0.5 }`: heals by a healing kind, with its power, soak, critical and spread."""

    mend: Name
    times: Formula | None = None
    to: Receiver = "target"


class DrainEffect(Entry):
    """`{ drain = "5", gauge = "breath" }`: empties a gauge by a formula on the user's page; no hit, no soak."""

    drain: Formula
    gauge: Name
    to: Receiver = "target"


class GiveEffect(Entry):
    """`{ give = "scalded", strength = "wits / 20" }`: a buff; its strength is read on the user's page."""

    give: Name
    strength: Formula | None = None
    to: Receiver = "target"


class BuildupEffect(Entry):
    """`{ buildup = "burning", amount = 45 }`: adds to a buff's meter; the buff catches when that is full."""

    buildup: Name
    amount: Formula
    to: Receiver = "target"


class StripEffect(Entry):
    """`{ strip = "debuff", most = 1 }`: takes off buffs by name, by kind or by mark, the newest first."""

    strip: Name
    most: Count = 1000
    to: Receiver = "target"


class PushEffect(Entry):
    """`{ push = 5 }`, `{ pull = 5 }`: metres per second away from the user or towards it, over the target's weight."""

    push: Formula | None = None
    pull: Formula | None = None
    to: Receiver = "target"


class ReviveEffect(Entry):
    """`{ revive = 0.5 }`: brings back one who is down, with this share of the gauge that downs; user's page."""

    revive: Formula
    to: Receiver = "target"


Effect = Annotated[
    Annotated[DamageEffect, Tag("DamageEffect")]
    | Annotated[HealEffect, Tag("HealEffect")]
    | Annotated[MendEffect, Tag("MendEffect")]
    | Annotated[DrainEffect, Tag("DrainEffect")]
    | Annotated[GiveEffect, Tag("GiveEffect")]
    | Annotated[BuildupEffect, Tag("BuildupEffect")]
    | Annotated[StripEffect, Tag("StripEffect")]
    | Annotated[PushEffect, Tag("PushEffect")]
    | Annotated[ReviveEffect, Tag("ReviveEffect")],
    Discriminator(
        named_one_of(
            damage="DamageEffect",
            heal="HealEffect",
            mend="MendEffect",
            drain="DrainEffect",
            give="GiveEffect",
            buildup="BuildupEffect",
            strip="StripEffect",
            push="PushEffect",
            pull="PushEffect",
            revive="ReviveEffect",
        ),
        custom_error_type="effect",
        custom_error_message="an effect has exactly one of damage, heal, mend, drain, give, buildup, strip, push, "
        "pull or revive",
    ),
]
AMOUNTS = ("times", "steal", "heal", "drain", "strength", "amount", "push", "pull", "revive")
"""The keys of effects that are formulas on the user's page."""


def check_effects(book: Rulebook, report: Report, path: tuple, effects: list[Effect], *facts: str) -> None:
    """Everything an effect names must exist; `facts` are what its formulas may read beside the user's page."""
    page = page_with(book, *facts) if facts else character_page(book)
    for index, effect in enumerate(effects):
        here = (*path, index)
        for key in AMOUNTS:
            report.formula((*here, key), getattr(effect, key, None), page)
        if gauge := getattr(effect, "gauge", None):
            report.reference((*here, "gauge"), "gauge", gauge, "gauges", book.gauges)
        match effect:
            case DamageEffect():
                report.reference((*here, "damage"), "damage kind", effect.damage, "damage", book.damage)
                parts = [part for body in book.bodies.values() for part in body.parts]
                report.reference((*here, "part"), "part", effect.part, "bodies", parts)
            case MendEffect():
                report.reference((*here, "mend"), "healing kind", effect.mend, "healing", book.healing)
            case GiveEffect():
                report.reference((*here, "give"), "buff", effect.give, "buffs", book.buffs)
            case BuildupEffect():
                report.reference((*here, "buildup"), "buff", effect.buildup, "buffs", book.buffs)
                buff = book.buffs.get(effect.buildup)
                if buff and buff.catches_at is None:
                    report.add(
                        (*here, "buildup"),
                        "this buff has no meter to fill",
                        effect.buildup,
                        f"write catches_at in buffs.{effect.buildup}, or use give",
                    )
            case StripEffect() if not stripped(book, effect.strip) and not report.broken.get("buffs"):
                words = [*book.buffs, *marks(book), *dict.fromkeys(buff.kind for buff in book.buffs.values())]
                report.add(
                    (*here, "strip"), "no buff has this name, kind or mark", effect.strip, nearest(effect.strip, words)
                )


def stripped(book: Rulebook, word: str) -> list[str]:
    """Return the buffs that a word stands for: a buff's name, a kind of buffs, or a mark."""
    return [name for name, buff in book.buffs.items() if word == name or word == buff.kind or word in buff.marks]
