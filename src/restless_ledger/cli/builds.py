"""`restless-ledger builds`: what character creation allows, and how distinct the origins are."""

from __future__ import annotations

from typing import TYPE_CHECKING

import click

from .. import api as library
from . import options, output
from .books import open_book
from .names import completion
from .odds import print_odds
from .output import deliver
from .tables import BOLD, END, RED, console, ruled

if TYPE_CHECKING:
    from ..analysis.builds import Builds
    from ..rulebook import Rulebook


@click.command("builds")
@options.rulebook
@click.argument("checks", metavar="[CHECK ...]", nargs=-1, shell_complete=completion("checks"))
@click.option("--odds", is_flag=True, help="Show the exact chance of passing each stat check instead, and why not.")
@options.levels
@click.option("--best", metavar="FORMULA", help="Also find the build of each origin that makes this greatest.")
@options.origin
@options.chosen
@output.plot
@output.output()
def command(
    rulebook: str,
    checks: tuple[str, ...],
    odds: bool,
    levels: tuple[int, ...],
    best: str | None,
    origin: str | None,
    chosen: tuple[str, ...],
) -> int:
    """Count the builds that character creation allows. With --origin, test one build: exit 1 if it isn't allowed.

    With CHECK or --odds: the exact chance of passing each stat check, by class and level.
    """
    from ..rulebook import InputError

    book = open_book(rulebook)
    if chosen and not origin:
        raise InputError("--set: a build is tested for an origin\n    name it with --origin")
    if origin:
        return _test_build(book, origin, options.assignments(chosen))
    if checks or odds:
        chances = library.odds(book, checks=checks, levels=levels or None)
        deliver(chances, lambda: print_odds(chances))
        return 0
    builds = library.builds(book)

    def show() -> None:
        print_builds(builds)
        if best:
            _print_best(builds, best)

    deliver(builds, show)
    return 0


def _test_build(book: Rulebook, origin: str, chosen: dict[str, int]) -> int:
    verdict, page = library.judge(book, origin, attributes=chosen), console()
    said = ", ".join(f"{name} {value}" for name, value in verdict.attributes.items())
    page.print(f"{origin}: {said}")
    total = "" if verdict.total is None else f", and adds up to {verdict.total + verdict.off_total} of {verdict.total}"
    page.print(f"It spends {verdict.spent} points of {verdict.budget}{total}.")
    for problem in verdict.problems:
        page.print(f"{RED}Not allowed: {problem}{END}")
    if verdict.others and not verdict.allowed:
        page.print(f"It would be allowed for {', '.join(verdict.others)}.")
    if verdict.allowed:
        page.print("Allowed.")
    return int(not verdict.allowed)


def print_builds(builds: Builds) -> None:
    """Print a row for each origin, the overlaps, what additions are worth, and the dice."""
    from ..sheets.rolls import at_least, distribution, mean

    page, creation = console(), builds.creation
    spend = "all to be spent" if creation.spend == "all" else "some may be left"
    page.print(f"{BOLD}Builds{END}: {builds.book.rulebook.title}; {builds.points}, {spend}")
    table = ruled("origin", ">builds", ">own", *(f">as {builds.label(name)}" for name in builds.origins))
    for name in builds.origins:
        count, overlaps = builds.count(name), (builds.overlap(name, other) for other in builds.origins)
        share = f"{builds.only(name) / count:.1%}" if count else ""
        table.add_row(
            builds.label(name),
            _count(count),
            share,
            *(
                "" if other == name else f"{overlap:.1%}"
                for other, overlap in zip(builds.origins, overlaps, strict=True)
            ),
        )
    page.print(table)
    page.print("Own: open to no other origin. As: the share of the builds of either that both allow.")
    for worth in builds.worths():
        points = "1 point" if abs(worth.points) == 1 else f"{abs(worth.points)} points"
        how = "costs" if worth.added > 0 else "gives back"
        page.print(
            f"{builds.label(worth.origin)}: {worth.added:+d} {worth.attribute}; to buy as much {how} {points}.".replace(
                "-", "−"
            )
        )
    for name, roll in creation.rolled.items():
        chances = distribution(roll)
        low, high = next(iter(chances)), list(chances)[-1]
        page.print(
            f"{name} rolled, {roll}: {low} to {high}, mean {mean(roll):.3f}, "
            f"{float(at_least(chances, high)):.2%} for {high}"
        )
    page.print(f"{builds.finding()}.")
    for line in list(builds.findings())[1:]:
        page.print(f"{line}.")


def _print_best(builds: Builds, formula: str) -> None:
    from ..analysis.best_build import best_build
    from ..formula.explain import number

    page = console()
    page.print()
    table = ruled("best for", f">{formula}", "build", wide="build")
    sure = True
    for name in builds.origins:
        found = best_build(builds.book, name, formula)
        sure = sure and found.tried_all
        said = ", ".join(f"{attribute} {value}" for attribute, value in found.attributes.items())
        table.add_row(builds.label(name), number(found.value), said)
    page.print(table)
    page.print("Every build was tried." if sure else "The best found by exchanging points; not every build was tried.")


def _count(count: int) -> str:
    """Write a number of builds; a huge one by its first digits."""
    return f"{count:,}" if count < 10**12 else f"{count:.3e}"
