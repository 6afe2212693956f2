"""The engine: flat tables, the compiled rules, and runs on threads."""

from .roster import Player, Unit
from .run import fight_from, fight_many, fight_more, fight_once, fight_until, open_with
from .setup import FightFault, Setup, set_up, set_up_bench
from .totals import Chunk, Run

__all__ = ["Chunk", "FightFault", "Player", "Run", "Setup", "Unit", "fight_from", "fight_many", "fight_more",
           "fight_once", "fight_until", "open_with", "set_up", "set_up_bench"]  # fmt: skip
