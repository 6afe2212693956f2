"""The rulebooks that the command line names."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from ..api.shipped import DEMO, FAULTY

if TYPE_CHECKING:
    from ..rulebook import Rulebook

SHIPPED = {"demo": DEMO, "faulty": FAULTY}
"""The words for the rulebooks that are shipped."""


def path_of(name: str) -> Path:
    """Return where a rulebook's files lie."""
    return SHIPPED.get(name, Path(name))


def open_book(name: str) -> Rulebook:
    """Return the rulebook of a directory, the shipped one for the word demo (faulty: that with every fault), or for
    REVISION:path the one that was there then."""
    from ..rulebook.kept import load_kept
    from ..rulebook.revisions import is_revision, load_revision

    book = load_revision(name) if is_revision(name) else load_kept(path_of(name))
    return book


def open_since(since: str, name: str) -> Rulebook:
    """Return an earlier state of a rulebook: another rulebook, `REVISION:path`, or the same path at a revision."""
    from ..rulebook.revisions import is_revision, load_revision

    if since in SHIPPED or Path(since).exists() or is_revision(since):
        return open_book(since)
    return load_revision(f"{since}:{path_of(name)}")
