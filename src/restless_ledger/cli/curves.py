"""`restless-ledger curves`: growth by level, classes side by side, and where they cross."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import click

from .. import api as library
from . import options, output
from .books import open_book
from .falls import print_falls
from .names import completion
from .output import deliver
from .tables import BOLD, END, console, ruled, spread

if TYPE_CHECKING:
    from ..analysis.curves import Curves
    from ..analysis.falls import Falls
    from ..rulebook import Rulebook

COLUMNS = 6


@click.command("curves")
@options.rulebook
@click.argument("who", metavar="[WHO ...]", nargs=-1, shell_complete=completion("classes"))
@click.option(
    "--stat", "figures", multiple=True, metavar="NAME", help="Only this stat or gauge; may be given several times."
)
@options.levels
@click.option("--falls", is_flag=True, help="Show from what height each is hurt and killed, by its own jumps too.")
@output.plot
@output.output()
def command(
    rulebook: str, who: tuple[str, ...], figures: tuple[str, ...], levels: tuple[int, ...], falls: bool
) -> None:
    """Show stats, gauges and experience by level, the classes WHO (all of them, if none is named) side by side."""
    book = open_book(rulebook)
    if falls:
        heights = falls_of(book, who, levels)
        deliver(heights, lambda: print_falls(heights))
        return
    curves = library.curves(book, who=who, figures=figures)
    deliver(curves, lambda: print_curves(curves, levels))


def falls_of(book: Rulebook, who: Sequence[str], levels: Sequence[int]) -> Falls:
    """Return the falls of all classes, or of those named, at the first, the middle and the last level or others."""
    from ..monte_carlo.contestants import levels_asked
    from ..sheets import CharacterSpec

    if not who:
        return library.falls(book, levels=levels or None)
    asked = levels_asked(book, levels)
    return library.falls(book, characters=[CharacterSpec(name, level) for name in who for level in asked])


def print_curves(curves: Curves, levels: Sequence[int] = ()) -> None:
    """Print a block of rows for each figure, at some levels from the first to the last."""
    from ..analysis.curves import told_crossings
    from ..formula.explain import number
    from ..monte_carlo.contestants import levels_asked

    page = console()
    page.print(f"{BOLD}Curves{END}: {curves.book.rulebook.title}; the numbers above the columns are levels")
    places = [curves.levels.index(level) for level in levels_asked(curves.book, levels)] if levels else None
    places = places or spread(len(curves.levels), COLUMNS)
    table = ruled("figure", "class", *(f">{curves.levels[place]}" for place in places), wide="figure")
    for figure in curves.figures:
        label = curves.label(figure)
        for who, row in curves.values[figure].items():
            shown = ("" if math.isnan(row[place]) else number(round(float(row[place]), 1)) for place in places)
            table.add_row(label, curves.class_label(who), *shown)
            label = ""
    page.print(table)
    page.print(f"{curves.finding()}.")
    for line in told_crossings(curves):
        page.print(line)
