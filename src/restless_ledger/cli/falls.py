"""Falls: from what height each class is hurt and killed, by its own jumps too."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from .tables import BOLD, END, RED, console, ruled

if TYPE_CHECKING:
    from ..analysis.falls import Falls, Jump


def print_falls(falls: Falls) -> None:
    """Print a row for each class and level."""
    page, rules = console(), falls.book.falls
    page.print(
        f"{BOLD}Falls{END}: {falls.book.rulebook.title}; safe up to {rules.safe_speed:g} m/s, "
        f"at most {rules.terminal.speed:g} m/s, heights in m"
    )
    table = ruled(
        "class",
        ">level",
        ">hurts from",
        ">kills from",
        "own jumps, as high as",
        ">pace",
        ">dash",
        wide="own jumps, as high as",
    )
    for record in falls.heights:
        dash = f"{record.dash_m_per_s:.2f}" if record.dash_m else ""
        table.add_row(
            record.label,
            str(record.level),
            _metres(record.hurts_from_m),
            _metres(record.kills_from_m),
            "; ".join(_jump(jump) for jump in record.jumps),
            f"{record.pace_m_per_s:.1f}",
            dash,
        )
    page.print(table)
    page.print("Pace in m/s; dash: the ground it covers for each second of its cooldown, m/s.")
    page.print(f"{falls.finding()}.")


def _metres(height: float) -> str:
    return f"{height:.2f}" if math.isfinite(height) else "never"


def _jump(jump: Jump) -> str:
    verdict = "safe" if jump.safe else f"{RED}hurts by {jump.harm:.1f}{END}"
    lock = "" if jump.unlocked else f", needs {jump.unlock}"
    return f"{jump.reach_m:.2f} {verdict}{lock}"
