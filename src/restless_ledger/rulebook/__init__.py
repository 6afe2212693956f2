"""The rulebook: what a designer writes, read from TOML into frozen models."""

from .load import load
from .problems import InputError, Problem, RulebookError
from .rulebook import Rulebook

__all__ = ["InputError", "Problem", "Rulebook", "RulebookError", "load"]
