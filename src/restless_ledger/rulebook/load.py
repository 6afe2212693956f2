"""Read a directory of TOML files into one frozen rulebook, or say everything that is wrong with it."""

from __future__ import annotations

from pathlib import Path

from .rulebook import Rulebook


def load(path: str | Path) -> Rulebook:
    """Read a rulebook: a directory of TOML files (sub-directories too), or one file. It may build on another one.

    Raises `RulebookError`, which lists all that is wrong, each with file and line, dotted path and remedy;
    `InputError` when there is nothing to read at all.
    """
    from .reading import assemble, read_source  # what reads and checks is not needed for a rulebook that was kept

    return assemble(read_source(Path(path)))
