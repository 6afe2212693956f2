"""Units → rows: their plays, what they know, their parts and their handling."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.buffs import Buff
from ...rulebook.mitigations import Mitigation
from ...rulebook.playbooks import Play
from ...rulebook.words import Pick, Targets
from ...sheets.altered import Alterations, alterations_of, altered
from ...sheets.brought import marks_of
from ...sheets.build import is_live
from ..codes import BEST, NEVER
from ..layout.table_layout import FORMS, KNOWN, MINE, PARTS, UNITS
from ..layout.table_layout import PLAYS as PLAY_ROW
from ..unit import Unit
from .table_rows import Pool, row, same_for_all, span
from .write_abilities import AbilityWriter
from .write_buffs import BuffWriter
from .write_reactions import ReactionWriter


class UnitWriter:
    """Writes the units of an encounter."""

    def __init__(
        self,
        book: Rulebook,
        effects: ReactionWriter,
        buffs: BuffWriter,
        abilities: AbilityWriter,
        units: Sequence[Unit],
    ) -> None:
        self.book = book
        self.effects = effects
        self.buffs = buffs
        self.ability_rows = abilities
        self.abilities = abilities.basic
        self.forms = Pool()
        self.supplies: Sequence[str] = ()
        self.units = units
        self.plays = Pool()
        self.known = Pool()
        self.mine = Pool()
        self.varied = 0
        self.jumps = Pool()
        self.parts = Pool()
        self.drops = Pool()
        self.part_names: list[str] = []
        self.broken: dict[str, int] = {}
        self.marks = Pool()
        self.reactions: dict[tuple, tuple[tuple[int, int], tuple[int, int]]] = {}

    def write(self, unit: Unit, first_class_cause: int, classes: Sequence[str]) -> tuple:
        """Return the row of one unit; writes its plays, its parts and what it knows."""
        who = self.book.classes[unit.sheet.who]
        used = list(dict.fromkeys(play.use for _, play in unit.plays if play.use))
        made = {name: alterations_of(unit.sheet.sources, dict(unit.sheet.bought), name) for name in used}
        first_known, last_known = self.known.add([self._known(unit, name, made[name]) for name in used])
        known = {name: first_known + index for index, name in enumerate(used)}
        turns = sorted({play.turn for _, play in unit.plays if play.turn is not None})  # of what it can use
        plays = self.plays.add([self._play(path, play, known, unit, turns, made) for path, play in unit.plays])
        forms = self._forms(known, made)
        parts = self._body(who.body)
        reactions, mitigations = self._reactions(unit)
        slots = self.effects.lines.slots
        marks = self.marks.add([slots[f"marked({mark})"] for mark in marks_of(unit.sheet.sources)])
        spared, clock = who.invulnerable, self.book.clock
        at = unit.at or (0.0, 0.0)
        return row(
            UNITS,
            side=unit.side,
            **span("play", plays),
            **span("part", parts),
            first_known=first_known,
            last_known=last_known,
            **span("reaction", reactions),
            **span("mitigation", mitigations),
            **span("change", self._changes(unit)),
            **span("mark", marks),
            **span("form", forms),
            **span("jump", self.jumps.add(who.take_offs((*unit.sheet.abilities, *unit.sheet.passives)))),
            **self._whole(who.body),
            spared_ticks=clock.ticks(spared.after_hit) if spared else 0,
            **self.effects.columns.of(UNITS, ("handlings",), unit.handling),
            distance=unit.distance,
            heedless=int(who.heedless),
            lives=unit.lives,
            **self._coming(unit),
            at_x=at[0],
            at_y=at[1],
            class_cause=first_class_cause + classes.index(unit.sheet.who),
        )

    def _coming(self, unit: Unit) -> dict[str, int]:
        """Return how a unit comes that is not there from the beginning."""
        return {
            "root": unit.root,
            "called": -1 if unit.sort is None else self.effects.sorts.index(unit.sort),
            "arrives": unit.arrives,
            "arrives_when": self.effects.lines.add(*(unit.arrives_when or ((), None))),
        }

    def _whole(self, name: str | None) -> dict[str, int]:
        """Return what a unit's body is as a whole."""
        body = self.book.bodies[name] if name else None
        worn = body is not None and (body.segmented or any(part.own for part in body.parts.values()))
        return {
            "worn": int(worn),
            "segmented": int(body is not None and body.segmented),
            "harder": self.effects.lines.add(("bodies", name, "harder"), body.harder) if body else -1,
            "broken_buff": self.broken.get(name or "", -1),
        }

    def _known(self, unit: Unit, name: str, alterations: Alterations) -> tuple:
        """Return the row of an ability that a unit knows, as it is altered for it, or that buffs can grant it."""
        basic = self.abilities.index(name)
        by_buff = int(name not in unit.sheet.abilities)
        return row(KNOWN, ability=self.ability_rows.index(name, alterations), basic=basic, by_buff=by_buff)

    def _forms(self, known: dict[str, int], made: dict[str, Alterations]) -> tuple[int, int]:
        """Write what each buff makes of the abilities that a unit knows."""
        found = []
        for buff, entry in self._given.items():
            for name, alteration in entry.alters.items():
                if name in known:
                    ability = self.ability_rows.index(name, (*made[name], (alteration, 1)))
                    number = list(self.effects.buffs).index(buff)
                    found.append(row(FORMS, known=known[name], buff=number, ability=ability))
        return self.forms.add(found)

    def _mine(self, path: tuple, play: Play) -> tuple[int, int]:
        """Write the lines of a play that its `if` and `pick` read."""
        lines = self.effects.lines
        return self.mine.add(
            [
                row(MINE, line=lines.add((*path, "mine", name), program), slot=lines.own_slot(name))
                for name, program in play.mine.items()
            ]
        )

    def _pick(self, path: tuple, play: Play) -> dict[str, int]:
        """Return whom a play goes for: a word, or by a formula."""
        if isinstance(play.pick, Pick):
            return {"pick": play.pick.code, "best": -1, "most": 0}
        key = "least" if play.pick.most is None else "most"
        line = self.effects.lines.add((*path, "pick", key), getattr(play.pick, key))
        return {"pick": BEST, "best": line, "most": int(key == "most")}

    def _play(
        self, path: tuple, play: Play, known: dict[str, int], unit: Unit, turns: list[int], made: dict[str, Alterations]
    ) -> tuple:
        supply = self.supplies.index(play.fetch) if play.fetch in self.supplies else NEVER
        picks = () if isinstance(play.pick, Pick) else (play.pick.least, play.pick.most)
        read = {name for program in (play.if_, *picks) if program is not None for name in program.names}
        own = {name for program in (play.when, play.weight, *play.mine.values()) if program for name in program.names}
        return row(
            PLAY_ROW,
            looks_round=int("distance" in own),
            **span("mine", self._mine(path, play)),
            brings=int(bool(play.mine) or "at_user" in read),
            sided=int(not read.isdisjoint(("behind", "above"))),
            what=play.deed.code,
            known=known.get(play.use or "", -1),
            ability=self.ability_rows.index(play.use, made[play.use]) if play.use else 0,
            **self.effects.columns.of(PLAY_ROW, path, play, without=("pick", "turn")),
            **self._pick(path, play),
            turn=-1 if play.turn is None else turns.index(play.turn),
            turns=len(turns),
            supply=supply,
            away=int(play.to == "away"),
            sole=self._sole_target(play, unit, made.get(play.use or "", ())),
        )

    def _changes(self, unit: Unit) -> tuple[int, int]:
        """Write what changes a unit's stats for good and can't be added up beforehand."""
        rows: list[tuple] = []
        for each in unit.sheet.standing:
            live = {name: change for name, change in each.stats.items() if is_live(self.book, unit.sheet, name)}
            rolls = self.book.classes[unit.sheet.who].varies if each.key == "varies" else {}
            rows += self.buffs.change_rows((*each.path, each.key), live, rolls)
        self.varied = max(self.varied, len(self.book.classes[unit.sheet.who].varies))
        return self.buffs.changes.add(rows)

    def _sole_target(self, play: Play, unit: Unit, alterations: Alterations) -> int:
        """Return the number of the only unit that a play can ever be aimed at, or -1."""
        words = self._words(play.use, alterations) if play.use else {Targets.FOES}
        on = words.pop()
        if words:
            return -1
        if on == Targets.USER:
            return next(index for index, other in enumerate(self.units) if other is unit)
        if any(buff.aims_at or buff.fights_for for buff in self._given.values()):
            return -1
        targets = [index for index, other in enumerate(self.units) if (other.side != unit.side) == (on == Targets.FOES)]
        return targets[0] if len(targets) == 1 else -1

    @cached_property
    def _given(self) -> dict[str, Buff]:
        """The buffs that somebody can bear, those of broken parts apart. All are known before any unit is written."""
        return {name: self.book.buffs[name] for name in self.effects.buffs if name in self.book.buffs}

    def _words(self, name: str, alterations: Alterations) -> set[Targets]:
        """Return whom an ability can be for, as it is altered and as each buff makes it."""
        forms = [(*alterations, (buff.alters[name], 1)) for buff in self._given.values() if name in buff.alters]
        return {altered(self.book, name, each).targets for each in (alterations, *forms)}

    def _reactions(self, unit: Unit) -> tuple[tuple[int, int], tuple[int, int]]:
        """Write the reactions and the mitigations that a unit has from the beginning, once for all like it."""
        found = unit.sheet.sources
        key = tuple(source.path for source in found)
        if key not in self.reactions:
            stretches = [self.effects.react((*source.path, "reacts"), source.brings.reacts, -1) for source in found]
            more = [self.effects.mitigate((*each.path, "mitigates"), each.brings.mitigates, -1) for each in found]
            more.append(self._soaks(self.book.classes[unit.sheet.who].body))
            self.reactions[key] = (stretches[0][0], stretches[-1][1]), (more[0][0], more[-1][1])
        return self.reactions[key]

    def _soaks(self, name: str | None) -> tuple[int, int]:
        """Write the soak of a body's parts: each takes off hits on its part."""
        first, last = self.effects.mitigate((), (), -1)
        for part_name, part in self.book.bodies[name].parts.items() if name else ():
            if part.soak is not None:
                soak = Mitigation.model_construct({"part", "less"}, part=part_name, less=part.soak)
                last = self.effects.mitigate(("bodies", name, "parts", part_name, "soak"), (soak,), -1, soaks=True)[1]
        return first, last

    def _body(self, name: str | None) -> tuple[int, int]:
        """Write the parts of a body, once for each unit that has it; return where they begin and end."""
        rows, total = [], 0.0
        for part_name, part in self.book.bodies[name].parts.items() if name else ():
            total += part.share
            drops = self.drops.add(
                [self.abilities.index(ability) for ability in part.breaks.drops if ability in self.abilities]
            )
            rows.append(
                row(
                    PARTS,
                    up_to=total,
                    **self.effects.columns.of(PARTS, ("bodies", name, "parts", part_name), part),
                    **self.effects.columns.of(PARTS, (), part.breaks),
                    same_times=same_for_all(part.times),
                    **span("drop", drops),
                    name=self.effects.parts.index(part_name),
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
