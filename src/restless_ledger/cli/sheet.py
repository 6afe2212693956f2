"""`restless-ledger sheet`: one character's figures, and where each comes from."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import click

from .. import api as library
from . import options, output, watching
from .books import open_book
from .names import completion
from .output import deliver
from .tables import BOLD, END, console, ruled

if TYPE_CHECKING:
    from ..rulebook import Rulebook
    from ..sheets import Sheet


@click.command("sheet")
@options.rulebook
@options.who
@options.level
@click.option(
    "--buff",
    "buffs",
    multiple=True,
    metavar="NAME",
    shell_complete=completion("buffs"),
    help="Put a buff on; may be given several times, in order.",
)
@options.origin
@options.chosen
@options.gear
@options.taught
@options.bought
@click.option(
    "--why", metavar="NAME", help="Show only where this stat or gauge comes from, or whether this ability can be used."
)
@click.option("--upgrades", is_flag=True, help="Show what a level of each upgrade costs the class, and what it gives.")
@click.option("--plan", metavar="NAME", shell_complete=completion("plans"), help="With --coin: what this plan buys.")
@click.option("--coin", type=int, help="The coin that the plan spends.")
@watching.option
@output.output()
def command(
    rulebook: str,
    who: str,
    why: str | None,
    watch: bool,
    upgrades: bool,
    plan: str | None,
    coin: int | None,
    **made: Any,
) -> None:
    """Show the sheet of class WHO: every stat and gauge with its origin."""
    book = open_book(rulebook)
    if upgrades or plan or coin is not None:
        _show_upgrades(book, who, made["level"], plan, coin)
        return
    made["attributes"] = options.assignments(made.pop("chosen"))
    made["bought"] = options.assignments(made["bought"], "--bought")

    def show(sheet: Sheet) -> None:
        if why:
            console().print(sheet.why(why), soft_wrap=True)
        else:
            print_sheet(sheet)

    if watch:
        from .moved import moved_sheet

        watching.watch(rulebook, lambda book: library.sheet(book, who, **made), show, moved_sheet)
        return
    sheet = library.sheet(book, who, **made)
    deliver(sheet, lambda: show(sheet))


def _show_upgrades(book: Rulebook, who: str, level: int | None, plan: str | None, coin: int | None) -> None:
    from ..rulebook import InputError

    if (plan is None) != (coin is None):
        raise InputError("--plan: a plan spends so much coin\n    give both --plan and --coin")
    from .upgrades import print_spent, print_upgrades

    found = library.upgrades(book, who, level=level)

    def show() -> None:
        print_upgrades(found)
        if plan is not None and coin is not None:
            print_spent(plan, coin, library.spend(book, plan, coin))

    deliver(found, show)


def print_sheet(sheet: Sheet) -> None:
    """Print a sheet: stats with their origin, gauges with their formulas, what is known."""
    from ..formula.explain import number

    page = console()
    buffs = f", with {', '.join(sheet.buffs)}" if sheet.buffs else ""
    origin = f", {sheet.origin}" if sheet.origin else ""
    gear = f", wearing {', '.join(map(str, sheet.gear))}" if sheet.gear else ""
    page.print(f"{BOLD}{sheet.label}{END}, level {sheet.level}{origin}{gear}{buffs}")
    table = ruled("stat", ">value", "from", wide="from")
    for figure in sheet.stats.values():
        lines = "; ".join(f"{line.what}" for line in figure.lines)
        table.add_row(figure.label, number(figure.value), lines)
    page.print(table)
    page.print()
    gauges = ruled("gauge", ">top", ">begins at", "from", "refill", wide="from")
    for gauge in sheet.gauges.values():
        gauges.add_row(
            gauge.label, number(gauge.top), number(gauge.begins), gauge.explanation.text, gauge.refill or "none"
        )
    page.print(gauges)
    page.print()
    _print_hits_to_kill(sheet)
    _print_known(sheet)


def _print_hits_to_kill(sheet: Sheet) -> None:
    """Print how many hits it takes against a character like itself, or why that is not given."""
    from ..analysis.left_out import left_out
    from ..analysis.time_to_kill import times_to_kill

    page = console()
    if against_its_like := times_to_kill(sheet.book, sheet, sheet):
        page.print("Against a character like itself, with one ability until nothing is left:")
        print_times_to_kill([kill.record() for kill in against_its_like], sheet.book.clock.unit)
        page.print()
    elif reason := left_out(sheet.book, sheet):
        page.print(f"Hits to kill a character like itself are not given: {reason}.")
        page.print()


def _print_known(sheet: Sheet) -> None:
    """Print what a character knows, what marks it, and what it is yet to learn or can't use."""
    from ..sheets.brought import marks_of

    page = console()
    page.print(f"Knows: {', '.join(sheet.abilities) or 'nothing yet'}")
    if marks := marks_of(sheet.sources):
        page.print(f"Marked: {', '.join(marks)}")
    if sheet.passives:
        page.print(f"Passively: {', '.join(sheet.passives)}")
    if sheet.to_come:
        page.print(f"Yet to learn: {', '.join(f'{name} at level {at}' for name, at in sheet.to_come.items())}")
    for name, reason in sheet.barred.items():
        page.print(f"Can't use {name}: {reason}")


def print_times_to_kill(records: list[dict[str, Any]], unit: str) -> None:
    """Print a row for each ability: its chance to land, what a hit takes on average, hits and time to kill (the median,
    and what lies between 10% and 90%)."""
    by = ("by",) if any("by" in row for row in records) else ()
    table = ruled(
        *by, "ability", ">lands", ">takes", ">hits to kill", f">{unit} to kill", wide="by" if by else "ability"
    )
    for row in records:
        hits, seconds = "never", "never"
        if row["hits"] is not None:
            hits = f"{row['hits']} ({row['hits_10']}–{row['hits_90']})"
            seconds = f"{row['seconds']:.4g} ({row['seconds_10']:.4g}–{row['seconds_90']:.4g})"
        table.add_row(
            *(row[name] for name in by), row["ability"], f"{row['lands']:.0%}", f"{row['amount']:.1f}", hits, seconds
        )
    console().print(table)
