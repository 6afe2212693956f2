"""Speeds that figures make higher or lower: of dashes, and of falls at their fastest."""

from collections.abc import Mapping
from typing import Annotated, Any

import numpy as np

from ..formula import evaluate
from .entries import Entry
from .field_types import OrShort, under
from .meaning import DashFormula, UserFormula
from .measures import SPEED_SCHEMA, SpeedField
from .vocabulary import Word


class Compass(Word):
    """A fixed direction."""

    NORTH = "north"
    SOUTH = "south"
    EAST = "east"
    WEST = "west"


class Heading(Word):
    """Where a dash leads."""

    TARGET = "target"
    """Towards the target; of who uses it on itself, towards the nearest foe."""
    AWAY = "away"
    """Away from there."""
    FACING = "facing"
    """Where its user faces."""
    MOVING = "moving"
    """The way that its user last walked or slid."""


class Paced(Entry):
    """`{ speed = "55 m/s", times = "0.2 if marked(gliding) else 1" }`: a speed that figures make higher or lower."""

    speed: SpeedField
    """The speed itself."""
    times: UserFormula | None = None
    """What it is multiplied by, on the page of who moves."""

    def on(self, page: Mapping[str, Any]) -> Any:
        """Return the speed on the page of who moves: a number, or an array where the page holds such."""
        return self.speed if self.times is None else self.speed * np.maximum(evaluate(self.times, page), 0.0)

    def __str__(self) -> str:
        return f"{self.speed:g} m/s"


class Dash(Paced):
    """`{ speed = "9 m/s", times = "1 + wits / 100", to = "facing" }`: how fast a slide begins, and where it leads."""

    times: DashFormula | None = None
    """What it is multiplied by, on the user's page; speed_now is how fast the user walked or slid on the last tick."""
    to: Heading = Heading.TARGET
    """Where it leads: to the target, away from it, where the user faces, or the way that it last moved."""


OR_SPEED = OrShort(under("speed", Paced), SPEED_SCHEMA)
"""Says of a table with a `speed` that a speed such as "5 m/s" may stand in its place."""
PacedField = Annotated[Paced, OR_SPEED]
DashField = Annotated[Dash, OR_SPEED]
