"""Promises, with the figures that were measured and their bounds."""

from __future__ import annotations

import math

from ...auditing import Audit, Judgement
from ...auditing.formats.words import said_bounds, said_estimate
from ...rulebook import Rulebook
from ..blocks import Cell, Part, Text, table_of

WIDE, HIGH, MARGIN = 150, 16, 5


def promises(book: Rulebook, audit: Audit) -> Part | None:
    """Return every figure that is promised, beside its bounds; None where nothing is promised."""
    if not book.promises:
        return None
    counts = audit.counts
    lead = f"{counts['kept']} of {len(audit.promises)} promised figures are kept"
    for verdict in ("broken", "undecided"):
        lead += f", {counts[verdict]} {'is' if counts[verdict] == 1 else 'are'} {verdict}" if counts[verdict] else ""
    fights = sum({(each.where, each.fights): each.fights for each in audit.promises}.values())
    spent = (
        f"{fights:,} fights and runs of seed {audit.seed} were spent on them. The chance that any verdict is wrong is "
        f"below {book.audit.error_rate:g}."
    )
    rows = [
        {
            "verdict": each.verdict,
            "title": each.title,
            "what": each.what,
            "got": Cell(said_estimate(each), each.estimate if math.isfinite(each.estimate) else None),
            "bounds": said_bounds(each),
            "drawn": Cell("", None, _drawn(each)),
            "place": each.place,
        }
        for each in audit.promises
    ]
    columns = (
        ("verdict", "verdict"),
        ("title", "promise", "wide"),
        ("what", "figure", "wide"),
        ("got", "measured"),
        ("bounds", "promised"),
        ("drawn", "within its bounds", "drawing"),
        ("place", "place"),
    )
    return Part(
        "Promises", f"{lead}.", [*([Text([spent])] if fights else []), table_of("Promised figures", rows, *columns)]
    )


def _drawn(each: Judgement) -> str:
    """Draw the bounds as a band, the interval as a line and the estimate as a dot; nothing where a figure is not a
    number, or has no bounds."""
    if each.unit == "" or math.isnan(each.least) or not math.isfinite(each.estimate):
        return ""
    known = [value for value in (each.least, each.most, each.low, each.high, each.estimate) if math.isfinite(value)]
    first, last = min(known), max(known)
    room = (last - first) * 0.12 or max(abs(first), 1.0) * 0.1
    first, last = first - room, last + room

    def at(value: float) -> float:
        share = (min(max(value, first), last) - first) / (last - first)
        return round(MARGIN + share * (WIDE - 2 * MARGIN), 1)

    least, most, low, high = (at(value) for value in (each.least, each.most, each.low, each.high))
    middle, band = HIGH / 2, max(most - least, 1.5)
    return (
        f'<svg class="bounds {each.verdict}" viewBox="0 0 {WIDE} {HIGH}" width="{WIDE}" height="{HIGH}" role="img" '
        f'aria-label="{said_estimate(each)}, promised {said_bounds(each)}">'
        f'<rect x="{least}" y="2" width="{band:.1f}" height="{HIGH - 4}"/>'
        f'<line x1="{low}" x2="{high}" y1="{middle}" y2="{middle}"/>'
        f'<circle cx="{at(each.estimate)}" cy="{middle}" r="3.5"/></svg>'
    )
