"""Upgrades: what a level of each costs and gives, and what a plan buys."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .tables import BOLD, END, console, ruled, spread

if TYPE_CHECKING:
    from ..progress import Spent, Upgrades

ROWS = 6


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
