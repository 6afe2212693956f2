"""Odds: the exact chance of passing each stat check, by class and level, and why not."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .tables import BOLD, END, console, ruled, spread

if TYPE_CHECKING:
    from ..analysis.odds import Odds, OddsTable

COLUMNS = 6


def print_odds(odds: OddsTable) -> None:
    """Print a block of rows for each check, at some levels from the first to the last."""
    page = console()
    page.print(f"{BOLD}Odds{END}: {odds.book.rulebook.title}; the numbers above the columns are levels")
    shown = [odds.levels[place] for place in spread(len(odds.levels), COLUMNS)]
    for check in odds.checks:
        entry = odds.book.checks[check]
        against = f" + {entry.opposed_by}" if entry.opposed_by is not None else ""
        rolled = f" + {entry.roll}" if entry.roll is not None else ""
        tries = f", {entry.tries} tries" if entry.tries > 1 else ""
        page.print()
        page.print(f"{BOLD}{odds.label(check)}{END}: {entry.value}{rolled}{tries}; needs {entry.needs}{against}")
        table = ruled("class", *(f">{level}" for level in shown))
        mine = [record for record in odds.odds if record.check == check]
        for who in dict.fromkeys(record.who for record in mine):
            cells = (_cell(record) for record in mine if record.who == who and record.level in shown)
            table.add_row(odds.class_label(who), *cells)
        page.print(table)
        for record in [each for each in mine if each.level == shown[-1] and each.degrees]:
            said = ", ".join(f"{degree} {float(chance):.1%}" for degree, chance in record.degrees.items())
            page.print(f"{odds.class_label(record.who)}, level {record.level}, one try: {said}.")
        for record in [each for each in mine if each.level == shown[-1] and each.why][:4]:
            page.print(f"{odds.class_label(record.who)}, level {record.level}: {record.verdict}; {record.why}.")
    page.print()
    for line in odds.closed():
        page.print(f"{line}.")
    page.print(f"{odds.finding()}.")


def _cell(record: Odds) -> str:
    return {"impossible": "never", "certain": "sure"}.get(record.verdict) or f"{float(record.chance):.1%}"
