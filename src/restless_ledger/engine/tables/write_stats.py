"""Stats → rows."""

from __future__ import annotations

from ...formula import Program
from ...rulebook.stats import Stat
from ..layout.table_layout import STATS
from .compiled_formulas import CompiledFormulas
from .table_rows import row


def stat_row(lines: CompiledFormulas, name: str, stat: Stat) -> tuple:
    """Return the row of a stat."""
    low, high = (
        lines.add(("stats", name, "range", place), end) if isinstance(end, Program) else -1
        for place, end in enumerate(stat.range)
    )
    return row(
        STATS,
        slot=lines.slots[name],
        floor=stat.floor,
        ceiling=stat.ceiling,
        rounding=stat.round.code,
        is_line=lines.add(("stats", name, "is"), stat.is_),
        floor_line=low,
        ceiling_line=high,
    )
