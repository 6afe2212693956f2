"""Rules of reactions, wherever one stands."""

from __future__ import annotations

from ..problems import Report
from ..reactions import Reaction


def check(report: Report, path: tuple, reaction: Reaction) -> None:
    """`mark` goes with `on = "marked"`."""
    if (reaction.on == "marked") != (reaction.mark is not None):
        report.add(path, 'on = "marked" and mark = "…" go together', "", "write both or neither")
