"""Trials: one encounter fought many times, and the results."""

from .trials import Trials

__all__ = ["Trials"]
