"""Names of a package that are imported when they are first used."""

from __future__ import annotations

import importlib
from collections.abc import Sequence
from typing import Any


def found(package: str, name: str, names: Sequence[str], rooms: Sequence[str]) -> Any:
    """Return what a package of these names calls so, from the first of its rooms that has it. Raises `AttributeError`
    on a name that is none of them."""
    for room in rooms if name in names else ():
        value = getattr(importlib.import_module(f"{package}.{room}"), name, None)
        if value is not None:
            return value
    raise AttributeError(f"module {package!r} has no attribute {name!r}")
