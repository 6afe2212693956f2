"""Keep a run in a store."""

from __future__ import annotations

import subprocess
from datetime import UTC, datetime
from importlib.metadata import version
from pathlib import Path

from ..results import Result
from ..rulebook import InputError, Rulebook
from .kept_run import KeptRules, KeptRun
from .store import open_store


def keep(result: Result, store: str | Path, command: str = "", rules: str | Path | None = None) -> KeptRun:
    """Append the figures of a result to a run store, with the rulebook's values and its revision in version control.

    `command` is what was asked, in words, `rules` where the rulebook's files lie, for their revision. Returns what was
    kept. Raises `InputError` on a result without figures to
    keep, and on a store that can't be written.
    """
    figures = result.measured()
    book = getattr(result, "book", None) or getattr(result, "new", None)
    if not isinstance(book, Rulebook) or not figures:
        raise InputError(f"keep: there are no figures to keep of {type(result).__name__.lower()}")
    kept = KeptRules.of(book)
    asked = result.asked_for
    run = KeptRun(
        datetime.now(UTC).isoformat(timespec="milliseconds"),
        version("restless-ledger"),
        book.rulebook.title,
        kept.digest,
        revision_of(Path(rules)) if rules else "",
        command or type(result).__name__.lower(),
        int(asked.get("seed", 1)),
        bool(asked["complete"]),
        tuple(figures),
    )
    open_store(store).append(run, kept)
    return run


def revision_of(root: Path) -> str:
    """Return the revision of version control that the files at a path are of, with a `+` where they differ from it;
    nothing where there is none."""
    folder = root if root.is_dir() else root.parent

    def git(*words: str) -> str:
        done = subprocess.run(["git", "-C", str(folder), *words], capture_output=True, text=True, check=True)
        return done.stdout.strip()

    try:
        head, changed = git("rev-parse", "--short=12", "HEAD"), git("status", "--porcelain", "--", str(root.resolve()))
    except (OSError, subprocess.CalledProcessError):
        return ""
    return head + ("+" if changed else "")
