"""Becoming somebody else: levels, classes, gear, what is taught and bought, and what rises and is learned by it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from ..formula.explain import number
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError
from ..rulebook.frozen import FrozenDict
from ..sheets.experience import experience_to_next, level_at
from ..sheets.gear import Item
from .scene import Member, Scene

MOST_GAINED = 10**12


@frozen
class Became(Result):
    """What has changed of a character: figures before and after, what was learned, what is known no longer.

    Its table, `figures`, has a record for each stat and each top of a gauge that is another one now.
    """

    TABLES = ("figures",)

    name: str
    level: tuple[int, int]
    """Before and after."""
    experience: tuple[int, int | None]
    """What it has of the way to the next level, and what that takes in all; None at the last level or without a
    curve."""
    figures: Mapping[str, tuple[float, float]]
    """Stats and tops of gauges (`health_top`), before and after."""
    learned: tuple[str, ...]
    lost: tuple[str, ...]

    def _records(self, table: str) -> list[dict[str, Any]]:
        return [
            {"figure": name, "before": before, "after": after, "change": after - before}
            for name, (before, after) in self.figures.items()
        ]

    def finding(self) -> str:
        """Say in a sentence what has changed."""
        before, after = self.level
        risen = [f"{name} {number(old)} to {number(new)}" for name, (old, new) in self.figures.items()]
        parts = [f"level {before} to {after}" if before != after else f"level {after}"]
        parts += [", ".join(risen)] if risen else ["no figure changes"]
        parts += [f"learned {', '.join(self.learned)}"] if self.learned else []
        parts += [f"knows no more {', '.join(self.lost)}"] if self.lost else []
        return f"{self.name}: {'; '.join(parts)}"


def become(scene: Scene, unit: int, experience: int = 0, **what: Any) -> Became:
    """Let a member be somebody else: `who`, `level`, `gear`, `taught`, `bought` … of its spec; return what changed.

    Raises `InputError` where there can be no such character, and for a unit that was called; then nothing has changed.
    """
    if unit >= len(scene.members):
        name = scene.bench.setup.names.units[unit]
        raise InputError(
            f"{name}: who was called stays who it is\n    change one of those who are there from the beginning"
        )
    was, before = scene.bench.setup.units[unit].sheet, _figures(scene, unit)
    member = scene.members[unit]
    scene.replace(unit, Member(replace(was.spec, **what), member.side, member.acts, experience))
    sheet, after = scene.bench.setup.units[unit].sheet, _figures(scene, unit)
    knew, knows = ((*each.abilities, *each.passives) for each in (was, sheet))
    changed = {name: (before.get(name, 0.0), value) for name, value in after.items() if before.get(name, 0.0) != value}
    gone = {name: (value, 0.0) for name, value in before.items() if name not in after}
    return Became(
        scene.bench.setup.names.units[unit],
        (was.level, sheet.level),
        (experience, _next(scene, sheet.who, sheet.level)),
        FrozenDict({**changed, **gone}),
        tuple(name for name in knows if name not in knew),
        tuple(name for name in knew if name not in knows),
    )


def gain(scene: Scene, unit: int, experience: int) -> Became:
    """Let a member gain experience, and rise as far as that takes it; what is over counts for the next level.

    Raises `InputError` on an amount below zero or no whole number, and where its class has no curve of experience.
    """
    if isinstance(experience, bool) or not isinstance(experience, int) or not 0 <= experience <= MOST_GAINED:
        raise InputError(f"gain: experience is a whole number, zero or more\n    got: {experience!r}")
    sheet = scene.bench.setup.units[unit].sheet
    level_at(scene.book, sheet.who, 0)  # says so where there is no curve
    steps, first = experience_to_next(scene.book, sheet.who), scene.book.rulebook.levels[0]
    level, left = sheet.level, scene.members[min(unit, len(scene.members) - 1)].experience + experience
    while level - first < len(steps) and left >= steps[level - first]:
        left -= steps[level - first]
        level += 1
    return become(scene, unit, left, level=level)


def worn(scene: Scene, unit: int, *gear: str | Item) -> tuple[str | Item, ...]:
    """Return what a unit would wear with more gear on: in a slot that is full, the piece that it wore longest goes."""
    book, mine = scene.book, list(scene.bench.setup.units[unit].sheet.gear)
    for piece in gear:
        name = piece.gear if isinstance(piece, Item) else piece
        if name in book.gear:
            slot = book.gear[name].slot
            same = [item for item in mine if isinstance(item, Item) and book.gear[item.gear].slot == slot]
            if len(same) >= book.slots[slot].count:
                mine.remove(same[0])
        mine.append(piece)  # type: ignore[arg-type]
    return tuple(mine)


def _next(scene: Scene, who: str, level: int) -> int | None:
    """Return what it takes from a level to the next; None where there is no way on."""
    if scene.book.experience_of(who) is None:
        return None
    steps, first = experience_to_next(scene.book, who), scene.book.rulebook.levels[0]
    return steps[level - first] if level - first < len(steps) else None


def _figures(scene: Scene, unit: int) -> dict[str, float]:
    """Return every stat and every top of a gauge, as it is now."""
    bench = scene.bench
    tops = (f"{gauge}_top" for gauge in bench.setup.units[unit].sheet.gauges)
    return {name: bench.figure(unit, name) for name in (*scene.book.stats, *tops)}
