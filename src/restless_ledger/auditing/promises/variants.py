"""The variants in which a promise of fights, duels or journeys must hold: its levels and its handlings."""

from __future__ import annotations

from collections.abc import Iterator

from ...frozen_classes import frozen
from ...rulebook import Rulebook
from ...rulebook.promises import DuelsPromise, FightPromise, JourneyPromise
from .claims import Claim, claims_of


@frozen
class Variant:
    """One variant of one promise: an encounter at a level and a handling, duels at a level, or a journey."""

    name: str
    level: int | None
    handling: str | None
    claims: tuple[Claim, ...]

    @property
    def where(self) -> str:
        """The level and the handling, in words that follow others."""
        level = f", level {self.level}" if self.level is not None else ""
        return level + (f", {self.handling}" if self.handling else "")


def variants(book: Rulebook) -> Iterator[Variant]:
    """Yield every variant of every promise of fights, duels and journeys."""
    for name, promise in book.promises.items():
        handlings = getattr(promise, "handlings", None) or [None]
        if isinstance(promise, FightPromise | JourneyPromise | DuelsPromise):
            lowest = book.rulebook.levels[0] if isinstance(promise, DuelsPromise) else None
            levels: list[int | None] = [*promise.levels] if promise.levels else [lowest]
            for level in levels:
                for handling in handlings:
                    where = Variant(name, level, handling, ()).where
                    yield Variant(name, level, handling, tuple(claims_of(name, promise, where)))
