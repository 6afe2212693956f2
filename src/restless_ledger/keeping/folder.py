"""Where compiled rules and rulebooks are kept: in a folder of the user's own, named by the sources of the rules.

Another source is another folder, so stale rules are never run. A file's name has a sum of its contents, which is
checked before it is used. A folder that others may write to is not used at all.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import platform
import stat
import sys
from collections.abc import Iterator
from functools import cache
from pathlib import Path

PACKAGE = Path(__file__).parents[1]
RULES_OF_COMBAT = (
    "engine/kernel",
    "engine/layout",
    "engine/compiler",
    "engine/codes.py",
    "engine/refusals.py",
    "engine/splitmix64.py",
    "engine/tables/compiled_formulas.py",
    "formula",
    "rulebook/damage.py",
    "rulebook/pages.py",
    "rulebook/place.py",
    "rulebook/speeds.py",
    "rulebook/verbs.py",
    "rulebook/vocabulary.py",
    "rulebook/words.py",
    "sheets/resolve.py",
)
"""The sources that the compiled rules of combat are made from: folders and files."""
RULEBOOKS = ("formula", "rulebook")
"""The sources that a rulebook which was read depends on."""
PACKAGED = PACKAGE / "engine" / "native"
"""Where a wheel has the compiled rules."""
NAME = "restless-ledger"
VARIABLE = "RESTLESS_LEDGER_CACHE"
"""The name of the environment variable that says where the cache lies."""
SUM_LETTERS = 16
KEPT = 4
"""How many folders of other sources are left there; older ones are removed."""


@cache
def fingerprint(sources: tuple[str, ...] = RULES_OF_COMBAT) -> str:
    """Return what tells some sources from any others, on this kind of machine."""
    digest = hashlib.sha256("|".join((sys.platform, platform.machine())).encode())
    for source in sources:
        for file in _files_of(os.path.join(PACKAGE, source)):
            digest.update(file[len(f"{PACKAGE}/") :].replace(os.sep, "/").encode())
            with open(file, "rb", buffering=0) as stream:
                digest.update(stream.read())
    return digest.hexdigest()[:24]


def _files_of(source: str) -> list[str]:
    """Return the files of a source, in order: as texts, which take a third of the time that paths take."""
    if not os.path.isdir(source):
        return [source]
    listed = (os.path.join(place, name) for place, _, names in os.walk(source) for name in names)
    return sorted(file for file in listed if file.endswith(".py"))


def candidates(name: str) -> Iterator[Path]:
    """Yield the folders that may be used, the best first: one that is asked for, the user's cache, and one for this
    user among temporary files."""
    if asked := os.environ.get(VARIABLE):
        yield Path(asked) / name
    base = os.environ.get("XDG_CACHE_HOME", "")
    with contextlib.suppress(RuntimeError):  # no home
        yield (Path(base) if Path(base).is_absolute() else Path.home() / ".cache") / NAME / name
    import tempfile  # where a user's cache can be used this is not needed

    user = os.getuid() if hasattr(os, "getuid") else os.environ.get("USERNAME", "user")
    yield Path(tempfile.gettempdir()) / f"{NAME}-{user}" / name


def usable(folders: Iterator[Path]) -> Path | None:
    """Return the first folder that can be made, that is the user's own, and that nobody else may write to. None where
    there is none: then nothing is kept."""
    for folder in folders:
        try:
            folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            if not all(map(_private, (folder, folder.parent))):
                continue
            if not os.access(folder, os.W_OK | os.X_OK):
                continue
            _prune(folder)
        except OSError:
            continue
        return folder
    return None


@cache
def folder() -> Path | None:
    """Return the folder of these rules; None where nothing can be kept."""
    return usable(candidates(fingerprint()))


def _private(folder: Path) -> bool:
    """Say whether a folder is the user's own, and only they may write to it."""
    found = folder.lstat()
    if not hasattr(os, "getuid"):
        return stat.S_ISDIR(found.st_mode)
    shared = found.st_mode & (stat.S_IWGRP | stat.S_IWOTH)
    return stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid() and not shared


def _prune(folder: Path) -> None:
    """Remove the oldest folders of other sources."""
    others = [other for other in folder.parent.iterdir() if other != folder and other.is_dir()]
    for other in sorted(others, key=lambda each: each.stat().st_mtime, reverse=True)[KEPT:]:
        with contextlib.suppress(OSError):
            for file in other.iterdir():
                file.unlink()
            other.rmdir()


def keep(folder: Path, name: str, ending: str, content: bytes) -> Path:
    """Keep something under a name in a folder, whole or not at all; return its file."""
    file = folder / f"{name}-{sum_of(content)[:SUM_LETTERS]}{ending}"
    beside = folder / f"{name}-{os.getpid()}.part"
    try:
        beside.write_bytes(content)
        beside.replace(file)
    finally:
        beside.unlink(missing_ok=True)
    return file


def kept(folder: Path, name: str) -> Iterator[Path]:
    """Yield the files of a name that are whole; what is damaged is removed."""
    with contextlib.suppress(OSError):
        for file in sorted(folder.glob(f"{name}-*")):
            if file.suffix == ".part":
                continue
            if file.is_symlink() or file.stem != f"{name}-{sum_of(file.read_bytes())[:SUM_LETTERS]}":
                file.unlink(missing_ok=True)
                continue
            yield file


def sum_of(content: bytes) -> str:
    """Return a sum by which contents are told apart."""
    return hashlib.sha256(content).hexdigest()
