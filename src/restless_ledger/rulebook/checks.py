"""Stat checks: a figure of one character, plus a roll, against what is needed."""

from typing import Annotated

from .effects import Effect
from .entries import Entry, field
from .field_types import Bounds
from .meaning import CheckName, ClassName, UserFormula
from .quantities import Label, Name, Number
from .rolls import AnyRoll, Between, Roll
from .sayings import SayingField

PASSED, FAILED = "passed", "failed"
UNROLLED = Between.model_construct({"between"}, between=[0.0, 0.0])
"""The roll of what is not rolled."""


class Follow(Entry):
    """`[checks.force_the_door.follows.passed] says = "{name} forces the door with {brawn}"`: what follows a try."""

    says: SayingField | None = None
    """What people read, with figures of the character that tried in braces."""
    does: list[Effect] = field(default_factory=list)
    """What it does, in order: its user is who tried, its target whom the try was about, or the same. A live scene
    carries it out."""
    then: CheckName | None = None
    """The check that comes next."""


class Check(Entry):
    """`[checks.read_the_fog] value = "lore", roll = { between = [1, 20] }, needs = 24`.

    It is passed where value plus roll is at least what is needed. A character that does not meet `requires` can't try
    at all. After a failure it may try again, as often as `tries` says. `classes` names the classes that it is for,
    if not all.
    """

    label: Label | None = None
    """The name that people read."""
    value: UserFormula
    """The figure of the character to which the roll is added."""
    needs: UserFormula
    """What value plus roll must be at least."""
    roll: Roll | None = None
    """How the roll is made. Without it, nothing is rolled: a character that is good enough passes."""
    opposed_by: Roll | None = None
    """A roll of the other side, which is added to what is needed at each try. It gives whole numbers."""
    requires: UserFormula | None = None
    """A character that does not meet this can't try at all."""
    degrees: dict[Name, Number] = field(default_factory=dict)
    """Degrees of success: by name, by how much value plus roll must at least exceed what is needed, or below 0 may fall
    short of it. The highest that is reached counts."""
    follows: dict[Name, Follow] = field(default_factory=dict)
    """What follows, by how it ends: `passed`, `failed`, or a degree, which comes before these."""
    tries: Annotated[int, Bounds(ge=1, le=1000)] = 1
    """How often somebody may try."""
    classes: list[ClassName] | None = None
    """Who it is for. Without it, everybody."""

    @property
    def rolled(self) -> AnyRoll:
        """The roll; always 0 where nothing is rolled."""
        return self.roll if self.roll is not None else UNROLLED

    def is_for(self, who: str) -> bool:
        """Say whether a class may try it."""
        return self.classes is None or who in self.classes
