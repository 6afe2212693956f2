"""Playbooks: what a unit does when it can act, in order."""

from typing import Annotated, ClassVar, Literal

from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import AbilityName, Lasting, PartName, SupplyName, TargetFormula, UserFormula
from .measures import LengthField
from .quantities import Count, Label, Name
from .words import Deed, Pick


class Best(Entry):
    """`pick = { most = "threat - 10 * distance" }`: the target of whom a formula is most, or least."""

    least: TargetFormula | None = None
    """The formula that is least for the target, on the page of each."""
    most: TargetFormula | None = None
    """The formula that is most for the target, on the page of each."""

    @checked
    def _one(self) -> "Best":
        if (self.least is None) == (self.most is None):
            raise refusal("pick", "a pick has exactly one of least and most")
        return self


class Play(Entry):
    """`{ use, pick, part, when, if }`: `when` is read on the user's own page, `if` on each candidate target's.

    Instead of using an ability a play may `wait = "1 s"`, `flee = true` (leave the fight: by the nearest exit
    where there is a place, at once where there is none) or `fetch = "oil_can"` (go for a supply that lies there).
    `part` aims at a part of the target's body; a dash leads to the target, or `to = "away"` from it.
    """

    FACTS = ("distance",)
    LINES: ClassVar[str] = "mine"

    use: AbilityName | None = None
    """The ability that is used."""
    wait: Lasting | None = None
    """How long it waits, instead of using anything."""
    flee: bool = False
    """Whether it leaves the fight: by the nearest exit, or at once where there is no place."""
    fetch: SupplyName | None = None
    """The supply that it goes for."""
    later: bool = False
    """Whether it puts its turn off to the end of the round, once a round; where turns follow on each other."""
    pick: Pick | Best = Pick.RANDOM
    """Whom it goes for, of several: a word, or the one of whom a formula is least or most."""
    part: PartName | None = None
    """The part that it aims at."""
    to: Literal["target", "away"] = "target"
    """Where a dash leads: to the target, or away from it."""
    when: UserFormula | None = None
    """Whether the play may be carried out, on the user's own page; distance is that of the nearest foe."""
    if_: TargetFormula | None = field(None, alias="if")
    """Who may be the target, on the page of each; distance is that to the user, and at_user is 1 where it winds up
    something that is aimed at the user."""
    mine: dict[Name, UserFormula] = field(default_factory=dict)
    """Lines on the user's own page that if and pick may read too."""
    weight: UserFormula | None = None
    """Of plays with a weight that follow each other, one of those that can be carried out is drawn by weight."""
    turn: Count | None = None
    """It is carried out only when it is its turn. After the highest turn of the playbook comes the first."""

    @property
    def deed(self) -> Deed:
        """What it does: the one of them that is written."""
        return next(word for word in Deed if getattr(self, word))


class Playbook(Entry):
    """`[playbooks.harry]`: the first play that can be carried out is. `distance` is what it keeps from foes."""

    label: Label | None = None
    """The name that people read."""
    distance: LengthField | None = None
    """The distance that its user keeps from foes."""
    plays: Annotated[list[Play], Bounds(min_length=1)]
    """What it does, in order. The first play that can be carried out is."""
