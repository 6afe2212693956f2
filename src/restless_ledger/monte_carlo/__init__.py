"""Trials: one encounter fought many times, and what the fights come to."""

from .trials import Trials

__all__ = ["Trials"]
