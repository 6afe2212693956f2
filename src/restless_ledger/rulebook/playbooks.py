"""Playbooks: what a unit does when it can act, in order."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .meaning import AbilityName, Lasting, PartName, SupplyName, UserFormula
from .measures import LengthField
from .quantities import Entry, Label
from .words import Deed, Pick


class Play(Entry):
    """`{ use, pick, part, when, if }`: `when` is read on the user's own page, `if` on each candidate target's.

    Instead of using an ability a play may `wait = "1 s"`, `flee = true` (leave the fight: by the nearest exit
    where there is a place, at once where there is none) or `fetch = "oil_can"` (go for a supply that lies there).
    `part` aims at a part of the target's body; a dash leads to the target, or `to = "away"` from it.
    """

    FACTS = ("distance",)

    use: AbilityName | None = None
    """The ability that is used."""
    wait: Lasting | None = None
    """How long it waits, instead of using anything."""
    flee: bool = False
    """Whether it leaves the fight: by the nearest exit, or at once where there is no place."""
    fetch: SupplyName | None = None
    """The supply that it goes for."""
    pick: Pick = Pick.RANDOM
    """Whom it goes for, of several."""
    part: PartName | None = None
    """The part that it aims at."""
    to: Literal["target", "away"] = "target"
    """Where a dash leads: to the target, or away from it."""
    when: UserFormula | None = None
    """Whether the play may be carried out, on the user's own page; distance is that of the nearest foe."""
    if_: UserFormula | None = Field(None, alias="if")
    """Who may be the target, on the page of each; distance is that to the user."""

    @property
    def deed(self) -> Deed:
        """What it does: the one of the four that is written."""
        return next(word for word in Deed if getattr(self, word))


class Playbook(Entry):
    """`[playbooks.harry]`: the first play that can be carried out is. `distance` is what it keeps from foes."""

    label: Label | None = None
    """The name that people read."""
    distance: LengthField | None = None
    """The distance that its user keeps from foes."""
    plays: Annotated[list[Play], Field(min_length=1)]
    """What it does, in order. The first play that can be carried out is."""
