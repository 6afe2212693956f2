"""Sheets: a class at a level, every figure with its lines of origin."""

from .build import build_sheet
from .sheet import GaugeFigure, Line, Sheet, StatFigure

__all__ = ["GaugeFigure", "Line", "Sheet", "StatFigure", "build_sheet"]
