"""Figures of a result as a run store keeps them."""

from __future__ import annotations

from ..frozen_classes import frozen


@frozen
class Measured:
    """A figure by its name, with its 95% interval: the figure itself, where it is exact."""

    name: str
    value: float
    low: float
    high: float
