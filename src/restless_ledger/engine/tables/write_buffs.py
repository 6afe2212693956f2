"""Buffs → rows; among them one for each part that can break."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from ...formula import Program
from ...rulebook import Rulebook
from ...rulebook.buffs import Buff
from ...rulebook.rules.effects import stripped
from ...rulebook.stats import RolledChange, StatChange
from ...rulebook.words import Bar, Ends, Of
from ..codes import BREAKS, MARK, NEVER
from ..layout.ability_layout import BUFFS, CHANGES
from .table_rows import Pool, Rows, row, span
from .write_reactions import ReactionWriter


def with_copies(book: Rulebook, names: Iterable[str], units: int) -> list[str]:
    """Return buffs by name, each as often as there can be of it on one unit: one of each giver, one for each stack that
    ends by itself."""
    found = Rows[str]()
    for name in names:
        buff = book.buffs[name]
        found += [name] * (stacks_apart(buff) * (1 if buff.of is Of.ALL else units))
    return found


def stacks_apart(buff: Buff) -> int:
    """Return how many stacks of a buff of one giver have times of their own."""
    return buff.most if buff.ends is Ends.EACH else 1


NOTHING_VARIES: Mapping[str, RolledChange] = {}


class BuffWriter:
    """Writes buffs, their stat changes and the marks that bar them."""

    def __init__(self, book: Rulebook, effects: ReactionWriter, first_cause: int) -> None:
        self.book = book
        self.abilities = Rows(effects.abilities)
        self.effects = effects
        self.first_cause = first_cause
        self.stats = Rows(book.stats)
        self.rows = Rows[tuple]()
        self.changes = Pool()
        self.bars = Pool()
        self.barred = Pool()
        self.shares = Pool()
        self.dulled: dict[str, int] = {}

    def add_bars(self, marks: Iterable[str]) -> tuple[int, int]:
        """Write a list of marks; return where it begins and ends."""
        return self.bars.add([self.effects.lines.slots[f"marked({mark})"] for mark in marks])

    def change_rows(
        self, path: tuple, stats: Mapping[str, StatChange], varies: Mapping[str, RolledChange] = NOTHING_VARIES
    ) -> list[tuple]:
        """Return the rows of changes of stats that are written at a path; what `varies` is rolled for each fight."""
        rows = []
        for number, (stat, change) in enumerate(stats.items()):
            amount = 0.0 if isinstance(change.amount, Program) else change.amount
            line = self.effects.lines.add((*path, stat, change.way.value), change.formula)
            where = {"varied": -1, "roll": -1}
            if stat in varies:
                here = (*path, stat, change.way.value)
                where = {"varied": number, "roll": self.effects.rolls.add(here, varies[stat].roll)}
            rows.append(
                row(CHANGES, way=change.way.code, index=self.stats.index(stat), amount=amount, line=line, **where)
            )
        return rows

    def _changes(self, path: tuple, stats: Mapping[str, StatChange], marks: Iterable[str]) -> tuple[int, int]:
        rows = self.change_rows((*path, "stats"), stats)
        slots = self.effects.lines.slots
        rows += [
            row(CHANGES, way=MARK, index=slots[f"marked({mark})"], amount=1.0, line=-1, varied=-1) for mark in marks
        ]
        return self.changes.add(rows)

    def add(self, name: str) -> None:
        """Write one buff, or one of the rows that there are of it."""
        buff, clock = self.book.buffs[name], self.book.clock
        here = ("buffs", name)
        base, rows = self.effects.buffs.index(name), self.effects.buffs.count(name)
        changes = self._changes(here, buff.stats, buff.marks)
        effects = self.effects.write((*here, "each", "does"), buff.each.does if buff.each else ())
        reactions = self.effects.react((*here, "reacts"), buff.reacts, self.first_cause + base, len(self.rows))
        mitigations = self.effects.mitigate((*here, "mitigates"), buff.mitigates, self.first_cause + base)
        bars = self.add_bars(buff.barred_by)
        self.rows.append(
            row(
                BUFFS,
                **self.effects.columns.of(BUFFS, here, buff, without=("fades", "bars", "ends_on", "fights_for")),
                **self._control(buff),
                first_copy=base,
                copies=rows,
                a_giver=rows if buff.of is Of.ALL else stacks_apart(buff),
                cause=self.first_cause + base,
                **span("replaced", self._replaced(name, buff)),
                **self._shares(buff),
                **(self.effects.columns.of(BUFFS, (*here, "each"), buff.each) or {"every_times": -1}),
                **span("effect", effects),
                **span("change", changes),
                fades=clock.per_unit(buff.fades) * clock.seconds(1) if buff.fades else 0.0,
                **span("bar", bars),
                **span("reaction", reactions),
                **span("mitigation", mitigations),
            )
        )

    def _replaced(self, name: str, buff: Buff) -> tuple[int, int]:
        """Write the buffs that one takes off as it begins."""
        meant = {other for word in buff.replaces for other in stripped(self.book, word)} - {name}
        return self.effects.strips.add([at for at, other in enumerate(self.effects.buffs) if other in meant])

    def _control(self, buff: Buff) -> dict[str, float]:
        """Return what a buff keeps its bearer from and makes it do, as sets of words and a list of abilities."""
        words = [word for word in Bar if word in buff.bars]
        schools = [name for name in self.abilities if self.book.abilities[name].school in buff.bars]
        named = [name for name in self.abilities if name in buff.bars]
        numbers = [self.abilities.index(name) for name in dict.fromkeys((*schools, *named))]
        breaks = BREAKS if buff.breaks_at is not None else 0
        return {
            "controls": int(buff.controls),
            "bars": sum(1 << word.code for word in words),
            "hides": sum(1 << word.code for word in set(buff.hides_from)),
            "ends_on": sum(1 << word.code for word in set(buff.ends_on)) | breaks,
            "fights_for": 0 if buff.fights_for else -1,
            **span("barred", self.barred.add(numbers)),
            **span("granted", self.barred.add([at for at, name in enumerate(self.abilities) if name in buff.grants])),
        }

    def _shares(self, buff: Buff) -> dict[str, float]:
        """Return by how much a buff gets shorter each time, and in which group."""
        if buff.diminishes is None:
            return {"dulls": -1}
        group = buff.diminishes.group
        self.dulled.setdefault(group, len(self.dulled))
        forgets = self.book.clock.ticks(buff.diminishes.forgets)
        shares = span("share", self.shares.add(list(buff.diminishes.times)))
        return {"dulls": self.dulled[group], "forgets": forgets, **shares}

    def add_broken(self, body: str) -> tuple[int, list[str]]:
        """Write a buff for each part of a body: what goes with it when it breaks. Returns the first, and the names."""
        first = len(self.rows)
        for name, part in self.book.bodies[body].parts.items():
            here = ("bodies", body, "parts", name, "breaks", "reacts")
            changes = self._changes(here[:-1], part.breaks.stats, part.breaks.marks)
            reactions = self.effects.react(here, part.breaks.reacts, -1, len(self.rows))
            mitigations = self.effects.mitigate((*here[:-1], "mitigates"), part.breaks.mitigates, -1)
            number = len(self.rows)
            self.rows.append(
                row(
                    BUFFS,
                    first_copy=number,
                    copies=1,
                    a_giver=1,
                    cause=self.first_cause + number,
                    lasts=NEVER,
                    most=1,
                    catches_at=-1,
                    breaks_at=-1,
                    dulls=-1,
                    lasts_times=-1,
                    lasts_theirs=-1,
                    every_times=-1,
                    **span("change", changes),
                    **span("reaction", reactions),
                    **span("mitigation", mitigations),
                    outlasts_down=1,
                )
            )
        return first, [f"{part.label or name} broken" for name, part in self.book.bodies[body].parts.items()]
