"""`restless-ledger fight`: one fight as a readable ledger."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import options, output, watching
from .books import open_book
from .output import deliver, note
from .tables import BOLD, END, RED, console, money, ruled

if TYPE_CHECKING:
    from ..ledger import Fight
    from ..rulebook import Rulebook


@click.command("fight")
@options.rulebook
@options.encounter
@options.seed
@click.option(
    "--number", "which", type=int, default=0, show_default=True, help="Which fight of the trials with that seed."
)
@click.option("--why", type=int, metavar="ENTRY", help="Explain one entry down to its formulas' figures.")
@click.option("--all", "every", is_flag=True, help="Show every entry in a line of its own.")
@output.plot
@click.option(
    "--paths", type=click.Path(path_type=Path), help="Draw the paths on the arena to this file (.png, .svg or .pdf)."
)
@click.option(
    "--film", type=click.Path(path_type=Path), help="Write a page that plays it on its arena to this file (.html)."
)
@watching.option
@output.output(*table_names.FIGHT)
def command(
    rulebook: str,
    encounter: str,
    seed: int,
    which: int,
    why: int | None,
    every: bool,
    paths: Path | None,
    film: Path | None,
    watch: bool,
) -> None:
    """Play one fight of ENCOUNTER and show its ledger."""

    def play(book: Rulebook) -> Fight:
        return library.fight(book, encounter, seed=seed, number=which)

    def show(fight: Fight) -> None:
        if why is None:
            print_fight(fight, every=every)
        else:
            console().print(fight.why(why), soft_wrap=True)

    if watch:
        from .moved import moved_fight

        watching.watch(rulebook, play, show, moved_fight)
        return
    fight = play(open_book(rulebook))
    deliver(fight, lambda: show(fight))
    if paths:
        fight.plot_paths(paths)
        note(f"Figure written to {paths}")
    if film:
        fight.film(film)
        note(f"Film written to {film}")


def print_fight(fight: Fight, most: int | None = None, every: bool = False) -> None:
    """Print how a fight ended, its story (the first and last lines where it has more than `most`; with `every`, a line
    for each entry) and its balances."""
    page = console()
    page.print(
        f"{BOLD}{fight.setup.title}{END}: {fight.setup.book.rulebook.title}, seed {fight.seed}, fight {fight.number}"
    )
    _print_summary(fight)
    _print_lines(fight, most, every)
    if not fight.recorded_whole:
        page.print(
            f"Only the first {len(fight):,} of {int(fight.state.clock[0].entries):,} entries are kept: there is "
            "room for no more."
        )
    page.print()
    print_balances(fight, brief=most is not None)
    folded = "" if every else f" All {len(fight):,} entries: add --all."
    page.print(f"Why an entry is what it is: add --why ENTRY.{folded}")


def _print_summary(fight: Fight) -> None:
    """Print who won, how close it was, and which entries decided it."""
    page = console()
    ending, *entries = fight.summary()
    page.print(f"{BOLD}{ending}{END}{_how(fight)}")
    if entries:
        page.print(f"These did most {'for the winner' if fight.winner else 'to anybody'}:")
        for entry in entries:
            page.print(f"  {entry}", soft_wrap=True)
    page.print()


def _print_lines(fight: Fight, most: int | None, every: bool) -> None:
    unit = fight.setup.book.clock.unit
    table = ruled(">entry", f">{unit}", "what", ">change", ">balance", wide="what")
    if every:
        lines = [(str(index), *rest) for index, *rest in fight.lines()]
    else:
        lines = [(str(line.entry), line.when, line.text, line.change, line.balance) for line in fight.story()]
    cut = most is not None and len(lines) > most
    shown = [*lines[: most // 2], None, *lines[-(most // 2) :]] if cut and most else lines
    for line in shown:
        if line is None:
            table.add_row("…", "…", f"{len(lines) - len(shown) + 1} lines more", "", "")
        else:
            index, when, sentence, change, balance = line
            table.add_row(index, when, sentence, money(change), balance)
    console().print(table)


def _how(fight: Fight) -> str:
    """Say how a fight was won, where the others were not just all down."""
    from ..engine.outcome import HOW_WON

    return f" They won {HOW_WON[way]}." if (way := fight.won_by) in HOW_WON else ""


def print_balances(fight: Fight, brief: bool = False) -> None:
    """Print opening + credits − debits = closing for each gauge, and whether all balance; with `brief`, only that."""
    from ..formula.explain import number

    page = console()
    table = ruled("unit", "gauge", ">opening", ">credits", ">debits", ">closing", ">difference")
    balances = fight.balances()
    for row in balances:
        debits = number(row["debits"])
        table.add_row(
            row["unit"],
            row["gauge"],
            number(row["opening"]),
            number(row["credits"]),
            money(debits),
            number(row["closing"]),
            number(row["difference"]),
        )
    if not brief:
        page.print(table)
    left = sum(row["difference"] != 0 for row in balances)
    page.print("The books balance." if not left else f"{RED}{left} gauges do not balance.{END}")
