"""The rulebook: what a designer writes, read from TOML into frozen models."""

from .load import load
from .problems import InputError, Problem, RulebookError
from .rulebook import Rulebook
from .schema import json_schema

__all__ = ["InputError", "Problem", "Rulebook", "RulebookError", "json_schema", "load"]
