"""Rules of worked examples."""

from __future__ import annotations

from ..examples import WHEN_EXPECTED, AnyStep, Expected, ExpectStep
from ..pages import character_page
from ..problems import Report, nearest
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Everything that an example names must exist, and it must expect something."""
    for name, example in book.examples.items():
        here = ("examples", name)
        for index, step in enumerate(example.steps):
            _check_step(book, report, (*here, "steps", index), step)
            if step.other and example.other is None:
                report.add((*here, "steps", index), "this example has no other character", "", "write other = { … }")
        _check_expected(book, report, (*here, "expect"), example.expect)
        _check_expected(book, report, (*here, "expect_other"), example.expect_other)
        if example.expect_other and example.other is None:
            report.add((*here, "expect_other"), "this example has no other character", "", "write other = { … }")
        if not (example.expect or example.expect_other or any(isinstance(s, ExpectStep) for s in example.steps)):
            report.add(here, "this example expects nothing", "", "write expect = { health = 40 }")


def _check_step(book: Rulebook, report: Report, here: tuple, step: AnyStep) -> None:
    if isinstance(step, ExpectStep):
        _check_expected(book, report, (*here, "expect"), step.expect)


def _check_expected(book: Rulebook, report: Report, here: tuple, expected: Expected) -> None:
    known = [*WHEN_EXPECTED, *character_page(book).names]
    for name in expected:
        if name not in known and not (report.broken.get("stats") or report.broken.get("gauges")):
            report.add((*here, name), "this is not on a character's page", name, nearest(name, known))
