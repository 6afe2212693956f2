"""The audit of a rulebook: its findings, its worked examples and its promises."""

from __future__ import annotations

import math
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from .. import table_names
from ..results import Result
from ..results.measured import Measured
from ..rulebook import Rulebook
from .find import find
from .finding import SEVERITIES, Finding
from .promises.claims import BROKEN, KEPT, STOPPED, UNDECIDED, Judgement
from .promises.judge import Progress, judge, worst_first
from .promises.worked_out import exact

if TYPE_CHECKING:
    from .examples import ExampleResult


class Audit(Result):
    """All that an audit says of a rulebook. `quick` leaves out what must be simulated: the worked examples, and all
    promises but those that are worked out exactly."""

    TABLES = table_names.AUDIT
    ASKED = ("seed", "quick")

    def __init__(self, book: Rulebook, quick: bool = False, seed: int = 1, progress: Progress | None = None) -> None:
        self.book, self.quick, self.seed = book, quick, seed
        self.findings: list[Finding] = find(book)
        """Worst first."""
        self.examples: list[ExampleResult] = []
        self.promises: list[Judgement] = []
        """Worst first: a judgement for each figure that a promise expects, at each of its levels and handlings."""
        if quick:
            self.promises = worst_first(book, exact(book))
        else:
            from ..engine.lanes import beside
            from .examples import run_examples

            with beside(partial(run_examples, book)) as examples:
                self.promises = judge(book, seed, progress)
                self.examples = examples()

    @property
    def failed(self) -> bool:
        """Whether a build should stop: an error, a worked example that does not hold, or a broken promise."""
        errors = any(finding.severity == "error" for finding in self.findings)
        return errors or any(not each.holds for each in self.examples) or bool(self.judged(BROKEN))

    @property
    def shown_table(self) -> str:
        """The name of the table that a notebook shows: what was found, or else what is promised."""
        return "findings" if self.findings or not self.promises else "promises"

    @property
    def complete(self) -> bool:
        """Whether every promise was judged; after Ctrl-C some are not."""
        return all(each.note != STOPPED for each in self.promises)

    @property
    def left_out(self) -> list[str]:
        """What a quick audit has not looked at: promises of which some figure must be simulated."""
        judged = {each.promise for each in self.promises}
        return [name for name in self.book.promises if name not in judged] if self.quick else []

    def judged(self, verdict: str) -> list[Judgement]:
        """Return the judgements with one verdict."""
        return [judgement for judgement in self.promises if judgement.verdict == verdict]

    @cached_property
    def counts(self) -> dict[str, int]:
        """How many there are of each kind of result."""
        severities = [finding.severity for finding in self.findings]
        return {
            **{severity: severities.count(severity) for severity in SEVERITIES},
            "examples": len(self.examples),
            "failed_examples": sum(not each.holds for each in self.examples),
            **{verdict: len(self.judged(verdict)) for verdict in (KEPT, BROKEN, UNDECIDED)},
        }

    def measured(self) -> list[Measured]:
        """Return the figure of each promise that was judged."""
        return [
            Measured(f"promises.{each.promise}: {each.what}", each.estimate, each.low, each.high)
            for each in self.promises
            if math.isfinite(each.estimate)
        ]

    def finding(self) -> str:
        """Say in a sentence what the audit shows."""
        counts = self.counts
        found = [_several(counts[severity], severity) for severity in SEVERITIES if counts[severity]]
        parts = [", ".join(found) if found else "No findings"]
        if self.examples:
            failed = counts["failed_examples"]
            parts.append(
                f"{_several(failed, 'worked example')} of {counts['examples']} "
                f"{'do' if failed > 1 else 'does'} not hold"
                if failed
                else _all(counts["examples"], "worked example", "holds", "hold")
            )
        if self.promises:
            told = [_several(counts[KEPT], "promised figure") + " kept"] if counts[KEPT] else []
            told += [f"{counts[verdict]} {verdict}" for verdict in (BROKEN, UNDECIDED) if counts[verdict]]
            parts.append(", ".join(told) if counts[KEPT] else f"of the promised figures {', '.join(told)}")
        return "; ".join(parts)

    def report(self) -> dict[str, Any]:
        """Return everything as one record, ready for JSON."""
        return {
            "title": self.book.rulebook.title,
            "quick": self.quick,
            "left_out": self.left_out,
            "seed": self.seed,
            "failed": self.failed,
            "counts": self.counts,
            "findings": [finding.record() for finding in self.findings],
            "examples": [example.record() for example in self.examples],
            "promises": [judgement.record() for judgement in self.promises],
        }

    def _records(self, table: str) -> list[dict[str, Any]]:
        return list(self.report()[table])

    def sarif(self, root: str | Path | None = None) -> dict[str, Any]:
        """Return everything as a SARIF 2.1.0 log; `root` is where the rulebook's files lie."""
        from .formats.sarif import sarif_of

        return sarif_of(self, root)

    def junit(self, root: str | Path | None = None) -> str:
        """Return everything as JUnit XML; `root` is where the rulebook's files lie."""
        from .formats.junit import junit_of

        return junit_of(self, root)


def _several(count: int, noun: str) -> str:
    return f"{count} {noun}" if count == 1 else f"{count} {noun}s"


def _all(count: int, noun: str, one: str, many: str) -> str:
    return f"the {noun} {one}" if count == 1 else f"all {count} {noun}s {many}"
