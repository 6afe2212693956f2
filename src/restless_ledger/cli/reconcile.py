"""`restless-ledger reconcile`: a game's log, held against the rules line by line."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from ..handover import Reconciled
from . import options
from .options import open_book
from .tables import BOLD, END, RED, console, ruled, told

LINES_SHOWN, MISTAKES_SHOWN = 8, 5


@click.command("reconcile")
@options.rulebook
@click.argument("log", metavar="LOG.jsonl", type=click.Path(path_type=Path))
@options.plot
@options.out
def command(rulebook: str, log: Path, plot: Path | None, out: Path | None) -> int:
    """Hold LOG.jsonl, what a game wrote of what happened, against the rules. Exits with 1 where a line does not fit.

    What is certain must match, what is drawn must lie within its range, and over many lines follow its chance.
    """
    held = library.reconcile(open_book(rulebook), log)
    print_reconciled(held)
    if out:
        held.write(out)
    if plot:
        held.plot(plot)
    for line in [*told("Figure", [plot]), *told("Table", [out])]:
        console().print(line)
    return int(bool(held.off) or held.mistake is not None)


def print_reconciled(held: Reconciled) -> None:
    """Print the lines that do not fit, what would explain them, and what was drawn."""
    page = console()
    page.print(
        f"{BOLD}Log{END}: {held.book.rulebook.title}, {len(held.log.events):,} lines of {held.log.name}", soft_wrap=True
    )
    if held.off:
        table = ruled(">line", ">tick", "what", "unit", "what is wrong", wide="what is wrong")
        for row in held.records("lines")[:LINES_SHOWN]:
            table.add_row(str(row["line"]), str(row["tick"]), row["event"], row["unit"], row["wrong"])
        page.print(table)
        if len(held.off) > LINES_SHOWN:
            page.print(f"And {len(held.off) - LINES_SHOWN:,} more; --out writes them all.")
    if held.explained:
        table = ruled("if", ">lines that fit then", ">that no longer do", wide="if")
        for row in held.records("mistakes")[:MISTAKES_SHOWN]:
            table.add_row(row["says"], f"{row['explains']:,}", f"{row['breaks']:,}")
        page.print(table)
    for row in held.records("shares"):
        if row["errors"] is not None:
            name = {"land": "Hits that landed", "critical": "Criticals", "spread": "Evenness of amounts"}[row["what"]]
            said = f"{row['seen']:,.0f} of {row['of']:,}, {row['expected']:,.1f} expected"
            if row["what"] == "spread":
                said = f"{row['seen'] / row['of']:.2f} over {row['of']:,} hits, 1 expected"
            page.print(f"{name}: {said}, {row['errors']:+.1f} standard errors".replace("-", "−"))
    best = held.best_line()
    if best:
        page.print(f"The line that shows it best is line {best[0].line}: {best[1]}.")
    colour = RED if held.off or held.mistake else BOLD
    page.print(f"{colour}{held.finding()}.{END}")
