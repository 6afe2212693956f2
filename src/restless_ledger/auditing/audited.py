"""What the formats for other tools need of an audit."""

from __future__ import annotations

from typing import Any, Protocol

from ..rulebook import Rulebook
from .finding import Finding
from .promises.claims import Judgement


class Audited(Protocol):
    """An audit, as a format sees it."""

    book: Rulebook
    quick: bool
    seed: int
    findings: list[Finding]
    examples: list[Any]
    promises: list[Judgement]

    @property
    def left_out(self) -> list[str]:
        """What was not looked at, in words."""
        ...
