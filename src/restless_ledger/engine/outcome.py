"""Outcomes: how a fight ended, and how the kernel writes that as one number."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..frozen_classes import frozen
from ..rulebook.vocabulary import Word
from ..rulebook.words import NoWinner
from .codes import DRAW, FLED_ALL, GOAL, HELD, MUTUAL, RUNNING, TIME_OUT, WIPED_OUT


class WayToWin(Word):
    """How a side won: all others were down, it held the objective, all others had fled, or
    another of the encounter's ways to win held."""

    WIPED_OUT = "wiped out"
    HELD = "held"
    FLED = "fled"
    GOAL = "goal"


WAY_OF = {WIPED_OUT: WayToWin.WIPED_OUT, HELD: WayToWin.HELD, FLED_ALL: WayToWin.FLED, GOAL: WayToWin.GOAL}
HOW_WON: dict[str, str] = {
    WayToWin.HELD: "by holding the objective",
    WayToWin.FLED: "as the others fled",
    WayToWin.GOAL: "by reaching its goal",
}
"""What people read of a win that was more than being the last side that stands."""
NO_WINNER_OF = {
    MUTUAL: NoWinner.MUTUAL_DOWN,
    TIME_OUT: NoWinner.TIME_OUT,
    DRAW: NoWinner.DRAW,
    RUNNING: NoWinner.RUNNING,
}
CODE_OF = {word: code for code, word in NO_WINNER_OF.items()}
LOWEST = min(NO_WINNER_OF)
"""The lowest number that an outcome is written as."""


@frozen
class Outcome:
    """How a fight ended. `side` is the number of the side that won; None where no side did, and then `way` says why."""

    side: int | None
    way: WayToWin | NoWinner

    @classmethod
    def of(cls, code: int, sides: int) -> Outcome:
        """Return the outcome that the kernel wrote, of a fight of this many sides."""
        return cls(code % sides, WAY_OF[code // sides]) if code >= 0 else cls(None, NO_WINNER_OF[code])

    def winner(self, names: Sequence[str]) -> str | None:
        """Return the name of the side that won, or None."""
        return None if self.side is None else names[self.side]

    def name(self, names: Sequence[str]) -> str:
        """Return what people read: the name of the side that won, `mutual down`, `time-out` or `running`."""
        return self.winner(names) or self.way.value


def winning_sides(codes: np.ndarray, sides: int) -> np.ndarray:
    """Return the side that won each fight, of the shape of `codes`; below zero as the kernel wrote it."""
    return np.where(codes >= 0, codes % sides, codes)


def outcome_code(name: str, names: Sequence[str]) -> int:
    """Return the number of a side, or of what ends a fight that no side wins, by its name. Raises `ValueError`."""
    return CODE_OF[NoWinner(name)] if name in tuple(NoWinner) else list(names).index(name)


def outcome_ways(sides: int) -> int:
    """Return how many different numbers an outcome can be, of a fight of this many sides."""
    return sides * len(WAY_OF) - LOWEST
