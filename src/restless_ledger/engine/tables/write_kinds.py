"""Damage and healing kinds → rows."""

from __future__ import annotations

from ...rulebook.damage import DamageKind
from ..layout.table_layout import EXTRAS, KINDS
from .columns import Columns
from .table_rows import Pool, row, span
from .write_buffs import BuffWriter


def kind_row(columns: Columns, bars: BuffWriter, here: tuple, kind: DamageKind, extras: Pool) -> tuple:
    """Return the row of a damage or healing kind; its extra lines go to a pool."""
    lines = columns.lines
    rows = [
        row(EXTRAS, line=lines.add((*here, side, name), line), on_dealer=int(side == "dealer_lines"))
        for side in ("dealer_lines", "taker_lines")
        for name, line in getattr(kind, side).items()
    ]
    own = extras.add(rows)
    lands = -1 if kind.never_misses else lines.add_meeting((*here, "lands"), kind.landing, kind)
    moving = any(lines.moves(program) for _, program in kind.page_formulas())
    far = "distance" in (*kind.settle.names, *kind.landing.names)
    barred = bars.add_bars(kind.barred_by)
    return row(
        KINDS,
        **columns.of(KINDS, here, kind, without=("lands", "settle")),
        **(columns.of(KINDS, (*here, "critical"), kind.critical) or {"chance": -1, "times": -1}),
        heals=int(here[0] == "healing"),
        never_misses=int(kind.never_misses),
        lands=lands,
        settle=lines.add_meeting((*here, "settle"), kind.settle, kind),
        rounding=kind.round.code,
        **span("extra", own),
        moving=int(moving or far),
        guard_when=lines.add((*here, "guard", "when"), kind.guard.when if kind.guard else None),
        guard_times=lines.add((*here, "guard", "times"), kind.guard.times if kind.guard else None),
        **span("bar", barred),
        held_back=int(bool(kind.against or kind.resist or kind.guard)),
    )
