"""`restless-ledger trials`: one encounter many times."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import keeping, options, output, watching
from .books import open_book
from .keeping import keep_run
from .output import deliver
from .progress import with_progress
from .tables import BOLD, END, RED, amount, console, ruled
from .workers import workers

if TYPE_CHECKING:
    from ..monte_carlo import Trials
    from ..rulebook import Rulebook


@click.command("trials")
@options.rulebook
@options.encounter
@click.option("--fights", type=int, default=10_000, show_default=True, help="How many fights.")
@click.option(
    "--precision", type=float, help="Stop once half the width of every outcome's interval is this, such as 0.01."
)
@options.seed
@workers
@keeping.option
@output.plot
@watching.option
@output.output(*table_names.TRIALS)
def command(rulebook: str, encounter: str, fights: int, precision: float | None, seed: int, watch: bool) -> None:
    """Fight ENCOUNTER many times: win rates with their intervals, time to kill, who did what."""

    def look(book: Rulebook) -> Trials:
        trials = run_with_progress(book, encounter, fights, seed, precision)
        if trials.fights == 0:
            raise KeyboardInterrupt
        return trials

    def show(trials: Trials) -> None:
        print_trials(trials)
        _print_notable(trials, f"restless-ledger fight {rulebook} {encounter} --seed {seed} --number N")
        console().print(f"{trials.finding()}. Every gauge of every fight reconciles.")

    if watch:
        from .moved import moved_trials

        watching.watch(rulebook, look, show, moved_trials)
        return
    trials = look(open_book(rulebook))
    deliver(trials, lambda: show(trials), head=lambda: _print_head(trials))
    keep_run(trials, rulebook)


def run_with_progress(book: Rulebook, encounter: str, fights: int, seed: int, precision: float | None = None) -> Trials:
    """Run trials with a progress bar."""
    return with_progress(
        "fights",
        fights,
        lambda progress: library.trials(
            book, encounter, fights=fights, seed=seed, progress=progress, precision=precision
        ),
    )


def _print_head(trials: Trials) -> None:
    page = console()
    page.print(f"{BOLD}{trials.setup.title}{END}: {trials.fights:,} fights, seed {trials.seed}")
    if not trials.complete:
        page.print(f"{RED}Stopped early:{END} fights 0 to {trials.fights - 1:,} of the {trials.run.asked:,} asked for.")


def print_trials(trials: Trials) -> None:
    """Print the outcomes, how close they were, who did what on average, and who is left."""
    page = console()
    _print_head(trials)
    _print_outcomes(trials)
    _print_solution(trials)
    _print_course(trials)
    page.print()
    _print_deeds(trials)
    _print_survivors(trials)


def _print_outcomes(trials: Trials) -> None:
    from ..engine.outcome import HOW_WON

    page, unit = console(), trials.setup.book.clock.unit
    table = ruled("outcome", ">fights", ">share", ">95% interval", f">median {unit}", f">10% to 90% {unit}")
    for row in trials.records("outcomes"):
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
    for row in trials.records("outcomes"):
        for way, words in HOW_WON.items():
            if row[way]:
                page.print(f"Of the wins of {row['outcome']}, {row[way]:,} {words}.")


def _print_solution(trials: Trials) -> None:
    """Print the exact chances beside, where the fight can be solved."""
    from ..duels.exact import exact_or_why

    solution = exact_or_why(trials.setup)
    if not isinstance(solution, str):
        chances = ", ".join(f"{name} {chance:.2%}" for name, chance in solution.chances.items() if chance > 0)
        console().print(
            f"Solved exactly: {chances}; {solution.mean_seconds:.4g} {trials.setup.book.clock.unit} on average."
        )


def _print_course(trials: Trials) -> None:
    """Print how close the wins were, and what the first loss decides where there is more than one to lose."""
    from ..monte_carlo.progression import CLOSE

    page = console()
    for row in trials.records("margins"):
        if row["wins"]:
            page.print(
                f"Wins of {row['side']}: {row['left_50']:.0%} left (median), {row['close_share']:.1%} of them "
                f"close calls ({CLOSE:.0%} or less)."
            )
    units = [unit for unit in trials.setup.tables.units if unit.root < 0]
    sides = trials.setup.names.sides
    lives = [sum(int(unit.lives) for unit in units if unit.side == side) for side in range(len(sides))]
    if max(lives) > 1:
        for row in trials.records("first_losses"):
            if row["fights"]:
                otherwise = f", else {row['otherwise']:.0%}" if row["otherwise"] >= 0 else ""
                page.print(
                    f"First loss: of {row['side']} in {row['share']:.1%} of the fights; then they win "
                    f"{row['wins']:.0%}{otherwise}."
                )


def _print_deeds(trials: Trials, most: int = 40) -> None:
    page = console()
    table = ruled("unit", "by", ">uses", ">accuracy", ">harm", ">heal", ">waste", ">downs", wide="unit")
    rows = [row for row in trials.records("deeds") if row["is"] != "gauge" or row["downs"]]
    for row in rows[:most]:
        accuracy = f"{row['accuracy']:.0%}" if row["misses"] else ""
        table.add_row(
            row["unit"],
            row["cause"],
            amount(row["uses"]),
            accuracy,
            *(amount(row[name]) for name in ("harm", "heal", "waste")),
            amount(row["downs"], 2),
        )
    page.print("Who did what, on average in a fight (amounts in points)")
    page.print(table)
    if len(rows) > most:
        page.print(f"… and {len(rows) - most} rows more; all of them with --table deeds")


def _print_survivors(trials: Trials, most: int = 12) -> None:
    """Print who is up at the end, and with how much left, where that is not simply who won."""
    rows, downing = trials.records("survivors"), trials.setup.book.downing_gauge
    if len(rows) < 3 or len(rows) > most:
        return
    page = console()
    page.print()
    table = ruled("up at the end", "side", ">share", ">95% interval", ">left", ">of its top", wide="up at the end")
    for row in rows:
        left, share = (f"{row[f'{downing}_left']:.1f}", f"{row['left_share']:.0%}") if row["up"] else ("", "")
        table.add_row(
            row["unit"], row["side"], f"{row['share']:.1%}", f"{row['low']:.1%} to {row['high']:.1%}", left, share
        )
    page.print(table)


def _print_notable(trials: Trials, command: str) -> None:
    """Print which fights are worth looking at, and how."""
    page, unit = console(), trials.setup.book.clock.unit
    table = ruled("to look at", ">number N", "outcome", f">{unit}", ">winner has left")
    for row in trials.records("notable"):
        left = f"{row['left']:.1%}" if row["left"] >= 0 else ""
        table.add_row(row["fight"], f"{row['number']}", row["outcome"], f"{row['seconds']:.4g}", left)
    page.print()
    page.print(table)
    page.print(f"{command}  replays one.\n")
