"""`restless-ledger journey`: hours, levels, attempts and walls along a journey."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from . import keeping, options, output
from .books import open_book
from .keeping import keep_run
from .names import named
from .output import deliver, deliver_rows
from .progress import with_progress
from .tables import BOLD, END, RED, console, ruled
from .workers import processes, workers

if TYPE_CHECKING:
    from ..progress.journeys import Journeys, Story

WORTH_PROCESSES = 150
"""How many runs take longer than the start of processes."""


@click.command("journey")
@options.rulebook
@named("journey", "journeys")
@click.option("--runs", type=int, default=1000, show_default=True, help="How many runs.")
@options.seed
@click.option("--number", type=int, help="Read this one run instead, visit by visit, with its books.")
@workers
@keeping.option
@output.plot
@output.output()
def command(rulebook: str, journey: str, runs: int, seed: int, number: int | None) -> None:
    """Walk JOURNEY many times, every fight really fought: hours, levels on arrival, attempts, and where runs stop."""
    book = open_book(rulebook)
    if number is not None:
        story = library.journey(book, journey, runs=1, seed=seed).story(number)
        deliver_rows(lambda: story.entries, lambda: print_story(story), f"Run {number}: {len(story.entries)} entries")
        return
    with processes(runs >= WORTH_PROCESSES):
        journeys = with_progress(
            "runs", runs, lambda progress: library.journey(book, journey, runs=runs, seed=seed, progress=progress)
        )
    if not journeys.runs:
        raise KeyboardInterrupt
    deliver(journeys, lambda: print_journeys(journeys))
    keep_run(journeys, rulebook)


def print_journeys(journeys: Journeys) -> None:
    """Print a row for each stage, what was bought, and how many reach the end."""
    page = console()
    label = journeys.journey.label or journeys.name
    more = "" if len(journeys.runs) == journeys.asked else f" of {journeys.asked:,} asked for"
    page.print(f"{BOLD}{label}{END}: {len(journeys.runs):,} runs{more}, seed {journeys.seed}")
    table = ruled("stage", ">come", ">level", ">10 to 90%", ">tries", ">min", ">stop", ">95% interval", wide="stage")
    for record in journeys.stages:
        stop = f"{record['stop_share']:.1%}" if record["stops"] else ""
        interval = f"{record['stop_low']:.1%} to {record['stop_high']:.1%}" if record["reached"] else ""
        table.add_row(
            journeys.label(record["stage"]),
            f"{record['reached']:,}",
            f"{record['level']:g}",
            f"{record['level_10']:g} to {record['level_90']:g}",
            f"{record['attempts']:.2f}",
            f"{record['minutes']:.1f}",
            stop,
            interval,
        )
    page.print(table)
    page.print("Level: the lowest of the party on arrival. Min: minutes there. Stop: of those who come.")
    for name, bought in journeys.bought.items():
        if bought:
            page.print(f"{name} buys: {', '.join(f'{what} {level:.1f}' for what, level in bought.items())} on average.")
    low, high = journeys.hours_interval
    page.print(f"To the end: {journeys.finish_rate}.")
    if journeys.finish_rate.count:
        page.print(
            f"Hours: median {journeys.hours(0.5):.2f} ({low:.2f} to {high:.2f}), 10% to 90% of runs "
            f"{journeys.hours(0.1):.2f} to {journeys.hours(0.9):.2f}."
        )
    page.print(f"{journeys.finding()}.")


def print_story(story: Story) -> None:
    """Print one run: its visits, then the balances of its books."""
    page, run = console(), story.run
    book = story.stock.book
    page.print(f"{BOLD}{story.stock.journey.label or 'A journey'}{END}: run {story.number}, seed {story.seed}")
    table = ruled(">visit", "stage", ">level", ">s", "what happened", wide="what happened")
    for index, visit in enumerate(run.visits):
        name = book.stages[visit.stage].label or visit.stage
        again = " (again)" if visit.grinding else ""
        told = visit.told if visit.passed else f"{RED}{visit.told}{END}"
        table.add_row(str(index), f"{name}{again}", str(visit.level), f"{visit.seconds:.0f}", told)
    page.print(table)
    ends = ", ".join(f"{name} level {level}" for name, level in zip(story.stock.names, run.levels, strict=True))
    how = "Came to the end" if run.finished else f"Stopped at {run.stopped_at}"
    page.print(f"{how} after {run.seconds / 3600:.2f} hours: {ends}; {run.coin:,} coin left.")
    page.print(f"The books of {len(story.run.entries or ())} entries balance; --out writes them.")
