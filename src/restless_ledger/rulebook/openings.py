"""How full a gauge begins: a share of its top, a number of points, or a roll."""

from __future__ import annotations

from typing import Annotated, Any

import numpy as np

from ..formula import parse
from ..formula.arrays import Array
from ..frozen_classes import frozen
from .field_types import Parsed, refusal
from .quantities import LARGEST_AMOUNT, SHARE
from .rolls import AnyRoll, Between, Dice, Roll


@frozen
class Opening:
    """How full a gauge begins: a share of its top plus a number of points (one of the two is zero); or a roll, which
    each fight makes anew."""

    share: float
    points: float
    roll: OpeningRoll | None = None

    @property
    def most_points(self) -> float:
        """The most points that it can be, shares of the top apart."""
        if self.roll is None:
            return self.points
        return max(end.points for end in self.roll.ends) if self.roll.ends else self.roll.most

    def amount(self, top: Array | float) -> Array:
        """Return the points it gives under each top, of a roll the middle one; never below 0 or above the top."""
        drawn = self.roll.middle(top) if self.roll else self.share * top + self.points
        return np.maximum(0.0, np.minimum(drawn, top))


@frozen
class OpeningRoll:
    """A roll by which a gauge begins, and, where it is a range, what its ends are."""

    roll: AnyRoll
    ends: tuple[Opening, ...] = ()

    @property
    def most(self) -> float:
        """The highest number that dice give."""
        assert isinstance(self.roll, Dice)
        return float(
            (self.roll.dice - self.roll.drop_lowest - self.roll.drop_highest) * self.roll.sides + self.roll.add
        )

    def middle(self, top: Array | float) -> Array | float:
        """Return the number in the middle of the roll: of a range half-way between its ends, of dice the mean of the
        least and the most."""
        if self.ends:
            return sum(end.share * top + end.points for end in self.ends) / 2
        assert isinstance(self.roll, Dice)
        kept = self.roll.dice - self.roll.drop_lowest - self.roll.drop_highest
        return kept * (1 + self.roll.sides) / 2 + self.roll.add

    def on_page(self, top: str) -> AnyRoll:
        """Return the same roll with ends that are formulas, which read the top of a gauge by its name."""
        if not self.ends:
            return self.roll
        texts = [parse(f"{end.share!r} * {top} + {end.points!r}") for end in self.ends]
        return self.roll.model_copy(update={"between": texts})


def _wrong() -> ValueError:
    return refusal(
        "opening",
        'a gauge begins "full", at a share such as "40%", at a number of points, or at a roll such as '
        '{ between = ["10%", "60%"] }',
    )


def _parse_opening(value: Any) -> Opening:
    if isinstance(value, Opening):
        return value
    if isinstance(value, dict):
        return Opening(0.0, 0.0, _parse_roll(value))
    if value == "full":
        return Opening(1.0, 0.0)
    if isinstance(value, str) and (found := SHARE.fullmatch(value.strip())) and float(found[1]) <= 100:
        return Opening(float(found[1]) / 100, 0.0)
    if isinstance(value, int | float) and not isinstance(value, bool) and 0 <= value <= LARGEST_AMOUNT:
        return Opening(0.0, float(value))
    raise _wrong()


def _parse_roll(value: dict) -> OpeningRoll:
    """Read a roll, in which the ends of a range may be shares of the top."""
    from .entry_models import reader

    written = value.get("between")
    ends = tuple(_parse_opening(end) for end in written) if isinstance(written, list) else ()
    if any(end.roll for end in ends) or (ends and len(ends) != 2):
        raise _wrong()
    try:
        roll = reader(Roll).validate_python({**value, "between": [0.0, 1.0]} if ends else value)
    except ValueError:
        raise _wrong() from None
    if not isinstance(roll, Between | Dice) or (isinstance(roll, Between) and not ends):
        raise _wrong()
    return OpeningRoll(roll, ends)


_AMOUNTS: list = [
    {"const": "full"},
    {"type": "string", "pattern": rf"^\s*{SHARE.pattern}\s*$"},
    {"type": "number", "minimum": 0},
]
_SEVERAL = {"rolls": {"type": "integer", "minimum": 1}, "keep": {"enum": ["best", "worst"]}}
_RANGE = {
    "type": "object",
    "properties": {
        "between": {"type": "array", "items": {"anyOf": _AMOUNTS}, "minItems": 2, "maxItems": 2},
        "whole": {"type": "boolean"},
        **_SEVERAL,
    },
    "required": ["between"],
    "additionalProperties": False,
}
_DICE = {
    "type": "object",
    "properties": {
        **{key: {"type": "integer"} for key in ("dice", "sides", "drop_lowest", "drop_highest", "add")},
        "reroll": {"type": "array", "items": {"type": "integer"}},
        "reroll_until_gone": {"type": "boolean"},
        **_SEVERAL,
    },
    "required": ["dice", "sides"],
    "additionalProperties": False,
}
OpeningField = Annotated[Opening, Parsed(_parse_opening, {"anyOf": [*_AMOUNTS, _RANGE, _DICE]})]
