"""Sheets: a class at a level, every figure with its lines of origin."""

from .build import build_sheet
from .figures import GaugeFigure, Line, StatFigure
from .gear import Item
from .sheet import Sheet
from .spec import CharacterSpec, spec_of

__all__ = ["CharacterSpec", "GaugeFigure", "Item", "Line", "Sheet", "StatFigure", "build_sheet", "spec_of"]
