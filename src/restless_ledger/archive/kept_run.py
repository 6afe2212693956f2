"""A run as a store keeps it: what was asked, of which rulebook, and its figures."""

from __future__ import annotations

import hashlib
import json

from ..frozen_classes import frozen
from ..results.measured import Measured
from ..rulebook import Rulebook
from ..study.changes import values_of


@frozen
class KeptRun:
    """One run. `at` is its time in UTC as ISO 8601, `rules` the digest of all values of its rulebook, `revision` that
    of version control, with a `+` where files differ from it; empty where there is none."""

    at: str
    version: str
    rulebook: str
    rules: str
    revision: str
    command: str
    seed: int
    complete: bool
    figures: tuple[Measured, ...]


@frozen
class KeptRules:
    """Every value that is written in a rulebook, as text by dotted path. Each rulebook is kept once."""

    values: dict[str, str]

    @classmethod
    def of(cls, book: Rulebook) -> KeptRules:
        """Return the values of a rulebook."""
        return cls(values_of(book))

    @property
    def digest(self) -> str:
        """What tells these values from any others."""
        return hashlib.sha256(self.text.encode()).hexdigest()[:16]

    @property
    def text(self) -> str:
        """The values as JSON, in the order in which they are written."""
        return json.dumps(self.values, ensure_ascii=False)

    @classmethod
    def read(cls, text: str) -> KeptRules:
        """Return the values that a text holds."""
        return cls(json.loads(text))
