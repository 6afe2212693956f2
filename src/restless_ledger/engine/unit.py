"""One unit of an encounter: its name, side, sheet and plays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import field, replace

from ..formula import Program
from ..frozen_classes import frozen
from ..rulebook.handlings import Handling
from ..rulebook.playbooks import Play
from ..rulebook.unit_names import Called
from ..sheets import Sheet

Sort = tuple[str, str, str]
"""What tells those whom an effect calls from others: class, level and playbook, as they are written."""


@frozen
class Unit:
    """One unit of an encounter."""

    name: str
    side: int
    sheet: Sheet
    plays: tuple[tuple[tuple, Play], ...]
    handling: Handling = field(default_factory=Handling.model_construct)
    lives: int = 1
    distance: float = 0.0
    at: tuple[float, float] | None = None
    plain: str = ""
    """Its name without a number and a side."""
    arrives: int = 0
    """The tick on which it arrives; 0: it is there from the beginning, or comes otherwise."""
    arrives_when: tuple[tuple, Program] | None = None
    """On what condition it arrives, with the path of that."""
    root: int = -1
    """The unit that was there from the beginning and for which it is kept ready; -1: it is no such reserve."""
    sort: Sort | None = None
    """Of a reserve: which effects call it."""

    @property
    def comes_later(self) -> bool:
        """Whether it is not there as the fight begins."""
        return self.arrives > 0 or self.arrives_when is not None or self.root >= 0

    def named(self, name: str) -> Unit:
        """Return the same unit by another name."""
        return replace(self, name=name)

    @property
    def called(self) -> Called:
        """What it is called where a rulebook names it."""
        return Called(self.name, self.plain or self.name, self.sheet.who)


def sorts_of(units: Sequence[Unit]) -> list[Sort]:
    """Return the sorts of those among units whom effects call."""
    return list(dict.fromkeys(unit.sort for unit in units if unit.sort is not None))
