"""Rules of rolls that are made outside of a fight."""

from __future__ import annotations

from ..problems import Report
from ..rolls import AnyRoll, Between, Deck, Dice


def check_fixed(report: Report, path: tuple, roll: AnyRoll, whole: bool = False) -> None:
    """Nobody's page is read, and there is no deck to draw from; some figures are whole."""
    if isinstance(roll, Between) and roll.formulas:
        report.add((*path, "between"), "the ends are numbers here", roll.formulas[0].text, "write numbers")
    if isinstance(roll, Deck):
        report.add((*path, "deck"), "a deck is drawn from in a fight only", "", "write a range or dice")
    if whole and isinstance(roll, Between) and not roll.whole:
        report.add((*path, "whole"), "this is a whole number", "false", "leave whole out")


def least_of(roll: AnyRoll) -> float:
    """Return the least that a roll without formulas can give."""
    match roll:
        case Between():
            return min((end for end in roll.between if isinstance(end, int | float)), default=0.0)
        case Dice():
            faces = [face for face in range(1, roll.sides + 1) if not (roll.reroll_until_gone and face in roll.reroll)]
            return faces[0] * (roll.dice - roll.drop_lowest - roll.drop_highest) + roll.add
        case Deck():
            return min(roll.deck)
    raise TypeError(f"{roll!r} is no roll")
