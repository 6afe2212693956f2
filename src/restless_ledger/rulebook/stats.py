"""Stats: the named numbers of a character. One entry here is all that a new stat needs."""

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Self

import numpy as np

from ..formula import Program, evaluate
from .entries import Entry, checked, field
from .field_types import Bounds, OneOf, Tag, refusal
from .meaning import FigureFormula
from .quantities import USUAL_AMOUNT, Label, Number
from .rolls import Roll
from .words import Rounding, Way

WAYS = {way.value: way for way in Way}


def _amount(value: Any) -> str:
    return "formula" if isinstance(value, str | Program) else "number"


Amount = Annotated[Annotated[Number, Tag("number")] | Annotated[FigureFormula, Tag("formula")], OneOf(_amount)]
"""A number, or as text a formula on the page of the character whose figure it is."""
Factor = Annotated[
    Annotated[Number, Bounds(ge=0), Tag("number")] | Annotated[FigureFormula, Tag("formula")], OneOf(_amount)
]


def _any_range() -> list[float | Program]:
    return [0.0, 1e6]


class OneWay(Entry):
    """What changes a stat in exactly one of the ways that there are."""

    NOUN: ClassVar = "stat change"

    @checked
    def _one_way(self) -> Self:
        if len(self.model_fields_set) != 1:
            raise refusal("change", f"a {self.NOUN} has exactly one of set, add, scale or times")
        return self

    @property
    def way(self) -> Way:
        """The way in which it changes: the one of the four that is written."""
        return WAYS[next(iter(self.__pydantic_fields_set__))]


class StatChange(OneWay):
    """`{ scale = -0.25 }`: exactly one of set, add, scale (percentages that are summed) and times (factors).

    Each is a number, or as text a formula on its bearer's page, such as `{ add = "0.3 * guard" }`. That is worked out
    anew whenever what it reads changes.
    """

    set: Amount | None = None
    """The value that the stat is set to."""
    add: Amount | None = None
    """What is added to the stat."""
    scale: Amount | None = None
    """The percentage that is added, as a share. Percentages are summed."""
    times: Factor | None = None
    """What the stat is multiplied by. A formula below zero counts as zero."""

    @property
    def amount(self) -> float | Program:
        """The number or the formula that is written."""
        (name,) = self.__pydantic_fields_set__
        return self.__dict__[name]

    @property
    def formula(self) -> Program | None:
        """The formula, where one is written."""
        amount = self.amount
        return amount if isinstance(amount, Program) else None

    def worth(self, page: Mapping[str, Any]) -> Any:
        """Return how much it is on a page; an array where the page holds arrays."""
        amount = self.amount
        if not isinstance(amount, Program):
            return amount
        value = evaluate(amount, page)
        return np.maximum(0.0, value) if self.way is Way.TIMES else value


class RolledChange(OneWay):
    """`{ add = { between = [2, 6] } }`: a stat change whose amount is rolled.

    Of a piece of gear it is rolled for each drop; of a class that varies, for each unit in each fight.
    """

    NOUN: ClassVar = "rolled change"

    set: Roll | None = None
    """The value that the stat is set to, rolled."""
    add: Roll | None = None
    """What is added to the stat, rolled."""
    scale: Roll | None = None
    """The percentage that is added, as a share, rolled. Percentages are summed."""
    times: Roll | None = None
    """What the stat is multiplied by, rolled."""

    @property
    def roll(self) -> Roll:
        """The roll of the amount."""
        return getattr(self, self.way)


class Stat(Entry):
    """`[stats] brawn = { label, range, round, base }`: limits, rounding, and what a class has that says nothing.

    `is` makes it a figure of others: `attack = { is = "2 * brawn + wits / 4" }`. What a class has of it by growth is
    added to that, and gear and buffs change it as any other.
    """

    label: Label | None = None
    """The name that people read."""
    is_: FigureFormula | None = field(None, alias="is")
    """What it is by other figures, as a formula. The growth of a class is added to it."""
    range: Annotated[list[Amount], Bounds(min_length=2, max_length=2)] = field(default_factory=_any_range)
    """The lowest and the highest value. Either may be a formula."""
    round: Rounding = Rounding.NONE
    """How it is rounded, after the limits."""
    base: Number = 0.0
    """The value for a class that says nothing."""

    @property
    def floor(self) -> float:
        """The lowest value; where that is a formula, the lowest that there can be."""
        return -USUAL_AMOUNT if isinstance(self.range[0], Program) else self.range[0]

    @property
    def ceiling(self) -> float:
        """The highest value; where that is a formula, the highest that there can be."""
        return USUAL_AMOUNT if isinstance(self.range[1], Program) else self.range[1]

    def limits(self, page: Mapping[str, Any]) -> tuple[Any, Any]:
        """Return the lowest and the highest value on a page; arrays where the page holds arrays."""
        low, high = self.range
        return (
            evaluate(low, page) if isinstance(low, Program) else low,
            evaluate(high, page) if isinstance(high, Program) else high,
        )

    @property
    def hangs(self) -> bool:
        """Whether it hangs on other figures."""
        return self.is_ is not None or any(isinstance(end, Program) for end in self.range)
