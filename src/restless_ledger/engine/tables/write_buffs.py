"""Which buffs an encounter can see, and their rows; among them one for each part that can break."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping

from ...rulebook import Rulebook
from ...rulebook.buffs import Buff
from ...rulebook.effects import BuildupEffect, Effect, GiveEffect
from ...rulebook.stats import StatChange
from ..codes import MARK, NEVER
from ..layout.table_layout import BUFFS, CHANGES
from .table_rows import Pool, row, span
from .write_effects import EffectWriter


def given_by(effects: Iterable[Effect]) -> Iterator[str]:
    """Yield the buffs that effects can put on somebody."""
    for effect in effects:
        if isinstance(effect, GiveEffect):
            yield effect.give
        elif isinstance(effect, BuildupEffect):
            yield effect.buildup


def buffs_in_use(book: Rulebook, effects: Iterable[Effect]) -> list[str]:
    """Return the buffs that effects can give, directly or by what those buffs do, in the book's order."""
    found: set[str] = set()
    waiting = list(given_by(effects))
    while waiting:
        name = waiting.pop()
        if name not in found:
            found.add(name)
            waiting += given_by(buff_effects(book.buffs[name]))
    return [name for name in book.buffs if name in found]


def buff_effects(buff: Buff) -> list[Effect]:
    """Return all that a buff does, in its beats and in its reactions."""
    beats = buff.each.does if buff.each else []
    return [*beats, *(effect for reaction in buff.reacts for effect in reaction.does)]


class BuffWriter:
    """Writes buffs, their stat changes and the marks that bar them."""

    def __init__(self, book: Rulebook, effects: EffectWriter, first_cause: int) -> None:
        self.book = book
        self.effects = effects
        self.first_cause = first_cause
        self.stats = list(book.stats)
        self.rows: list[tuple] = []
        self.changes = Pool()
        self.bars = Pool()

    def add_bars(self, marks: Iterable[str]) -> tuple[int, int]:
        """Write a list of marks; return where it begins and ends."""
        return self.bars.add([self.effects.lines.slots[f"marked({mark})"] for mark in marks])

    def _changes(self, stats: Mapping[str, StatChange], marks: Iterable[str]) -> tuple[int, int]:
        rows = [
            row(CHANGES, way=change.way.code, index=self.stats.index(stat), amount=change.amount)
            for stat, change in stats.items()
        ]
        slots = self.effects.lines.slots
        rows += [row(CHANGES, way=MARK, index=slots[f"marked({mark})"], amount=1.0) for mark in marks]
        return self.changes.add(rows)

    def add(self, name: str) -> None:
        """Write one buff."""
        buff, clock = self.book.buffs[name], self.book.clock
        here = ("buffs", name)
        changes = self._changes(buff.stats, buff.marks)
        effects = self.effects.write((*here, "each", "does"), buff.each.does if buff.each else ())
        reactions = self.effects.react((*here, "reacts"), buff.reacts, self.first_cause + len(self.rows))
        bars = self.add_bars(buff.barred_by)
        self.rows.append(
            row(
                BUFFS,
                **self.effects.columns.of(BUFFS, here, buff, without=("fades",)),
                **self.effects.columns.of(BUFFS, (*here, "each"), buff.each),
                **span("effect", effects),
                **span("change", changes),
                fades=clock.per_unit(buff.fades) * clock.seconds(1) if buff.fades else 0.0,
                **span("bar", bars),
                **span("reaction", reactions),
            )
        )

    def add_broken(self, body: str) -> tuple[int, list[str]]:
        """Write a buff for each part of a body: what goes with it when it breaks. Returns the first, and the names."""
        first = len(self.rows)
        for name, part in self.book.bodies[body].parts.items():
            here = ("bodies", body, "parts", name, "breaks", "reacts")
            changes = self._changes(part.breaks.stats, part.breaks.marks)
            reactions = self.effects.react(here, part.breaks.reacts, -1)
            self.rows.append(
                row(
                    BUFFS,
                    lasts=NEVER,
                    most=1,
                    catches_at=-1,
                    **span("change", changes),
                    **span("reaction", reactions),
                    outlasts_down=1,
                )
            )
        return first, [f"{part.label or name} broken" for name, part in self.book.bodies[body].parts.items()]
