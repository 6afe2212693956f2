"""A run store in a directory of Parquet files: one for each run, and one for each rulebook."""

from __future__ import annotations

import importlib.util
import uuid
from pathlib import Path
from typing import Any

from ..results.measured import Measured
from ..rulebook import InputError
from ..rulebook.files import check_writable, put_by
from .kept_run import KeptRules, KeptRun

FIGURE = ("name", "value", "low", "high")
REMEDY = 'pip install "restless-ledger[parquet]"'


class ParquetStore:
    """A store in a directory (see `Store`). A file is put there whole, under a name that nobody else uses."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def check(self) -> None:
        """Raise `InputError` where the directory can't be made or written to, or Parquet can't be written."""
        if importlib.util.find_spec("pyarrow") is None and importlib.util.find_spec("fastparquet") is None:
            raise InputError(f"{self.path}: a store of Parquet files needs one more library\n    {REMEDY}")
        self._make()
        check_writable(self.path / "run.parquet")

    def _make(self) -> None:
        try:
            self.path.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise InputError(f"{self.path}: this directory can't be made\n    got: {error.strerror}") from None

    def append(self, run: KeptRun, rules: KeptRules) -> None:
        """Keep a run in a file of its own."""
        told = {name: value for name, value in vars(run).items() if name != "figures"}
        rows = [{**told, **vars(each)} for each in run.figures] or [{**told, "name": None}]
        self._make()
        known = self.path / f"rules-{rules.digest}.parquet"
        if not known.exists():
            self._put(known, [{"path": path, "value": value} for path, value in rules.values.items()])
        moment = run.at.replace(":", "").replace("-", "")
        self._put(self.path / f"run-{moment}-{uuid.uuid4().hex[:8]}.parquet", rows)

    def runs(self) -> list[KeptRun]:
        """Return every run in the order of time."""
        found = []
        for file in sorted(self.path.glob("run-*.parquet")):
            rows = self._read(file)
            figures = tuple(Measured(*(row[key] for key in FIGURE)) for row in rows if row["name"])
            told = {name: rows[0][name] for name in KeptRun.__dataclass_fields__ if name != "figures"}
            found.append(KeptRun(**told, figures=figures))
        return sorted(found, key=lambda run: run.at)

    def rules(self, digest: str) -> KeptRules | None:
        """Return the values of a rulebook, or None."""
        file = self.path / f"rules-{digest}.parquet"
        return KeptRules({row["path"]: row["value"] for row in self._read(file)}) if file.exists() else None

    def _put(self, file: Path, rows: list[dict[str, Any]]) -> None:
        import pandas as pd

        try:
            put_by(file, lambda name: pd.DataFrame.from_records(rows).to_parquet(name, index=False))
        except ImportError:
            raise InputError(f"{self.path}: a store of Parquet files needs one more library\n    {REMEDY}") from None

    def _read(self, file: Path) -> list[dict[str, Any]]:
        import pandas as pd

        try:
            return pd.read_parquet(file).to_dict("records")
        except ImportError:
            raise InputError(f"{self.path}: a store of Parquet files needs one more library\n    {REMEDY}") from None
        except (OSError, ValueError) as error:
            said = " ".join(str(error).split())
            raise InputError(f"{file}: this is no file of a run store\n    got: {said}") from None
