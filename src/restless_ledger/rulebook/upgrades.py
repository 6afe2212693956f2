"""Upgrades: stats that are bought for coin, level by level, and the plans by which coin is spent."""

from typing import Annotated, Literal

from .brings import Unlocks
from .entries import Entry, field
from .field_types import Bounds
from .growth import Growth
from .meaning import ClassName, StatName, UpgradeName
from .quantities import Label, Name, Number

MOST_LEVELS = 1000


class Gain(Entry):
    """`{ add = 2, every = 3 }`: `add` more after each `every` levels of an upgrade."""

    add: Number
    """How much more the stat becomes."""
    every: Annotated[int, Bounds(ge=1, le=MOST_LEVELS)] = 1
    """After how many levels of the upgrade."""


class Upgrade(Unlocks):
    """`[upgrades.keen_hook] price = "20 * level ** 1.4", levels = 12, stats = { brawn = { add = 1 } }`.

    `price` is a curve by the level that is bought, from 1 to `levels`, rounded to whole coins.
    """

    label: Label | None = None
    """The name that people read."""
    price: Growth
    """What a level costs in coin, as a curve by the level that is bought."""
    levels: Annotated[int, Bounds(ge=1, le=MOST_LEVELS)] = 10
    """How many levels there are."""
    stats: dict[StatName, Gain] = field(default_factory=dict)
    """What the levels bring, by stat."""
    classes: list[ClassName] | None = None
    """The classes that may buy it. Without it, all of them."""

    def bought(self, stat: str, level: int) -> float:
        """Return what this many levels bring a stat."""
        gain = self.stats.get(stat)
        return gain.add * (level // gain.every) if gain else 0.0


class Plan(Entry):
    """`[plans.hook_first] buys = ["keen_hook", "thick_soles"], way = "in_order"`: how coin is spent.

    `in_order`: the first of the list as far as it goes (or to its level in `up_to`), then the next; `in_turn`: a level
    of each, round and round; `cheapest`: always what costs least, the first of the list where some cost the same. What
    can't be paid yet is waited for.
    """

    label: Label | None = None
    """The name that people read."""
    buys: Annotated[list[UpgradeName], Bounds(min_length=1)]
    """The upgrades that are bought."""
    way: Literal["in_order", "in_turn", "cheapest"] = "in_order"
    """In what order: one after the other, in turn, or always the cheapest."""
    up_to: dict[Name, Annotated[int, Bounds(ge=0, le=1_000_000)]] = field(default_factory=dict)
    """Up to which level each is bought. Without it, to the last."""
