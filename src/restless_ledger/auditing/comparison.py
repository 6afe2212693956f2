"""A comparison of two rulebooks that also says which promises have turned."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from .. import table_names
from ..rulebook import Rulebook
from ..study.compare import Comparison, Progress
from .promises.claims import VERDICTS, Judgement
from .promises.judge import judge


class PromisedComparison(Comparison):
    """Two rulebooks side by side, with their promises judged by the same luck where that is asked for."""

    TABLES = table_names.PROMISED_COMPARISON

    def __init__(
        self,
        old: Rulebook,
        new: Rulebook,
        fights: int = 4000,
        seed: int = 1,
        promises: bool = False,
        progress: Progress | None = None,
    ) -> None:
        super().__init__(old, new, fights, seed, progress)
        self.judged: list[tuple[Judgement | None, Judgement]] = []
        """Each figure that the new rulebook promises, with what it was by the old one, if that promised it."""
        if promises:
            before = {(each.path, each.what): each for each in judge(old, seed)}
            self.judged = [(before.get((each.path, each.what)), each) for each in judge(new, seed)]

    def turned(self) -> Iterator[tuple[str, Judgement]]:
        """Yield each promised figure whose verdict is new, with how it turned; the worst first."""
        for before, now in sorted(self.judged, key=lambda pair: VERDICTS.index(pair[1].verdict)):
            was = before.verdict if before else "new"
            if was != now.verdict and not (was == "new" and now.verdict == "kept"):
                yield f"{was} → {now.verdict}", now

    def report(self) -> dict[str, Any]:
        """Return everything as one record, ready for JSON."""
        turned = [{"turned": word, **judgement.record()} for word, judgement in self.turned()]
        return {**super().report(), "promises": turned}
