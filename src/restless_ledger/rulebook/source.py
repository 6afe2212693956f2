"""What was read: the data of all files, and at which file and line each value was written."""

from __future__ import annotations

import marshal
import re
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import Path
from typing import Any

from .files import read_regular
from .positions import line_positions
from .problems import Problem, dotted
from .rulebook import SINGLE_CHAPTERS

MOST_DIGITS, MOST_PARTS = 400, 60
LONG_DIGITS = re.compile(rf"[0-9_]{{{MOST_DIGITS + 1},}}")
LONG_KEY = re.compile(rf"(?:[A-Za-z0-9_-]+\s*\.\s*){{{MOST_PARTS},}}[A-Za-z0-9_-]+")


TOOL = "tool"
"""A chapter for programs that read rulebooks, such as the command line, whose options may have defaults there. It
declares nothing of a game."""


def _holds(data: Any, path: tuple) -> bool:
    """Say whether data hold something at a path."""
    for part in path:
        inside = isinstance(data, dict) and part in data
        if not inside and not (isinstance(data, list) and isinstance(part, int) and part < len(data)):
            return False
        data = data[part]
    return True


@dataclass
class Source:
    """The texts of a rulebook, merged; remembers which file and line each dotted path came from."""

    data: dict[str, Any] = field(default_factory=dict)
    texts: dict[str, str] = field(default_factory=dict)
    owners: dict[tuple, str] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)
    lines_of: dict[str, dict[tuple, int]] = field(default_factory=dict)
    """Of files that are no TOML, the line of each path."""
    likes: dict[tuple, tuple] = field(default_factory=dict)
    """Of entries that are like another one, which."""
    found_lines: dict[str, bytes] = field(default_factory=dict)
    """Of a rulebook that is kept, by file, the line of each path: packed, as most files are never asked for theirs."""

    def read(self, file: Path, name: str) -> None:
        """Read one file and merge it; what is wrong with it becomes a problem."""
        try:
            text = read_regular(file).decode("utf-8-sig")
        except OSError as error:
            self.problems.append(Problem(name, "", f"the file can't be read: {error.strerror}"))
            return
        except UnicodeDecodeError as error:
            line = error.object.count(b"\n", 0, error.start) + 1
            got = f"byte 0x{error.object[error.start]:02x}"
            self.problems.append(Problem(f"{name}:{line}", "", "the file is not UTF-8 text", got, "save it as UTF-8"))
            return
        self.add(text, name)

    def add(self, text: str, name: str) -> None:
        """Merge one TOML text under a file's name."""
        if found := LONG_DIGITS.search(text):
            line = text.count("\n", 0, found.start()) + 1
            self.problems.append(
                Problem(
                    f"{name}:{line}",
                    "",
                    f"a number of more than {MOST_DIGITS} digits",
                    f"{found[0][:20]}…",
                    "write a shorter one",
                )
            )
            return
        if found := LONG_KEY.search(text):
            line = text.count("\n", 0, found.start()) + 1
            self.problems.append(
                Problem(
                    f"{name}:{line}",
                    "",
                    f"a key of more than {MOST_PARTS} parts",
                    f"{found[0][:20]}…",
                    "write a shorter one",
                )
            )
            return
        import tomllib  # a rulebook that was read before is not read again

        try:
            data = tomllib.loads(text)
        except (RecursionError, ValueError) as error:
            found = re.search(r" \(at line (\d+), column (\d+)\)", str(error))
            place = f"{name}:{found[1]}" if found else f"{name}:{text.count(chr(10)) + 1}"
            what = re.sub(r" \(at .*\)", "", str(error))
            self.problems.append(
                Problem(place, "", f"this is not TOML: {what}", "", "see https://toml.io for the format")
            )
            return
        self.texts[name] = text
        self.merge(data, name)

    def with_data(self, data: dict[str, Any]) -> Source:
        """Return the same source with other numbers in its data: everything stands where it stood."""
        other = replace(self, data=data, problems=[])
        other.__dict__ |= {"_lines": self._lines, "_places": self._places}
        return other

    def merge(self, data: dict[str, Any], name: str) -> None:
        """Add the chapters of another file. Names that are there already are problems."""
        for chapter, content in data.items():
            if chapter == TOOL:
                continue
            if not isinstance(content, dict) or chapter in SINGLE_CHAPTERS:
                self.put((chapter,), content, self.data, name)
                continue
            kept = self.data.setdefault(chapter, {})
            self.owners.setdefault((chapter,), name)
            for entry, value in content.items():
                if isinstance(kept, dict):
                    self.put((chapter, entry), value, kept, name)

    def put(self, path: tuple, value: Any, into: dict, name: str) -> None:
        """Put an entry in its chapter, unless another file has it already."""
        if path in self.owners:
            other = f"{self.owners[path]}:{self.line(self.owners[path], path)}"
            self.problems.append(
                Problem(
                    f"{name}:{self.line(name, path)}",
                    dotted(path),
                    "declared twice",
                    f"also at {other}",
                    "keep one of the two",
                )
            )
            return
        self.owners[path] = name
        into[path[-1]] = value

    @cached_property
    def _lines(self) -> dict[str, dict[tuple, int]]:
        return {}

    def lines(self, name: str) -> dict[tuple, int]:
        """Return the line of each path that a file writes."""
        if name not in self._lines:
            if name in self.found_lines:
                self._lines[name] = marshal.loads(self.found_lines[name])
            else:
                self._lines[name] = self.lines_of[name] if name in self.lines_of else line_positions(self.texts[name])
        return self._lines[name]

    def find_lines(self) -> None:
        """Find the lines of all files, so that whoever opens the rulebook as it was kept need not look for them."""
        self.found_lines = {name: marshal.dumps(self.lines(name)) for name in self.texts}

    def __getstate__(self) -> dict[str, Any]:
        return {name: value for name, value in self.__dict__.items() if name != "_lines"}

    def line(self, name: str, path: tuple) -> int:
        """Return the line of the longest part of a path that the file writes."""
        lines = self.lines(name)
        return next((lines[path[:length]] for length in range(len(path), 0, -1) if path[:length] in lines), 1)

    @cached_property
    def _places(self) -> dict[tuple, str]:
        return {}

    def place(self, path: tuple) -> str:
        """Return `file:line` of a path, or of the nearest thing above it."""
        if path not in self._places:
            self._places[path] = self._find_place(path)
        return self._places[path]

    def _find_place(self, path: tuple) -> str:
        other = self.likes.get(path[:2])
        if other and len(path) > 2 and not _holds(self.data, path):
            return self.place((*other, *path[2:]))
        for length in range(len(path), 0, -1):
            if path[:length] in self.owners:
                name = self.owners[path[:length]]
                return f"{name}:{self.line(name, path)}"
        return next(iter(self.texts), "the rulebook")
