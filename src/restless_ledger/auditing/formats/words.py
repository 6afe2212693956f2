"""Say figures and misses in words, the same in every format."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from ..promises.claims import Judgement

if TYPE_CHECKING:
    from ..examples import Miss


def said_miss(miss: Miss) -> str:
    """Say what a worked example missed, on one line."""
    return f"{miss.what}: expected {miss.expected}, got {miss.got}"


def said_bounds(judgement: Judgement) -> str:
    """Say the bounds of a promise."""
    if math.isnan(judgement.least):
        return ""
    if judgement.unit == "" and judgement.least == judgement.most:
        return "yes"
    return _span(judgement, judgement.least, judgement.most)


def _span(judgement: Judgement, low: float, high: float) -> str:
    """Say two ends, with their unit once."""
    one, other = _figure(judgement, low), _figure(judgement, high)
    unit = f" {judgement.unit}"
    return one if one == other else f"{one.removesuffix(unit)} to {other}"


def said_estimate(judgement: Judgement) -> str:
    """Say the value of a figure, with its interval."""
    if math.isnan(judgement.estimate):
        return judgement.note or "nothing"
    if judgement.unit == "":
        return judgement.note or ("yes" if judgement.estimate else "no")
    estimate = _figure(judgement, judgement.estimate)
    if judgement.low == judgement.high:
        return estimate
    if not judgement.fights:
        return _span(judgement, judgement.low, judgement.high)
    return f"{estimate} ({_figure(judgement, judgement.low)} to {_figure(judgement, judgement.high)})"


def said_kept(judgement: Judgement) -> str:
    """Say a figure that is within its bounds, with the bounds."""
    bounds = said_bounds(judgement)
    what = judgement.what.removesuffix(", wherever it is promised")
    return f"{what}: {said_estimate(judgement)}" + (f" (promised {bounds})" if bounds not in ("", "yes") else "")


def said_figures(judgement: Judgement) -> str:
    """Say a judgement's figures on one line: expected, got, where to look and what more it would take."""
    parts = [f"expected {said_bounds(judgement)}" if said_bounds(judgement) else "", f"got {said_estimate(judgement)}"]
    if judgement.note and judgement.unit:
        parts.append(judgement.note)
    if judgement.fights:
        parts.append(f"in {judgement.fights:,} {_what_is_fought(judgement)} of seed {judgement.seed}")
    if judgement.telling is not None:
        parts.append(f"see number {judgement.telling}")
    if judgement.verdict == "undecided" and judgement.more:
        parts.append(f"some {judgement.more:,} would decide it")
    return ", ".join(part for part in parts if part)


def _what_is_fought(judgement: Judgement) -> str:
    return "runs" if judgement.path.split(".expect.")[-1].startswith(("finish", "hours")) else "fights"


def _figure(judgement: Judgement, value: float) -> str:
    if math.isinf(value):
        return "∞"
    if judgement.unit == "share":
        return f"{value:.1%}"
    unit = {"hits": "", "": ""}.get(judgement.unit, f" {judgement.unit}")
    whole = judgement.unit in ("coin", "experience", "builds")
    return f"{value:,.0f}{unit}" if whole else f"{value:.4g}{unit}"
