"""The ledger: a fight's entries, their reconciliation and their explanation; a live character."""

from .fight import Fight
from .live import Change, Live

__all__ = ["Change", "Fight", "Live"]
