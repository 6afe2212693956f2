"""Rolls: how a number is drawn, wherever one is: from a range, by dice, or from a deck."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from ..formula import Program, evaluate
from .entries import Entry, checked, field
from .field_types import Bounds, OneOf, Tag, named_one_of, refusal
from .meaning import RolledEnd
from .quantities import Number

MOST_DICE, MOST_SIDES, MOST_SORTED = 200, 1000, 20
MOST_CARDS = 60


class AnyRoll(Entry):
    """What every roll may have: that it is made several times, of which the best or the worst counts."""

    rolls: Annotated[int, Bounds(ge=1, le=100)] = 1
    """How many rolls are made, of which one counts."""
    keep: Literal["best", "worst"] = "best"
    """Which of several rolls counts."""

    @property
    def said_of_several(self) -> list[str]:
        """What is said of several rolls; nothing of one."""
        return [f"the {self.keep} of {self.rolls} rolls"] if self.rolls > 1 else []


def _end(value: Any) -> str:
    return "formula" if isinstance(value, str | Program) else "number"


End = Annotated[Annotated[Number, Tag("number")] | Annotated[RolledEnd, Tag("formula")], OneOf(_end)]
"""An end of a range: a number, or as text a formula on the page of who rolls."""


class Between(AnyRoll):
    """`{ between = [1, 20] }`: every whole number of a range alike; with `whole = false`, any number in it.

    In a fight the ends may be formulas: `{ between = ["blade_low", "blade_high"] }`. Where the low end is above the
    high one, the low end is rolled.
    """

    between: Annotated[list[End], Bounds(min_length=2, max_length=2)]
    """The lowest and the highest number."""
    whole: bool = True
    """Whether only whole numbers are rolled."""

    @checked
    def _right_way_up(self) -> "Between":
        low, high = self.between
        if isinstance(low, Program) or isinstance(high, Program):
            return self
        if low > high:
            raise refusal("range", "a roll goes from its lowest to its highest number")
        if self.whole and (low != int(low) or high != int(high)):
            raise refusal("range", "a roll of whole numbers has whole ends; or write whole = false")
        return self

    @property
    def formulas(self) -> list[Program]:
        """The ends that are formulas."""
        return [end for end in self.between if isinstance(end, Program)]

    def ends(self, page: Mapping[str, Any]) -> tuple[Any, Any]:
        """Return the lowest and the highest number on a page; arrays where the page holds arrays."""
        low, high = (evaluate(end, page) if isinstance(end, Program) else end for end in self.between)
        return low, high

    def __str__(self) -> str:
        low, high = (str(end) if isinstance(end, Program) else f"{end:g}" for end in self.between)
        said = f"{'a whole number' if self.whole else 'a number'} from {low} to {high}"
        return ", ".join([said, *self.said_of_several])


class Dice(AnyRoll):
    """`{ dice = 4, sides = 6, drop_lowest = 1, add = 2, reroll = [1] }`: the sum of some dice.

    Faces in `reroll` are rolled again, once or, with `reroll_until_gone`, until none shows. Then the lowest and the
    highest are dropped, and `add` is added.
    """

    dice: Annotated[int, Bounds(ge=1, le=MOST_DICE)]
    """How many dice are rolled."""
    sides: Annotated[int, Bounds(ge=1, le=MOST_SIDES)]
    """How many sides each die has."""
    drop_lowest: Annotated[int, Bounds(ge=0)] = 0
    """How many of the lowest dice do not count."""
    drop_highest: Annotated[int, Bounds(ge=0)] = 0
    """How many of the highest dice do not count."""
    add: Annotated[int, Bounds(ge=-100_000, le=100_000)] = 0
    """What is added to the sum."""
    reroll: list[int] = field(default_factory=list)
    """Faces that are rolled again."""
    reroll_until_gone: bool = False
    """Whether they are rolled again until none of them shows, and not just once."""

    @checked
    def _some_left(self) -> "Dice":
        dropped = self.drop_lowest + self.drop_highest
        if dropped >= self.dice:
            raise refusal(
                "dice", "of {dice} dice {dropped} are dropped; keep at least one", dice=self.dice, dropped=dropped
            )
        if dropped and (self.dice > MOST_SORTED or self.sides > 100):
            raise refusal("dice", f"dice of which some are dropped are at most {MOST_SORTED}, of 100 sides")
        wrong = [face for face in self.reroll if not 1 <= face <= self.sides]
        if wrong:
            raise refusal("dice", "a die of {sides} sides has no face {face}", sides=self.sides, face=wrong[0])
        if self.reroll_until_gone and len(set(self.reroll)) == self.sides:
            raise refusal("dice", "every face is rolled again for ever; leave at least one")
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
        return ", ".join([*parts, *self.said_of_several])


class Deck(AnyRoll):
    """`{ deck = [1, 1, 2, 3, 5] }`: numbers drawn one after the other, without putting them back; once all are drawn,
    they are shuffled anew. Each unit has a deck of its own. Only in a fight."""

    deck: Annotated[list[Number], Bounds(min_length=1, max_length=MOST_CARDS)]
    """The numbers that the deck holds."""

    def __str__(self) -> str:
        return ", ".join([f"a deck of {len(self.deck)}", *self.said_of_several])


Roll = Annotated[
    Annotated[Between, Tag("Between")] | Annotated[Dice, Tag("Dice")] | Annotated[Deck, Tag("Deck")],
    OneOf(
        named_one_of(between="Between", dice="Dice", deck="Deck"),
        kind="roll",
        message="a roll is { between = [1, 20] }, { dice = 2, sides = 6 } or { deck = [1, 2, 3] }",
    ),
]
