"""Playbooks: what a unit does when it can act, in order."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .meaning import AbilityName, Lasting, PartName, SupplyName, UserFormula
from .quantities import Entry, Label, LengthField

Aim = Literal["weakest", "strongest", "nearest", "most_dangerous", "attacker", "random"]


class Play(Entry):
    """`{ use, at, part, when, if }`: `when` is read on the user's own page, `if` on each candidate target's.

    Instead of using an ability a play may `hold = "1 s"` (wait), `flee = true` (leave the fight: by the nearest exit
    where there is a place, at once where there is none) or `fetch = "oil_can"` (go for a supply that lies there).
    `part` aims at a part of the target's body; a dash leads to the target, or `to = "away"` from it.
    """

    FACTS = ("distance",)

    use: AbilityName | None = None
    """The ability that is used."""
    hold: Lasting | None = None
    """How long it waits, instead of using anything."""
    flee: bool = False
    """Whether it leaves the fight: by the nearest exit, or at once where there is no place."""
    fetch: SupplyName | None = None
    """The supply that it goes for."""
    at: Aim = "random"
    """Whom it goes for, of several."""
    part: PartName | None = None
    """The part that it aims at."""
    to: Literal["target", "away"] = "target"
    """Where a dash leads: to the target, or away from it."""
    when: UserFormula | None = None
    """Whether the play may be carried out, on the user's own page; distance is that of the nearest foe."""
    if_: UserFormula | None = Field(None, alias="if")
    """Who may be the target, on the page of each; distance is that to the user."""


class Playbook(Entry):
    """`[playbooks.harry]`: the first play that can be carried out is. `keeps` is how near it lets foes come."""

    label: Label | None = None
    """The name that people read."""
    keeps: LengthField | None = None
    """The distance that its user keeps from foes."""
    plays: Annotated[list[Play], Field(min_length=1)]
    """What it does, in order. The first play that can be carried out is."""
