"""What keeps a fight from being carried on, and how it is told."""

from __future__ import annotations

from ..rulebook import InputError
from .codes import (
    FASTEST,
    LONGEST,
    MOST_ACTIONS,
    MOST_BOOKED,
    MOST_EFFECTS,
    NO_END,
    NO_ROOM,
    TOO_FAST,
    TOO_LARGE,
    TOO_LONG,
    TOO_MANY_ACTIONS,
    TOO_MUCH,
)

FAULTS = {
    TOO_LARGE: (
        "an amount beyond {largest:g} points",
        "make the formulas behind it smaller, or raise rulebook.largest_amount, up to 1e15",
    ),
    TOO_MUCH: (
        f"all very large amounts of the fight come to more than {MOST_BOOKED:g} points",
        "make the formulas behind them smaller, or the fight shorter",
    ),
    TOO_LONG: (f"a time beyond {LONGEST:g} ticks", "make the way shorter, or the factor of the time smaller"),
    TOO_FAST: (f"a speed beyond {FASTEST:g} m/s", "make the push weaker, or the weight greater"),
    TOO_MANY_ACTIONS: (f"more than {MOST_ACTIONS} actions in a round", "make clock.actions smaller"),
    NO_END: (
        f"more than {MOST_EFFECTS:,} effects on one tick, by reactions that bring each other about",
        "let a reaction ask for something that its own effects take away, or lower clock.reaction_depth",
    ),
    NO_ROOM: (
        "more effects, projectiles or zones under way, or put off, than there is room for",
        "let fewer reactions answer one another, or fewer targets be reached at once",
    ),
}
"""What each fault is, and its remedy."""


class EngineFault(RuntimeError):
    """Books that do not balance: a fault of this library, never of its input."""


class FightFault(InputError):
    """A fight that could not be carried on: a formula without a finite value, or an amount beyond all bounds."""
