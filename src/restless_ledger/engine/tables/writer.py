"""Rulebook + encounter → the engine's flat tables, with the names that lead back from a number to the rulebook."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.abilities import Ability
from ...rulebook.effects import Effect
from ...rulebook.encounters import Encounter
from ...rulebook.figure_order import figure_order
from ...rulebook.in_use import in_use
from ...rulebook.place import Arena
from ...rulebook.words import Targets
from ...sheets.altered import altered
from ...sheets.build import stat_bases
from ..codes import FIXED_CAUSES, USUAL
from ..layout.kind_layout import EXTRAS, KINDS
from ..layout.layout import Tables
from ..layout.table_layout import BASES, LINES, RULES
from ..reserves import effects_of
from ..unit import Unit
from .deduced import Written, beat_rules, deduced
from .groundwork import Declared, common_rows, lay, lay_for_bench
from .names import Names
from .table_rows import row, table
from .ways import ways_round
from .write_gauges import flows, gauge_rules, takes
from .write_places import ground_rows, place_row, point_rules, supply_rows, win_rows, zone_rows
from .write_units import UnitWriter


class TableWriter:
    """Writes the tables of one encounter; without one, of a bench, with everything that the book declares."""

    def __init__(self, book: Rulebook, units: Sequence[Unit], encounter: Encounter | None, arena: Arena | None) -> None:
        self.book = book
        self.units = units
        self.encounter = encounter
        self.arena = arena
        ground = lay_for_bench(book, units) if encounter is None else lay(book, self._declared())
        self.lines, self.effects, self.buffs, self.ability_rows, self.common = ground
        self.buff_names, self.abilities, self.gauges = self.effects.buffs, self.ability_rows.basic, self.effects.gauges
        self.unit_rows = UnitWriter(book, self.effects, self.buffs, self.ability_rows, units)
        self.classes, self.supplies = list(dict.fromkeys(unit.sheet.who for unit in units)), list[str]()

    def _declared(self) -> Declared:
        """Return what there is in the encounter of what the rulebook declares."""
        used = {play.use for unit in self.units for _, play in unit.plays}
        laid = (each.zone for each in (self.arena.zones if self.arena else ()))
        buffs, zones, _ = in_use(self.book, self._effects_in_use(), laid)
        return Declared([name for name in self.book.abilities if name in used], buffs, zones, self.units)

    def _effects_in_use(self) -> Iterator[Effect]:
        """Yield everything that anybody in the encounter can do."""
        for unit in self.units:
            yield from effects_of(self.book, unit)
        for spot in self.arena.supplies if self.arena else ():
            yield from self.book.supplies[spot.supply].does

    def names(self, sides: tuple[str, ...]) -> Names:
        """Return what the numbers stand for. Call it after `write`."""
        causes = [(name, "gauge") for name in (*FIXED_CAUSES, *(f"{name} {key}" for name, key, _ in flows(self.book)))]
        causes += [(name, "ability") for name in self.abilities]
        causes += [(name, "buff") for name in self.buff_names]
        causes += [(name, "class") for name in self.classes]
        causes += [(name, "supply") for name in self.supplies]
        causes += [(name, "zone") for name in self.effects.zones]
        return Names(
            tuple(unit.name for unit in self.units),
            sides,
            tuple(self.lines.slots),
            tuple(self.gauges),
            tuple(self.effects.kinds),
            tuple(self.unit_rows.part_names),
            tuple(name for name, _ in causes),
            tuple(kind for _, kind in causes),
            tuple(self.ability_rows.names),
            tuple(self.buff_names),
            {name: tuple(getattr(self.effects, name).paths) for name in ("effects", "reactions", "mitigations")},
            self.follows,
        )

    def write(self, limit: int, sides: int) -> Tables:
        """Return the tables. `limit` is in ticks; a bench has no end."""
        book, units = self.book, self.unit_rows
        self._write_broken_parts()
        self.supplies, supplies, spots = supply_rows(book, self.effects, self.arena)
        units.supplies = self.supplies
        first_class = self.buffs.first_cause + len(self.buff_names)
        zones = zone_rows(self.effects, self.arena, first_class + len(self.classes) + len(self.supplies))
        unit_rows = [units.write(unit, first_class, self.classes) for unit in self.units]
        common = self.common or common_rows(self.effects, self.buffs)
        place = place_row(book, self.effects.columns, self.arena, self.encounter, self.ability_rows.heeds_ways)
        bench = self.encounter is None
        script, self.follows = (self.effects.script_hits(), self.effects.follows()) if bench else (0, {})
        rows = {
            "units": unit_rows,
            **common,
            "rolls": self.effects.rolls.rolls.items,
            "faces": self.effects.rolls.faces.items,
            "abilities": self.ability_rows.rows,
            "forms": units.forms.items,
            "place": [place],
            "spots": spots,
            **ground_rows(self.arena),
            "supplies": supplies,
            **zones,
            **win_rows(book, self.encounter, self.units),
        }
        rows["rules"] = [self._rules(limit, sides, unit_rows, common, script)]  # last: they tell what there is
        return self._tables({**rows, **self._pools()}, len(common["kinds"]))

    def _write_broken_parts(self) -> None:
        """Write what goes with the parts that can break, as buffs."""
        for body in dict.fromkeys(self.book.classes[unit.sheet.who].body for unit in self.units):
            if body and any(
                part.breaks.stats or part.breaks.marks or part.breaks.reacts or part.breaks.mitigates
                for part in self.book.bodies[body].parts.values()
            ):
                self.unit_rows.broken[body], names = self.buffs.add_broken(body)
                self.buff_names += names

    def _pools(self) -> dict[str, list]:
        """Return the rows that several writers share, as they are by now."""
        return {
            "bars": self.buffs.bars.items,
            "own_marks": self.unit_rows.marks.items,
            "jumps": self.unit_rows.jumps.items,
            "parts": self.unit_rows.parts.items,
            "drops": self.unit_rows.drops.items,
            "loads": self.effects.loads.items,
            "straights": self.ability_rows.straights.items,
            "effects": self.effects.effects.items,
            "strips": self.effects.strips.items,
            "buffs": self.buffs.rows,
            "changes": self.buffs.changes.items,
            "barred": self.buffs.barred.items,
            "shares": self.buffs.shares.items,
            "reactions": self.effects.reactions.items,
            "mitigations": self.effects.mitigations.items,
            "plays": self.unit_rows.plays.items,
            "mine": self.unit_rows.mine.items,
            "seen": self.lines.seen_rows(self.abilities, self.buff_names),
            "known": self.unit_rows.known.items,
            "lines": self.lines.rows,
            **self.lines.readers(),
            "code": self.lines.code,
            "constants": self.lines.constants,
        }

    def _tables(self, rows: dict[str, list], kind_count: int) -> Tables:
        members = {name: table(rows[name], kind) for name, (kind, _) in Tables.LAYOUT.items() if name in rows}
        bases = [stat_bases(self.book, unit.sheet) for unit in self.units]
        count, units = len(self.units), self.unit_rows
        order = [list(self.book.stats).index(name) for name in figure_order(self.book) if name in self.book.stats]
        return Tables(
            {
                **members,
                "stat_order": np.array(order, dtype=np.int64),
                "bases": np.array(bases, dtype=BASES).reshape(count, -1),
                "takes": takes(self.effects),
                "against": units.against(self.units).reshape(kind_count, count),
                "stops": units.stops(self.units).reshape(count, kind_count),
                **ways_round(self.arena),
            }
        )

    def _rules(self, limit: int, sides: int, unit_rows: list[tuple], common: dict[str, list], script: int) -> tuple:
        """Return the row of the rules. Call it once all else is written: lines that are added later are not seen."""
        book, clock = self.book, self.book.clock
        first_class = self.buffs.first_cause + len(self.buff_names)
        actions = self.lines.add(("clock", "actions"), clock.actions)
        initiative, gauges = self._initiative(), gauge_rules(self.effects)
        lines = table(self.lines.rows, LINES)
        written, moving = self._written(), self._reads_gauges(lines)
        possible = deduced(written, unit_rows)
        return row(
            RULES,
            limit=limit,
            downs_at_once=int(clock.down_at == "at_once"),
            judged=int(self.encounter is not None),
            sides=sides,
            downing=self.gauges.index(book.downing_gauge or ""),
            first_ability_cause=self.ability_rows.first_cause,
            first_buff_cause=self.buffs.first_cause,
            first_supply_cause=first_class + len(self.classes),
            gauges_read=int(moving),
            facts=self.lines.first_fact,
            invulnerable_next=int(clock.invulnerable_from == "next_tick"),
            reaction_depth=clock.reaction_depth,
            **_reads(lines["reads"], common),
            **possible,
            **gauges,
            evens=self.effects.evens,
            varies=int(self.unit_rows.varied > 0),
            **initiative,
            actions=actions,
            forms=int(bool(self.unit_rows.forms.items) or self._grants()),
            meanwhile=int(any(each.beside or each.cancels for each in self._usable())),
            watched=int(bool(self.lines.seen)),
            priorities=int(any(each.priority for each in self._usable()) and clock.rounds),
            placed=int(self.arena is not None),
            seconds=clock.seconds(1),
            **self._bounds(),
            **beat_rules(written, possible, moving),
            first_script_effect=script,
        )

    def _reads_gauges(self, lines: np.ndarray) -> bool:
        """Say whether a line reads a gauge or the fight, so that pages must show gauges at once. What stats read is
        shown at once in any case."""
        return any(self.lines.lines[number].path[0] != "stats" for number in np.flatnonzero(lines["moving"]))

    def _bounds(self) -> dict[str, float]:
        """Return what an encounter as a whole may have: the largest amounts and those that need no care, what
        else wins, how turns follow on each other, zones, company, and whether it is read who is behind or above."""
        largest = self.book.rulebook.largest_amount
        read = {name for line in self.lines.lines for name in line.program.names}
        sided = int(not read.isdisjoint(("behind", "above")) and self.arena is not None)
        return {
            **point_rules(self.book, self.encounter),
            "turns": self.book.clock.turns.code,
            "walks_first": int(self.book.clock.walks == "first"),
            "largest": largest,
            "usual": min(USUAL, largest),
            "vast": int(largest > USUAL),
            "zones": int(bool(self.effects.zones)),
            "company": int(any(unit.comes_later for unit in self.units)),
            "sided": sided,
            "helps_fallen": int(any(each.targets is Targets.FALLEN_ALLIES for each in self._usable())),
            "spends": int(bool(self.unit_rows.drops.items) or any(each.uses is not None for each in self._usable())),
        }

    def _grants(self) -> bool:
        return any(self.book.buffs[name].grants for name in self.buff_names if name in self.book.buffs)

    def _usable(self) -> Iterator[Ability]:
        """Yield every ability that anybody can use, as it is altered or not."""
        yield from (self.book.abilities[name] for name in self.abilities)
        for name, alterations in self.ability_rows.altered:
            yield altered(self.book, name, alterations)

    def _initiative(self) -> dict[str, int]:
        """Return who comes first: a line (-1 where it is the same for all), and what is rolled besides."""
        clock, rolled = self.book.clock, self.book.clock.initiative_roll
        asked = rolled is not None or bool(clock.initiative.names)
        return {
            "initiative": self.lines.add(("clock", "initiative"), clock.initiative if asked else None),
            "initiative_roll": self.effects.rolls.add(("clock", "initiative_roll"), rolled) if rolled else -1,
            "initiative_drawn": int(clock.initiative_drawn == "each_round"),
        }

    def _written(self) -> Written:
        bench = self.encounter is None
        names = self.classes, self.buff_names
        rows = self.ability_rows.rows, self.unit_rows.known.items
        return Written(self.book, self.units, bench, *names, self.effects, self.buffs, *rows)


def _reads(reads: np.ndarray, common: dict[str, list]) -> dict[str, int]:
    """Return the sets of slots that the lines of dealers, and those of takers, read in any meeting; `reads` holds what
    each line reads."""
    kinds, extras = np.array(common["kinds"], dtype=KINDS), np.array(common["extras"], dtype=EXTRAS)
    of_dealers = extras["on_dealer"] == 1
    dealing = [*(kinds[line] for line in ("power", "aim", "chance", "times", "spread")), extras["line"][of_dealers]]
    taking = [kinds["dodge"], kinds["soak"], extras["line"][~of_dealers]]
    sets = {"dealing_reads": np.concatenate(dealing), "taking_reads": np.concatenate(taking)}
    return {name: int(np.bitwise_or.reduce(reads[lines[lines >= 0]])) for name, lines in sets.items()}
