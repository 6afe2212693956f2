"""Damage and healing kinds → rows."""

from __future__ import annotations

from ...rulebook import Rulebook
from ...rulebook.damage import DamageKind
from ..layout.table_layout import EXTRAS, KINDS
from .compiled_formulas import LineBook
from .table_rows import Pool, row
from .write_buffs import BuffWriter


def kind_row(book: Rulebook, lines: LineBook, bars: BuffWriter, here: tuple, kind: DamageKind, extras: Pool) -> tuple:
    """Return the row of a damage or healing kind; its extra lines go to a pool."""
    page = {path: lines.add((*here, *path), program) for path, program in kind.page_formulas()}
    rows = [row(EXTRAS, line=page["dealer_lines", line], on_dealer=1) for line in kind.dealer_lines]
    rows += [row(EXTRAS, line=page["taker_lines", line], on_dealer=0) for line in kind.taker_lines]
    first_extra, last_extra = extras.add(rows)
    lands = -1 if kind.never_misses else lines.add_meeting((*here, "lands"), kind.landing, kind)
    moving = any(lines.moves(program) for _, program in kind.page_formulas())
    far = "distance" in (*kind.settle.names, *kind.landing.names)
    first_bar, last_bar = bars.add_bars(kind.barred_by)
    return row(
        KINDS,
        gauge=list(book.gauges).index(kind.gauge or book.downing_gauge or ""),
        heals=int(here[0] == "healing"),
        never_misses=int(kind.never_misses),
        aim=page.get(("aim",), -1),
        dodge=page["dodge",],
        power=page["power",],
        soak=page["soak",],
        lands=lands,
        settle=lines.add_meeting((*here, "settle"), kind.settle, kind),
        chance=page.get(("critical", "chance"), -1),
        times=page.get(("critical", "times"), -1),
        spread=kind.spread,
        rounding=kind.round.code,
        first_extra=first_extra,
        last_extra=last_extra,
        moving=int(moving or far),
        resist=page.get(("resist",), -1),
        guard_when=page.get(("guard", "when"), -1),
        guard_times=page.get(("guard", "times"), -1),
        first_bar=first_bar,
        last_bar=last_bar,
        held_back=int(bool(kind.against or kind.resist or kind.guard)),
    )
