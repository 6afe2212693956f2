"""The checks across chapters: each chapter says what it refers to."""

from __future__ import annotations

from . import (
    abilities,
    audits,
    bodies,
    buffs,
    checks,
    classes,
    clock,
    creation,
    damage,
    encounters,
    examples,
    experience,
    gauges,
    gear,
    handlings,
    journeys,
    lives,
    place,
    playbooks,
    promises,
    stats,
    upgrades,
)
from .problems import Report
from .rulebook import Rulebook

CHAPTERS = (
    clock,
    stats,
    gauges,
    damage,
    bodies,
    classes,
    experience,
    creation,
    checks,
    gear,
    upgrades,
    abilities,
    buffs,
    playbooks,
    handlings,
    lives,
    place,
    encounters,
    journeys,
    examples,
    promises,
    audits,
)


def check(book: Rulebook, report: Report) -> None:
    """Let each chapter report the names it can't find and the figures that can't be."""
    for chapter in CHAPTERS:
        chapter.check(book, report)
