"""At which line of a TOML text each dotted path stands. The text has been read once and is known to be good TOML."""

from __future__ import annotations

import re
from bisect import bisect_left

Path = tuple[str | int, ...]
_SKIP = re.compile(r"(?:[ \t\r\n]|#[^\n]*)*")
_KEY_PART = re.compile(r"""\s*(?:"((?:[^"\\]|\\.)*)"|'([^']*)'|([A-Za-z0-9_-]+))\s*(\.)?""")
_STRING = re.compile(r"(?:\"\"\"(?:[^\\]|\\.)*?\"\"\"+|'''.*?'''+|\"(?:[^\"\\\n]|\\.)*\"|'[^'\n]*')", re.S)
_SCALAR = re.compile(r"[^,\]}#\n]+")
_ESCAPE = re.compile(r"\\(?:u([0-9a-fA-F]{4})|U([0-9a-fA-F]{8})|(.))", re.S)
_LETTERS = {"b": "\b", "t": "\t", "n": "\n", "f": "\f", "r": "\r", "e": "\x1b"}


def line_positions(text: str) -> dict[Path, int]:
    """Return the line (from 1) at which each table, key and element of an array is first written."""
    return _Scanner(text).scan()


class _Scanner:
    def __init__(self, text: str) -> None:
        self.text = text
        self.at = 0
        self.lines: dict[Path, int] = {}
        self.ends = [found.start() for found in re.finditer("\n", text)]
        self.tables: dict[Path, int] = {}  # how many times an array of tables has been opened

    def scan(self) -> dict[Path, int]:
        base: Path = ()
        while self.skip():
            if self.text[self.at] == "[":
                base = self.header()
            else:
                self.pair(base)
        return self.lines

    def skip(self) -> bool:
        """Pass over white space and comments; say whether anything is left."""
        self.at = _SKIP.match(self.text, self.at).end()  # type: ignore[union-attr]
        return self.at < len(self.text)

    def note(self, path: Path) -> None:
        line = bisect_left(self.ends, self.at) + 1
        for length in range(len(path), 0, -1):  # what is above a path that is known is known too
            if path[:length] in self.lines:
                return
            self.lines[path[:length]] = line

    def key(self) -> Path:
        parts: list[str] = []
        while True:
            found = _KEY_PART.match(self.text, self.at)
            assert found is not None
            self.at = found.end()
            quoted, literal, bare, dot = found.groups()
            parts.append(_ESCAPE.sub(_unescape, quoted) if quoted is not None else literal if bare is None else bare)
            if not dot:
                return tuple(parts)

    def header(self) -> Path:
        array = self.text.startswith("[[", self.at)
        self.at += 2 if array else 1
        start = self.at
        written = self.key()
        self.at, end = start, self.at
        path: Path = ()
        for part in written[:-1]:
            path = self.inside((*path, part))
        path = (*path, written[-1])
        if array:
            self.tables[path] = self.tables.get(path, -1) + 1
            path = (*path, self.tables[path])
        self.note(path)
        self.at = end + (2 if array else 1)
        return path

    def inside(self, path: Path) -> Path:
        return (*path, self.tables[path]) if path in self.tables else path

    def pair(self, base: Path) -> None:
        start = self.at
        written = self.key()
        self.at, end = start, self.at
        self.note((*base, *written))
        self.at = end + 1  # the equals sign
        self.value((*base, *written))

    def value(self, path: Path) -> None:
        self.skip()
        opening = self.text[self.at]
        if opening in "[{":
            self.at += 1
            index = 0
            while self.skip() and self.text[self.at] not in "]}":
                if self.text[self.at] == ",":
                    self.at += 1
                elif opening == "{":
                    self.pair(path)
                else:
                    self.note((*path, index))
                    self.value((*path, index))
                    index += 1
            self.at += 1
            return
        found = _STRING.match(self.text, self.at) or _SCALAR.match(self.text, self.at)
        assert found is not None
        self.at = found.end()


def _unescape(found: re.Match) -> str:
    short, long, letter = found.groups()
    return chr(int(short or long, 16)) if short or long else _LETTERS.get(letter, letter)
