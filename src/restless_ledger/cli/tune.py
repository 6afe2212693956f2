"""`restless-ledger tune`: the smallest change of some numbers that meets some targets."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from . import options, output
from .books import SHIPPED, open_book
from .output import deliver, note
from .progress import with_progress
from .tables import BOLD, END, RED, console, ruled, told
from .workers import workers

if TYPE_CHECKING:
    from ..study.tune import Tuning


@click.command("tune")
@options.rulebook
@click.option(
    "--target",
    "targets",
    multiple=True,
    required=True,
    metavar="TARGET",
    help="ENCOUNTER:SIDE=low..high, ENCOUNTER:seconds=low..high, or any promise; more than one may be given.",
)
@click.option(
    "--vary",
    "variables",
    multiple=True,
    required=True,
    metavar="LEVER",
    help="PATH, PATH=low..high or PATH=low..high/step; may be given several times.",
)
@click.option("--fights", type=int, default=4000, show_default=True, help="How many fights at each step of the search.")
@click.option("--write", is_flag=True, help="Write the new numbers into the rulebook's files, and nothing else.")
@options.seed
@workers
@output.plot
@output.output()
def command(
    rulebook: str, targets: tuple[str, ...], variables: tuple[str, ...], fights: int, write: bool, seed: int
) -> int:
    """Find the smallest change of LEVERs that meets every TARGET. Exit 1 where there is none."""
    from ..rulebook import InputError
    from ..rulebook.edit import write_values

    if write and rulebook in SHIPPED:
        raise InputError(f"--write: {rulebook} is the shipped rulebook\n    copy it first")
    book = open_book(rulebook)
    tuning = with_progress(
        "attempts",
        None,
        lambda progress: library.tune(book, targets, variables, fights=fights, seed=seed, progress=progress),
    )
    deliver(tuning, lambda: print_tuning(tuning))
    if write and tuning.proposal.ok:
        changed = {lever: value for lever, value in tuning.proposal.values.items() if value != lever.value}
        for line in told("New values", write_values(book, rulebook, changed)):
            note(line)
    return int(not tuning.proposal.ok)


def print_tuning(tuning: Tuning) -> None:
    """Print the numbers before and after, and the figure of each target before and after."""
    from ..study.tune import ERROR, MET

    page, proposal = console(), tuning.proposal
    how = f"{tuning.fights:,} fights a step, verified by {tuning.verified_by:,} with other luck, seed {tuning.seed}"
    page.print(f"{BOLD}Tuning{END}: {how}")
    if not tuning.complete:
        page.print(f"{RED}Stopped early:{END} this is the best so far.")
    levers = ruled("lever", ">before", ">after", ">change", ">99% interval", wide="lever")
    for lever, value in proposal.values.items():
        low, high = proposal.intervals.get(lever, (None, None))
        interval = f"{low:.4g} to {high:.4g}" if low is not None else ""
        change = f"{value / lever.value - 1:+.1%}".replace("-", "−")
        levers.add_row(
            lever.name, f"{lever.value:g}", f"{value:g}", change if value != lever.value else "none", interval
        )
    page.print(levers)
    page.print()
    targets = ruled("target", ">wanted", ">before", ">after", "", wide="target")
    for target in tuning.targets:
        met = proposal.verdicts[target.name]
        met = met if met == MET else f"{RED}{met}{END}"
        targets.add_row(
            target.name,
            f"{target.low:g} to {target.high:g}",
            f"{proposal.before[target.name]:.4g}",
            _figure(proposal.after[target.name], proposal.errors[target.name]),
            met,
        )
    page.print(targets)
    page.print(f"A verdict is wrong at most {ERROR:.0%} of the time.")
    page.print(f"{tuning.finding()}.")


def _figure(value: float, error: float) -> str:
    """Write a figure with half its 99% interval, where it has one that shows."""
    return f"{value:.4g} ± {2.58 * error:.2g}" if error > 1e-6 * abs(value) else f"{value:.4g}"
