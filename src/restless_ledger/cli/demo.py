"""`restless-ledger demo`: the whole tour on the shipped rulebook."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from ..monte_carlo import Trials
from ..rulebook import InputError, Rulebook
from .audit import print_audit
from .falls import print_falls
from .fight import print_fight
from .journey import print_journeys
from .progress import with_progress
from .sheet import print_sheet
from .tables import console, told
from .trials import print_trials, run_with_progress

ENTRIES_SHOWN = 24
RUNS = 200


@click.command("demo")
@click.option("--out", type=click.Path(path_type=Path), help="Write the pictures into this directory.")
@click.option("--seed", type=int, default=1, show_default=True, help="Decides every draw.")
@click.option("--fights", type=int, default=20_000, show_default=True, help="How many fights the trials hold.")
def command(out: Path | None, seed: int, fights: int) -> None:
    """Tour the shipped rulebook: an audit, a sheet, one fight line by line, one entry explained, many fights, falls, a
    journey, pictures."""
    page, book = console(), library.demo()
    if out:
        _make_directory(out)
    page.rule("1 · What is wrong with it, and what can be worked out of what was promised")
    print_audit(library.audit(book, quick=True))
    page.print("(restless-ledger audit demo also carries out its worked examples, and fights for its other promises)")
    page.rule("2 · A character and where its figures come from")
    sheet = library.sheet(book, "warden", level=8)
    print_sheet(sheet)
    page.print(sheet["guard"].why(), soft_wrap=True)
    page.rule("3 · One fight, read line by line")
    fight = library.fight(book, "stair_duel", seed=seed)
    print_fight(fight, ENTRIES_SHOWN)
    page.rule("4 · Why an entry is what it is")
    telling = max(range(len(fight)), key=lambda index: -int(fight.state.entries[index].booked))
    page.print(fight.why(telling), soft_wrap=True)
    page.rule("5 · The same fight, many times")
    trials = run_with_progress(book, "stair_duel", fights, seed)
    if trials.fights:
        print_trials(trials)
    page.rule("6 · Several a side, on a landing with a ledge and a pit")
    ambush = run_with_progress(book, "landing_ambush", max(1, fights // 4), seed)
    if ambush.fights:
        print_trials(ambush)
    page.rule("7 · How far it is down")
    print_falls(library.falls(book, levels=[8]))
    page.rule("8 · A winter of watches, from the first frost to the thaw")
    journeys = with_progress(
        "runs",
        RUNS,
        lambda progress: library.journey(book, "winter", runs=RUNS, seed=seed, threads=None, progress=progress),
    )
    if journeys.runs:
        print_journeys(journeys)
    if out:
        _draw(book, seed, out, trials, ambush)


def _make_directory(out: Path) -> None:
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
