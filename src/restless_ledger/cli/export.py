"""`restless-ledger export`: all that a game loads, and its rules as source code."""

from __future__ import annotations

from pathlib import Path

import click

from .. import api as library
from . import options
from .books import open_book
from .tables import BOLD, END, console, ruled


def _listed(_context: click.Context, _parameter: click.Parameter, text: str | None) -> tuple[str, ...] | None:
    return None if text is None else tuple(word.strip() for word in text.split(",") if word.strip())


@click.command("export")
@options.rulebook
@click.option("--out", required=True, type=click.Path(path_type=Path), help="The directory to write to.")
@click.option("--formats", callback=_listed, help="Such as json,csv. Without it, all whose libraries are installed.")
@click.option("--for", "languages", callback=_listed, help="Rules as source code: c,csharp,javascript,lua,python.")
@click.option("--vectors", type=int, default=20, show_default=True, help="Test vectors of each function.")
@click.option("--fights", type=int, default=1, show_default=True, help="Recorded fights of each encounter.")
@options.seed
def command(
    rulebook: str,
    out: Path,
    formats: tuple[str, ...] | None,
    languages: tuple[str, ...] | None,
    vectors: int,
    fights: int,
    seed: int,
) -> None:
    """Write all that a game loads, resolved: stats by level, experience, abilities, buffs, damage, bodies, gear, drops.

    With --for, the rules are also written as source code, with test vectors and a program that runs them.
    """
    book, page = open_book(rulebook), console()
    made = library.export(
        book, out, formats=formats, languages=languages or (), vectors=vectors, fights=fights, seed=seed
    )
    page.print(f"{BOLD}Export{END}: {book.rulebook.title}, into {out}", soft_wrap=True)
    table = ruled("file", ">bytes")
    for row in made.records():
        table.add_row(row["file"], f"{row['bytes']:,}")
    page.print(table)
    for name in made.left_out:
        extra = "parquet" if name == "parquet" else "sheets"
        page.print(f'Left out: {name} needs one more library: pip install "restless-ledger[{extra}]".')
    page.print(f"{made.finding()}.")
