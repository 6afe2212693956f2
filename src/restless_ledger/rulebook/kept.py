"""Rulebooks that have been read before, kept for the next command.

Reading a rulebook takes a third of a second, nearly all of it for building what reads it. A kept one takes a hundredth.
It stands for its files as they were: a file that has changed, come or gone makes it void. It lies in the
user's private folder, never beside the rulebook, as reading it runs what is in it.
"""

from __future__ import annotations

import contextlib
import gc
import pickle
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from ..keeping import folder as keeping
from ..keeping.folder import sum_of
from .files import Reading, find_files, recorded
from .load import load
from .problems import InputError
from .rulebook import Rulebook

ENDING = ".rulebook"
MOST = 32
"""How many rulebooks are kept; the oldest go."""


def _log(said: str, *what: object) -> None:
    """Tell whoever listens where a rulebook came from: nobody does where nobody has imported logging."""
    if "logging" in sys.modules:
        sys.modules["logging"].getLogger(__name__).info(said, *what)


def load_kept(path: str | Path) -> Rulebook:
    """Read a rulebook as `load` does, or take it as it was kept if none of its files has changed since."""
    root, folder = Path(path), keeping.folder()
    if folder is None:
        return load(root)
    name = f"book-{sum_of(str(root.resolve()).encode())}"
    for file in keeping.kept(folder, name):
        found = _opened(file)
        if found is not None:
            _log("rulebook %s: kept in %s", root, file)
            return found
        with contextlib.suppress(OSError):
            file.unlink()
    with recorded() as reading:
        book = load(root)
    _log("rulebook %s: read from its files", root)
    _keep(folder, name, reading, book)
    return book


def _opened(file: Path) -> Rulebook | None:
    """Return a kept rulebook; None where it does not stand for its files any more."""
    with file.open("rb") as stream, _without_collection():
        made_by, files, found = pickle.load(stream)
        if made_by != _made_by() or any(_names(Path(root)) != names for root, names in found.items()):
            return None
        if any(_sum_of(Path(each)) != wanted for each, wanted in files.items()):
            return None
        book: Rulebook = pickle.load(stream)
    return book


def _keep(folder: Path, name: str, reading: Reading, book: Rulebook) -> None:
    """Keep a rulebook with what it stands for. Where that can't be done it is not kept."""
    book._source.find_lines()
    files = {str(file.resolve()): sum_of(content) for file, content in reading.contents.items()}
    found = {str(root.resolve()): _resolved(listed) for root, listed in reading.listed.items()}
    with contextlib.suppress(OSError, pickle.PicklingError):
        keeping.keep(folder, name, ENDING, pickle.dumps((_made_by(), files, found), 5) + pickle.dumps(book, 5))
        others = sorted(folder.glob(f"book-*{ENDING}"), key=lambda each: each.stat().st_mtime, reverse=True)
        for file in others[MOST:]:
            file.unlink(missing_ok=True)


def _names(root: Path) -> list[str]:
    """Return the files of a rulebook that lie at a path now."""
    try:
        return _resolved(find_files(root))
    except InputError:
        return []


def _resolved(files: list[Path]) -> list[str]:
    return [str(file.resolve()) for file in files]


def _made_by() -> tuple[Any, ...]:
    return sys.version, keeping.fingerprint(keeping.RULEBOOKS)


def _sum_of(file: Path) -> str:
    try:
        return sum_of(file.read_bytes())
    except OSError:
        return ""


@contextlib.contextmanager
def _without_collection() -> Iterator[None]:
    """Look for no garbage meanwhile: all that is made stays."""
    collects = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if collects:
            gc.enable()
