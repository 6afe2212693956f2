"""Journeys: a party, the stages it goes through, and what happens when it is beaten."""

from typing import Annotated, Literal

from .characters import Character
from .entries import Entry, field
from .field_types import Bounds, OneOf, Tag
from .growth import number_or_roll
from .meaning import (
    AbilityName,
    CheckName,
    ClassName,
    DropName,
    EncounterName,
    GaugeName,
    GearName,
    Level,
    PlanName,
    StageName,
    UpgradeName,
)
from .quantities import Label, Name, Share
from .rolls import Roll

Amount = Annotated[int, Bounds(ge=0, le=10**15)]
MOST_PARTY = 40


Restores = Annotated[
    Annotated[Share, Tag("share")] | Annotated[dict[GaugeName, Share], Tag("table")],
    OneOf(
        lambda value: "table" if isinstance(value, dict) else "share",
        kind="restores",
        message="this is a share such as 0.5, or a table of shares by gauge",
    ),
]
Paid = Annotated[
    Annotated[Amount, Tag("number")] | Annotated[Roll, Tag("roll")],
    OneOf(number_or_roll, kind="paid", message="this is a whole number or a roll such as { between = [5, 15] }"),
]


class Member(Character):
    """`{ class = "rigger", origin = "cliffborn", plan = "hook_first" }`: one of the party, as it sets out.

    The level is the first there is unless it is written; `plan` says what is bought in shops.
    """

    level: Level | None = None
    """The level at which it sets out. Without it, the first there is."""
    plan: PlanName | None = None
    """What it buys in shops."""


class Grind(Entry):
    """`grind = { below = 6, most = 20 }`: the stage is done again while somebody is below a level, at most this
    often."""

    below: Level
    """The stage is done again while somebody is below this level."""
    most: Annotated[int, Bounds(ge=1, le=10_000)] = 100
    """How often it is done again at most."""


class Gift(Entry):
    """`[stages.shrine.gifts.Hanna] teaches = ["mend"]`: what one member of the party gets, by its name."""

    gives: list[GearName] = field(default_factory=list)
    """Gear that this member finds, and wears where it may."""
    teaches: list[AbilityName] = field(default_factory=list)
    """Abilities that this member is taught."""
    upgrades: dict[UpgradeName, Annotated[int, Bounds(ge=1, le=1000)]] = field(default_factory=dict)
    """Levels of upgrades that this member gets, as far as there are more."""


class Stage(Entry):
    """`[stages.first_watch] encounter = "stair_duel", side = "watch", experience = 60, coin = 20`.

    The party takes the place of one side of an encounter; or somebody tries a check, the one with the best chance. A
    stage that is passed brings its rewards: experience to each, coin, a drop, gear that it gives for certain, what it
    teaches. `restores` is the share of what the gauges lack that comes back afterwards, and `returns` with what share
    of a full gauge the downed stand up. A `shop` spends the coin by the members' plans. A stage without encounter or
    check is passed as it is. `level` is the level that its author has in mind for a party that arrives there: nothing
    depends on it, and the audit says if it can't be reached.
    """

    label: Label | None = None
    """The name that people read."""
    encounter: EncounterName | None = None
    """The fight in which the party takes the place of one side."""
    side: Label | None = None
    """The side whose place the party takes."""
    check: CheckName | None = None
    """A check instead of a fight. The member with the best chance tries it."""
    experience: Amount = 0
    """The experience that each of the party gets."""
    coin: Paid = 0
    """The coin that the party gets: a number, or a roll."""
    drop: DropName | None = None
    """The drop table from which something is found."""
    gives: list[GearName] = field(default_factory=list)
    """Gear that is found for certain."""
    teaches: dict[ClassName, list[AbilityName]] = field(default_factory=dict)
    """Abilities that it teaches, by class."""
    gifts: dict[Label, Gift] = field(default_factory=dict)
    """What single members of the party get, by their names."""
    restores: Restores = 1.0
    """The share of what gauges lack that comes back after it; or by gauge, how far it goes back to where it begins.
    What is not named then comes back whole."""
    returns: Annotated[float, Bounds(gt=0, le=1, allow_inf_nan=False)] = 0.5
    """With what share of a full gauge the downed stand up."""
    shop: bool = False
    """Whether there is a shop, in which the party spends its coin by its plans."""
    minutes: Annotated[float, Bounds(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    """The minutes that the stage takes besides its fight."""
    level: Level | None = None
    """The level that you expect the party to have on arrival. The audit says if it can't be reached."""
    grind: Grind | None = None
    """Until what level the stage is done again."""


class Journey(Entry):
    """`[journeys.winter] party = [ … ], stages = ["first_watch", …]`: from the first stage to the last.

    A stage that is not passed is tried again, up to `attempts` times in all; then the party stops there. Under
    `defeat = "checkpoint"` the party goes back to the last stage marked in `checkpoints`, under `"end"` it stops at
    once. A defeat loses a share of the coin, and gauges are full before the next attempt.
    """

    label: Label | None = None
    """The name that people read."""
    party: Annotated[list[Member], Bounds(min_length=1, max_length=MOST_PARTY)]
    """Who sets out."""
    stages: list[StageName]
    """The stages in order, each once."""
    coin: Amount = 0
    """The starting coin of the party."""
    defeat: Literal["retry", "checkpoint", "end"] = "retry"
    """What follows a defeat: another try, going back to the last checkpoint, or the end."""
    attempts: Annotated[int, Bounds(ge=1, le=1000)] = 10
    """How often a stage is tried before the party stops there."""
    checkpoints: list[Name] = field(default_factory=list)
    """The stages that the party can go back to."""
    loses_coin: Share = 0.0
    """The share of the coin that is lost per defeat."""
