"""`restless-ledger curves`: growth by level, classes side by side, and where they cross."""

from __future__ import annotations

from pathlib import Path

import click
import numpy as np

from .. import api as library
from ..analysis.curves import Curves, told_crossings
from ..formula.explain import number
from . import options
from .options import open_book
from .tables import BOLD, END, console, ruled, spread, told

COLUMNS = 6


@click.command("curves")
@options.rulebook
@click.argument("who", metavar="[WHO ...]", nargs=-1)
@click.option(
    "--stat", "figures", multiple=True, metavar="NAME", help="Only this stat or gauge; may be given several times."
)
@options.plot
@options.out
def command(rulebook: str, who: tuple[str, ...], figures: tuple[str, ...], plot: Path | None, out: Path | None) -> None:
    """Show stats, gauges and experience by level, the classes WHO (all of them, if none is named) side by side."""
    curves = library.curves(open_book(rulebook), who=who, figures=figures)
    print_curves(curves)
    if plot:
        curves.plot(plot)
    if out:
        curves.write(out)
    for line in [*told("Figure", [plot]), *told("Table", [out])]:
        console().print(line)


def print_curves(curves: Curves) -> None:
    """Print a block of rows for each figure, at some levels from the first to the last."""
    page = console()
    page.print(f"{BOLD}Curves{END}: {curves.book.rulebook.title}; the numbers above the columns are levels")
    places = spread(len(curves.levels), COLUMNS)
    table = ruled("figure", "class", *(f">{curves.levels[place]}" for place in places), wide="figure")
    for figure in curves.figures:
        label = curves.label(figure)
        for who, row in curves.values[figure].items():
            shown = ("" if np.isnan(row[place]) else number(round(float(row[place]), 1)) for place in places)
            table.add_row(label, curves.class_label(who), *shown)
            label = ""
    page.print(table)
    page.print(f"{curves.finding()}.")
    for line in told_crossings(curves):
        page.print(line)
