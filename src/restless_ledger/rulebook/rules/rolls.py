"""Rules of rolls that are made outside of a fight."""

from __future__ import annotations

from ..problems import Report
from ..rolls import AnyRoll, Between, Deck


def check_fixed(report: Report, path: tuple, roll: AnyRoll, whole: bool = False) -> None:
    """Nobody's page is read, and there is no deck to draw from; some figures are whole."""
    if isinstance(roll, Between) and roll.formulas:
        report.add((*path, "between"), "the ends are numbers here", roll.formulas[0].text, "write numbers")
    if isinstance(roll, Deck):
        report.add((*path, "deck"), "a deck is drawn from in a fight only", "", "write a range or dice")
    if whole and isinstance(roll, Between) and not roll.whole:
        report.add((*path, "whole"), "an attribute is a whole number", "false", "leave whole out")
