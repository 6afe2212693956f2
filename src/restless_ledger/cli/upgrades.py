"""`restless-ledger upgrades`: what a level of each upgrade costs and gives, and what a plan buys."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from ..progress import Spent, Upgrades
from ..rulebook import InputError
from . import options
from .options import open_book
from .tables import BOLD, END, console, ruled, spread, told

ROWS = 6


@click.command("upgrades")
@options.rulebook
@click.argument("who", metavar="WHO")
@click.option("--level", type=int, help="The level of the character; the first there is unless given.")
@click.option("--plan", metavar="NAME", help="Also show what this plan buys.")
@click.option("--coin", type=int, help="The coin that the plan spends.")
@options.out
def command(rulebook: str, who: str, level: int | None, plan: str | None, coin: int | None, out: Path | None) -> None:
    """Show what a level of each upgrade costs class WHO, and what it gives."""
    book = open_book(rulebook)
    if (plan is None) != (coin is None):
        raise InputError("--plan: a plan spends so much coin\n    give both --plan and --coin")
    upgrades = library.upgrades(book, who, level=level)
    print_upgrades(upgrades)
    if plan is not None and coin is not None:
        print_spent(plan, coin, library.spend(book, plan, coin))
    if out:
        upgrades.write(out)
    for line in told("Table", [out]):
        console().print(line)


def print_upgrades(upgrades: Upgrades) -> None:
    """Print some levels of each upgrade, from the first to the last."""
    page, bare = console(), upgrades.bare
    page.print(f"{BOLD}Upgrades{END}: {bare.label}, level {bare.level}; what a level costs, and what it gives")
    table = ruled("upgrade", ">level", ">price", ">in all", "gives", wide="gives")
    for name in upgrades.names:
        rows = [record for record in upgrades.levels if record["upgrade"] == name]
        label, figures = upgrades.label(name), upgrades.figures(name)
        for place in spread(len(rows), ROWS):
            row = rows[place]
            gives = ", ".join(f"{row[figure]:+g} {figure}".replace("-", "−") for figure in figures if row[figure])
            table.add_row(label, str(row["level"]), f"{row['price']:,}", f"{row['total']:,}", gives or "nothing yet")
            label = ""
    page.print(table)


def print_spent(plan: str, coin: int, spent: Spent) -> None:
    """Print what a plan has bought, and what it waits for."""
    bought = ", ".join(f"{name} {level}" for name, level in spent.bought.items()) or "nothing"
    waits = f", waiting for {spent.waits_for}" if spent.waits_for else ""
    console().print(f"{plan} with {coin:,}: {bought}; {spent.left:,} left{waits}.")
