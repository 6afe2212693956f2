"""A run store in one file of SQLite."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from itertools import groupby
from pathlib import Path

from ..results.measured import Measured
from ..rulebook import InputError
from ..rulebook.files import check_writable
from .kept_run import KeptRules, KeptRun

WAIT = 60.0
"""How many seconds a writer waits for others."""
TABLES = """
create table if not exists rules (digest text primary key, content text not null);
create table if not exists runs (
    number integer primary key autoincrement, at text not null, version text not null, rulebook text not null,
    rules text not null references rules (digest), revision text not null, command text not null,
    seed integer not null, complete integer not null
);
create table if not exists figures (
    run integer not null references runs (number), name text not null, value real, low real, high real
);
create index if not exists figures_by_run on figures (run);
"""
RUNS = """
select number, at, version, rulebook, rules, revision, command, seed, complete, name, value, low, high
from runs left join figures on run = number order by at, number, figures.rowid
"""


class SqliteStore:
    """A store in a file (see `Store`)."""

    def __init__(self, path: Path) -> None:
        self.path = path

    @contextmanager
    def _open(self) -> Iterator[sqlite3.Connection]:
        """Open the file for one transaction."""
        try:
            with closing(sqlite3.connect(self.path, timeout=WAIT, isolation_level=None)) as file:
                yield file
        except sqlite3.DatabaseError as error:
            raise InputError(f"{self.path}: this run store can't be used\n    got: {error}") from None

    def check(self) -> None:
        """Raise `InputError` where the file can't be written, or is none of SQLite."""
        check_writable(self.path)
        if self.path.exists():
            with self._open() as file:
                file.execute("pragma schema_version").fetchone()

    def append(self, run: KeptRun, rules: KeptRules) -> None:
        """Keep a run in one transaction, after those of all others who write."""
        with self._open() as file:
            file.execute("begin immediate")
            try:
                for statement in TABLES.split(";"):
                    file.execute(statement)
                file.execute("insert or ignore into rules values (?, ?)", (rules.digest, rules.text))
                told = (run.at, run.version, run.rulebook, run.rules, run.revision, run.command, run.seed, run.complete)
                number = file.execute("insert into runs values (null, ?, ?, ?, ?, ?, ?, ?, ?)", told).lastrowid
                rows = [(number, each.name, each.value, each.low, each.high) for each in run.figures]
                file.executemany("insert into figures values (?, ?, ?, ?, ?)", rows)
                file.execute("commit")
            except BaseException:
                if file.in_transaction:
                    file.execute("rollback")
                raise

    def runs(self) -> list[KeptRun]:
        """Return every run in the order of time."""
        found = []
        with self._open() as file:
            for _, rows in groupby(file.execute(RUNS), key=lambda row: row[0]):
                several = list(rows)
                at, version, title, rules, revision, command, seed, complete = several[0][1:9]
                measured = [row[9:] for row in several if row[9] is not None]
                figures = tuple(Measured(name, *map(_number, values)) for name, *values in measured)
                found.append(KeptRun(at, version, title, rules, revision, command, seed, bool(complete), figures))
        return found

    def rules(self, digest: str) -> KeptRules | None:
        """Return the values of a rulebook, or None."""
        with self._open() as file:
            row = file.execute("select content from rules where digest = ?", (digest,)).fetchone()
        return KeptRules.read(row[0]) if row else None


def _number(value: float | None) -> float:
    """Return a number; SQLite keeps what is none as nothing."""
    return float("nan") if value is None else float(value)
