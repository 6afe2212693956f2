"""Restless Ledger: declare a game's numbers as text, and see what they do."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from .book import Book, demo, fight, live, load, trials
    from .rulebook import InputError, Rulebook, RulebookError, json_schema

__version__ = "0.1.0"
__all__ = [
    "Book", "InputError", "Rulebook", "RulebookError", "__version__", "demo", "fight", "json_schema", "live", "load",
    "trials",
]  # fmt: skip


def __getattr__(name: str) -> Any:
    """Import the library on first use, so that the command line can answer --help at once."""
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    from . import book, rulebook

    return getattr(book, name) if hasattr(book, name) else getattr(rulebook, name)
