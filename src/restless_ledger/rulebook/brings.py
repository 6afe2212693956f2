"""Brings: what something brings to the character that has it. One record for all that can bring anything."""

from .alterations import Alteration
from .effects import Effect
from .entries import Entry, field
from .meaning import AbilityName, SchoolName, StatName
from .mitigations import Mitigation
from .quantities import Name
from .reactions import Reaction
from .stats import StatChange


class Bears(Entry):
    """What somebody bears: marks, and reactions."""

    marks: list[Name] = field(default_factory=list)
    """Words that its bearer is marked with, for formulas and reactions to ask for."""
    reacts: list[Reaction] = field(default_factory=list)
    """The reactions of its bearer."""
    mitigates: list[Mitigation] = field(default_factory=list)
    """What is done to hits on its bearer before they are booked."""
    alters: dict[AbilityName, Alteration] = field(default_factory=dict)
    """How it changes abilities for its bearer."""

    @property
    def answers(self) -> list[Effect]:
        """All that its reactions and mitigations do, and what it makes abilities do, in order; groups and choices are
        not taken apart."""
        reacting = [effect for reaction in self.reacts for effect in reaction.does]
        held = [effect for mitigation in self.mitigates for effect in mitigation.does]
        made = [effect for each in self.alters.values() for effect in (*(each.does or ()), *each.more)]
        return [*reacting, *held, *made]


class Unlocks(Bears):
    """What somebody bears and may use: marks, reactions, abilities, schools."""

    grants: list[AbilityName] = field(default_factory=list)
    """Abilities that its bearer knows."""
    opens: list[SchoolName] = field(default_factory=list)
    """Schools that its bearer may use."""


class Brings(Unlocks):
    """What a class, an origin, a passive ability, gear or a set brings."""

    stats: dict[StatName, StatChange] = field(default_factory=dict)
    """What it changes for its bearer, by stat."""
