"""History: what the figures of kept runs did over time, and which changes moved them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .tables import BOLD, DIM, END, console, ruled

if TYPE_CHECKING:
    from ..archive import History
    from ..archive.history import Point

MOST_CHANGES = 6


def print_history(history: History) -> None:
    """Print the figures of kept runs, and what moved them."""
    (print_points if len(history.points) == 1 else print_figures)(history)
    print_moves(history)
    console().print(f"{history.finding()}.")


def print_figures(history: History) -> None:
    """Print a line for each figure: its first and its last value."""
    table = ruled("figure", ">runs", ">first", ">last", ">±", ">moves", wide="figure")
    for row in history.records("figures"):
        half = (row["high"] - row["low"]) / 2
        cells = (f"{row['first']:.4g}", f"{row['last']:.4g}", f"{half:.2g}", str(row["moves"] or ""))
        table.add_row(row["figure"], str(row["runs"]), *cells)
    console().print(table)


def print_points(history: History) -> None:
    """Print a line for each run of one figure."""
    ((name, points),) = history.points.items()
    page = console()
    page.print(f"{BOLD}{name}{END}")
    table = ruled("at (UTC)", "revision", ">seed", ">value", ">95% interval", ">moved")
    moves = {id(move.after): move for move in history.moves[name]}
    for point in points:
        figure, run = point.figure, point.run
        interval = f"{figure.low:.4g} to {figure.high:.4g}"
        mark = f"{moves[id(point)].by:+.3g}".replace("-", "−") if id(point) in moves else ""
        when = run.at[:16].replace("T", " ")
        table.add_row(when, run.revision, str(run.seed), f"{figure.value:.4g}", interval, mark)
    page.print(table)


def print_moves(history: History) -> None:
    """Print, for each change of the rules that moved something, which values differ and what they moved."""
    from ..archive.history import Move

    page, steps = console(), dict[tuple[str, str], list[tuple[str, Move]]]()
    for name, moves in history.moves.items():
        for move in moves:
            steps.setdefault((_when(move.before), _when(move.after)), []).append((name, move))
    for (before, after), found in steps.items():
        page.print(f"Between {before} and {after}")
        changes = found[0][1].changes
        for path, old, new in changes[:MOST_CHANGES]:
            page.print(f"  {path}: {old} → {new}")
        if not changes:
            page.print("  the same rules, by another version of Restless Ledger")
        if len(changes) > MOST_CHANGES:
            page.print(f"  {DIM}and {len(changes) - MOST_CHANGES} more; --out FILE --table moves writes them{END}")
        for name, move in found:
            old, new = (f"{point.figure.value:.4g}" for point in (move.before, move.after))
            page.print(f"  moved {BOLD}{name}{END} from {old} to {new}")


def _when(point: Point) -> str:
    """Say when a run was: its revision, and the time."""
    when = point.run.at[:16].replace("T", " ")
    return f"{point.run.revision} ({when})" if point.run.revision else when
