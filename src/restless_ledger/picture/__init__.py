"""Pictures: one figure a function, all in the ledger's style."""

from .fight import draw_fight
from .trials import draw_trials

__all__ = ["draw_fight", "draw_trials"]
