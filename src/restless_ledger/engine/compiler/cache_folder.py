"""Where compiled rules are kept: in a folder of the user's own, named by everything that they are made from.

The compiler's own cache lies beside the sources and looks only at the file of each function, not at the files of those
it calls: it would run stale rules after a change, and trust whatever it finds. Here another source is another folder,
every file has a sum that is checked before it is used, and a folder that others may write to is not used at all.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import platform
import stat
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

PACKAGE = Path(__file__).parents[2]
SOURCES = tuple(PACKAGE / room for room in ("engine", "formula", "sheets", "rulebook"))
NAME = "restless-ledger"
SUMS = "sums.json"
KEPT = 4
"""How many folders of other sources are left there; older ones are removed."""

FOLDER: Path | None = None
"""The folder in use; None where nothing can be kept."""


def fingerprint() -> str:
    """Return what tells these rules from any others: the sources, the compiler and the machine."""
    import llvmlite
    import numba

    made_by = (numba.__version__, llvmlite.__version__, sys.version, platform.machine())
    digest = hashlib.sha256("|".join(made_by).encode())
    for folder in SOURCES:
        for file in sorted(folder.rglob("*.py")):
            digest.update(file.relative_to(PACKAGE).as_posix().encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()[:24]


def candidates(name: str) -> Iterator[Path]:
    """Yield the folders that may be used, the best first: the compiler's own if one is set, the user's cache, and one
    for this user among temporary files."""
    if asked := os.environ.get("NUMBA_CACHE_DIR"):
        yield Path(asked) / NAME / name
    base = os.environ.get("XDG_CACHE_HOME", "")
    with contextlib.suppress(RuntimeError):  # no home
        yield (Path(base) if Path(base).is_absolute() else Path.home() / ".cache") / NAME / name
    user = os.getuid() if hasattr(os, "getuid") else os.environ.get("USERNAME", "user")
    yield Path(tempfile.gettempdir()) / f"{NAME}-{user}" / name


def usable(folders: Iterator[Path]) -> Path | None:
    """Return the first folder that can be made, that is the user's own, and that nobody else may write to; what lies
    in it damaged or without its sum is removed. None where there is none: then nothing is kept."""
    for folder in folders:
        try:
            folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            if not all(map(_private, (folder, folder.parent))):
                continue
            with tempfile.TemporaryFile(dir=folder):
                pass
            _check(folder)
            _prune(folder)
        except OSError:
            continue
        return folder
    return None


def _private(folder: Path) -> bool:
    """Say whether a folder is the user's own, and only they may write to it."""
    found = folder.lstat()
    if not hasattr(os, "getuid"):
        return stat.S_ISDIR(found.st_mode)
    shared = found.st_mode & (stat.S_IWGRP | stat.S_IWOTH)
    return stat.S_ISDIR(found.st_mode) and found.st_uid == os.getuid() and not shared


def _check(folder: Path) -> None:
    """Remove every file whose contents are not what was sealed: damaged, empty, or left half-way."""
    sums = _sums(folder)
    for file in _files(folder):
        if sums.get(_key(folder, file)) != _sum(file):
            file.unlink(missing_ok=True)


def _prune(folder: Path) -> None:
    """Remove the oldest folders of other sources."""
    others = [other for other in folder.parent.iterdir() if other != folder and other.is_dir()]
    for other in sorted(others, key=lambda each: each.stat().st_mtime, reverse=True)[KEPT:]:
        for file in [*_files(other), other / SUMS]:
            file.unlink(missing_ok=True)
        for place in [*(inner for inner in other.iterdir() if inner.is_dir()), other]:
            with contextlib.suppress(OSError):
                place.rmdir()


@contextlib.contextmanager
def in_use() -> Iterator[None]:
    """Let the compiler keep what is declared meanwhile in the folder."""
    from numba.core import config as settings

    config: Any = settings
    before = config.CACHE_DIR
    config.CACHE_DIR = str(FOLDER or "")
    try:
        yield
    finally:
        config.CACHE_DIR = before


def seal() -> None:
    """Keep the sum of every file that has been written."""
    if FOLDER is None:
        return
    sums = {_key(FOLDER, file): _sum(file) for file in _files(FOLDER)}
    with contextlib.suppress(OSError):
        beside = FOLDER / f"{SUMS}.{os.getpid()}"
        beside.write_text(json.dumps(sums), encoding="utf-8")
        beside.replace(FOLDER / SUMS)


def is_kept(program: str) -> bool:
    """Say whether the compiled code of a program lies ready."""
    return FOLDER is not None and any(file.name.partition("-")[0].endswith(f".{program}") for file in _files(FOLDER))


def _files(folder: Path) -> list[Path]:
    return [*folder.rglob("*.nbi"), *folder.rglob("*.nbc")]


def _key(folder: Path, file: Path) -> str:
    """Return what a file is known by: its place in the folder, as each installation of the same rules has one there."""
    return file.relative_to(folder).as_posix()


def _sum(file: Path) -> str:
    return hashlib.sha256(file.read_bytes()).hexdigest()


def _sums(folder: Path) -> dict[str, str]:
    try:
        found = json.loads((folder / SUMS).read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return found if isinstance(found, dict) else {}
