"""Difficulties: what a whole side of an encounter has on top."""

from __future__ import annotations

from .brings import Brings
from .quantities import Label


class Difficulty(Brings):
    """`[difficulties.hard]`: what everybody of a side has on top, where the side names it.

    It may change stats, bring marks and reactions, and alter abilities. Who takes the place of a side has nothing of
    it; a called unit has that of its caller.
    """

    label: Label | None = None
    """The name that people read."""
