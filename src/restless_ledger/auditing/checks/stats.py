"""Stats and gauges: figures outside their limits, curves that fall or stand still, gauges that can't open."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ...rulebook.openings import Opening
from ...rulebook.pages import bearers, changed_names
from ...sheets.page import held_gauges
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import and_others, falls, figure, said_levels
from ..registry import check

STILL_SHARE = 0.75
"""A curve that gains nothing after this share of the levels stands still."""
FEW_LEVELS = 8


@check
def base_outside_range(case: AuditContext) -> Iterator[Fault]:
    for name, stat in case.book.stats.items():
        bare = any(name not in who.growth for who in case.book.classes.values())
        if bare and not stat.floor <= stat.base <= stat.ceiling:
            written = "base" if "base" in stat.model_fields_set else "range"
            yield Fault(
                ("stats", name, written),
                f"the base of {name} is {figure(stat.base)}, "
                f"and its range is {figure(stat.floor)} to {figure(stat.ceiling)}",
            )


@check
def floored_growth(case: AuditContext) -> Iterator[Fault]:
    for who, stat, values in case.curves:
        floor = case.book.stats[stat].floor
        below = case.levels[values < floor - 1e-9]
        if len(below):
            yield Fault(
                ("classes", who, "growth", stat),
                f"{stat} of {who} is below its floor of {figure(floor)} at "
                f"{said_levels(below.tolist())}: {figure(values.min())} at the lowest",
            )


@check
def capped_growth(case: AuditContext) -> Iterator[Fault]:
    for who, stat, values in case.curves:
        ceiling = case.book.stats[stat].ceiling
        above = case.levels[values > ceiling + 1e-9]
        if len(above):
            yield Fault(
                ("classes", who, "growth", stat),
                f"{stat} of {who} hits its ceiling of {figure(ceiling)} at "
                f"level {above[0]} of {case.levels[-1]}: it would be {figure(values.max())}",
            )


@check
def falling_growth(case: AuditContext) -> Iterator[Fault]:
    for who, stat, values in case.curves:
        if places := falls(values):
            at = places[0]
            yield Fault(
                ("classes", who, "growth", stat),
                f"{stat} of {who} falls from {figure(values[at - 1])} to "
                f"{figure(values[at])} at level {case.levels[at]}",
            )


@check
def saturated_growth(case: AuditContext) -> Iterator[Fault]:
    for who, stat, values in case.curves:
        gains = np.flatnonzero(np.diff(values) > 1e-9)
        still = len(gains) and gains[-1] + 1 < STILL_SHARE * (len(values) - 1) and values[-1] == values.max()
        if still and len(values) >= FEW_LEVELS and values.max() <= case.book.stats[stat].ceiling:
            yield Fault(
                ("classes", who, "growth", stat),
                f"{stat} of {who} rises up to level "
                f"{case.levels[gains[-1] + 1]} and stands still at {figure(values[-1])} to level "
                f"{case.levels[-1]}",
            )


@check
def empty_levels(case: AuditContext) -> Iterator[Fault]:
    if any("level" in program.names for path, program in case.formulas if path[0] in ("damage", "healing")):
        return  # every level counts in every blow
    for who, character in case.book.classes.items():
        page = case.page(who)
        counted = [stat for stat in case.book.stats if stat in case.readers]
        counted += [f"{gauge}_top" for gauge in held_gauges(case.book, who)]
        rows = np.array([page[name] for name in counted])
        gains = (np.diff(rows) != 0).any(axis=0)
        learns = np.isin(case.levels[1:], list(character.learns))
        empty = case.levels[1:][~(gains | learns)]
        if len(empty) and gains.any():
            yield Fault(
                ("classes", who),
                f"{who} gains nothing at {said_levels(empty.tolist())}: after rounding, every figure is as it was",
            )


@check
def opens_above_top(case: AuditContext) -> Iterator[Fault]:
    for name, gauge in case.book.gauges.items():
        returns = case.book.lives.gauges.get(name, Opening(1.0, 0.0))
        for path, opening in ((("gauges", name, "begins"), gauge.begins), (("lives", "gauges", name), returns)):
            points = opening.most_points
            for who in case.book.classes:
                top = case.page(who)[f"{name}_top"]
                over = case.levels[(top > 0) & (top < points)]
                if len(over):
                    yield Fault(
                        path,
                        f"{name} opens at {figure(points)}, and {who} holds {figure(top[top > 0].min())} "
                        f"at {said_levels(over.tolist())}",
                    )
                    break


@check
def falling_top(case: AuditContext) -> Iterator[Fault]:
    for name in case.book.gauges:
        tops = {who: case.page(who)[f"{name}_top"] for who in case.book.classes}
        falling = [who for who, top in tops.items() if np.isfinite(top).all() and falls(top)]
        if falling:
            top = tops[falling[0]]
            at = falls(top)[0]
            yield Fault(
                ("gauges", name, "top"),
                f"the {name} of {falling[0]} falls from {figure(top[at - 1])} to "
                f"{figure(top[at])} at level {case.levels[at]}{and_others(falling)}",
            )


@check
def topless_gauge(case: AuditContext) -> Iterator[Fault]:
    raised = {name for _, entry in bearers(case.book) for name in changed_names(entry)}
    for name, gauge in case.book.gauges.items():
        if not gauge.downs and not raised.isdisjoint(gauge.top.names):
            continue  # it is there while something raises its top
        tops = {who: case.page(who)[f"{name}_top"] for who in case.holders(name)}
        lacking = [who for who, top in tops.items() if not (top > 0).all()]
        if lacking:
            top = tops[lacking[0]]
            yield Fault(
                ("gauges", name, "top"),
                f"the top of {name} is {figure(top[~(top > 0)][0])} for "
                f"{lacking[0]} at "
                f"{said_levels(case.levels[~(top > 0)].tolist())}{and_others(lacking)}",
            )
