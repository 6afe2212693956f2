"""Effects and reactions → rows: what abilities, beats, reactions and supplies do."""

from __future__ import annotations

from collections.abc import Sequence

from ...rulebook import Rulebook
from ...rulebook.effects import (
    BuildupEffect,
    DamageEffect,
    DrainEffect,
    Effect,
    FillEffect,
    GiveEffect,
    HealEffect,
    PushEffect,
    ReviveEffect,
    StripEffect,
)
from ...rulebook.meaning import ReadOn, Refers, fields
from ...rulebook.reactions import Reaction
from ...rulebook.rules.damage import kinds
from ...rulebook.rules.effects import stripped
from ..codes import (
    BUILDUP_EFFECT,
    COST_EFFECT,
    DAMAGE_EFFECT,
    DRAIN_EFFECT,
    FILL_EFFECT,
    GIVE_EFFECT,
    PUSH_EFFECT,
    REVIVE_EFFECT,
    STRIP_EFFECT,
)
from ..layout.table_layout import EFFECTS, REACTIONS
from .columns import Columns
from .compiled_formulas import CompiledFormulas
from .table_rows import Pool, row

WHAT: dict[type, int] = {
    DamageEffect: DAMAGE_EFFECT,
    HealEffect: DAMAGE_EFFECT,
    FillEffect: FILL_EFFECT,
    DrainEffect: DRAIN_EFFECT,
    GiveEffect: GIVE_EFFECT,
    BuildupEffect: BUILDUP_EFFECT,
    StripEffect: STRIP_EFFECT,
    PushEffect: PUSH_EFFECT,
    ReviveEffect: REVIVE_EFFECT,
}
"""What the kernel does for each kind of effect."""


class EffectWriter:
    """Writes effects, and the reactions that lead to them. `buffs` are those of the encounter."""

    def __init__(self, book: Rulebook, lines: CompiledFormulas, buffs: Sequence[str]) -> None:
        self.book = book
        self.lines = lines
        self.buffs = buffs
        self.gauges = list(book.gauges)
        self.kinds = [path for path, _ in kinds(book)]
        self.parts = list(dict.fromkeys(part for body in book.bodies.values() for part in body.parts))
        numbered = {"gauge": self.gauges, "part": self.parts, "buff": buffs}
        self.columns = Columns(book, lines, {**numbered, "damage kind": self.kinds, "healing kind": self.kinds})
        self.effects = Pool()
        self.strips = Pool()
        self.reactions: list[tuple] = []

    def costs(self, ability: str) -> int:
        """Write an ability's costs; return where they begin. Its effects follow directly."""
        rows = [
            row(
                EFFECTS,
                what=COST_EFFECT,
                index=self.gauges.index(gauge),
                times=1.0,
                part=-1,
                steal=-1,
                to_user=1,
                line=self.lines.add(("abilities", ability, "cost", gauge), amount),
            )
            for gauge, amount in self.book.abilities[ability].cost.items()
        ]
        return self.effects.add(rows)[0]

    def script_hits(self) -> int:
        """Write an effect for each damage kind, for a script's hits; return the first."""
        hits = [index for index, (chapter, _) in enumerate(self.kinds) if chapter == "damage"]
        rows = [row(EFFECTS, what=DAMAGE_EFFECT, index=index, times=1.0, line=-1, part=-1, steal=-1) for index in hits]
        return self.effects.add(rows)[0]

    def write(self, path: tuple, effects: Sequence[Effect]) -> tuple[int, int]:
        """Write a list of effects; return where it begins and ends."""
        return self.effects.add([self._effect((*path, index), effect) for index, effect in enumerate(effects)])

    def _effect(self, path: tuple, effect: Effect) -> tuple:
        """Return the row of an effect: what it names is its index, what it is worked out by its line."""
        values: dict[str, float] = {
            "times": 1.0,
            "to_user": int(effect.to == "user"),
            "line": -1,
            "part": -1,
            "steal": -1,
        }
        values["what"] = WHAT[type(effect)]
        for name, key, shape in fields(type(effect)):
            value = getattr(effect, name)
            for meaning in shape.meanings:
                if isinstance(meaning, Refers):
                    values["part" if meaning.noun == "part" else "index"] = self.columns.number(meaning.noun, value)
                elif isinstance(meaning, ReadOn) and value is not None:
                    values["steal" if name == "steal" else "line"] = self.lines.add((*path, key), value)
        match effect:
            case PushEffect():
                values["times"] = 1.0 if effect.push is not None else -1.0
            case StripEffect():
                named = [self.buffs.index(buff) for buff in stripped(self.book, effect.strip) if buff in self.buffs]
                values["first_strip"], values["last_strip"] = self.strips.add(named)
                values["most"] = effect.most
        return row(EFFECTS, **values)

    def react(self, path: tuple, reactions: Sequence[Reaction], cause: int) -> tuple[int, int]:
        """Write reactions, which book under a cause (-1: their bearer's class); return where they begin and end."""
        rows = []
        for index, reaction in enumerate(reactions):
            here = (*path, index)
            first, last = self.write((*here, "does"), reaction.does)
            mark = self.lines.slots[f"marked({reaction.mark})"] if reaction.mark else -1
            plain = self.columns.of(REACTIONS, here, reaction, without=("mark",))
            rows.append(row(REACTIONS, **plain, mark=mark, first_effect=first, last_effect=last, cause=cause))
        start = len(self.reactions)
        self.reactions += rows
        return start, len(self.reactions)
