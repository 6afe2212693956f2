"""Rulebooks that are read."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from .. import rulebook
from ..rulebook import Rulebook

if TYPE_CHECKING:
    pass

DEMO = Path(__file__).parents[1] / "demo" / "gullwick"
FAULTY = Path(__file__).parents[1] / "demo" / "faulty"


def load(path: str | Path) -> Rulebook:
    """Read a rulebook: a directory of TOML files, or one file.

    Raises `RulebookError`, which lists all that is wrong with file, line, path and remedy, and `InputError` when
    there is nothing to read.
    """
    return rulebook.load(path)


def demo() -> Rulebook:
    """Read the shipped rulebook, the Gullwick Stair."""
    return load(DEMO)


def faulty() -> Rulebook:
    """Read the shipped rulebook that is wrong on purpose: it shows every finding at least once."""
    return load(FAULTY)
