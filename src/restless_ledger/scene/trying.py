"""Checks that somebody in a scene tries, and what follows."""

from __future__ import annotations

from ..engine.codes import CHOICE
from ..engine.splitmix64 import GOLDEN, MASK, TO_UNIT, mix_one
from ..sheets import CheckOutcome, try_check
from .reasons import page_now
from .scene import Scene


def tried(scene: Scene, unit: int, name: str, at: str | int | None = None) -> CheckOutcome:
    """Let a unit try a check with its figures of now, and let happen what follows."""
    setup = scene.bench.setup
    sheet, called = setup.units[unit].sheet, setup.names.units[unit]
    target = unit if at is None else scene.find(at)
    page = page_now(scene, unit)
    outcome = try_check(
        scene.book, name, page, who=sheet.who, named=called, texts=sheet.texts, luck=lambda: next_luck(scene)
    )
    first, last = setup.names.follows.get((name, outcome.follow or ""), (0, 0))
    if last > first:
        scene.bench.poke(unit, CHOICE, index=first, target=last, source=target)
    return outcome


def next_luck(scene: Scene) -> float:
    """Return the next draw of a scene's checks, from 0 up to 1: a pure function of the seed and of how many there
    were. They are apart from the draws of fights."""
    scene.drawn += 1
    key = mix_one(((scene.seed or 0) + 2 * int(GOLDEN)) & MASK)
    return (mix_one((key + scene.drawn * int(GOLDEN)) & MASK) >> 11) * TO_UNIT
