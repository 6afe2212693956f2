"""The engine: flat tables, the compiled rules, and runs on threads or by executors."""

from .native.programs import is_compiled
from .rematch import Rematch, bases_of
from .roster import Player
from .run import Run, fight_from, fight_many, fight_more, fight_once, fight_until, open_with
from .setup import EngineFault, FightFault, Setup, set_up, set_up_bench
from .time_budget import TimeUp, time_budget
from .totals import Chunk
from .unit import Unit

__all__ = [
    "Chunk",
    "EngineFault",
    "FightFault",
    "Player",
    "Rematch",
    "Run",
    "Setup",
    "TimeUp",
    "Unit",
    "bases_of",
    "fight_from",
    "fight_many",
    "fight_more",
    "fight_once",
    "fight_until",
    "is_compiled",
    "open_with",
    "set_up",
    "set_up_bench",
    "time_budget",
]
