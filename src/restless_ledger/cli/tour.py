"""The tour of the shipped rulebook, stage by stage."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from .. import api as library
from .audit import print_audit
from .books import open_book
from .falls import print_falls
from .fight import print_fight
from .journey import print_journeys
from .progress import with_progress
from .sheet import print_sheet
from .tables import console, told
from .trials import print_trials, run_with_progress

if TYPE_CHECKING:
    from ..monte_carlo import Trials
    from ..rulebook import Rulebook

ENTRIES_SHOWN = 8
RUNS = 200
NEXT = ("report demo", "fight demo landing_ambush --why 10", "new my_rules")
"""What somebody may try on their own after the tour."""


def tour(out: Path | None, seed: int, fights: int) -> None:
    """Show one fight line by line, one entry explained, a sheet, an audit, falls, many fights and a journey; draw
    pictures of them into a directory, if there is one."""
    book = open_book("demo")
    if out:
        _make_directory(out)
    _one_fight(book, seed)
    _worked_out(book)
    if out:  # takes long to import, and what comes next may have to wait for programs anyway
        from .. import reporting  # noqa: F401

    all_trials = _many_fights(book, seed, fights)
    _title("9 · A winter of watches, from the first frost to the thaw", "How many hours it takes, and where it stops.")
    journeys = with_progress(
        "runs", RUNS, lambda progress: library.journey(book, "winter", runs=RUNS, seed=seed, progress=progress)
    )
    if journeys.runs:
        print_journeys(journeys)
    page = console()
    if out:
        _draw(book, seed, out, *all_trials)
        from ..reporting import Report

        report = Report(book, quick=True, seed=seed, rulebook="demo").put(out / "report.html")
        page.print("")
        page.print(f"All that needs no fights, as a page for the browser: {report}", soft_wrap=True)
    page.print("")
    page.print("Try next:")
    for words in NEXT:
        page.print(f"  restless-ledger {words}", soft_wrap=True)


def _title(title: str, look: str) -> None:
    """Print the title of a stage of the tour, and what to look at."""
    page = console()
    page.print("")
    page.rule(title)
    page.print(look)


def _one_fight(book: Rulebook, seed: int) -> None:
    """Show a fight, why its largest blow is what it is, and whether the two are even."""
    from ..duels.exact import exact_or_why
    from ..engine import set_up

    _title(
        "1 · One fight, read line by line", "Each line is an entry. What was before, plus the change, is the balance."
    )
    fight = library.fight(book, "stair_duel", seed=seed)
    print_fight(fight, ENTRIES_SHOWN)
    _title("2 · Why an entry is what it is", "Each figure stands beside the line of the rulebook that it comes from.")
    telling = max(range(len(fight)), key=lambda index: -int(fight.state.entries[index].booked))
    console().print(fight.why(telling), soft_wrap=True)
    _title("3 · Is it fair?", "The same two, with blows alone: solved exactly, without a fight.")
    solution = exact_or_why(set_up(book, "yard_bout"))
    if not isinstance(solution, str):
        chances = ", ".join(f"{name} {chance:.2%}" for name, chance in solution.chances.items() if chance > 0)
        length = f"{solution.mean_seconds:.4g} {book.clock.unit}"
        console().print(f"{chances}; {length} on average. With all that they can do, it is fought many times, below.")


def _worked_out(book: Rulebook) -> None:
    """Show what needs no fights: a sheet, an audit, falls."""
    _title("4 · A character, and where its figures come from", "What a warden is, and what its guard is made of.")
    sheet = library.sheet(book, "warden", level=8)
    print_sheet(sheet)
    console().print(sheet["guard"].why(), soft_wrap=True)
    _title("5 · What is wrong with the rulebook", "Findings come first, each with its place; then promises, counted.")
    print_audit(library.audit(book, quick=True), brief=True)
    _title("6 · How far it is down", "From which height each class is hurt by a fall, and from which it is killed.")
    print_falls(library.falls(book, levels=[8]))


def _many_fights(book: Rulebook, seed: int, fights: int) -> list[Trials]:
    """Show the first fight many times, and one of several a side."""
    _title("7 · The first fight, many times", "Who wins how often, how sure that is, and which blows decide it.")
    trials = run_with_progress(book, "stair_duel", fights, seed)
    if trials.fights:
        print_trials(trials)
    _title(
        "8 · Several a side, on a landing with a ledge and a pit", "Who goes over the edge, and who sends them there."
    )
    ambush = run_with_progress(book, "landing_ambush", max(1, fights // 4), seed)
    if ambush.fights:
        print_trials(ambush)
    return [trials, ambush]


def _make_directory(out: Path) -> None:
    from ..rulebook import InputError

    try:
        out.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(f"{out}: can't be made: {error.strerror}") from None


def _draw(book: Rulebook, seed: int, out: Path, *all_trials: Trials) -> None:
    encounters = ("stair_duel", "landing_ambush")
    files = [out / f"fight-{encounter}.png" for encounter in encounters]
    for encounter, file in zip(encounters, files, strict=True):
        library.fight(book, encounter, seed=seed).plot(file)
    for trials, encounter in zip(all_trials, encounters, strict=True):
        if trials.fights:
            files.append(out / f"trials-{encounter}.png")
            trials.plot(files[-1])
    for name, draw in (
        ("paths-quay_battle", library.fight(book, "quay_battle", seed=seed).plot_paths),
        ("falls", library.falls(book).plot),
    ):
        files.append(out / f"{name}.png")
        draw(files[-1])
    for line in told("Figure", files):
        console().print(line)
