"""Run stores: a file of SQLite, or a directory of Parquet files."""

from __future__ import annotations

from pathlib import Path
from typing import Protocol

from ..rulebook import InputError
from .kept_run import KeptRules, KeptRun
from .parquet_store import ParquetStore
from .sqlite_store import SqliteStore

PARQUET = "parquet"


class Store(Protocol):
    """Where runs are kept. Any number of processes may append at once; nothing that was kept is ever changed."""

    def append(self, run: KeptRun, rules: KeptRules) -> None:
        """Keep a run, and the values of its rulebook, whole or not at all. Raises `InputError`."""

    def check(self) -> None:
        """Raise `InputError` where nothing can be kept here, before any work is done."""

    def runs(self) -> list[KeptRun]:
        """Return every run in the order of time. Raises `InputError` where the store can't be read."""

    def rules(self, digest: str) -> KeptRules | None:
        """Return the values of a rulebook, or None where they are not kept."""


def open_store(path: str | Path, must_be_there: bool = False) -> Store:
    """Return the store at a path: Parquet in a directory, or in one to be made whose name ends in `/` or `.parquet`;
    else a file of SQLite. Nothing is made before the first run is kept.

    Raises `InputError` where there is none and one must be there.
    """
    place = Path(path)
    if must_be_there and not place.exists():
        raise InputError(
            f"{path}: there is no run store here\n    --keep {path} begins one, with any command that simulates"
        )
    if place.is_dir() or str(path).endswith(("/", f".{PARQUET}")):
        return ParquetStore(place)
    return SqliteStore(place)
