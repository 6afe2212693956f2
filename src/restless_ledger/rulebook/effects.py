"""Effects: what an ability, a beat of a buff, a reaction or a supply does to whom."""

from typing import Annotated

from ..formula import parse
from .any_effect import AnyEffect as AnyEffect
from .entries import Entry, field
from .field_types import Bounds, OneOf, Tag, named_one_of
from .meaning import AbilityName, BuffName, DamageName, GaugeName, HealingName, PartName, Stretching, UserFormula
from .place_effects import MOST_SUMMONED as MOST_SUMMONED
from .place_effects import LayEffect as LayEffect
from .place_effects import PushEffect as PushEffect
from .place_effects import StepEffect as StepEffect
from .place_effects import SummonEffect as SummonEffect
from .quantities import Count, Name


class DamageEffect(AnyEffect):
    """`{ damage = "crush", times = 0.4 }`: a hit of a kind; `times` multiplies what is settled.

    `times` may be a formula on the user's page. `part` aims at a part; `steal` (user's page) is the share of what
    was booked that heals the user.
    """

    damage: DamageName
    """The kind of damage of this hit."""
    times: UserFormula | None = None
    """What the amount is multiplied by, on the user's page."""
    part: PartName | None = None
    """The part that it aims at."""
    steal: UserFormula | None = None
    """The share of what was booked that heals the user, on the user's page."""


class MendEffect(AnyEffect):
    """`{ mend = 5, part = "legs" }`: fills the gauge of a part's own. One that has broken is whole once full."""

    mend: UserFormula
    """How much it fills, on the user's page."""
    part: PartName
    """The part that it mends."""


class FillEffect(AnyEffect):
    """`{ fill = "10 + wits", gauge = "breath" }`: fills a gauge by a formula on the user's page."""

    fill: UserFormula
    """How much it fills, on the user's page."""
    gauge: GaugeName | None = None
    """The gauge that it fills. Without it, the one that takes its character down."""


class HealEffect(AnyEffect):
    """`{ heal = "balm", times = 0.5 }`: heals by a healing kind, with its power, soak, critical and spread."""

    heal: HealingName
    """The kind of healing."""
    times: UserFormula | None = None
    """What the amount is multiplied by, on the user's page."""


class DrainEffect(AnyEffect):
    """`{ drain = "5", gauge = "breath" }`: empties a gauge by a formula on the user's page; no hit, no soak."""

    drain: UserFormula
    """How much it takes away, on the user's page. It is no hit, and nothing is held against it."""
    gauge: GaugeName
    """The gauge that it empties."""


class GiveEffect(AnyEffect):
    """`{ give = "scalded", strength = "wits / 20" }`: a buff; its strength is read on the user's page."""

    give: BuffName
    """The buff."""
    strength: UserFormula | None = None
    """How strong the buff is, on the user's page."""


class BuildupEffect(AnyEffect):
    """`{ buildup = "burning", amount = 45 }`: adds to a buff's meter; the buff catches when that is full."""

    buildup: BuffName
    """The buff whose meter is filled."""
    amount: UserFormula
    """How much the meter is filled, on the user's page."""


class StripEffect(AnyEffect):
    """`{ strip = "debuff", most = 1 }`: takes off buffs by name, by kind or by mark, the newest first."""

    strip: Name
    """What is taken off: a buff by its name, or buffs of a kind or with a mark. The newest goes first."""
    most: Count = 1000
    """How many are taken off at most."""
    stacks: Count | None = None
    """How many stacks of each are taken off. Without it, all of them."""


class ReviveEffect(AnyEffect):
    """`{ revive = 0.5 }`: brings back a unit that is down, with this share of the gauge that downs; user's page."""

    revive: UserFormula
    """The share of the full gauge with which the target stands up, on the user's page."""


class ReadyEffect(AnyEffect):
    """`{ ready = "hook_swing", by = "3 s" }`, `{ hold_off = "veil" }`: makes an ability ready sooner, or later."""

    ready: AbilityName | None = None
    """The ability that is ready at once, or sooner. One that is used up stays so; of several charges one comes back."""
    hold_off: AbilityName | None = None
    """The ability whose cooldown begins as if it had just been used, or that is ready later. Of several charges one is
    taken, or the next one comes later."""
    by: Stretching | None = None
    """By how much sooner or later it is ready. Without it, at once, or after a whole cooldown."""


class ProlongEffect(AnyEffect):
    """`{ prolong = "rot", by = "2 s" }`, `{ shorten = "debuff", by = "1 s" }`: moves the end of buffs."""

    prolong: Name | None = None
    """What lasts longer: a buff by its name, or buffs of a kind or with a mark."""
    shorten: Name | None = None
    """What ends sooner: a buff by its name, or buffs of a kind or with a mark."""
    by: Stretching
    """By how much."""


class TakeEffect(AnyEffect):
    """`{ take = "buff", most = 1 }`, `{ hand_over = "debuff" }`: moves buffs to the user, or from it to the receiver.

    Time left, stacks and strength go along; who moves a buff is its giver from then on.
    """

    take: Name | None = None
    """What the user takes from the receiver: a buff by its name, or buffs of a kind or with a mark."""
    hand_over: Name | None = None
    """What the user hands over to the receiver: a buff by its name, or buffs of a kind or with a mark."""
    most: Count = 1000
    """How many are moved at most."""
    copies: bool = False
    """Whether they also stay where they were."""


class GroupEffect(AnyEffect):
    """`{ does = [...], chance = 0.3 }`: several effects that share a condition, a chance, a delay or a number of times.

    The target of what is in it is the group's receiver. It begins with what the last hit before it did.
    """

    does: Annotated[list["Effect"], Bounds(min_length=1)]
    """The effects, in order."""


class Choice(Entry):
    """`{ weight = 3, does = [...] }`: one of several, and how likely it is next to the others."""

    weight: UserFormula = field(default_factory=lambda: parse("1"))
    """How likely it is next to the others, on the user's page."""
    does: list["Effect"] = field(default_factory=list)
    """What it does, in order; nothing, where it is left out."""


class ChoiceEffect(AnyEffect):
    """`{ one_of = [{ weight = 3, does = [...] }, { does = [...] }] }`: one of several, drawn by weight."""

    one_of: Annotated[list[Choice], Bounds(min_length=1)]
    """The choices, of which one is drawn."""


Effect = Annotated[
    Annotated[DamageEffect, Tag("DamageEffect")]
    | Annotated[FillEffect, Tag("FillEffect")]
    | Annotated[MendEffect, Tag("MendEffect")]
    | Annotated[HealEffect, Tag("HealEffect")]
    | Annotated[DrainEffect, Tag("DrainEffect")]
    | Annotated[GiveEffect, Tag("GiveEffect")]
    | Annotated[BuildupEffect, Tag("BuildupEffect")]
    | Annotated[StripEffect, Tag("StripEffect")]
    | Annotated[PushEffect, Tag("PushEffect")]
    | Annotated[StepEffect, Tag("StepEffect")]
    | Annotated[LayEffect, Tag("LayEffect")]
    | Annotated[SummonEffect, Tag("SummonEffect")]
    | Annotated[ReviveEffect, Tag("ReviveEffect")]
    | Annotated[ReadyEffect, Tag("ReadyEffect")]
    | Annotated[ProlongEffect, Tag("ProlongEffect")]
    | Annotated[TakeEffect, Tag("TakeEffect")]
    | Annotated[GroupEffect, Tag("GroupEffect")]
    | Annotated[ChoiceEffect, Tag("ChoiceEffect")],
    OneOf(
        named_one_of(
            damage="DamageEffect",
            fill="FillEffect",
            mend="MendEffect",
            heal="HealEffect",
            drain="DrainEffect",
            give="GiveEffect",
            buildup="BuildupEffect",
            strip="StripEffect",
            push="PushEffect",
            pull="PushEffect",
            toss="PushEffect",
            step="StepEffect",
            lay="LayEffect",
            lift="LayEffect",
            summon="SummonEffect",
            revive="ReviveEffect",
            ready="ReadyEffect",
            hold_off="ReadyEffect",
            prolong="ProlongEffect",
            shorten="ProlongEffect",
            take="TakeEffect",
            hand_over="TakeEffect",
            does="GroupEffect",
            one_of="ChoiceEffect",
        ),
        kind="effect",
        message="an effect has exactly one of damage, heal, fill, mend, drain, give, buildup, strip, "
        "push, pull, toss, step, lay, lift, summon, revive, ready, hold_off, prolong, shorten, take, hand_over, does, "
        "one_of",
    ),
]


class Beat(Entry):
    """`each = { every = "1 s", does = [...] }`: something again and again, first one such time after the beginning."""

    every: Stretching
    """The time from one beat to the next. The first comes one such time after the beginning."""
    does: Annotated[list[Effect], Bounds(min_length=1)]
    """What happens at each beat, in order."""
