"""`restless-ledger levers`: which numbers move an encounter's outcome most."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from . import options, output
from .books import open_book
from .output import deliver
from .progress import with_progress
from .tables import BOLD, END, console, ruled
from .workers import processes, workers

if TYPE_CHECKING:
    from ..study.levers import Levers

MOST_ROWS = 24
WORTH_PROCESSES = 100
"""How many levers take longer than the start of processes."""


@click.command("levers")
@options.rulebook
@options.encounter
@click.argument("only", nargs=-1, metavar="[LEVER]...")
@click.option("--step", type=float, default=0.05, show_default=True, help="By what share of itself each is moved.")
@click.option("--fights", type=int, default=2000, show_default=True, help="How many fights each way.")
@click.option("--side", metavar="NAME", help="Whose wins count; the first side unless given.")
@options.seed
@workers
@output.plot
@output.output()
def command(
    rulebook: str, encounter: str, only: tuple[str, ...], step: float, fights: int, side: str | None, seed: int
) -> None:
    """Vary each number of the rules a little, and rank them by what that does to ENCOUNTER.

    LEVER is a dotted path, or one above several (classes.rigger); all numbers of the rules unless some are given.
    """
    from ..rulebook.levers import levers_of

    book = open_book(rulebook)
    with processes(len(levers_of(book, only)) >= WORTH_PROCESSES):
        levers = with_progress(
            "levers",
            None,
            lambda progress: library.levers(
                book, encounter, only=only, step=step, fights=fights, seed=seed, side=side, progress=progress
            ),
        )
    if not levers.effects:
        raise KeyboardInterrupt
    deliver(levers, lambda: print_levers(levers))


def print_levers(levers: Levers) -> None:
    """Print the strongest levers, and what the strongest of them do together."""
    from ..statistics.intervals import Z_95

    page = console()
    stopped = "" if levers.complete else "; stopped early"
    page.print(
        f"{BOLD}Levers{END} of {levers.encounter}: {len(levers.effects)} numbers moved by {levers.step:.0%}, "
        f"{levers.fights:,} fights each way with the same luck, seed {levers.seed}{stopped}"
    )
    table = ruled("number", ">value", ">wins", ">±", ">seconds", ">fights", wide="number")
    moving = [effect for effect in levers.effects if not effect.failed and (effect.wins or effect.seconds)]
    for effect in moving[:MOST_ROWS]:
        wins = f"{effect.wins:+.1%}".replace("-", "−")
        seconds = f"{effect.seconds:+.2f}".replace("-", "−") if abs(effect.seconds) >= 0.005 else ""
        needed = f"{effect.fights_needed:,.0f}" if effect.fights_needed < 1e7 else "—"
        name = effect.lever.name
        if effect.lever.tick:
            name += f" (one tick: {effect.per_tick:+.2%})".replace("+-", "−").replace("-", "−")
        table.add_row(
            name,
            f"{effect.lever.value:g}",
            wins if effect.clear else f"({wins})",
            f"{Z_95 * effect.wins_error:.1%}",
            seconds,
            needed,
        )
    page.print(table)
    if len(moving) > MOST_ROWS:
        page.print(f"… and {len(moving) - MOST_ROWS} more that move something; --out writes them all")
    still = sum(not effect.failed and not effect.wins and not effect.seconds for effect in levers.effects)
    if still:
        page.print(f"{still} move nothing here.")
    for effect in [effect for effect in levers.effects if effect.failed][:3]:
        page.print(f"Can't be moved: {effect.lever.name}: {effect.failed[:100]}")
    for each in levers.interactions()[:3]:
        both = f"{each.one.name} and {each.other.name}"
        extra = f"{each.wins:+.1%} ± {Z_95 * each.error:.1%}".replace("-", "−")
        page.print(f"Together, {both}: {extra} beyond what each does alone.")
    page.print(f"Fights: how many would show it; in brackets what these do not. {levers.finding()}.")
