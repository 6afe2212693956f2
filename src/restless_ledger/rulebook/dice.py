"""Dice: how a random whole number is rolled."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from .quantities import Entry

MOST_DICE, MOST_SIDES, MOST_SORTED = 200, 1000, 20


class Dice(Entry):
    """`{ dice = 4, sides = 6, drop_lowest = 1, add = 2, reroll = [1] }`: the sum of some dice.

    Faces in `reroll` are rolled again, once or, with `reroll_until_gone`, until none shows. Then the lowest and the
    highest are dropped, and `add` is added.
    """

    dice: Annotated[int, Field(ge=1, le=MOST_DICE)]
    """How many dice are rolled."""
    sides: Annotated[int, Field(ge=1, le=MOST_SIDES)]
    """How many sides each die has."""
    drop_lowest: Annotated[int, Field(ge=0)] = 0
    """How many of the lowest dice do not count."""
    drop_highest: Annotated[int, Field(ge=0)] = 0
    """How many of the highest dice do not count."""
    add: Annotated[int, Field(ge=-100_000, le=100_000)] = 0
    """What is added to the sum."""
    reroll: list[int] = Field(default_factory=list)
    """Faces that are rolled again."""
    reroll_until_gone: bool = False
    """Whether they are rolled again until none of them shows, and not just once."""

    @model_validator(mode="after")
    def _some_left(self) -> Dice:
        dropped = self.drop_lowest + self.drop_highest
        if dropped >= self.dice:
            raise PydanticCustomError(
                "dice",
                "of {dice} dice {dropped} are dropped; keep at least one",
                {"dice": self.dice, "dropped": dropped},
            )
        if dropped and (self.dice > MOST_SORTED or self.sides > 100):
            raise PydanticCustomError("dice", f"dice of which some are dropped are at most {MOST_SORTED}, of 100 sides")
        wrong = [face for face in self.reroll if not 1 <= face <= self.sides]
        if wrong:
            raise PydanticCustomError(
                "dice", "a die of {sides} sides has no face {face}", {"sides": self.sides, "face": wrong[0]}
            )
        if self.reroll_until_gone and len(set(self.reroll)) == self.sides:
            raise PydanticCustomError("dice", "every face is rolled again for ever; leave at least one")
        return self

    def __str__(self) -> str:
        parts = [f"{self.dice} dice of {self.sides} sides"]
        if self.reroll:
            often = "until gone" if self.reroll_until_gone else "once"
            parts.append(f"{', '.join(map(str, self.reroll))} rolled again {often}")
        for count, which in ((self.drop_lowest, "lowest"), (self.drop_highest, "highest")):
            if count:
                parts.append(f"the {which} {count if count > 1 else ''} dropped".replace("  ", " "))
        if self.add:
            parts.append(f"{self.add:+d}".replace("-", "−"))
        return ", ".join(parts)
