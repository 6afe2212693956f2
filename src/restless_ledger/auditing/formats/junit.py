"""JUnit XML: what build servers show as tests. A case for each check, each worked example and each promised figure."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING
from xml.etree import ElementTree

from ...rulebook.problems import Problem
from ..entries import catalogue
from ..promises.claims import BROKEN, UNDECIDED
from .places import split_place
from .words import said_figures, said_miss

if TYPE_CHECKING:
    from ..audited import Audited

UNPRINTABLE = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
"""What XML 1.0 can't hold."""


def junit_of(audit: Audited, root: str | Path | None = None) -> str:
    """Return an audit as JUnit XML. Errors, examples that don't hold and broken promises are failures; warnings and
    notes are said in the output of their case; what is undecided is skipped."""
    suites = ElementTree.Element("testsuites", name=f"audit of {audit.book.rulebook.title}")
    _findings(suites, audit, root)
    if audit.examples:
        suite = ElementTree.SubElement(suites, "testsuite", name="worked examples")
        for example in audit.examples:
            case = _case(suite, "examples", example.name, example.place, root)
            if not example.holds:
                text = "\n".join(
                    "\n".join([f"{miss.place}: {miss.path}: {said_miss(miss)}", *miss.entries])
                    for miss in example.misses
                )
                _fail(case, "example", said_miss(example.misses[0]), text)
    if audit.promises:
        suite = ElementTree.SubElement(suites, "testsuite", name="promises")
        for judgement in audit.promises:
            case = _case(suite, f"promises.{judgement.promise}", judgement.what, judgement.place, root)
            if judgement.verdict == BROKEN:
                _fail(case, "promise", f"{judgement.title}: {said_figures(judgement)}", said_figures(judgement))
            elif judgement.verdict == UNDECIDED:
                ElementTree.SubElement(case, "skipped", message=_clean(f"undecided: {said_figures(judgement)}"))
    return _written(suites)


def junit_of_problems(problems: Iterable[Problem], root: str | Path | None = None) -> str:
    """Return what is wrong with a rulebook that can't be read as JUnit XML."""
    suites = ElementTree.Element("testsuites", name="audit")
    suite = ElementTree.SubElement(suites, "testsuite", name="reading")
    for problem in problems:
        _fail(
            _case(suite, "reading", problem.path or problem.place, problem.place, root),
            "unreadable",
            problem.what,
            str(problem),
        )
    return _written(suites)


def _findings(suites: ElementTree.Element, audit: Audited, root: str | Path | None) -> None:
    suite = ElementTree.SubElement(suites, "testsuite", name="findings")
    for code, entry in catalogue().items():
        found = [finding for finding in audit.findings if finding.code == code]
        case = _case(suite, f"findings.{entry.group}", code, found[0].place if found else "", root)
        text = "\n".join(f"{finding.place}: {finding.path}: {finding.what}" for finding in found)
        if any(finding.severity == "error" for finding in found):
            _fail(case, "error", f"{entry.title}: {found[0].what}", f"{text}\n{entry.why}\nRemedy: {entry.remedy}.")
        elif found:
            ElementTree.SubElement(case, "system-out").text = _clean(f"{found[0].severity}: {entry.title}\n{text}")


def _case(
    suite: ElementTree.Element, group: str, name: str, place: str, root: str | Path | None
) -> ElementTree.Element:
    case = ElementTree.SubElement(suite, "testcase", classname=_clean(group), name=_clean(name))
    if place:
        file, line = split_place(place, root)
        case.set("file", file)
        case.set("line", str(line))
    return case


def _fail(case: ElementTree.Element, kind: str, message: str, text: str) -> None:
    failure = ElementTree.SubElement(case, "failure", type=kind, message=_clean(message))
    failure.text = _clean(text)


def _clean(text: str) -> str:
    return UNPRINTABLE.sub("?", text)


def _written(suites: ElementTree.Element) -> str:
    """Count what each suite holds, and write the XML."""
    total = {"tests": 0, "failures": 0, "skipped": 0, "errors": 0}
    for suite in suites:
        counts = {
            "tests": len(suite),
            "failures": len(suite.findall("testcase/failure")),
            "skipped": len(suite.findall("testcase/skipped")),
            "errors": 0,
        }
        for key, count in counts.items():
            suite.set(key, str(count))
            total[key] += count
    for key, count in total.items():
        suites.set(key, str(count))
    ElementTree.indent(suites)
    return ElementTree.tostring(suites, encoding="unicode", xml_declaration=True) + "\n"
