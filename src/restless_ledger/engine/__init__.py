"""The engine: flat tables, the compiled rules, and runs on threads."""

from .run import Run, fight_many, fight_once
from .setup import FightFault, Setup, set_up, set_up_bench

__all__ = ["FightFault", "Run", "Setup", "fight_many", "fight_once", "set_up", "set_up_bench"]
