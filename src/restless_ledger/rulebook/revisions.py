"""Rulebooks as they were at a revision of version control, read without a checkout."""

from __future__ import annotations

import io
import os
from pathlib import Path

from .load import load
from .problems import InputError
from .rulebook import Rulebook


def is_revision(name: str) -> bool:
    """Say whether a name is meant as `REVISION:path`, and not as a path."""
    revision, colon, path = name.partition(":")
    return bool(colon and revision and path) and not Path(name).exists()


def load_revision(name: str) -> Rulebook:
    """Read the rulebook of `REVISION:path`: as it was at a revision, such as `HEAD~1:rules` or `v1.2:rules`. The path
    is seen from here. Raises as `load` does, and `InputError` where there is no such revision or path, or no git."""
    import tempfile  # takes long to import, and most rulebooks lie in a folder

    revision, _, path = name.partition(":")
    here = Path(path)
    nearest = next(each for each in (here.resolve(), *here.resolve().parents) if each.is_dir())
    top = Path(_git(name, nearest, "rev-parse", "--show-toplevel").decode().strip())
    _git(name, top, "rev-parse", "--verify", "--quiet", "--end-of-options", f"{revision}^{{commit}}")
    inside = Path(os.path.relpath(here.resolve(), top.resolve()))
    with tempfile.TemporaryDirectory() as folder:
        _extract(name, top, revision, inside, Path(folder))
        return load(Path(folder) / inside)


def revision_of(path: str | Path) -> str:
    """Return the revision that the files at a path are of, with a `+` where they differ from it; nothing where there is
    none."""
    root = Path(path).resolve()
    folder = root if root.is_dir() else root.parent
    try:
        head = _git(str(path), folder, "rev-parse", "--short=12", "HEAD").decode().strip()
        changed = _git(str(path), folder, "status", "--porcelain", "--", str(root))
    except (InputError, OSError):
        return ""
    return head + ("+" if changed else "")


def _extract(name: str, top: Path, revision: str, inside: Path, folder: Path) -> None:
    """Put what lay at a path into a folder, and the rulebook that it builds on, and so on."""
    if inside.parts[:1] == ("..",):
        raise InputError(f"{name}: this path lies outside of the repository")
    import tarfile

    packed = _git(name, top, "archive", "--format=tar", revision, "--", inside.as_posix())
    with tarfile.open(fileobj=io.BytesIO(packed)) as archive:
        archive.extractall(folder, filter="data")
    for file in (folder / inside).rglob("*.toml") if (folder / inside).is_dir() else [folder / inside]:
        base = _base_of(file)
        root = inside if (folder / inside).is_dir() else inside.parent
        below = Path(os.path.normpath(root / base)) if base else None
        if below is not None and not (folder / below).exists():
            _extract(name, top, revision, below, folder)


def _base_of(file: Path) -> str:
    """Return on which rulebook a file says that it builds; nothing where it says none, or can't be read."""
    import tomllib

    try:
        heading = tomllib.loads(file.read_text(encoding="utf-8")).get("rulebook", {})
        return str(heading.get("builds_on", ""))
    except (OSError, ValueError, AttributeError):
        return ""


def _git(name: str, folder: Path, *words: str) -> bytes:
    import subprocess

    try:
        done = subprocess.run(["git", "-C", str(folder), *words], capture_output=True, check=False)
    except FileNotFoundError:
        raise InputError(f"{name}: a revision is read by git, and there is none here\n    install git") from None
    if done.returncode:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        what = said[0].removeprefix("fatal: ") if said else f"there is no revision {name.partition(':')[0]}"
        raise InputError(f"{name}: {what}\n    write REVISION:path, such as HEAD~1:rules")
    return done.stdout
