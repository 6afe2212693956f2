"""Effects: what an ability, a beat of a buff, a reaction or a supply does to whom."""

from __future__ import annotations

from typing import Annotated

from pydantic import Discriminator, Tag

from .meaning import BuffName, DamageName, GaugeName, HealingName, PartName, UserFormula
from .quantities import Count, Entry, Name, named_one_of
from .words import Among, Receiver

To = Annotated[Receiver, Among(Receiver.TARGET, Receiver.USER)]


class DamageEffect(Entry):
    """`{ damage = "crush", times = 0.4 }`: a hit of a kind; `times` multiplies what is settled.

    `times` may be a formula on the user's page. `part` aims at a part; `steal` (user's page) is the share of what
    was booked that heals the user.
    """

    damage: DamageName
    """The kind of damage of this hit."""
    times: UserFormula | None = None
    """What the amount is multiplied by, on the user's page."""
    to: To = Receiver.TARGET
    """Who receives it."""
    part: PartName | None = None
    """The part that it aims at."""
    steal: UserFormula | None = None
    """The share of what was booked that heals the user, on the user's page."""


class FillEffect(Entry):
    """`{ fill = "10 + wits", gauge = "breath" }`: fills a gauge by a formula on the user's page."""

    fill: UserFormula
    """How much it fills, on the user's page."""
    gauge: GaugeName | None = None
    """The gauge that it fills. Without it, the one that takes its character down."""
    to: To = Receiver.TARGET
    """Who receives it."""


class HealEffect(Entry):
    """`{ heal = "balm", times = 0.5 }`: heals by a healing kind, with its power, soak, critical and spread."""

    heal: HealingName
    """The kind of healing."""
    times: UserFormula | None = None
    """What the amount is multiplied by, on the user's page."""
    to: To = Receiver.TARGET
    """Who receives it."""


class DrainEffect(Entry):
    """`{ drain = "5", gauge = "breath" }`: empties a gauge by a formula on the user's page; no hit, no soak."""

    drain: UserFormula
    """How much it takes away, on the user's page. It is no hit, and nothing is held against it."""
    gauge: GaugeName
    """The gauge that it empties."""
    to: To = Receiver.TARGET
    """Who receives it."""


class GiveEffect(Entry):
    """`{ give = "scalded", strength = "wits / 20" }`: a buff; its strength is read on the user's page."""

    give: BuffName
    """The buff."""
    strength: UserFormula | None = None
    """How strong the buff is, on the user's page."""
    to: To = Receiver.TARGET
    """Who receives it."""


class BuildupEffect(Entry):
    """`{ buildup = "burning", amount = 45 }`: adds to a buff's meter; the buff catches when that is full."""

    buildup: BuffName
    """The buff whose meter is filled."""
    amount: UserFormula
    """How much the meter is filled, on the user's page."""
    to: To = Receiver.TARGET
    """Who receives it."""


class StripEffect(Entry):
    """`{ strip = "debuff", most = 1 }`: takes off buffs by name, by kind or by mark, the newest first."""

    strip: Name
    """What is taken off: a buff by its name, or buffs of a kind or with a mark. The newest goes first."""
    most: Count = 1000
    """How many are taken off at most."""
    to: To = Receiver.TARGET
    """Who receives it."""


class PushEffect(Entry):
    """`{ push = 5 }`, `{ pull = 5 }`: metres per second away from the user or towards it, over the target's weight."""

    push: UserFormula | None = None
    """The speed away from the user, in metres per second, for a weight of 1."""
    pull: UserFormula | None = None
    """The speed towards the user, in metres per second, for a weight of 1."""
    to: To = Receiver.TARGET
    """Who receives it."""


class ReviveEffect(Entry):
    """`{ revive = 0.5 }`: brings back a unit that is down, with this share of the gauge that downs; user's page."""

    revive: UserFormula
    """The share of the full gauge with which the target stands up, on the user's page."""
    to: To = Receiver.TARGET
    """Who receives it."""


Effect = Annotated[
    Annotated[DamageEffect, Tag("DamageEffect")]
    | Annotated[FillEffect, Tag("FillEffect")]
    | Annotated[HealEffect, Tag("HealEffect")]
    | Annotated[DrainEffect, Tag("DrainEffect")]
    | Annotated[GiveEffect, Tag("GiveEffect")]
    | Annotated[BuildupEffect, Tag("BuildupEffect")]
    | Annotated[StripEffect, Tag("StripEffect")]
    | Annotated[PushEffect, Tag("PushEffect")]
    | Annotated[ReviveEffect, Tag("ReviveEffect")],
    Discriminator(
        named_one_of(
            damage="DamageEffect",
            fill="FillEffect",
            heal="HealEffect",
            drain="DrainEffect",
            give="GiveEffect",
            buildup="BuildupEffect",
            strip="StripEffect",
            push="PushEffect",
            pull="PushEffect",
            revive="ReviveEffect",
        ),
        custom_error_type="effect",
        custom_error_message="an effect has exactly one of damage, heal, fill, drain, give, buildup, strip, push, "
        "pull or revive",
    ),
]
