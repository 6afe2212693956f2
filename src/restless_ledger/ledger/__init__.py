"""The ledger: a fight's entries, their reconciliation and their explanation."""

from .fight import Fight

__all__ = ["Fight"]
