"""The engine: flat tables, the compiled rules, and runs on threads."""

from .roster import Player
from .run import Run, fight_from, fight_many, fight_once, open_with
from .setup import FightFault, Setup, set_up, set_up_bench

__all__ = ["FightFault", "Player", "Run", "Setup", "fight_from", "fight_many", "fight_once", "open_with", "set_up",
           "set_up_bench"]  # fmt: skip
