"""The archive: runs that are kept in a store, and what their figures did over time."""

from .history import History
from .keep import keep
from .store import open_store

__all__ = ["History", "keep", "open_store"]
