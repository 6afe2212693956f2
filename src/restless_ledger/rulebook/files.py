"""Files put in place whole: written beside, then renamed, so that a full disk or a kill leaves the old ones."""

from __future__ import annotations

import contextlib
import errno
import os
import stat
from collections.abc import Callable, Iterator, Mapping
from contextvars import ContextVar
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from .problems import InputError

LARGEST_FILE = 32 << 20
"""In bytes; what a rulebook's file may hold."""


@dataclass
class Reading:
    """What has been read: the contents of files, and which files lay where some were looked for."""

    contents: dict[Path, bytes] = field(default_factory=dict)
    listed: dict[Path, list[Path]] = field(default_factory=dict)


_READING: ContextVar[Reading | None] = ContextVar("reading", default=None)


@contextlib.contextmanager
def recorded() -> Iterator[Reading]:
    """Record what is read meanwhile."""
    reading = Reading()
    token = _READING.set(reading)
    try:
        yield reading
    finally:
        _READING.reset(token)


def record_listed(folder: Path, files: list[Path]) -> None:
    """Record which files lie in a folder, where what is read is recorded."""
    if (reading := _READING.get()) is not None:
        reading.listed[folder] = files


def read_regular(file: Path) -> bytes:
    """Return the contents of a regular file of at most `LARGEST_FILE` bytes; raises `OSError` for anything else."""
    if not stat.S_ISREG(file.stat().st_mode):
        raise OSError(errno.EINVAL, "it is no regular file")
    if file.stat().st_size > LARGEST_FILE:
        raise OSError(errno.EFBIG, f"it is larger than {LARGEST_FILE >> 20} MB")
    content = file.read_bytes()
    if (reading := _READING.get()) is not None:
        reading.contents[file] = content
    return content


def put(file: str | Path, content: bytes) -> None:
    """Write a file whole or not at all. Raises `InputError` where it can't be written; then nothing has changed."""
    put_all({Path(file): content})


def put_all(contents: Mapping[Path, bytes]) -> None:
    """Write several files, all of them or none. Raises `InputError` on one that can't be written; nothing has changed
    then: every file is written beside its place before the first is put there."""
    beside: dict[Path, Path] = {}
    try:
        for file, content in contents.items():
            try:
                beside[file] = _beside(file, partial(_write, content))
            except OSError as error:
                raise cannot_write(file, error) from None
        for file, path in beside.items():
            try:
                path.replace(file)
            except OSError as error:
                raise cannot_write(file, error) from None
    finally:
        for path in beside.values():
            with contextlib.suppress(OSError):
                path.unlink()


def put_by(file: str | Path, write: Callable[[str], object]) -> None:
    """Let `write(path)` write a file, which is put in its place when it is whole; the path ends as the file's does.

    Raises `InputError` where it can't be written; then nothing has changed.
    """
    target, path = Path(file), None
    try:
        path = _beside(target, write)
        path.replace(target)
        path = None
    except OSError as error:
        raise cannot_write(target, error) from None
    finally:
        if path is not None:
            with contextlib.suppress(OSError):
                path.unlink()


def check_writable(file: str | Path) -> None:
    """Raise `InputError` where a file could not be written: its folder is missing, or it is a folder itself."""
    target = Path(file)
    if not target.parent.is_dir():
        raise InputError(f"{target}: the file can't be written: there is no folder {target.parent}")
    if target.is_dir():
        raise InputError(f"{target}: the file can't be written: it is a folder")
    if not os.access(target.parent, os.W_OK):
        raise InputError(f"{target}: the file can't be written: {target.parent} may not be written to")


def _write(content: bytes, path: str) -> None:
    Path(path).write_bytes(content)


def cannot_write(file: Path, error: OSError) -> InputError:
    """Return the error of a file that can't be written."""
    return InputError(f"{file}: the file can't be written: {error.strerror or error}")


def _beside(file: Path, write: Callable[[str], object]) -> Path:
    """Let a file be written beside its place, with the rights that it has or would get; return where it is."""
    import tempfile  # reading needs none

    target = file.resolve()
    handle, name = tempfile.mkstemp(prefix=f".{target.stem}-", suffix=target.suffix, dir=target.parent)
    os.close(handle)
    path = Path(name)
    try:
        write(name)
        mask = os.umask(0)
        os.umask(mask)
        path.chmod(target.stat().st_mode & 0o7777 if target.exists() else 0o666 & ~mask)
    except BaseException:
        with contextlib.suppress(OSError):
            path.unlink()
        raise
    return path


def find_files(path: Path) -> list[Path]:
    """Return the files of a rulebook, in order. Raises `InputError` where there are none."""
    if path.is_file():
        return [path]
    if not path.is_dir():
        raise InputError(
            f"{path}: there is no such file or directory\n    give a directory of TOML files, or the word demo"
        )
    files = sorted(file for file in path.rglob("*.toml") if not file.name.startswith("."))
    if not files:
        raise InputError(
            f"{path}: there is no .toml file in this directory\n    start one with: restless-ledger new {path}"
        )
    return files
