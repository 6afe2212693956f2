"""A rulebook that builds on another: a patch, a mode, a mod. Only what differs is written."""

from __future__ import annotations

import copy
from typing import Any

from .likes import lacking
from .merging import merged
from .problems import Problem, dotted, nearest
from .rulebook import Rulebook
from .source import Source

REMOVES = ("rulebook", "removes")


def built_on(base: Source, patch: Source) -> Source:
    """Return a source that holds what a patch writes on top of what its base does. Every value knows its file."""
    found = Source(
        copy.deepcopy(base.data),
        {**base.texts, **patch.texts},
        dict(base.owners),
        [*base.problems, *patch.problems],
        {**base.lines_of, **patch.lines_of},
    )
    heading = patch.data.get("rulebook")
    if isinstance(heading, dict):
        _remove(found, patch, heading.pop("removes", []))
    for chapter, content in patch.data.items():
        info = Rulebook.model_fields.get(chapter)
        kind, path = info.annotation if info else None, (chapter,)

        def note(taken: tuple) -> None:
            """Note that what lies at a path, and all that was below it, comes from the patch."""
            for owned in [each for each in found.owners if each[: len(taken)] == taken]:
                del found.owners[owned]
            found.owners[taken] = _file_of(patch, taken)

        if chapter in found.data:
            found.data[chapter] = merged(found.data[chapter], content, kind, path, note)
        else:
            note(path)
            found.data[chapter] = content
            found.owners |= {owned: file for owned, file in patch.owners.items() if owned[0] == chapter}
    return found


def _file_of(source: Source, path: tuple) -> str:
    """Return the file that a path of a source comes from."""
    for length in range(len(path), 0, -1):
        if path[:length] in source.owners:
            return source.owners[path[:length]]
    return next(iter(source.texts))


def _remove(found: Source, patch: Source, written: Any) -> None:
    """Take out of the base what a patch removes; what is not there is a problem."""
    if not isinstance(written, list) or not all(isinstance(name, str) for name in written):
        what, remedy = "this is a list of what the base has", 'write removes = ["gear.cork_coat"]'
        patch_problem(found, patch, REMOVES, what, str(written), remedy)
        return
    for index, name in enumerate(written):
        found.data, lacked = lacking(found.data, name.split("."))
        path = tuple(name.split("."))
        found.owners = {owned: file for owned, file in found.owners.items() if owned[: len(path)] != path}
        if not lacked:
            chapter = found.data.get(path[0])
            known = [f"{path[0]}.{each}" for each in chapter] if isinstance(chapter, dict) else list(found.data)
            patch_problem(
                found, patch, (*REMOVES, index), "the base has nothing of this name", name, nearest(name, known)
            )


def patch_problem(found: Source, patch: Source, path: tuple, what: str, got: str, remedy: str) -> None:
    """Add a problem of a patch to what is found."""
    found.problems.append(Problem(patch.place(path), dotted(path), what, got, remedy))
