"""`restless-ledger demo`: the whole tour on the shipped rulebook."""

from __future__ import annotations

from pathlib import Path

import click

from .workers import workers


@click.command("demo")
@click.option("--out", type=click.Path(path_type=Path), help="Write the pictures into this directory.")
@click.option("--seed", type=int, default=1, show_default=True, help="Decides every draw.")
@click.option("--fights", type=int, default=20_000, show_default=True, help="How many fights the trials hold.")
@workers
def command(out: Path | None, seed: int, fights: int) -> None:
    """Tour the shipped rulebook: one fight line by line, one entry explained, a sheet, an audit, falls, many fights, a
    journey, pictures."""
    from ..keeping.makers import begin_early

    begin_early()  # what the tour needs takes a while to import
    from .tour import tour

    tour(out, seed, fights)
