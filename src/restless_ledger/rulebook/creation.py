"""Creation: how a character starts: origins, attributes bought with points, or rolled with dice."""

from typing import Annotated, Literal

from .brings import Brings
from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import ClassName, StatName
from .quantities import Label, WholeKeys
from .rolls import Roll

MOST_VALUES = 1000
Whole = Annotated[int, Bounds(ge=-10_000, le=10_000)]
Range = Annotated[list[Whole], Bounds(min_length=2, max_length=2)]
Points = Annotated[int, Bounds(ge=0, le=1_000_000)]
Total = Annotated[int, Bounds(ge=-1_000_000, le=1_000_000)]
Price = Annotated[int, Bounds(ge=0, le=1_000_000)]


class Creation(Entry):
    """`[creation]`: the attributes that a player sets, and the points there are to spend.

    Every attribute begins somewhere in its range; a point above that costs, a point below gives back. `cost` is a
    number, or what one more point costs by the value it is raised from: `{ 1 = 1, 14 = 2 }`. Under
    `spend = "up_to"` points may be left, under `"all"` none may.
    """

    attributes: list[StatName] = field(default_factory=list)
    """Stats that the player sets with points."""
    outside: list[StatName] = field(default_factory=list)
    """Stats that the player sets without points."""
    budget: Points = 0
    """How many points there are, for origins that have no budget of their own."""
    total: Total | None = None
    """What all attributes that are chosen must add up to, before what an origin adds; for origins that have no total of
    their own. Without it, they may add up to anything."""
    spend: Literal["up_to", "all"] = "up_to"
    """Whether points may be left, or all have to be spent."""
    begins: Literal["lowest", "middle", "highest"] = "middle"
    """Where in its range an attribute begins."""
    round: Literal["down", "up"] = "down"
    """How the middle of a range is rounded."""
    cost: Price | Annotated[dict[int, Price], WholeKeys, Bounds(min_length=1)] = 1
    """What one more point costs: a number, or a number by the value it is raised from."""
    gives_back: bool = True
    """Whether a point below the opening value gives back what it would cost."""
    rolled: dict[StatName, Roll] = field(default_factory=dict)
    """Attributes that are rolled instead of chosen."""

    def price(self, value: int) -> int:
        """Return what one more point costs an attribute that stands at this value."""
        if isinstance(self.cost, int):
            return self.cost
        reached = [at for at in self.cost if at <= value]
        return self.cost[max(reached) if reached else min(self.cost)]

    def opening(self, low: int, high: int) -> int:
        """Return where an attribute opens in its range; the middle is rounded as declared."""
        if self.begins == "middle":
            return (low + high + (self.round == "up")) // 2
        return low if self.begins == "lowest" else high

    def points(self, attribute: str, low: int, high: int) -> dict[int, int]:
        """Return what each value of a range costs an attribute, in points; below where it opens it gives back."""
        opening = self.opening(low, high)
        if attribute in self.outside:
            return dict.fromkeys(range(low, high + 1), 0)
        costs, spent = {opening: 0}, 0
        for value in range(opening, high):
            spent += self.price(value)
            costs[value + 1] = spent
        spent = 0
        for value in range(opening - 1, low - 1, -1):
            spent -= self.price(value) if self.gives_back else 0
            costs[value] = spent
        return dict(sorted(costs.items()))

    def budget_of(self, origin: "Origin") -> int:
        """Return how many points there are for an origin."""
        return self.budget if origin.budget is None else origin.budget

    def total_of(self, origin: "Origin") -> int | None:
        """Return what the attributes that are chosen must add up to, for an origin; None: that is free."""
        return self.total if origin.total is None else origin.total

    def set_by_player(self) -> tuple[str, ...]:
        """Return every attribute that is chosen, in the budget or outside it."""
        return (*self.attributes, *self.outside)


class Origin(Brings):
    """`[origins.cliffborn]`: where a character comes from: the range of each attribute, and what it changes.

    `ranges` are the whole numbers that the player may choose from; `stats` are changes that come after that.
    """

    label: Label | None = None
    """The name that people read."""
    ranges: dict[StatName, Range] = field(default_factory=dict)
    """The lowest and the highest value of each attribute."""
    budget: Points | None = None
    """How many points there are for characters from there. Without it, as many as for all."""
    total: Total | None = None
    """What the attributes that are chosen must add up to, of characters from there. Without it, as for all."""
    classes: list[ClassName] | None = None
    """The classes that may come from there. Without it, all of them."""

    @checked
    def _right_way_up(self) -> "Origin":
        for name, (low, high) in self.ranges.items():
            if low > high:
                raise refusal(
                    "range",
                    "{name} goes from {low} to {high}: a range goes from its lowest to its highest value",
                    name=name,
                    low=low,
                    high=high,
                )
            if high - low >= MOST_VALUES:
                raise refusal("range", f"a range holds at most {MOST_VALUES} values")
        return self

    def added(self, attribute: str) -> int:
        """Return what this origin adds to an attribute after it was chosen."""
        change = self.stats.get(attribute)
        return int(change.worth({})) if change and change.way == "add" and not change.formula else 0
