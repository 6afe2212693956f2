"""What is held back of a hit before it is booked, as functions: mitigations, and the soak of parts."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from ..formula import Program
from ..rulebook import Rulebook
from ..rulebook.mitigations import Mitigation
from ..rulebook.problems import dotted
from ..rulebook.walks import walk_book
from .expressions import Expression, Function, Step, expression

ASKED, STANDS, TAKERS = "asked", "stands", "takers"
"""What a hit is about to take; what stands in the gauge and in front of it; 1 where somebody is there to take what is
passed on, else 0."""


def mitigations_of(book: Rulebook) -> Iterator[tuple[tuple, Mitigation]]:
    """Yield every mitigation of a rulebook with its path; the soak of a part is one that takes something off."""
    for found in walk_book(book):
        if isinstance(found.value, Mitigation):
            yield found.path, found.value
    for body, entry in book.bodies.items():
        for name, part in entry.parts.items():
            if part.soak is not None:
                path = ("bodies", body, "parts", name, "soak")
                yield path, Mitigation.model_construct({"part", "less"}, part=name, less=part.soak)


def mitigation_functions(book: Rulebook, named: Callable[..., str]) -> Iterator[tuple[tuple, str, Function]]:
    """Yield the functions of each mitigation with its path: `left` gives what it leaves of a hit, `passed` what goes to
    somebody else, both in thousandths."""
    for path, mitigation in mitigations_of(book):
        formulas = (mitigation.times, mitigation.less, mitigation.passes, mitigation.leaves)
        read = [program for program in formulas if program is not None]
        names = list(dict.fromkeys(name for each in read for name in each.names))
        pages = (("taker", tuple(name for name in names if name != ASKED)),)
        where = f"{book.place(*path)}: {dotted(path)}"
        says = "thousandths of a hit that are left; when it acts at all is the game's to ask"
        steps = tuple(_steps(mitigation, ASKED in names))
        numbers = (ASKED, *([TAKERS] if mitigation.passes is not None else []))
        stands = (STANDS,) if mitigation.leaves is not None else ()
        yield (
            path,
            "left",
            Function(named("left", *map(str, path)), where, says, pages, (*numbers, *stands), steps, "left"),
        )
        if mitigation.passes is not None:
            says = "thousandths of a hit that go to somebody else"
            used = tuple(step for step in steps if step.name not in ("most", "left"))
            yield (
                path,
                "passed",
                Function(named("passed", *map(str, path)), where, says, pages, numbers, used, "passed"),
            )


def _steps(mitigation: Mitigation, reads_asked: bool) -> Iterator[Step]:
    """Yield the steps of a mitigation, in the engine's order."""
    if reads_asked:
        yield Step(f"taker.{ASKED}", ("/", ASKED, 1000.0), "what a formula reads as asked")
    times: Expression = ASKED
    if mitigation.times is not None:
        factor = ("greatest", 0.0, expression(mitigation.times.tree, "taker"))
        times = _thousandths(("/", ("*", factor, ASKED), 1000.0))
    yield Step("multiplied", times, _said("times", mitigation.times))
    lessened: Expression = "multiplied"
    if mitigation.less is not None:
        off = _thousandths(("greatest", 0.0, expression(mitigation.less.tree, "taker")))
        lessened = ("greatest", 0.0, ("-", "multiplied", off))
    yield Step("lessened", lessened, _said("less", mitigation.less))
    passed: Expression = 0.0
    if mitigation.passes is not None:
        share = ("least", 1.0, ("greatest", 0.0, expression(mitigation.passes.tree, "taker")))
        passed = ("*", TAKERS, _thousandths(("/", ("*", share, "lessened"), 1000.0)))
    yield Step("passed", passed, _said("passes", mitigation.passes))
    left: Expression = ("-", "lessened", "passed")
    if mitigation.leaves is not None:
        keeps = _thousandths(("greatest", 0.0, expression(mitigation.leaves.tree, "taker")))
        yield Step("most", ("greatest", 0.0, ("-", STANDS, keeps)), _said("leaves", mitigation.leaves))
        left = ("least", left, "most")
    yield Step("left", left)


def _thousandths(points: Expression) -> Expression:
    return ("round", ("*", points, 1000.0))


def _said(what: str, program: Program | None) -> str:
    return f"{what}: {program}" if program is not None else ""
