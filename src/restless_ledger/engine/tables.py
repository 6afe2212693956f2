"""Rulebook + encounter → the engine's flat tables, with the names that lead back from a number to the rulebook."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..rulebook import Rulebook
from ..rulebook.effects import DamageEffect, Effect, GiveEffect, HealEffect
from ..sheet.build import base_figure
from ..sheet.resolve import ROUNDINGS
from .codes import (
    AIMS,
    COST_EFFECT,
    DAMAGE_EFFECT,
    FIXED_CAUSES,
    GIVE_EFFECT,
    HEAL_EFFECT,
    MARK,
    NEVER,
    ON,
    WAYS,
)
from .layout import Tables
from .linebook import LineBook
from .roster import Unit


@dataclass(frozen=True)
class Names:
    """What the numbers of an encounter stand for."""

    units: tuple[str, ...]
    sides: tuple[str, ...]
    slots: tuple[str, ...]
    gauges: tuple[str, ...]
    kinds: tuple[str, ...]
    parts: tuple[str, ...]
    causes: tuple[str, ...]
    """What a change can come from: a script, a top that fell, a gauge's refill, an ability, a buff."""
    abilities: tuple[str, ...]
    buffs: tuple[str, ...]

    def cause_kind(self, cause: int) -> str:
        """Return what a cause is: `ability`, `buff`, or `gauge` for all that a gauge does by itself."""
        first = len(self.causes) - len(self.abilities) - len(self.buffs)
        return "gauge" if cause < first else "ability" if cause < first + len(self.abilities) else "buff"


class TableWriter:
    """Writes the tables of one encounter. With `everything`, also what no unit of it can use."""

    def __init__(self, book: Rulebook, units: Sequence[Unit], everything: bool = False) -> None:
        self.book = book
        self.units = units
        self.lines = LineBook(book)
        self.stats, self.gauges, self.kinds = list(book.stats), list(book.gauges), list(book.damage)
        used = {play.use for unit in units for _, play in unit.plays}
        self.abilities = [name for name in book.abilities if everything or name in used]
        self.buffs = self._buffs_in_use(everything)
        self.effects: list[tuple] = []
        self.known: list[tuple[int, str]] = []
        self.parts: list[tuple] = []
        self.part_names: list[str] = []

    def _buffs_in_use(self, everything: bool) -> list[str]:
        """Return the buffs that the abilities can give, directly or by another buff's beat, in the book's order."""
        found: set[str] = set(self.book.buffs) if everything else set()
        waiting = [effect for name in self.abilities for effect in self.book.abilities[name].does]
        while waiting:
            effect = waiting.pop()
            if isinstance(effect, GiveEffect) and effect.give not in found:
                found.add(effect.give)
                beat = self.book.buffs[effect.give].each
                waiting += beat.does if beat else []
        return [name for name in self.book.buffs if name in found]

    def names(self, sides: tuple[str, ...]) -> Names:
        """Return what the numbers stand for. Call it after `write`."""
        return Names(
            tuple(unit.name for unit in self.units),
            sides,
            tuple(self.lines.slots),
            tuple(self.gauges),
            tuple(self.kinds),
            tuple(self.part_names),
            (*FIXED_CAUSES, *(f"{name} refill" for name in self.gauges), *self.abilities, *self.buffs),
            tuple(self.abilities),
            tuple(self.buffs),
        )

    def write(self, limit: int, sides: int, judged: bool) -> Tables:
        """Return the tables. `limit` is in ticks; without `judged` the fight has no end."""
        book, clock = self.book, self.book.clock
        downing = self.gauges.index(book.downing_gauge or "")
        gauges = self._gauges()
        initiative = self.lines.add(("clock", "initiative"), clock.initiative if clock.initiative.names else None)
        kinds, extras = self._kinds()
        abilities = [self._ability(name) for name in self.abilities]
        changes: list[tuple] = []
        buffs = [self._buff(name, changes) for name in self.buffs]
        plays: list[tuple] = []
        units = [self._unit(number, plays) for number in range(len(self.units))]
        bases = [
            [base_figure(book, unit.sheet.who, unit.sheet.level, stat) for stat in self.stats] for unit in self.units
        ]
        stats = [
            (self.lines.slots[name], stat.floor, stat.ceiling, ROUNDINGS.index(stat.round))
            for name, stat in book.stats.items()
        ]
        first_ability = len(FIXED_CAUSES) + len(self.gauges)
        reads_gauges = int(any(moving for *_, moving, _ in self.lines.rows))
        rules = (
            limit,
            int(clock.downs == "at_once"),
            int(judged),
            sides,
            downing,
            initiative,
            first_ability,
            first_ability + len(self.abilities),
            reads_gauges,
        )
        rows = {
            "rules": [rules],
            "units": units,
            "stats": stats,
            "gauges": gauges,
            "kinds": kinds,
            "extras": extras,
            "parts": self.parts,
            "abilities": abilities,
            "effects": self.effects,
            "buffs": buffs,
            "changes": changes,
            "plays": plays,
            "lines": self.lines.rows,
            "code": self.lines.code,
            "constants": self.lines.constants,
        }
        members = {name: np.array(rows[name], dtype=kind) for name, (kind, _) in Tables.LAYOUT.items() if name in rows}
        return Tables({**members, "bases": np.array(bases, dtype=np.float64).reshape(len(units), -1)})

    def _gauges(self) -> list[tuple]:
        rows = []
        for name, gauge in self.book.gauges.items():
            top = self.lines.add(("gauges", name, "top"), gauge.top)
            share = np.nan if gauge.opens.share is None else gauge.opens.share
            refill, every = -1, NEVER
            if gauge.refill:
                refill = self.lines.add(("gauges", name, "refill", "amount"), gauge.refill.amount)
                every = self.book.clock.ticks(gauge.refill.every)
            rows.append((self.lines.slots[name], top, share, gauge.opens.points, refill, every))
        return rows

    def _kinds(self) -> tuple[list[tuple], list[tuple]]:
        rows: list[tuple] = []
        extras: list[tuple] = []
        for name, kind in self.book.damage.items():
            here = ("damage", name)
            page = {path: self.lines.add((*here, *path), program) for path, program in kind.page_formulas()}
            lands = -1 if kind.never_misses else self.lines.add_meeting((*here, "lands"), kind.landing, kind)
            settle = self.lines.add_meeting((*here, "settle"), kind.settle, kind)
            first = len(extras)
            extras += [(page["dealer_lines", line], 1) for line in kind.dealer_lines]
            extras += [(page["taker_lines", line], 0) for line in kind.taker_lines]
            gauge = self.gauges.index(kind.gauge or self.book.downing_gauge or "")
            moving = any(self.lines.moves(program) for _, program in kind.page_formulas())
            rows.append(
                (
                    gauge,
                    int(kind.never_misses),
                    page.get(("aim",), -1),
                    page["dodge",],
                    page["power",],
                    page["soak",],
                    lands,
                    settle,
                    page.get(("critical", "chance"), -1),
                    page.get(("critical", "times"), -1),
                    kind.spread,
                    ROUNDINGS.index(kind.round),
                    first,
                    len(extras),
                    int(moving),
                )
            )
        return rows, extras

    def _effects(self, path: tuple, effects: Sequence[Effect]) -> tuple[int, int]:
        """Write a list of effects; return where it begins and ends."""
        first = len(self.effects)
        for index, effect in enumerate(effects):
            to_user = int(effect.to == "user")
            match effect:
                case DamageEffect():
                    self.effects.append((DAMAGE_EFFECT, self.kinds.index(effect.damage), -1, effect.times, to_user))
                case HealEffect():
                    gauge = self.gauges.index(effect.gauge or self.book.downing_gauge or "")
                    line = self.lines.add((*path, index, "heal"), effect.heal)
                    self.effects.append((HEAL_EFFECT, gauge, line, 1.0, to_user))
                case GiveEffect():
                    self.effects.append((GIVE_EFFECT, self.buffs.index(effect.give), -1, 1.0, to_user))
        return first, len(self.effects)

    def _ability(self, name: str) -> tuple:
        ability, ticks = self.book.abilities[name], self.book.clock.ticks
        first_cost = len(self.effects)
        for gauge, amount in ability.cost.items():
            line = self.lines.add(("abilities", name, "cost", gauge), amount)
            self.effects.append((COST_EFFECT, self.gauges.index(gauge), line, 1.0, 1))
        first, last = self._effects(("abilities", name, "does"), ability.does)
        return (
            ON.index(ability.on),
            ticks(ability.windup),
            ticks(ability.recovery),
            ticks(ability.cooldown),
            first_cost,
            first,
            last,
        )

    def _buff(self, name: str, changes: list[tuple]) -> tuple:
        buff, ticks = self.book.buffs[name], self.book.clock.ticks
        first_change = len(changes)
        changes += [
            (WAYS.index(change.way), self.stats.index(stat), change.amount) for stat, change in buff.stats.items()
        ]
        changes += [(MARK, self.lines.slots[f"marked({mark})"], 1.0) for mark in buff.marks]
        first, last = self._effects(("buffs", name, "each", "does"), buff.each.does if buff.each else ())
        every = ticks(buff.each.every) if buff.each else 0
        return ticks(buff.lasts), every, first, last, first_change, len(changes)

    def _unit(self, number: int, plays: list[tuple]) -> tuple:
        unit = self.units[number]
        first_play = len(plays)
        for path, play in unit.plays:
            if (number, play.use) not in self.known:
                self.known.append((number, play.use))
            plays.append(
                (
                    self.known.index((number, play.use)),
                    self.abilities.index(play.use),
                    AIMS.index(play.at),
                    self.lines.add((*path, "when"), play.when),
                    self.lines.add((*path, "if"), play.if_),
                )
            )
        return (unit.side, first_play, len(plays), *self._body(self.book.classes[unit.sheet.who].body))

    def _body(self, name: str | None) -> tuple[int, int]:
        """Write the parts of a body, once for each unit that has it; return where they begin and end."""
        first, total = len(self.parts), 0.0
        for part_name, part in self.book.bodies[name].parts.items() if name else ():
            total += part.share
            self.parts.append((total, part.times))
            self.part_names.append(part.label or part_name)
        return first, len(self.parts)
