"""The front's own arithmetic, compiled: how a stat comes together, and which bit stands for a slot."""

from __future__ import annotations

from ...sheet import resolve
from .. import linebook
from ..compiled import kernel

change_stat = kernel(resolve.change_stat)
hold_stat = kernel(resolve.hold_stat)
round_figure = kernel(resolve.round_figure)
slot_bit = kernel(linebook.slot_bit)
