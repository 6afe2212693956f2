"""Areas: whom an ability reaches besides its target."""

from __future__ import annotations

from .meaning import UserFormula
from .measures import LengthField
from .quantities import Entry


class Area(Entry):
    """`area = { radius = "1.2 m", most = 3, falloff = 0.5 }`: others near the target, on the target's side.

    `falloff` is the share of the amount that is gone at the rim. Without a place everybody is near.
    """

    radius: LengthField
    """How far from the target others may stand. Without an arena everybody is near."""
    most: UserFormula | None = None
    """How many targets there are at most, the main target included, on the user's page. Without it, no limit."""
    falloff: UserFormula | None = None
    """The share of the amount that is gone at the rim, from 0 to 1, on the user's page. In between it falls evenly."""
