"""Rulebook + encounter → the engine's flat tables, with the names that lead back from a number to the rulebook."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.effects import Effect
from ...rulebook.encounters import Encounter
from ...rulebook.quantities import Opening
from ...rulebook.rules.damage import kinds
from ...rulebook.rules.gauges import fronts
from ...sheets.build import stat_base
from ..codes import FIXED_CAUSES, NEVER
from ..layout.layout import Tables
from ..layout.table_layout import ABILITIES, BASES, EFFECTS, EXTRAS, GAUGES, KINDS, LINES, RULES, STATS, UNITS
from ..roster import Unit
from .compiled_formulas import CompiledFormulas
from .names import Names
from .table_rows import Pool, row, span
from .write_buffs import BuffWriter, buffs_in_use
from .write_effects import EffectWriter
from .write_kinds import kind_row
from .write_places import arena_of, place_row, supply_rows
from .write_units import UnitWriter

NO_AREA = {"single": 1, "most": -1, "falloff": -1}


class TableWriter:
    """Writes the tables of one encounter; without one, of a bench, with everything that the book declares."""

    def __init__(self, book: Rulebook, units: Sequence[Unit], encounter: Encounter | None = None) -> None:
        self.book = book
        self.units = units
        self.encounter = encounter
        self.lines = CompiledFormulas(book)
        self.gauges = list(book.gauges)
        used = {play.use for unit in units for _, play in unit.plays}
        self.abilities = [name for name in book.abilities if encounter is None or name in used]
        self.buff_names = list(book.buffs) if encounter is None else buffs_in_use(book, self._effects_in_use())
        self.effects = EffectWriter(book, self.lines, self.buff_names)
        self.first_ability_cause = len(FIXED_CAUSES) + len(self.gauges)
        self.first_buff_cause = self.first_ability_cause + len(self.abilities)
        self.buffs = BuffWriter(book, self.effects, self.first_buff_cause)
        self.unit_rows = UnitWriter(book, self.effects, self.buffs, self.abilities, units)
        self.classes, self.supplies = list(dict.fromkeys(unit.sheet.who for unit in units)), list[str]()

    def _effects_in_use(self) -> Iterator[Effect]:
        """Yield everything that anybody in the encounter can do."""
        for name in self.abilities:
            yield from self.book.abilities[name].does
        for unit in self.units:
            body = self.book.classes[unit.sheet.who].body
            parts = self.book.bodies[body].parts.values() if body else ()
            for bears in (*(source.brings for source in unit.sheet.sources), *(part.breaks for part in parts)):
                for reaction in bears.reacts:
                    yield from reaction.does
        arena = arena_of(self.book, self.encounter)
        for spot in arena.supplies if arena else ():
            yield from self.book.supplies[spot.supply].does

    def names(self, sides: tuple[str, ...]) -> Names:
        """Return what the numbers stand for. Call it after `write`."""
        causes = [(name, "gauge") for name in (*FIXED_CAUSES, *(f"{name} refill" for name in self.gauges))]
        causes += [(name, "ability") for name in self.abilities]
        causes += [(name, "buff") for name in self.buff_names]
        causes += [(name, "class") for name in self.classes]
        causes += [(name, "supply") for name in self.supplies]
        return Names(
            tuple(unit.name for unit in self.units),
            sides,
            tuple(self.lines.slots),
            tuple(self.gauges),
            tuple(self.effects.kinds),
            tuple(self.unit_rows.part_names),
            tuple(name for name, _ in causes),
            tuple(kind for _, kind in causes),
            tuple(self.abilities),
            tuple(self.buff_names),
        )

    def write(self, limit: int, sides: int) -> Tables:
        """Return the tables. `limit` is in ticks; a bench has no end."""
        book, units = self.book, self.unit_rows
        abilities = [self._ability(name) for name in self.abilities]
        self._write_buffs()
        arena = arena_of(book, self.encounter)
        self.supplies, supplies, spots = supply_rows(book, self.effects, arena)
        units.supplies = self.supplies
        first_class = self.first_buff_cause + len(self.buff_names)
        unit_rows = [units.write(unit, first_class, self.classes) for unit in self.units]
        front_pool, extras = Pool(), Pool()
        gauges = [self._gauge(name, front_pool) for name in self.gauges]
        kind_rows = [kind_row(self.effects.columns, self.buffs, path, kind, extras) for path, kind in kinds(book)]
        place = place_row(book, self.effects.columns, self.encounter)
        script = self.effects.script_hits() if self.encounter is None else 0
        rows = {
            "rules": [self._rules(limit, sides, unit_rows, kind_rows, extras, script)],
            "units": unit_rows,
            "stats": self._stats(),
            "gauges": gauges,
            "fronts": front_pool.items,
            "kinds": kind_rows,
            "extras": extras.items,
            "abilities": abilities,
            "place": [place],
            "spots": spots,
            "supplies": supplies,
        }
        points = np.array(arena.checkpoints if arena else [], dtype=np.float64).reshape(-1, 2)
        return self._tables({**rows, **self._pools()}, len(kind_rows), points)

    def _write_buffs(self) -> None:
        """Write every buff, and those that parts bring which break."""
        for name in list(self.buff_names):
            self.buffs.add(name)
        for body in dict.fromkeys(self.book.classes[unit.sheet.who].body for unit in self.units):
            if body and any(
                part.breaks.stats or part.breaks.marks or part.breaks.reacts
                for part in self.book.bodies[body].parts.values()
            ):
                self.unit_rows.broken[body], names = self.buffs.add_broken(body)
                self.buff_names += names

    def _stats(self) -> list[tuple]:
        return [
            row(STATS, slot=self.lines.slots[name], floor=stat.floor, ceiling=stat.ceiling, rounding=stat.round.code)
            for name, stat in self.book.stats.items()
        ]

    def _pools(self) -> dict[str, list]:
        """Return the rows that several writers share, as they are by now."""
        return {
            "bars": self.buffs.bars.items,
            "own_marks": self.unit_rows.marks.items,
            "parts": self.unit_rows.parts.items,
            "drops": self.unit_rows.drops.items,
            "effects": self.effects.effects.items,
            "strips": self.effects.strips.items,
            "buffs": self.buffs.rows,
            "changes": self.buffs.changes.items,
            "reactions": self.effects.reactions,
            "plays": self.unit_rows.plays.items,
            "known": self.unit_rows.known.items,
            "lines": self.lines.rows,
            "code": self.lines.code,
            "constants": self.lines.constants,
        }

    def _tables(self, rows: dict[str, list], kind_count: int, points: np.ndarray) -> Tables:
        members = {name: np.array(rows[name], dtype=kind) for name, (kind, _) in Tables.LAYOUT.items() if name in rows}
        bases = [[stat_base(self.book, unit.sheet, stat) for stat in self.book.stats] for unit in self.units]
        count, units = len(self.units), self.unit_rows
        return Tables(
            {
                **members,
                "bases": np.array(bases, dtype=BASES).reshape(count, -1),
                "against": units.against(self.units).reshape(kind_count, count),
                "stops": units.stops(self.units).reshape(count, kind_count),
                "checkpoints": points,
            }
        )

    def _rules(
        self, limit: int, sides: int, unit_rows: list[tuple], kind_rows: list[tuple], extras: Pool, script: int
    ) -> tuple:
        book, clock = self.book, self.book.clock
        first_class = self.first_buff_cause + len(self.buff_names)
        actions = self.lines.add(("clock", "actions"), clock.actions)
        moving = any(moving for *_, moving, _ in self.lines.rows)
        return row(
            RULES,
            limit=limit,
            downs_at_once=int(clock.down_at == "at_once"),
            judged=int(self.encounter is not None),
            sides=sides,
            downing=self.gauges.index(book.downing_gauge or ""),
            initiative=self.lines.add(("clock", "initiative"), clock.initiative if clock.initiative.names else None),
            first_ability_cause=self.first_ability_cause,
            first_buff_cause=self.first_buff_cause,
            first_supply_cause=first_class + len(self.classes),
            gauges_read=int(moving),
            facts=self.lines.first_fact,
            invulnerable_next=int(clock.invulnerable_from == "next_tick"),
            reaction_depth=clock.reaction_depth,
            **self._reads(kind_rows, extras.items),
            **(deduced := self._deduced(unit_rows)),
            opens_drawn=int(any(gauge.begins.high for gauge in book.gauges.values())),
            actions=actions,
            placed=int(arena_of(book, self.encounter) is not None),
            seconds=clock.seconds(1),
            beats_meet=int(bool(deduced["reacts"]) or moving or any(effect.to == "user" for effect in self._beats())),
            first_script_effect=script,
        )

    def _beats(self) -> list[Effect]:
        """Return what the beats of all buffs do."""
        given = (self.book.buffs[name] for name in self.buff_names if name in self.book.buffs)
        return [effect for buff in given if buff.each for effect in buff.each.does]

    def _deduced(self, unit_rows: list[tuple]) -> dict[str, int]:
        """Return what can happen at all, so that the kernel need not look for what can't."""
        book = self.book
        events = {reaction[0] for reaction in self.effects.reactions}
        earns = any(gauge.earns.model_fields_set for gauge in book.gauges.values())
        spared = any(book.classes[name].invulnerable for name in self.classes) or book.lives.invulnerable.amount > 0
        worn = bool(np.array(unit_rows, dtype=UNITS)["worn"].any())
        watched = {"after_harm" in (gauge.refill or gauge).model_fields_set for gauge in book.gauges.values()}
        aims = {play.pick for unit in self.units for _, play in unit.plays}
        broken_off = any(book.abilities[name].interruptible for name in self.abilities)
        done = np.array(self.effects.effects.items, dtype=EFFECTS)
        aimed = bool((done["part"] >= 0).any()) or any(play.part for unit in self.units for _, play in unit.plays)
        stolen = bool((done["steal"] >= 0).any())
        bench = self.encounter is None
        follows = bench or events or earns or spared or worn or stolen or broken_off or True in watched
        follows = follows or bool(aims & {"most_dangerous", "attacker"})
        kept_off = bench or spared or worn or aimed or any(kind.barred_by for _, kind in kinds(book))
        kept_off = kept_off or any(unit.handling.aim < 1 for unit in self.units)
        return {
            "reacts": sum(1 << event for event in events),
            "earns": int(earns),
            "follows": int(bool(follows)),
            "kept_off": int(bool(kept_off)),
        }

    def _reads(self, kind_rows: list[tuple], extra_rows: list[tuple]) -> dict[str, int]:
        """Return the sets of slots that the lines of dealers, and those of takers, read in any meeting."""
        kinds, extras = np.array(kind_rows, dtype=KINDS), np.array(extra_rows, dtype=EXTRAS)
        read = np.array(self.lines.rows, dtype=LINES)["reads"]
        of_dealers = extras["on_dealer"] == 1
        dealing = [*(kinds[line] for line in ("power", "aim", "chance", "times", "spread")), extras["line"][of_dealers]]
        taking = [kinds["dodge"], kinds["soak"], extras["line"][~of_dealers]]
        sets = {"dealing_reads": np.concatenate(dealing), "taking_reads": np.concatenate(taking)}
        return {name: int(np.bitwise_or.reduce(read[lines[lines >= 0]])) for name, lines in sets.items()}

    def _gauge(self, name: str, pool: Pool) -> tuple:
        gauge, clock = self.book.gauges[name], self.book.clock
        here = ("gauges", name)
        values: dict[str, float] = {"refill": -1, "refill_ticks": NEVER, "condition": -1}
        if gauge.refill:
            after = gauge.refill.after_harm
            values = {
                "refill": self.lines.add((*here, "refill", "amount"), gauge.refill.amount),
                "refill_ticks": clock.ticks(gauge.refill.every),
                "after_harm": clock.ticks(after) if after else 0,
                "condition": self.lines.add((*here, "refill", "when"), gauge.refill.when),
            }
        values |= self.effects.columns.of(GAUGES, (*here, "earns"), gauge.earns)
        before = pool.add([self.gauges.index(front) for front in fronts(self.book, name)])
        opens, most = gauge.begins, gauge.begins.high or Opening(np.nan, np.nan)
        returns = self.book.lives.opening(name)
        return row(
            GAUGES,
            slot=self.lines.slots[name],
            **self.effects.columns.of(GAUGES, here, gauge, without=("refill",)),
            opens_share=opens.share,
            opens_points=opens.points,
            most_share=most.share,
            most_points=most.points,
            returns_share=returns.share,
            returns_points=returns.points,
            keeps=int(gauge.over == "keep"),
            **span("front", before),
            **values,
        )

    def _ability(self, name: str) -> tuple:
        ability, here = self.book.abilities[name], ("abilities", name)
        groups = list(dict.fromkeys(other.shared for other in self.book.abilities.values() if other.shared))
        first_cost = self.effects.costs(name)
        first, last = self.effects.write((*here, "does"), ability.does)
        return row(
            ABILITIES,
            **self.effects.columns.of(ABILITIES, here, ability, without=("shared",)),
            **(self.effects.columns.of(ABILITIES, (*here, "area"), ability.area) or NO_AREA),
            first_cost=first_cost,
            first_effect=first,
            last_effect=last,
            from_finish=int(ability.cooldown_from == "finish"),
            shared=groups.index(ability.shared) if ability.shared else -1,
        )
