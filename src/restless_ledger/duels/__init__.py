"""Duels: two meet; solved exactly where that can be, fought where it can not."""

from .duel import Duel

__all__ = ["Duel"]
