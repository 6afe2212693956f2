"""`restless-ledger history`: what the figures of kept runs did over time, and which changes moved them."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from ..archive import History
from ..archive.history import Move, Point
from . import options
from .tables import BOLD, DIM, END, console, print_records, ruled, told

MOST_CHANGES = 6


@click.command("history")
@click.argument("store", metavar="STORE")
@click.argument("figure", metavar="[FIGURE]", required=False)
@click.option("--table", type=click.Choice(History.TABLES), help="Print this table in full, and write it with --out.")
@options.plot
@options.out
def command(store: str, figure: str | None, table: str | None, plot: Path | None, out: Path | None) -> None:
    """Show the figures of the runs that --keep put into STORE, and the changes that moved them beyond chance.

    FIGURE is a figure, or the beginning of several, such as stair_duel; all of them unless it is given.
    """
    history = library.history(store, figure)
    page = console()
    if table:
        print_records(history.records(table))
    else:
        (print_points if len(history.points) == 1 else print_figures)(history)
        print_moves(history)
        page.print(f"{history.finding()}.")
    if plot:
        history.plot(plot)
    if out:
        history.write(out, table or ("points" if len(history.points) == 1 else "figures"))
    for line in [*told("Figure", [plot]), *told("Table", [out])]:
        page.print(line)


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
