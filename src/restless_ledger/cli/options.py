"""The options that several commands share."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import click

from ..api.rulebooks import DEMO, FAULTY
from ..results import check_table_path
from ..rulebook import InputError, Rulebook
from ..rulebook.kept import load_kept
from ..rulebook.revisions import is_revision, load_revision

DEFAULT_SEED = 1
SHIPPED = {"demo": DEMO, "faulty": FAULTY}
"""The words for the rulebooks that are shipped."""


def open_book(name: str) -> Rulebook:
    """Return the rulebook of a directory, the shipped one for the word demo (faulty: that with every fault), or for
    REVISION:path the one that was there then."""
    if is_revision(name):
        return load_revision(name)
    return load_kept(SHIPPED.get(name, name))


def open_since(since: str, name: str) -> Rulebook:
    """Return an earlier state of a rulebook: another rulebook, `REVISION:path`, or the same path at a revision."""
    if since in SHIPPED or Path(since).exists() or is_revision(since):
        return open_book(since)
    return load_revision(f"{since}:{SHIPPED.get(name, name)}")


rulebook = click.argument("rulebook", metavar="RULEBOOK")
encounter = click.argument("encounter", metavar="ENCOUNTER")
seed = click.option(
    "--seed",
    type=int,
    default=DEFAULT_SEED,
    show_default=True,
    help="Decides every draw; the same seed, the same fights.",
)


def _checked(check: str) -> Callable[[click.Context, click.Parameter, Path | None], Path | None]:
    """Return a callback that refuses a path that can't be written to before any work is done."""

    def callback(_context: click.Context, _parameter: click.Parameter, path: Path | None) -> Path | None:
        if path is not None and check == "picture":
            from ..picture.style import check_picture_path

            check_picture_path(path)
        elif path is not None:
            check_table_path(path)
        return path

    return callback


plot = click.option(
    "--plot",
    type=click.Path(path_type=Path),
    callback=_checked("picture"),
    help="Also draw the figure to this file (.png, .svg or .pdf).",
)
out = click.option(
    "--out",
    type=click.Path(path_type=Path),
    callback=_checked("table"),
    help="Also write the table to this file (.csv, .json or .parquet).",
)


def assignments(words: Sequence[str], option: str = "--set") -> dict[str, int]:
    """Return what `name=value` words say. Raises `InputError` on a word that says nothing."""
    found = {}
    for word in words:
        name, _, value = word.partition("=")
        try:
            found[name.strip()] = int(value)
        except ValueError:
            raise InputError(f"{option}: write name=number, such as brawn=7\n    got: {word}") from None
    return found


def together(*options: Callable[[Any], Any]) -> Callable[[Any], Any]:
    """Return one decorator for several options, shown in this order."""

    def decorate(function: Any) -> Any:
        for option in reversed(options):
            function = option(function)
        return function

    return decorate
