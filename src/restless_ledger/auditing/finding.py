"""Findings: what an audit found, where, why it matters and what to do about it."""

from __future__ import annotations

from typing import Any

from ..frozen_classes import frozen

SEVERITIES = ("error", "warning", "note")
"""Worst first."""


@frozen
class Fault:
    """What a check found: the path of what is wrong, what that is in words, with the figures, and perhaps a remedy of
    its own in place of the check's."""

    path: tuple
    what: str
    remedy: str = ""


@frozen
class Finding:
    """A fault with all that a reader needs. `place` is `file:line`, or empty; `path` the dotted path."""

    code: str
    severity: str
    place: str
    path: str
    what: str
    why: str
    remedy: str

    @property
    def order(self) -> tuple:
        """Worst first, then by code and place."""
        file, _, line = self.place.rpartition(":")
        return (SEVERITIES.index(self.severity), self.code, file, int(line) if line.isdecimal() else 0, self.path)

    def record(self) -> dict[str, Any]:
        """Return the finding as a record."""
        return {
            "code": self.code,
            "severity": self.severity,
            "place": self.place,
            "path": self.path,
            "what": self.what,
            "why": self.why,
            "remedy": self.remedy,
        }
