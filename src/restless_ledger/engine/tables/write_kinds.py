"""Damage and healing kinds → rows."""

from __future__ import annotations

from ...formula import parse
from ...rulebook.damage import DamageKind
from ..layout.kind_layout import EXTRAS, KINDS
from .columns import Columns
from .table_rows import Pool, row, span
from .write_buffs import BuffWriter
from .write_effects import EffectWriter


def kind_row(writer: EffectWriter, bars: BuffWriter, here: tuple, kind: DamageKind, extras: Pool) -> tuple:
    """Return the row of a damage or healing kind; its extra lines go to a pool. Lines that are rolled are read where
    two meet as lines of the dealer's own."""
    lines, columns = writer.lines, writer.columns
    rolled = [
        writer.rolls.add((*here, "rolled", name), roll, lines.own_slot(name)) for name, roll in kind.rolled.items()
    ]
    shown = {name: parse(name) for name in kind.rolled}
    rows = [
        row(EXTRAS, line=lines.add((*here, side, name), line), on_dealer=int(side != "taker_lines"))
        for side, own in (("dealer_lines", kind.dealer_lines), ("taker_lines", kind.taker_lines), ("rolled", shown))
        for name, line in own.items()
    ]
    own = extras.add(rows)
    lands = -1 if kind.never_misses else lines.add_meeting((*here, "lands"), kind.landing, kind)
    moving = bool(kind.rolled) or any(lines.moves(program) for _, program in kind.page_formulas())
    far = not {"distance", "behind", "above"}.isdisjoint((*kind.settle.names, *kind.landing.names))
    critical = columns.of(KINDS, (*here, "critical"), kind.critical) or {"chance": -1, "times": -1, "avoid": -1}
    return row(
        KINDS,
        **columns.of(KINDS, here, kind, without=("lands", "settle")),
        **{"tiers": 1, **critical},
        even=writer.number_even(kind.critical is not None and kind.critical.evens_out),
        heals=int(here[0] == "healing"),
        never_misses=int(kind.never_misses),
        lands=lands,
        settle=lines.add_meeting((*here, "settle"), kind.settle, kind),
        rounding=kind.round.code,
        **span("extra", own),
        **span("roll", (rolled[0], rolled[-1] + 1) if rolled else (0, 0)),
        moving=int(moving or far),
        **_lines_of(columns, here, kind),
        limited=int(kind.limits is not None),
        least=kind.limits[0] if kind.limits else 0.0,
        most=kind.limits[1] if kind.limits else 0.0,
        **span("bar", bars.add_bars(kind.barred_by)),
        held_back=int(bool(kind.against or kind.resist or kind.guard or kind.block)),
    )


def _lines_of(columns: Columns, here: tuple, kind: DamageKind) -> dict[str, int]:
    """Return the lines of a guard stance, of blocks and of grazing hits."""
    found = {
        "guard_when": ("guard", "when"),
        "guard_times": ("guard", "times"),
        "block_chance": ("block", "chance"),
        "block_times": ("block", "times"),
        "within": ("grazes", "within"),
        "graze_times": ("grazes", "times"),
    }
    return {
        column: columns.lines.add((*here, key, part), getattr(getattr(kind, key), part, None))
        for column, (key, part) in found.items()
    }
