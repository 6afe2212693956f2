"""`restless-ledger report`: one page of HTML with all that can be said of a rulebook."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from . import options
from .books import open_book, open_since
from .output import note
from .progress import with_progress
from .workers import workers


@click.command("report")
@options.rulebook
@click.option(
    "--out",
    type=click.Path(path_type=Path),
    default=Path("report"),
    show_default=True,
    help="The page: a file that ends in .html, or a directory for index.html.",
)
@click.option("--since", metavar="REVISION", help="Also say what changed since a revision, or another rulebook.")
@click.option("--fights", type=int, default=1000, show_default=True, help="How often each encounter is fought.")
@click.option("--quick", is_flag=True, help="Leave out what must be simulated.")
@options.seed
@workers
def command(rulebook: str, out: Path, since: str | None, fights: int, quick: bool, seed: int) -> None:
    """Write a page of HTML about RULEBOOK: findings, promises, characters, encounters, matchups, journeys.

    The page needs no network and no other file. At Ctrl-C it holds what was done by then.
    """
    from ..reporting.report import page_file

    book = open_book(rulebook)
    old = open_since(since, rulebook) if since else None
    file = page_file(out)
    made = with_progress(
        "steps",
        None,
        lambda progress: library.report(
            book, out, since=old, fights=fights, seed=seed, quick=quick, progress=progress, rulebook=rulebook
        ),
    )
    note(f"{made.finding()}, written to {file}")
