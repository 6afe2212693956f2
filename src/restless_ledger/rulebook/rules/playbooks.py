"""Rules of plays."""

from __future__ import annotations

from ..pages import character_page
from ..playbooks import Play, Playbook
from ..problems import Report
from ..rulebook import Rulebook
from ..words import Deed, Turns


def check(book: Rulebook, report: Report) -> None:
    """A play does exactly one thing, a passive ability is never used, and each turn has a play."""
    for name, playbook in book.playbooks.items():
        _check_turns(report, ("playbooks", name, "plays"), playbook)
        for index, play in enumerate(playbook.plays):
            here = ("playbooks", name, "plays", index)
            what = [word for word in Deed if getattr(play, word)]
            if len(what) != 1:
                report.add(
                    here,
                    "a play does exactly one of use, wait, flee, fetch and later",
                    ", ".join(what) or "none",
                    "write one of them",
                )
            _check_lines(book, report, here, play)
            if play.later and book.clock.turns is Turns.TOGETHER:
                report.add((*here, "later"), "all choose together", "", 'write clock.turns = "one_by_one"')
            if play.use in book.abilities and book.abilities[play.use].passive:
                report.add((*here, "use"), "a passive ability is never used", play.use, "remove this play")


def _check_lines(book: Rulebook, report: Report, here: tuple, play: Play) -> None:
    """A play's own lines have names of their own, and only what uses an ability has a weight or a turn."""
    for name in play.mine:
        report.own_name((*here, "mine", name), name)
        if name in character_page(book).known:
            report.add((*here, "mine", name), f"{name} is already on the target's page", "", "give it another name")
    for key in ("weight", "turn"):
        if getattr(play, key) is not None and play.use is None:
            report.add((*here, key), f"only a play that uses an ability has a {key}", "", "leave it out")


def _check_turns(report: Report, path: tuple, playbook: Playbook) -> None:
    """Report a turn that no play has, so that all the others would wait for it."""
    turns = {play.turn for play in playbook.plays if play.turn is not None}
    missing = set(range(1, max(turns, default=0) + 1)) - turns
    if missing:
        report.add(path, f"no play has turn = {min(missing)}", f"turns up to {max(turns)}", "number them from 1 on")
