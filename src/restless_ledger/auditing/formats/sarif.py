"""SARIF 2.1.0 (OASIS, Static Analysis Results Interchange Format): what code hosts and editors show beside the
lines."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from ...rulebook.problems import Problem
from ..entries import catalogue
from ..promises.claims import BROKEN, UNDECIDED
from .places import split_place
from .words import said_figures, said_miss

if TYPE_CHECKING:
    from ..audited import Audited

SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
EXAMPLE, PROMISE, UNREADABLE = "example_does_not_hold", "promise_broken", "unreadable"
OTHER_RULES = {
    EXAMPLE: ("a worked example that does not hold", "The rules do not do what their author wrote down that they do."),
    PROMISE: ("a promise that is broken or undecided", "The game does not do what its author promised that it does."),
    UNREADABLE: ("a rulebook that can't be read", "Nothing can be played or audited until it is put right."),
}
FINGERPRINT = "restlessLedgerPath/v1"


def sarif_of(audit: Audited, root: str | Path | None = None) -> dict[str, Any]:
    """Return an audit as a SARIF log."""
    results = [
        _result(
            finding.code,
            finding.severity,
            f"{finding.what}. {finding.why} Remedy: {finding.remedy}.",
            finding.place,
            finding.path,
            root,
        )
        for finding in audit.findings
    ]
    for example in audit.examples:
        results += [
            _result(EXAMPLE, "error", f"{example.title}: {said_miss(miss)}", miss.place, miss.path, root)
            for miss in example.misses
        ]
    for judgement in audit.promises:
        if judgement.verdict in (BROKEN, UNDECIDED):
            severity = "error" if judgement.verdict == BROKEN else "none"
            text = f"{judgement.title}: {judgement.what} is {judgement.verdict}: {said_figures(judgement)}"
            results.append(_result(PROMISE, severity, text, judgement.place, judgement.path, root))
    return _log(results)


def sarif_of_problems(problems: Iterable[Problem], root: str | Path | None = None) -> dict[str, Any]:
    """Return what is wrong with a rulebook that can't be read as a SARIF log."""
    return _log(
        [_result(UNREADABLE, "error", said_problem(problem), problem.place, problem.path, root) for problem in problems]
    )


def said_problem(problem: Problem) -> str:
    """Say a problem on one line."""
    parts = (problem.what, f"got: {problem.got}" if problem.got else "", problem.remedy)
    return "; ".join(" ".join(part.split()) for part in parts if part)


def _log(results: list[dict[str, Any]]) -> dict[str, Any]:
    from importlib.metadata import version

    rules = [
        {
            "id": entry.code,
            "shortDescription": {"text": entry.title},
            "fullDescription": {"text": entry.why},
            "help": {"text": f"Remedy: {entry.remedy}."},
            "defaultConfiguration": {"level": entry.severity},
        }
        for entry in catalogue().values()
    ]
    rules += [
        {
            "id": code,
            "shortDescription": {"text": title},
            "fullDescription": {"text": why},
            "defaultConfiguration": {"level": "error"},
        }
        for code, (title, why) in OTHER_RULES.items()
    ]
    places = {rule["id"]: index for index, rule in enumerate(rules)}
    for result in results:
        result["ruleIndex"] = places[result["ruleId"]]
    driver = {"name": "restless-ledger", "version": version("restless-ledger"), "rules": rules}
    return {
        "$schema": SCHEMA,
        "version": "2.1.0",
        "runs": [{"tool": {"driver": driver}, "columnKind": "unicodeCodePoints", "results": results}],
    }


def _result(code: str, severity: str, text: str, place: str, path: str, root: str | Path | None) -> dict[str, Any]:
    """Return one result. What is undecided is an open question in SARIF's words, which has no level."""
    file, line = split_place(place, root)
    location: dict[str, Any] = {"physicalLocation": {"artifactLocation": {"uri": file}, "region": {"startLine": line}}}
    if path:
        location["logicalLocations"] = [{"fullyQualifiedName": path}]
    print_of = hashlib.sha256(f"{code} {path}".encode()).hexdigest()[:32]
    kind = "open" if severity == "none" else "fail"
    return {
        "ruleId": code,
        "kind": kind,
        "level": severity,
        "message": {"text": text},
        "locations": [location],
        "partialFingerprints": {FINGERPRINT: print_of},
    }
