"""Sheets: a class at a level, every figure with its lines of origin."""

from .build import build_sheet
from .creation import Verdict
from .figures import GaugeFigure, Line, StatFigure
from .gear import Item
from .sheet import Sheet
from .spec import CharacterSpec, spec_of
from .tries import CheckOutcome, Try, try_check

__all__ = [
    "CharacterSpec",
    "CheckOutcome",
    "GaugeFigure",
    "Item",
    "Line",
    "Sheet",
    "StatFigure",
    "Try",
    "Verdict",
    "build_sheet",
    "spec_of",
    "try_check",
]
