"""Mitigations: what is done to a hit before it is booked: times a factor, passed on, kept off the last points."""

from typing import Annotated

from .effects import Effect
from .entries import Entry, field
from .meaning import DamageName, Lasting, PartName, ReceiverFormula, UserFormula
from .quantities import Count
from .vocabulary import Among
from .words import Receiver

PASSED_TO = (Receiver.GIVER, Receiver.MATES, Receiver.OTHER)


class Mitigation(Entry):
    """`{ kind = "crush", times = 0.6, passes = 0.4, to = "giver" }`: what happens to a hit before it is booked.

    Its formulas are read on the page of its bearer, where `asked` is what the hit is about to take. First `times`
    multiplies that. Then `less` is taken off. Then `passes` is the share that goes to somebody else, with no soak and
    no mitigation of their own. Then `leaves` is what the gauge keeps at least. What it `does` follows the hit, as a
    reaction would.
    """

    FACTS = ("asked", "behind", "above")

    kind: DamageName | None = None
    """Only hits of this damage kind."""
    part: PartName | None = None
    """Only hits on this part."""
    critical: bool | None = None
    """Only critical hits, or with false only the others."""
    when: UserFormula | None = None
    """Whether it does anything, on its bearer's page; asked is what the hit is about to take."""
    if_: ReceiverFormula | None = field(None, alias="if")
    """Whether it does anything, on the dealer's page; distance is that to its bearer."""
    chance: UserFormula | None = None
    """How likely it is to do anything, from 0 to 1."""
    nth: Count = 1
    """It does something about every so manieth hit only."""
    rests: Lasting | None = None
    """For how long it does nothing more."""
    times: UserFormula | None = None
    """What the hit is multiplied by."""
    less: UserFormula | None = None
    """What is taken off the hit, once it is multiplied."""
    passes: UserFormula | None = None
    """The share of the hit that goes to somebody else, from 0 to 1."""
    to: Annotated[Receiver, Among(*PASSED_TO)] = Receiver.GIVER
    """To whom it goes: the giver of the buff that it stands in, mates (evenly among those who are up), or the other,
    who dealt the hit."""
    leaves: UserFormula | None = None
    """How much the gauge keeps at least."""
    uses_up: bool = False
    """Whether it takes a stack of the buff that it stands in, and with the last one ends it."""
    does: list[Effect] = field(default_factory=list)
    """What follows the hit, from its bearer to the dealer. Its formulas may read booked, what was held back."""
