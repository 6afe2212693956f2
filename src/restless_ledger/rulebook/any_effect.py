"""What every effect may carry, whatever it does."""

from typing import Annotated

from .entries import Entry, field
from .meaning import ReceiverFormula, Stretching, UserFormula
from .measures import LengthField
from .vocabulary import Among
from .words import After, Receiver

RECEIVERS = (Receiver.TARGET, Receiver.USER, Receiver.MATES, Receiver.ALLIES, Receiver.FOES, Receiver.ALL)


class AnyEffect(Entry):
    """What every effect may carry: who receives it, on what condition, how likely, how late and how often.

    The effect happens where `after` fits what the last hit before it in the list did. Then `later` puts it off. Then
    `repeat` says how many times it happens, all at once or one each `every`. Each time, `when` is asked on the user's
    page, and for each receiver `if` on the receiver's page, and then the `chance` less what `avoid` takes off it.
    """

    FACTS = ("booked",)

    to: Annotated[Receiver, Among(*RECEIVERS)] = Receiver.TARGET
    """Who receives it: the target, the user, mates (the rest of the user's side), allies (mates and user), foes, or
    all."""
    within: LengthField | None = None
    """How far from the user those who receive it may be, where to names a group."""
    when: UserFormula | None = None
    """Whether it happens, on the user's page."""
    if_: ReceiverFormula | None = field(None, alias="if")
    """Whether it happens, on the receiver's page; distance is that to the user."""
    chance: UserFormula | None = None
    """How likely it is to happen, from 0 to 1, on the user's page."""
    avoid: ReceiverFormula | None = None
    """What is taken off the chance, on the receiver's page."""
    evens_out: bool = False
    """Whether luck evens out, so that neither long streaks of it come nor long ones without."""
    after: After | None = None
    """Which result the last hit before it in the list must have had. Without it, a missed hit keeps from its target
    what comes after it, and from nobody else."""
    later: Stretching | None = None
    """How much later it happens. What comes after it in the list does not wait for it."""
    repeat: UserFormula | None = None
    """How many times it happens, on the user's page, rounded down."""
    every: Stretching | None = None
    """The time from one of several times to the next. Without it, they all come at once."""

    @property
    def asks(self) -> bool:
        """Whether it does not simply happen: it has a condition, a chance, a delay or a number of times."""
        return bool((set(AnyEffect.model_fields) - {"to"}) & self.model_fields_set)

    @property
    def is_for_several(self) -> bool:
        """Whether a group receives it."""
        return self.to not in (Receiver.TARGET, Receiver.USER)
