"""Places of findings as other tools want them: the path of a file, and a line."""

from __future__ import annotations

from pathlib import Path


def split_place(place: str, root: str | Path | None) -> tuple[str, int]:
    """Return a place's file and line. Files under `root` are told from the working directory where they lie below it;
    a root that is a file is that file itself."""
    file, _, line = place.rpartition(":")
    if not line.isdecimal():
        file, line = place, "1"
    if root is None:
        return file, max(1, int(line))
    base = Path(root)
    path = base if base.is_file() else base / file
    try:
        path = path.resolve().relative_to(Path.cwd().resolve())
    except ValueError:
        return path.resolve().as_uri(), max(1, int(line))
    return path.as_posix(), max(1, int(line))
