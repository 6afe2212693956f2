"""`restless-ledger reconcile`: a game's log, held against the rules line by line."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import options, output
from .books import open_book
from .observed import observe, print_observed
from .output import deliver
from .tables import BOLD, END, RED, console, ruled
from .workers import workers

if TYPE_CHECKING:
    from ..handover import Reconciled

LINES_SHOWN, MISTAKES_SHOWN = 8, 5


@click.command("reconcile")
@options.rulebook
@click.argument("log", metavar="LOG", type=click.Path(path_type=Path))
@click.option("--fights", type=int, default=4000, show_default=True, help="How often what was observed is simulated.")
@options.seed
@workers
@output.plot
@output.output(*table_names.RECONCILED)
def command(rulebook: str, log: Path, fights: int, seed: int) -> int:
    """Hold LOG, what a game wrote of what happened, against the rules.

    LOG.jsonl has a line for each hit, use and change of a gauge: what is certain must match, what is drawn must lie
    within its range, and over many lines follow its chance. Exit 1 where a line does not fit.

    LOG.csv has a row for each fight, with the columns encounter and winner, and perhaps seconds, damage (what everybody
    dealt together) and level: it is held against the simulation of the same encounters.
    """
    book = open_book(rulebook)
    if log.suffix.lower() == ".csv":
        observed = observe(book, log, fights, seed)
        deliver(observed, lambda: print_observed(observed))
        return 0
    held = library.reconcile(book, log)
    deliver(held, lambda: print_reconciled(held))
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
