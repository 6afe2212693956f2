"""Edit a rulebook's files: put other numbers in, and change nothing else in them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import tomlkit
from tomlkit.items import Integer

from .files import put_all
from .levers import Lever, new_text, written
from .problems import InputError
from .rulebook import Rulebook

BYTE_ORDER_MARK = "\ufeff"


def write_values(book: Rulebook, root: str | Path, values: dict[Lever, float]) -> list[Path]:
    """Write new values of levers into the files of a rulebook that lies at `root`; return the files that were changed.

    Comments, order and spacing stay as they are. Raises `InputError` on a file that can't be read or written; then
    nothing has been changed.
    """
    base = Path(root)
    texts: dict[Path, str] = {}
    for lever, value in sorted(values.items(), key=lambda pair: -(pair[0].index or 0)):
        name = book.place(*lever.path).rpartition(":")[0]
        file = base if base.is_file() else base / name
        try:
            text = texts.get(file) or file.read_bytes().decode("utf-8")
        except OSError as error:
            raise InputError(f"{file}: the file can't be read: {error.strerror}") from None
        mark = BYTE_ORDER_MARK if text.startswith(BYTE_ORDER_MARK) else ""
        texts[file] = mark + _edited(text.removeprefix(mark), lever, value)
    put_all({file: text.encode() for file, text in texts.items()})
    return list(texts)


def _edited(text: str, lever: Lever, value: float) -> str:
    document = tomlkit.parse(text)
    inside: Any = document
    for part in lever.path[:-1]:
        inside = inside[part]
    key = lever.path[-1]
    old = inside[key]
    if lever.index is None:
        whole = isinstance(old, Integer) and float(value).is_integer()
        new: Any = tomlkit.item(round(value) if whole else float(written(value, False)))
    else:
        new = tomlkit.item(new_text(str(old), lever, value))
    if hasattr(old, "trivia"):
        new.trivia.comment_ws, new.trivia.comment = old.trivia.comment_ws, old.trivia.comment
        new.trivia.trail, new.trivia.indent = old.trivia.trail, old.trivia.indent
    inside[key] = new
    return tomlkit.dumps(document)
