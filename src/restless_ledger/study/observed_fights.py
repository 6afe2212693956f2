"""Fights that were seen in play, read from a CSV file."""

from __future__ import annotations

import csv
import io
import math
from pathlib import Path

from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from ..rulebook.words import NoWinner

NEEDED = ("encounter", "winner")
KNOWN = (*NEEDED, "seconds", "damage", "level")
NOBODY = (NoWinner.MUTUAL_DOWN.value, NoWinner.TIME_OUT.value, NoWinner.DRAW.value)


@frozen
class ObservedFight:
    """One fight that was observed: who won, how long it took and how much damage everybody dealt together (NaN where
    that was not noted), and everybody's level where that differs from what is written."""

    encounter: str
    winner: str
    seconds: float
    level: int | None
    damage: float = math.nan


def read_seen(book: Rulebook, path: str | Path) -> list[ObservedFight]:
    """Read observed fights from a CSV file with the columns encounter, winner, and perhaps seconds, damage and level.

    Raises `InputError` on a file or column that is missing, and a row that can't be: all of those at once.
    """
    file = Path(path)
    try:
        rows = list(csv.DictReader(io.StringIO(file.read_bytes().decode("utf-8-sig"))))
    except OSError as error:
        raise InputError(f"{file}: the file can't be read: {error.strerror}") from None
    except (UnicodeDecodeError, csv.Error) as error:
        raise InputError(f"{file}: this is not a CSV table: {error}\n    save it as UTF-8, with commas") from None
    columns = list(rows[0]) if rows else []
    missing = [name for name in NEEDED if name not in columns]
    if missing:
        got = ", ".join(map(str, columns)) or "nothing"
        raise InputError(
            f"{file}:1: the table has no column {missing[0]}\n    got: {got}\n    columns: {', '.join(KNOWN)}"
        )
    found, problems = [], []
    for line, row in enumerate(rows, 2):
        try:
            found.append(_seen(book, row))
        except InputError as error:
            problems.append(f"{file}:{line}: {error}")
    if problems:
        raise InputError("\n".join(problems))
    return found


def _seen(book: Rulebook, row: dict[str, str]) -> ObservedFight:
    winner = (row["winner"] or "").strip()
    encounter = (row["encounter"] or "").strip()
    if encounter not in book.encounters:
        raise InputError(f"there is no encounter {encounter}\n    {nearest(encounter, book.encounters)}")
    sides = [*(side.name for side in book.encounters[encounter].sides), *NOBODY]
    if winner not in sides:
        raise InputError(f"there is no side {winner} in {encounter}\n    {nearest(winner, sides)}")
    seconds, damage, level = (_number(row, name) for name in ("seconds", "damage", "level"))
    if seconds < 0 or damage < 0 or (not math.isnan(level) and level != int(level)):
        raise InputError(f"this can't be\n    got: {row}")
    return ObservedFight(encounter, winner, seconds, None if math.isnan(level) else int(level), damage)


def _number(row: dict[str, str], name: str) -> float:
    text = (row.get(name) or "").strip()
    try:
        return float(text) if text else math.nan
    except ValueError:
        raise InputError(f"a number is wanted under {name}\n    got: {text}") from None
