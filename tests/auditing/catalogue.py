"""The catalogue's examples as rulebooks: each laid on top of the small clean one."""

from __future__ import annotations

import tomllib
from typing import Any

import tomlkit

import restless_ledger as rl
from restless_ledger.auditing.entries import base

from ..support import book_of

CURVES = {"from", "base", "points"}


def laid_on(into: dict[str, Any], more: dict[str, Any]) -> dict[str, Any]:
    """Return a rulebook's data with other data laid on top: tables are merged, curves and all else replaced."""
    merged = dict(into)
    for key, value in more.items():
        both = isinstance(value, dict) and isinstance(merged.get(key), dict) and not CURVES & set(value)
        merged[key] = laid_on(merged[key], value) if both else value
    return merged


def on_both(text: str, more: str) -> rl.Rulebook:
    """Load the small clean rulebook with two texts laid on top."""
    return book_of(tomlkit.dumps(laid_on(laid_on(tomllib.loads(base()), tomllib.loads(text)), tomllib.loads(more))))


def on_base(text: str) -> rl.Rulebook:
    """Load the small clean rulebook with a text laid on top."""
    return book_of(tomlkit.dumps(laid_on(tomllib.loads(base()), tomllib.loads(text))))
