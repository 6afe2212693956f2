"""What the formats for other tools need of an audit."""

from __future__ import annotations

from typing import Any, Protocol

from ..rulebook import Rulebook
from .claims import Judgement
from .finding import Finding


class Audited(Protocol):
    """An audit, as a format sees it."""

    book: Rulebook
    quick: bool
    seed: int
    findings: list[Finding]
    examples: list[Any]
    promises: list[Judgement]

    @property
    def left_out(self) -> list[str]: ...
