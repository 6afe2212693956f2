"""Handlings: how well a player handles a unit."""

from typing import Annotated

from .entries import Entry
from .field_types import Bounds
from .meaning import Span
from .quantities import NO_TIME, Label


class Handling(Entry):
    """`[handlings.novice]`: time to react before each choice, a factor on the chance to land, a chance of mistakes.

    A mistake passes over the play that should be carried out, for the next that can be; where there is no other,
    the unit hesitates for one reaction (at least a tick).
    """

    label: Label | None = None
    """The name that people read."""
    delay: Span = NO_TIME
    """The time before each choice."""
    aim: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)] = 1.0
    """What every chance to land is multiplied by."""
    mistakes: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)] = 0.0
    """The chance that the best play is passed over for the next."""
