"""Which compiled programs are for the fights of an encounter: those that fix nothing which it uses."""

from __future__ import annotations

from functools import cache

import numpy as np

from ..layout.fields import WHOLE
from ..layout.fixed import ABSENT, FIXED, Fixed
from ..layout.table_layout import Tables


def programs_for(tables: Tables) -> tuple[str, ...]:
    """Return the programs that are for the fights of an encounter, the quickest first."""
    kept = tables.__dict__
    if "programs" not in kept:  # asked before every chunk, and in a journey before every fight
        used = _used(tables)
        kept["programs"] = tuple(name for name, fixed in FIXED.items() if _fits(fixed, used))
    found: tuple[str, ...] = kept["programs"]
    return found


def _fits(fixed: Fixed, used: set[tuple[str, str]]) -> bool:
    return all(
        ((member, field) in used) == (value != ABSENT[member][field])
        for member, fields in fixed.items()
        for field, value in fields.items()
    )


def _used(tables: Tables) -> set[tuple[str, str]]:
    """Return the fields that some row of the tables has in use, each with its member."""
    found = set[tuple[str, str]]()
    for member, fields in ABSENT.items():
        if member in Tables.LAYOUT:
            table = np.asarray(getattr(tables, member))
            places, words = _absent_words(table.dtype, member)
            rows = table.view(WHOLE).reshape(len(table), table.itemsize // WHOLE.itemsize)
            differs = (rows[:, places] != words).any(axis=0).tolist()
            found.update((member, field) for field, differing in zip(fields, differs, strict=True) if differing)
    return found


@cache
def _absent_words(kind: np.dtype, member: str) -> tuple[list[int], np.ndarray]:
    """Return in which word of a row each field lies that may be fixed, and that word where it is not in use."""
    row = np.zeros(1, kind)
    for field, value in ABSENT[member].items():
        row[field] = value
    offsets = {field: place[1] for field, place in (kind.fields or {}).items()}
    places = [offsets[field] // WHOLE.itemsize for field in ABSENT[member]]
    return places, row.view(WHOLE)[places]
