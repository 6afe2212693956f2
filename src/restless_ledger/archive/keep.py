"""Keep a run in a store."""

from __future__ import annotations

from datetime import UTC, datetime
from importlib.metadata import version
from pathlib import Path

from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.revisions import revision_of
from .kept_run import KeptRules, KeptRun
from .store import open_store


def keep(result: Result, store: str | Path, command: str = "", rules: str | Path | None = None) -> KeptRun:
    """Append the figures of a result to a run store, with the rulebook's values and its revision in version control.

    `command` is what was asked, in words, `rules` where the rulebook's files lie, for their revision. Returns what was
    kept. Raises `InputError` on a result without figures to keep, and on a store that can't be written.
    """
    figures = result.measured()
    book = getattr(result, "book", None)
    if not isinstance(book, Rulebook) or not figures:
        raise InputError(f"keep: there are no figures to keep of {type(result).__name__.lower()}")
    kept = KeptRules.of(book)
    asked = result.asked_for
    run = KeptRun(
        datetime.now(UTC).isoformat(timespec="milliseconds"),
        version("restless-ledger"),
        book.rulebook.title,
        kept.digest,
        revision_of(rules) if rules else "",
        command or type(result).__name__.lower(),
        int(asked.get("seed", 1)),
        bool(asked["complete"]),
        tuple(figures),
    )
    open_store(store).append(run, kept)
    return run
