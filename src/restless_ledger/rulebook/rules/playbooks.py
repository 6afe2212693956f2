"""Rules of plays."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook
from ..words import Deed


def check(book: Rulebook, report: Report) -> None:
    """A play does exactly one thing, and a passive ability is never used."""
    for name, playbook in book.playbooks.items():
        for index, play in enumerate(playbook.plays):
            here = ("playbooks", name, "plays", index)
            what = [word for word in Deed if getattr(play, word)]
            if len(what) != 1:
                report.add(
                    here,
                    "a play does exactly one of use, wait, flee and fetch",
                    ", ".join(what) or "none",
                    "write one of them",
                )
            if play.use in book.abilities and book.abilities[play.use].passive:
                report.add((*here, "use"), "a passive ability is never used", play.use, "remove this play")
