"""`restless-ledger trials`: one encounter many times."""

from __future__ import annotations

from pathlib import Path

import click

from .. import book as library
from ..book import Book
from ..study import Trials
from . import options
from .options import open_book
from .progress import check_threads, with_progress
from .tables import amount, console, ruled, told, write_records


@click.command("trials")
@options.rulebook
@options.encounter
@click.option("--fights", type=int, default=10_000, show_default=True, help="How many fights.")
@click.option(
    "--precision", type=float, help="Stop once half the width of every outcome's interval is this, such as 0.01."
)
@options.seed
@click.option("--threads", type=int, help="How many threads; all cores unless given. Changes only the time it takes.")
@options.plot
@options.out
def command(
    rulebook: str,
    encounter: str,
    fights: int,
    precision: float | None,
    seed: int,
    threads: int | None,
    plot: Path | None,
    out: Path | None,
) -> None:
    """Fight ENCOUNTER many times: win rates with their intervals, time to kill, who did what."""
    trials = run_with_progress(open_book(rulebook), encounter, fights, seed, threads, precision)
    page = console()
    if trials.fights == 0:
        raise KeyboardInterrupt
    print_trials(trials)
    if plot:
        trials.plot(plot)  # type: ignore[attr-defined]
    if out:
        write_records(trials.deed_records(), out)
    for line in [*told("Figure", [plot]), *told("Who did what", [out])]:
        page.print(line)


def run_with_progress(book: Book, encounter: str, fights: int, seed: int, threads: int | None = None,
                      precision: float | None = None) -> Trials:  # fmt: skip
    """Run trials with a progress bar."""
    check_threads(threads)
    return with_progress(
        "fights",
        fights,
        lambda progress: library.trials(book, encounter, fights, seed, threads, None, progress, precision),
    )


def print_trials(trials: Trials, most: int = 40) -> None:
    """Print the outcomes, and who did what on average."""
    page, unit = console(), trials.setup.book.clock.unit
    page.print(f"[bold]{trials.setup.title}[/]: {trials.fights:,} fights, seed {trials.seed}")
    if not trials.complete:
        page.print(f"[red]Stopped early:[/] fights 0 to {trials.fights - 1:,} of the {trials.run.asked:,} asked for.")
    table = ruled("outcome", ">fights", ">share", ">95% interval", f">median {unit}", f">10% to 90% {unit}")
    for row in trials.outcome_records():
        span = f"{row['seconds_10']:.4g} to {row['seconds_90']:.4g}" if row["fights"] else ""
        median = f"{row['median_seconds']:.4g}" if row["fights"] else ""
        table.add_row(
            row["outcome"],
            f"{row['fights']:,}",
            f"{row['share']:.1%}",
            f"{row['low']:.1%} to {row['high']:.1%}",
            median,
            span,
        )
    page.print(table)
    for row in trials.outcome_records():
        for way, words in (("held", "by holding the objective"), ("fled", "as the others fled")):
            if row[way]:
                page.print(f"Of the wins of {row['outcome']}, {row[way]:,} {words}.")
    page.print()
    deeds = ruled("unit", "by", ">uses", ">accuracy", ">harm", ">heal", ">waste", wide="unit")
    rows = [row for row in trials.deed_records() if row["is"] != "gauge"]
    for row in rows[:most]:
        accuracy = f"{row['accuracy']:.0%}" if row["misses"] else ""
        deeds.add_row(
            row["unit"],
            row["cause"],
            amount(row["uses"]),
            accuracy,
            amount(row["harm"]),
            amount(row["heal"]),
            amount(row["waste"]),
        )
    page.print("Who did what, on average in a fight (amounts in points)")
    page.print(deeds)
    if len(rows) > most:
        page.print(f"… and {len(rows) - most} rows more; all of them with --out FILE")
    _print_survivors(trials)
    page.print(f"{trials.finding()}. Every gauge of every fight reconciles.")


def _print_survivors(trials: Trials, most: int = 12) -> None:
    """Print who is up at the end, and with how much left, where that is not simply who won."""
    rows = trials.survivor_records()
    if len(rows) < 3 or len(rows) > most:
        return
    page = console()
    page.print()
    table = ruled("up at the end", "side", ">share", ">95% interval", ">left", ">of its top", wide="up at the end")
    for row in rows:
        left, share = (f"{row['left']:.1f}", f"{row['left_share']:.0%}") if row["up"] else ("", "")
        table.add_row(
            row["unit"], row["side"], f"{row['share']:.1%}", f"{row['low']:.1%} to {row['high']:.1%}", left, share
        )
    page.print(table)
