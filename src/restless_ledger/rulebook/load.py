"""Read a directory of TOML files into one frozen rulebook, or say everything that is wrong with it."""

from __future__ import annotations

from pathlib import Path
from typing import cast

from .check import check
from .csv_tables import fill_tables
from .frozen import freeze
from .problems import InputError, Report, RulebookError
from .rulebook import Rulebook
from .source import Source
from .validate import validate


def load(path: str | Path) -> Rulebook:
    """Read a rulebook: a directory of TOML files (sub-directories too), or one file.

    Raises `RulebookError`, which lists all that is wrong, each with file and line, dotted path and remedy;
    `InputError` when there is nothing to read at all.
    """
    root = Path(path)
    source = Source()
    for file in _find_files(root):
        source.read(file, _short_name(file, root))
    fill_tables(source, root if root.is_dir() else root.parent)
    return assemble(source)


def assemble(source: Source) -> Rulebook:
    """Validate what a source has read, let the chapters check it, and return the rulebook."""
    report = Report(source)
    chapters = validate(source.data, report)
    book = Rulebook.model_construct(**chapters)  # each entry of each chapter has been validated
    check(book, report)
    problems = [*source.problems, *report.problems]
    if problems:
        raise RulebookError(problems)
    book._source = source
    return cast(Rulebook, freeze(book))


def _find_files(path: Path) -> list[Path]:
    if path.is_file():
        return [path]
    if not path.is_dir():
        raise InputError(
            f"{path}: there is no such file or directory\n    give a directory of TOML files, or the word demo"
        )
    files = sorted(file for file in path.rglob("*.toml") if not file.name.startswith("."))
    if not files:
        raise InputError(
            f"{path}: there is no .toml file in this directory\n    start one with: restless-ledger new {path}"
        )
    return files


def _short_name(file: Path, root: Path) -> str:
    return str(file.relative_to(root)) if root.is_dir() else file.name
