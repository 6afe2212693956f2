"""Stat checks: a figure of one character, plus a roll, against what is needed."""

from __future__ import annotations

from pydantic import Field

from .meaning import ClassName, UserFormula
from .quantities import Entry, Label, Name, Number
from .rolls import Roll


class Check(Entry):
    """`[checks.read_the_fog] value = "lore", roll = { between = [1, 20] }, needs = 24`.

    It is passed where value plus roll is at least what is needed. A character that does not meet `requires`
    can't try at all. Whoever fails may try as often as `tries` says. `classes` names who it is for, where it is not for
    all.
    """

    label: Label | None = None
    """The name that people read."""
    value: UserFormula
    """The figure of the character to which the roll is added."""
    needs: UserFormula
    """What value plus roll must be at least."""
    roll: Roll
    """How the roll is made."""
    opposed_by: Roll | None = None
    """A roll of the other side, which is added to what is needed at each try. It gives whole numbers."""
    requires: UserFormula | None = None
    """A character that does not meet this can't try at all."""
    degrees: dict[Name, Number] = Field(default_factory=dict)
    """Degrees of success: by name, by how much value plus roll must at least exceed what is needed, or below 0 may fall
    short of it. The highest that is reached counts."""
    tries: int = Field(1, ge=1, le=1000)
    """How often somebody may try."""
    classes: list[ClassName] | None = None
    """Who it is for. Without it, everybody."""

    def is_for(self, who: str) -> bool:
        """Say whether a class may try it."""
        return self.classes is None or who in self.classes
