"""The sheet's own arithmetic of a stat, compiled."""

from __future__ import annotations

from ...sheet import resolve
from ..compiled import kernel

change_stat = kernel(resolve.change_stat)
hold_stat = kernel(resolve.hold_stat)
round_figure = kernel(resolve.round_figure)
