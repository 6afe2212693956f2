"""Who did what in trials: uses, harm, kinds and parts, what was borne, who took whom down, and who is left."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ..engine.layout.books_layout import ACTION_TOTALS
from ..ledger.points import points
from ..statistics.intervals import wilson
from .fought import Fought

Records = list[dict[str, Any]]


def deeds(trials: Fought) -> Records:
    """Return one record for each unit and ability, buff or refill of its: figures are means per fight.

    `harm` and `heal` are what was booked, `spent` what was paid, `waste` what the gauges could not take, all in
    points; `downs` is how often somebody went down by it. The accuracy of what never asks for a roll is NaN.
    """
    rows, run, names = [], trials.run, trials.setup.names
    for unit, name in enumerate(names.units):
        for cause, cause_name in enumerate(names.causes):
            total = {field: int(run.tally[field][unit, cause]) for field in ACTION_TOTALS.names or ()}
            downs = int(run.added["kills_by_cause"][""][unit, cause])
            if any(total.values()) or downs:
                rows.append(
                    {
                        "unit": name,
                        "side": trials.side_of(unit),
                        "cause": cause_name,
                        "is": names.cause_kind(cause),
                        **_means(trials, total),
                        "downs": downs / trials.fights,
                    }
                )
    return rows


def _means(trials: Fought, total: dict[str, int]) -> dict[str, float]:
    fights, tries = trials.fights, total["hits"] + total["misses"]
    counts = {name: total[name] / fights for name in ("uses", "hits", "misses", "criticals")}
    amounts = {name: points(total[name]) / fights for name in ("harm", "heal", "spent", "waste")}
    return {**counts, "accuracy": total["hits"] / tries if tries else math.nan, **amounts}


def kinds(trials: Fought) -> Records:
    """Return one record for each unit and kind of damage or healing that its hits were of: hits and points per fight,
    and what share this is of all its hits did, to harm or to heal."""
    rows, taken = [], trials.run.added["by_kind"]
    for unit, name in enumerate(trials.setup.names.units):
        of_unit = [
            (chapter, kind, int(taken["hits"][unit, index]), int(taken["booked"][unit, index]))
            for index, (chapter, kind) in enumerate(trials.setup.names.kinds)
        ]
        for chapter, kind, hits, booked in of_unit:
            if hits:
                whole = sum(amount for other, _, _, amount in of_unit if other == chapter)
                rows.append(
                    {
                        "unit": name,
                        "side": trials.side_of(unit),
                        "kind": kind,
                        "is": chapter,
                        "hits": hits / trials.fights,
                        "amount": points(booked) / trials.fights,
                        "share": booked / whole if whole else math.nan,
                    }
                )
    return rows


def parts(trials: Fought) -> Records:
    """Return one record for each unit and part of its body: how often it was struck and how much harm that did, per
    fight, and what share of the unit's these are."""
    rows, setup, taken = [], trials.setup, trials.run.added["by_part"]
    for unit, name in enumerate(setup.names.units):
        body = range(setup.tables.units[unit].first_part, setup.tables.units[unit].last_part)
        hits, harm = (sum(int(taken[field][part]) for part in body) for field in ("hits", "booked"))
        for part in body if hits else ():
            struck, booked = int(taken["hits"][part]), int(taken["booked"][part])
            rows.append(
                {
                    "unit": name,
                    "side": trials.side_of(unit),
                    "part": setup.names.parts[part],
                    "hits": struck / trials.fights,
                    "share_of_hits": struck / hits,
                    "harm": points(booked) / trials.fights,
                    "share_of_harm": booked / harm if harm else math.nan,
                }
            )
    return rows


def buffs(trials: Fought) -> Records:
    """Return one record for each unit and buff that it bore: how often it caught and for how long it was on, per fight,
    and its uptime: the share of all the time that was fought."""
    rows, clock = [], trials.setup.book.clock
    borne = trials.run.added["borne"]
    fought = sum(tick * count for (_, tick), count in trials.run.counts.items())
    for unit, name in enumerate(trials.setup.names.units):
        for buff_name in dict.fromkeys(trials.setup.names.buffs):
            mine = np.array([buff_name == other for other in trials.setup.names.buffs])
            times, ticks = int(borne["times"][unit, mine].sum()), int(borne["ticks"][unit, mine].sum())
            if times:
                rows.append(
                    {
                        "unit": name,
                        "side": trials.side_of(unit),
                        "buff": buff_name,
                        "times": times / trials.fights,
                        "seconds": clock.seconds(ticks) / trials.fights,
                        "uptime": ticks / fought if fought else math.nan,
                    }
                )
    return rows


def downs(trials: Fought) -> Records:
    """Return one record for each pair of which one took the other down, most often first: how often per fight, and what
    share that is of all the times that the other went down. `by` is the unit itself for falls, pits and its own
    costs."""
    rows, kills_by_unit, names = [], trials.run.added["kills_by_unit"][""], trials.setup.names.units
    for unit, name in enumerate(names):
        whole = int(kills_by_unit[:, unit].sum())
        for by, by_name in enumerate(names):
            count = int(kills_by_unit[by, unit])
            if count:
                rows.append(
                    {
                        "unit": name,
                        "side": trials.side_of(unit),
                        "by": by_name,
                        "by_side": trials.side_of(by),
                        "downs": count / trials.fights,
                        "share": count / whole,
                    }
                )
    return sorted(rows, key=lambda row: -row["downs"])


def survivors(trials: Fought) -> Records:
    """Return one record for each unit: in what share of the fights it was up at the end, with its 95% interval, and how
    much of each gauge it then had, on average of those; of the one that downs, also as a share of its top."""
    rows, book, ends = [], trials.setup.book, trials.run.ends
    downing = book.downing_gauge or ""
    for unit, name in enumerate(trials.setup.names.units):
        up, sheet = int(ends["up"][unit]), trials.setup.units[unit].sheet
        rate, left = wilson(up, trials.fights), trials.run.added["left"][""][unit]
        means = {
            gauge: points(int(left[index])) / up if up else math.nan
            for index, gauge in enumerate(book.gauges)
            if gauge in sheet.gauges
        }
        rows.append(
            {
                "unit": name,
                "side": trials.side_of(unit),
                "up": up,
                "share": rate.estimate,
                "low": rate.low,
                "high": rate.high,
                "left_share": means[downing] / sheet.gauges[downing].top,
                **{f"{gauge}_left": mean for gauge, mean in means.items()},
            }
        )
    return rows
