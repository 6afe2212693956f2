"""What is handed over to a game: its data, its rules as source code, and what proves them."""

from .export import Export

__all__ = ["Export"]
