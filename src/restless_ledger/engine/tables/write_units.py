"""Units → rows: their plays, what they know, their parts and their handling."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.playbooks import Play
from ...rulebook.words import Targets
from ..codes import NEVER
from ..layout.table_layout import KNOWN, PARTS, UNITS
from ..layout.table_layout import PLAYS as PLAY_ROW
from ..roster import Unit
from .table_rows import Pool, row
from .write_buffs import BuffWriter
from .write_effects import EffectWriter


class UnitWriter:
    """Writes the units of an encounter."""

    def __init__(
        self, book: Rulebook, effects: EffectWriter, buffs: BuffWriter, abilities: Sequence[str], units: Sequence[Unit]
    ) -> None:
        self.book = book
        self.effects = effects
        self.buffs = buffs
        self.abilities = abilities
        self.supplies: Sequence[str] = ()
        self.units = units
        self.plays = Pool()
        self.known = Pool()
        self.parts = Pool()
        self.drops = Pool()
        self.part_names: list[str] = []
        self.broken: dict[str, int] = {}
        self.reactions: dict[str, tuple[int, int]] = {}

    def write(self, unit: Unit, first_class_cause: int, classes: Sequence[str]) -> tuple:
        """Return the row of one unit; writes its plays, its parts and what it knows."""
        who = self.book.classes[unit.sheet.who]
        used = list(dict.fromkeys(play.use for _, play in unit.plays if play.use))
        first_known, last_known = self.known.add([row(KNOWN, ability=self.abilities.index(name)) for name in used])
        known = {name: first_known + index for index, name in enumerate(used)}
        first_play, last_play = self.plays.add([self._play(path, play, known, unit) for path, play in unit.plays])
        first_part, last_part = self._body(who.body)
        first_reaction, last_reaction = self._reactions(unit)
        body = self.book.bodies[who.body] if who.body else None
        spared, clock = who.invulnerable, self.book.clock
        worn = body is not None and (body.segmented or any(part.own for part in body.parts.values()))
        at = unit.at or (0.0, 0.0)
        return row(
            UNITS,
            side=unit.side,
            first_play=first_play,
            last_play=last_play,
            first_part=first_part,
            last_part=last_part,
            first_known=first_known,
            last_known=last_known,
            first_reaction=first_reaction,
            last_reaction=last_reaction,
            worn=int(worn),
            segmented=int(body is not None and body.segmented),
            harder=body.harder if body else 0.0,
            broken_buff=self.broken.get(who.body or "", -1),
            spared_ticks=clock.ticks(spared.after_hit) if spared else 0,
            delay=clock.ticks(unit.handling.delay),
            aim=unit.handling.aim,
            mistakes=unit.handling.mistakes,
            distance=unit.distance,
            heedless=int(who.heedless),
            lives=unit.lives,
            at_x=at[0],
            at_y=at[1],
            class_cause=first_class_cause + classes.index(unit.sheet.who),
        )

    def _play(self, path: tuple, play: Play, known: dict[str, int], unit: Unit) -> tuple:
        lines = self.effects.lines
        supply = self.supplies.index(play.fetch) if play.fetch in self.supplies else NEVER
        return row(
            PLAY_ROW,
            what=play.deed.code,
            known=known.get(play.use or "", -1),
            ability=self.abilities.index(play.use) if play.use else 0,
            pick=play.pick.code,
            when=lines.add((*path, "when"), play.when),
            condition=lines.add((*path, "if"), play.if_),
            part=self.effects.part(play.part),
            wait=self.book.clock.ticks(play.wait) if play.wait else 0,
            supply=supply,
            away=int(play.to == "away"),
            sole=self._sole_target(play, unit),
        )

    def _sole_target(self, play: Play, unit: Unit) -> int:
        """Return the number of the only unit that a play can ever be aimed at, or -1."""
        on = self.book.abilities[play.use].targets if play.use else Targets.FOES
        if on == Targets.USER:
            return next(index for index, other in enumerate(self.units) if other is unit)
        targets = [index for index, other in enumerate(self.units) if (other.side != unit.side) == (on == Targets.FOES)]
        return targets[0] if len(targets) == 1 else -1

    def _reactions(self, unit: Unit) -> tuple[int, int]:
        """Write the reactions of a class and of the passive abilities that a unit knows, once for all like it."""
        who, sheet = self.book.classes[unit.sheet.who], unit.sheet
        key = f"{sheet.who} {sheet.passives}"
        if key not in self.reactions:
            first, last = self.effects.react(("classes", sheet.who, "reacts"), who.reacts, -1)
            for name in sheet.passives:
                _, last = self.effects.react(("abilities", name, "reacts"), self.book.abilities[name].reacts, -1)
            self.reactions[key] = first, last
        return self.reactions[key]

    def _body(self, name: str | None) -> tuple[int, int]:
        """Write the parts of a body, once for each unit that has it; return where they begin and end."""
        rows, total = [], 0.0
        for part_name, part in self.book.bodies[name].parts.items() if name else ():
            total += part.share
            first_drop, last_drop = self.drops.add(
                [self.abilities.index(ability) for ability in part.breaks.drops if ability in self.abilities]
            )
            own = self.effects.lines.add(("bodies", name, "parts", part_name, "own"), part.own)
            rows.append(
                row(
                    PARTS,
                    up_to=total,
                    times=part.times,
                    share=part.share,
                    aim=part.aim,
                    own=own,
                    vital=int(part.vital),
                    lost=int(part.breaks.lost),
                    first_drop=first_drop,
                    last_drop=last_drop,
                    name=self.effects.part(part_name),
                )
            )
            self.part_names.append(part.label or part_name)
        return self.parts.add(rows)

    def stops(self, units: Sequence[Unit]) -> np.ndarray:
        """Return 1 where a unit's invulnerability after a hit stops a kind, of shape (units, kinds)."""
        spared = [self.book.classes[unit.sheet.who].invulnerable for unit in units]
        stopped = [(one and one.stops) or self.book.damage for one in spared]
        return np.array(
            [[int(chapter == "damage" and name in names) for chapter, name in self.effects.kinds] for names in stopped],
            dtype=np.int64,
        )

    def against(self, units: Sequence[Unit]) -> np.ndarray:
        """Return what each kind does to each unit's class, of shape (kinds, units)."""
        kinds = [getattr(self.book, chapter)[name] for chapter, name in self.effects.kinds]
        return np.array([[kind.against.get(unit.sheet.who, 1.0) for unit in units] for kind in kinds], dtype=np.float64)
