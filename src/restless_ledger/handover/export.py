"""An export: the files that a game loads, its rules as source code, and the vectors that prove them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from pathlib import Path
from typing import Any

from ..checked import check_seed, whole
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.files import cannot_write, put_all
from ..rulebook.problems import nearest
from .content import content
from .fights import recorded_fights
from .files import FORMATS, OFTEN_MISSING, files_of, installed, json_bytes
from .functions import Functions
from .languages import WRITERS
from .schema import schema_of
from .vectors import Vector, text_of, vectors

EACH, FIGHTS = 20, 1
"""How many vectors of each function are made, and how many fights of each encounter are recorded."""


class Export(Result):
    """What an export wrote. Its table, `files`, has a record for each file: its name and its size in bytes."""

    TABLES = ("files",)
    ASKED = ("seed",)

    def __init__(
        self,
        book: Rulebook,
        formats: Sequence[str] | None,
        languages: Sequence[str],
        seed: int,
        each: int = EACH,
        fights: int = FIGHTS,
    ) -> None:
        for name in languages:
            if name not in WRITERS:
                raise InputError(f"export: there is no language {name}\n    {nearest(name, WRITERS)}")
        self.book = book
        self.seed = check_seed(seed)
        self.each, self.fights = whole("vectors", each, 1, 100_000), whole("fights", fights, 0, 10_000)
        self.left_out = tuple(name for name in OFTEN_MISSING if not installed(name)) if formats is None else ()
        self.formats = tuple(name for name in (FORMATS if formats is None else formats) if name not in self.left_out)
        self.languages = tuple(dict.fromkeys(languages))

    @cached_property
    def content(self) -> dict[str, Any]:
        """All that is exported, as one value."""
        return content(self.book)

    @cached_property
    def vectors(self) -> list[Vector]:
        """The test vectors of all functions."""
        return vectors(self.book, self.functions, self.each, self.fights, self.seed)

    @cached_property
    def functions(self) -> Functions:
        """The rules as functions."""
        return Functions(self.book)

    @cached_property
    def files(self) -> dict[str, bytes]:
        """Every file by its name, below the directory that it is written to."""
        found = files_of(self.content, schema_of(self.content), self.formats)
        if self.languages:
            lines = text_of(self.vectors).encode()
            found["vectors.json"] = json_bytes(self._proof())
            for name in self.languages:
                first = self.book.rulebook.levels[0]
                writer = WRITERS[name](self.book.rulebook.title, self.functions.all, self.functions.page, first)
                found |= {f"{name}/{file}": text.encode() for file, text in writer.source().items()}
                found[f"{name}/vectors.txt"] = lines
        return found

    def _proof(self) -> dict[str, Any]:
        named = [
            {"number": number, "name": each.name, "place": each.place, "says": each.says, "inputs": each.inputs}
            for number, each in enumerate(self.functions.all)
        ]
        rows = [[each.number, each.wanted, *each.inputs] for each in self.vectors]
        return {
            "format": "restless-ledger vectors",
            "version": 1,
            "title": self.book.rulebook.title,
            "functions": named,
            "vectors": rows,
            "fights": recorded_fights(self.book, self.fights, self.seed),
        }

    def put(self, folder: str | Path) -> None:
        """Write every file below a directory, all of them or none. Raises `InputError` where that can't be."""
        files = {Path(folder) / name: held for name, held in self.files.items()}
        try:
            for parent in dict.fromkeys(file.parent for file in files):
                parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise cannot_write(Path(folder), error) from None
        put_all(files)

    def _records(self, table: str) -> list[dict[str, Any]]:
        return [{"file": name, "bytes": len(held)} for name, held in self.files.items()]

    def finding(self) -> str:
        """Say in a sentence what was exported."""
        code = f", rules for {', '.join(self.languages)} with {len(self.vectors):,} vectors" if self.languages else ""
        return f"{len(self.files)} files: {', '.join(self.formats)}{code}"
