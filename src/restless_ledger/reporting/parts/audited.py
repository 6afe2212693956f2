"""Findings and worked examples."""

from __future__ import annotations

from itertools import groupby

from ...auditing import Audit, catalogue
from ...auditing.formats.words import said_miss
from ..blocks import Finding, Part, Section, Text

MOST_PLACES = 40


def findings(audit: Audit) -> Part:
    """Return what the audit found, worst first, each with its places, and the worked examples that don't hold."""
    counts = audit.counts
    said = [f"{counts[severity]} {severity}{'s' if counts[severity] != 1 else ''}" for severity in _severities(audit)]
    lead = f"The audit found {', '.join(said)}." if said else "The audit found nothing wrong."
    part = Part("Findings", lead)
    for (severity, code), found in groupby(audit.findings, key=lambda finding: (finding.severity, finding.code)):
        each = list(found)
        places = [(finding.place, finding.path, finding.what) for finding in each[:MOST_PLACES]]
        if len(each) > MOST_PLACES:
            places.append(("", "", f"and {len(each) - MOST_PLACES} more"))
        title = catalogue()[code].title
        part.blocks.append(Finding(code, severity, title, places, each[0].why, each[0].remedy))
    if audit.examples:
        part.blocks.append(_examples(audit))
    return part


def _severities(audit: Audit) -> list[str]:
    return list(dict.fromkeys(finding.severity for finding in audit.findings))


def _examples(audit: Audit) -> Section:
    """Return how many worked examples hold, and what the others missed."""
    failed = [example for example in audit.examples if not example.holds]
    section = Section("Worked examples", f"{len(audit.examples) - len(failed)} of {len(audit.examples)} hold.")
    for example in failed:
        lines = [f"{example.title} does not hold."]
        for miss in example.misses:
            lines += [f"{miss.place} {miss.path}: {said_miss(miss)}", *miss.entries]
        section.blocks.append(Text(lines, "bad"))
    return section
