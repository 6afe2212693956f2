"""Stat checks: a figure of one character, plus a roll, against what is needed."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Discriminator, Field, Tag, model_validator
from pydantic_core import PydanticCustomError

from .dice import Dice
from .meaning import ClassName, UserFormula
from .quantities import Entry, Label, Number, named_one_of

if TYPE_CHECKING:
    pass


class Between(Entry):
    """`{ between = [1, 20] }`: every whole number of a range alike; with `whole = false`, any number in it."""

    between: Annotated[list[Number], Field(min_length=2, max_length=2)]
    """The lowest and the highest number."""
    whole: bool = True
    """Whether only whole numbers are rolled."""

    @model_validator(mode="after")
    def _right_way_up(self) -> Between:
        low, high = self.between
        if low > high:
            raise PydanticCustomError("range", "a roll goes from its lowest to its highest number")
        if self.whole and (low != int(low) or high != int(high)):
            raise PydanticCustomError("range", "a roll of whole numbers has whole ends; or write whole = false")
        return self

    def __str__(self) -> str:
        low, high = self.between
        return f"{'a whole number' if self.whole else 'a number'} from {low:g} to {high:g}"


Roll = Annotated[
    Annotated[Between, Tag("Between")] | Annotated[Dice, Tag("Dice")],
    Discriminator(
        named_one_of(between="Between", dice="Dice"),
        custom_error_type="roll",
        custom_error_message="a roll is { between = [1, 20] } or { dice = 2, sides = 6 }",
    ),
]


class Check(Entry):
    """`[checks.read_the_fog] value = "lore", roll = { between = [1, 20] }, needs = 24`.

    It is passed where value plus roll is at least what is needed. A character that does not meet `requires`
    can't try at all. Of several `rolls` one is kept, the best or the worst; whoever fails may try as often as `tries`
    says. `classes` names who it is for, where it is not for all.
    """

    label: Label | None = None
    """The name that people read."""
    value: UserFormula
    """The figure of the character to which the roll is added."""
    needs: UserFormula
    """What value plus roll must be at least."""
    roll: Roll
    """How the roll is made."""
    requires: UserFormula | None = None
    """A character that does not meet this can't try at all."""
    rolls: int = Field(1, ge=1, le=100)
    """How many rolls are made, of which one counts."""
    keep: Literal["best", "worst"] = "best"
    """Which of several rolls counts."""
    tries: int = Field(1, ge=1, le=1000)
    """How often somebody may try."""
    classes: list[ClassName] | None = None
    """Who it is for. Without it, everybody."""

    def is_for(self, who: str) -> bool:
        """Say whether a class may try it."""
        return self.classes is None or who in self.classes
