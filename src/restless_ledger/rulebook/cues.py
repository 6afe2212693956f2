"""Cues: what a game shows when something happens, and for how long."""

from typing import Annotated

from .entries import Entry
from .field_types import Bounds
from .meaning import AbilityName, BuffName, ClassName, DamageName, GaugeName, Lasting
from .quantities import Label
from .verbs import Verb


class Cue(Entry):
    """`[cues.flash] on = "harm", kind = "crush", lasts = "0.2 s"`: a name and times that a game follows.

    A live character hands the cue out with each change that it is for. The rules do nothing with it.
    """

    label: Label | None = None
    """The name that people read."""
    on: Verb
    """What the ledger's entry does, in the ledger's word for it."""
    kind: DamageName | None = None
    """The damage kind that it is for. Without it, all of them."""
    gauge: GaugeName | None = None
    """The gauge that it is for. Without it, all of them."""
    ability: AbilityName | None = None
    """The ability that the change comes from. Without it, all of them."""
    buff: BuffName | None = None
    """The buff that the change comes from. Without it, all of them."""
    classes: Annotated[list[ClassName], Bounds(min_length=1)] | None = None
    """Whose changes it is for. Without it, everybody's."""
    critical: bool | None = None
    """Whether it is for criticals alone, or for none of them. Without it, for both."""
    after: Lasting | None = None
    """The time from the change until the cue begins."""
    lasts: Lasting | None = None
    """How long it lasts. Without it, it is over at once."""
    every: Lasting | None = None
    """The time from blink to blink while it lasts. Without it, it does not blink."""
