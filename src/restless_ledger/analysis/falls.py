"""Falls: from what height each class is hurt and killed, whether its own jumps hurt it, what a dash gains."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from functools import cached_property
from typing import Any

import numpy as np

from ..formula import evaluate, evaluate_one
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import Rulebook
from ..rulebook.pages import FACTS
from ..sheets import CharacterSpec, Sheet, build_sheet
from ..sheets.altered import usable

HIGHEST_M = 500.0
STEP_M = 0.05
NEAR_M = 1e-4
LEAST_POINTS = 0.0005
"""What is less than half a thousandth of a point is booked as nothing."""


@frozen
class Jump:
    """One of a class's own jumps: how high it reaches with those before it, and whether coming down hurts."""

    number: int
    unlock: str | None
    unlocked: bool
    reach_m: float
    landing_m_per_s: float
    harm: float

    @property
    def safe(self) -> bool:
        """Whether the landing hurts nobody."""
        return self.harm < LEAST_POINTS


@frozen
class FallRecord:
    """One class at one level. A height is infinite where no fall up to 500 m does it."""

    who: str
    label: str
    level: int
    health: float
    hurts_from_m: float
    kills_from_m: float
    jumps: tuple[Jump, ...]
    pace_m_per_s: float
    dash_m: float
    dash_m_per_s: float
    """The ground that the best known dash covers, for each second of its cooldown; 0 without one."""

    @property
    def jumps_safely(self) -> bool:
        """Whether all unlocked jumps land safely."""
        return all(jump.safe for jump in self.jumps if jump.unlocked)


class Falls(Result):
    """The falls of every class at some levels, or of characters that are named. Solved on the formulas; no fight is
    fought."""

    TABLES = ("falls",)
    FIGURE = "falls"

    def __init__(
        self, book: Rulebook, levels: Iterable[int] | None = None, characters: Iterable[CharacterSpec] = ()
    ) -> None:
        first, last = book.rulebook.levels
        self.book = book
        self.characters = tuple(characters)
        self.levels = sorted(set(levels)) if levels is not None else sorted({first, (first + last) // 2, last})

    @cached_property
    def heights(self) -> list[FallRecord]:
        """One record for each character, or where none is named for each class and level."""
        if self.characters:
            return [self._record(build_sheet(self.book, spec)) for spec in self.characters]
        return [
            self._record(build_sheet(self.book, CharacterSpec(who, level)))
            for who in self.book.classes
            for level in self.levels
        ]

    def harm(self, sheet: Sheet, height_m: Any) -> np.ndarray:
        """Return what a fall from each height (metres, any shape) asks of a character, in points.

        The speed is sqrt(2 g h), at most the terminal one; within the safe speed nothing is asked.
        """
        falls = self.book.falls
        height = np.asarray(height_m, dtype=np.float64)
        speed = np.minimum(np.sqrt(2 * falls.gravity * height), self.terminal(sheet))
        page: dict[str, Any] = {
            **standing(sheet),
            "fall_speed": speed,
            "fall_height": height,
            "safe_speed": falls.safe_speed,
        }
        asked = np.broadcast_to(np.asarray(evaluate(falls.damage, page), dtype=np.float64), height.shape)
        return np.where(speed > falls.safe_speed, np.maximum(asked, 0.0), 0.0)

    def terminal(self, sheet: Sheet) -> float:
        """Return the highest speed at which a character falls, in metres per second."""
        return float(self.book.falls.terminal.on(standing(sheet)))

    def _record(self, sheet: Sheet) -> FallRecord:
        health = sheet.gauges[self.book.downing_gauge or ""].top
        pace = evaluate_one(self.book.movement.pace, standing(sheet))
        dash, dash_per_second = self._dash(sheet)
        return FallRecord(
            sheet.who,
            sheet.label,
            sheet.level,
            health,
            self._first(sheet, lambda harm: harm >= LEAST_POINTS),
            self._first(sheet, lambda harm: harm >= health),
            tuple(self._jumps(sheet)),
            max(0.0, pace),
            dash,
            dash_per_second,
        )

    def _first(self, sheet: Sheet, wanted: Callable[[np.ndarray], np.ndarray]) -> float:
        """Return the least height whose harm is as wanted: found on a grid, then halved down to a tenth of a mm."""
        heights = np.arange(0.0, HIGHEST_M + STEP_M, STEP_M)
        found = np.flatnonzero(wanted(self.harm(sheet, heights)))
        if not len(found):
            return math.inf
        high = float(heights[found[0]])
        low = max(0.0, high - STEP_M)
        while high - low > NEAR_M:
            middle = (low + high) / 2
            low, high = (low, middle) if wanted(self.harm(sheet, middle)) else (middle, high)
        return high

    def _jumps(self, sheet: Sheet) -> Iterable[Jump]:
        """Yield each jump of a class: taken at the top of those before that are open, it adds v² / (2 g) of height."""
        gravity, top = self.book.falls.gravity, 0.0
        known, who = {*sheet.abilities, *sheet.passives}, self.book.classes[sheet.who]
        for number, (jump, speed) in enumerate(zip(who.jumps, who.jump_speeds, strict=True), 1):
            reach = top + speed * speed / (2 * gravity)
            landing = min(math.sqrt(2 * gravity * reach), self.terminal(sheet))
            unlocked = jump.is_open(known)
            top = reach if unlocked else top
            yield Jump(number, jump.unlock, unlocked, reach, landing, float(self.harm(sheet, reach)))

    def _dash(self, sheet: Sheet) -> tuple[float, float]:
        """Return how far the best dash goes, v² / (2 · friction), and that over its cooldown, in metres per second."""
        best = (0.0, 0.0)
        clock = self.book.clock
        for name in sheet.abilities:
            ability = usable(self.book, sheet, name)
            if ability.dash:
                speed = float(ability.dash.on(standing(sheet)))
                ground = speed**2 / (2 * self.book.movement.friction)
                busy = clock.ticks(ability.windup) + clock.ticks(ability.recovery)
                slides = math.ceil(speed / self.book.movement.friction / clock.seconds(1) - 1e-9)
                ticks = max(clock.ticks(ability.cooldown), busy, clock.ticks(ability.windup) + slides, 1)
                best = max(best, (ground, ground / clock.seconds(ticks)), key=lambda pair: pair[1])
        return best

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each class and level, flat: heights in metres, speeds in metres per second."""
        rows = []
        for record in self.heights:
            open_jumps = [jump for jump in record.jumps if jump.unlocked]
            rows.append(
                {
                    "class": record.who,
                    "level": record.level,
                    "health": record.health,
                    "hurts_from_m": record.hurts_from_m,
                    "kills_from_m": record.kills_from_m,
                    "jumps": len(open_jumps),
                    "reach_m": open_jumps[-1].reach_m if open_jumps else 0.0,
                    "landing_m_per_s": open_jumps[-1].landing_m_per_s if open_jumps else 0.0,
                    "jumps_safely": record.jumps_safely,
                    "unsafe_jumps": ", ".join(str(jump.number) for jump in record.jumps if not jump.safe),
                    "pace_m_per_s": record.pace_m_per_s,
                    "dash_m": record.dash_m,
                    "dash_m_per_s": record.dash_m_per_s,
                }
            )
        return rows

    def finding(self) -> str:
        """Say in a sentence what the falls show."""
        hurt = {record.label for record in self.heights if not record.jumps_safely}
        deadly = [record for record in self.heights if math.isfinite(record.kills_from_m)]
        jumps = f"{_listed(hurt)} hurt by own jumps" if hurt else "Nobody’s own jump hurts"
        if not deadly:
            return f"{jumps}; no fall kills"
        worst = min(deadly, key=lambda record: record.kills_from_m)
        return f"{jumps}; the lowest fall that kills is {worst.kills_from_m:.1f} m ({worst.label}, level {worst.level})"


def standing(sheet: Sheet) -> dict[str, Any]:
    """Return the page of a character that stands, to which nothing happens at the moment."""
    return {**sheet.page, **dict.fromkeys(FACTS, 0.0)}


def _listed(names: set[str]) -> str:
    return ", ".join(sorted(names)) + (" is" if len(names) == 1 else " are")
