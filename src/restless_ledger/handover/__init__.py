"""What is handed over to a game, and what comes back: data, rules as source code, vectors, logs."""

from .export import Export
from .reconcile import Reconciled

__all__ = ["Export", "Reconciled"]
