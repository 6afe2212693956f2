"""Effects → rows: what abilities, beats, reactions, zones and supplies do."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache

from ...rulebook import Rulebook
from ...rulebook.abilities import Ability
from ...rulebook.effect_lists import flat
from ...rulebook.effects import (
    AnyEffect,
    Beat,
    BuildupEffect,
    ChoiceEffect,
    DamageEffect,
    DrainEffect,
    Effect,
    FillEffect,
    GiveEffect,
    GroupEffect,
    HealEffect,
    LayEffect,
    MendEffect,
    ProlongEffect,
    PushEffect,
    ReadyEffect,
    ReviveEffect,
    StepEffect,
    StripEffect,
    SummonEffect,
    TakeEffect,
)
from ...rulebook.meaning import ReadOn, Refers, fields
from ...rulebook.rules.damage import kinds
from ...rulebook.rules.effects import stripped
from ...rulebook.words import Receiver
from ..codes import (
    BUILDUP_EFFECT,
    CHOICE_EFFECT,
    COST_EFFECT,
    DAMAGE_EFFECT,
    DRAIN_EFFECT,
    FILL_EFFECT,
    GIVE_EFFECT,
    GROUP_EFFECT,
    LAY_EFFECT,
    MEND_EFFECT,
    NEVER,
    PROLONG_EFFECT,
    PUSH_EFFECT,
    READY_EFFECT,
    REVIVE_EFFECT,
    STEP_EFFECT,
    STRIP_EFFECT,
    SUMMON_EFFECT,
    TAKE_EFFECT,
)
from ..layout.ability_layout import EFFECTS
from ..reserves import sort_of
from ..unit import Sort
from .columns import Columns
from .compiled_formulas import CompiledFormulas
from .table_rows import Numbered, Pool, Rows, row, same_for_all, span
from .write_rolls import RollWriter

WHAT: dict[type, int] = {
    DamageEffect: DAMAGE_EFFECT,
    HealEffect: DAMAGE_EFFECT,
    FillEffect: FILL_EFFECT,
    DrainEffect: DRAIN_EFFECT,
    GiveEffect: GIVE_EFFECT,
    BuildupEffect: BUILDUP_EFFECT,
    StripEffect: STRIP_EFFECT,
    PushEffect: PUSH_EFFECT,
    StepEffect: STEP_EFFECT,
    MendEffect: MEND_EFFECT,
    SummonEffect: SUMMON_EFFECT,
    LayEffect: LAY_EFFECT,
    ReviveEffect: REVIVE_EFFECT,
    ReadyEffect: READY_EFFECT,
    ProlongEffect: PROLONG_EFFECT,
    TakeEffect: TAKE_EFFECT,
    GroupEffect: GROUP_EFFECT,
    ChoiceEffect: CHOICE_EFFECT,
}
"""What the kernel does for each kind of effect."""
OWN = ("times", "part", "steal", "most", "by", "stacks")
"""Columns of effects that some kinds give in a way of their own."""
HANGS_ON = ("part", "steal", "when", "if_", "chance", "avoid", "even", "after", "again", "later_times", "every_times")
PLAIN = dict.fromkeys(HANGS_ON, -1.0)
"""What an effect has that is aimed at no part and simply happens."""
NOT_HERE = -2
"""What no event in an encounter is about: an ability or a buff that nobody there has."""


@cache
def _own_fields(kind: type[AnyEffect]) -> list[tuple[str, str, Refers | ReadOn]]:
    """Return the fields that one kind of effect has and others have not, and that name something or are formulas: name,
    key and meaning. Of those that call units, and of names of abilities and zones, columns of their own tell."""
    return [
        (name, key, meaning)
        for name, key, shape in fields(kind)
        if name not in AnyEffect.model_fields and kind is not SummonEffect
        for meaning in shape.meanings
        if isinstance(meaning, ReadOn) or (isinstance(meaning, Refers) and meaning.noun not in ("ability", "zone"))
    ]


class EffectWriter:
    """Writes effects. `buffs` and `zones` are those of the encounter, `abilities`
    the causes of what its abilities do."""

    def __init__(
        self,
        book: Rulebook,
        lines: CompiledFormulas,
        buffs: list[str],
        abilities: dict[str, int],
        zones: Sequence[str],
        sorts: Sequence[Sort],
    ) -> None:
        self.book = book
        self.lines = lines
        self.buffs = buffs
        """By number; those of broken parts come behind."""
        self.abilities = abilities
        self.zones = Numbered((name, number) for number, name in enumerate(zones))
        self.sorts = sorts
        self.gauges = Rows(book.gauges)
        self.kinds = Rows(path for path, _ in kinds(book))
        self.parts = Rows(dict.fromkeys(part for body in book.bodies.values() for part in body.parts))
        numbered = {"gauge": self.gauges, "part": self.parts, "buff": buffs, "zone": Rows(zones)}
        self.columns = Columns(book, lines, {**numbered, "damage kind": self.kinds, "healing kind": self.kinds})
        self.effects = Pool()
        self.strips = Pool()
        self.loads = Pool()
        self.rolls = RollWriter(lines)
        self.evens = 0

    def number_even(self, evens_out: bool) -> int:
        """Number a chance that evens out; -1 for any other."""
        if not evens_out:
            return -1
        self.evens += 1
        return self.evens - 1

    def ability(self, path: tuple, entry: Ability) -> dict[str, float]:
        """Write what an ability costs, and directly behind that its effects; return where they begin and end."""
        rows = self._rows((*path, "does"), entry.does)
        channel = self._channel((*path, "channel"), entry.channel)
        costs = [
            row(
                EFFECTS,
                what=COST_EFFECT,
                index=self.gauges.index(gauge),
                times=1.0,
                to_user=1,
                line=self.lines.add((*path, "cost", gauge), amount),
                **PLAIN,
            )
            for gauge, amount in entry.cost.items()
        ]
        first_cost = self.effects.add(costs, (*path, "cost"))[0]
        effects = self.effects.add(rows, (*path, "does"))
        loads = self.loads.add(self._kinds_of(list(flat(entry.does))) if entry.projectile else [])
        return {"first_cost": first_cost, **span("effect", effects), **span("load", loads), **channel}

    def _kinds_of(self, effects: Sequence[Effect]) -> list[int]:
        """Return the kinds of all hits among effects, each once."""
        dealt = [("damage", effect.damage) for effect in effects if isinstance(effect, DamageEffect)]
        healed = [("healing", effect.heal) for effect in effects if isinstance(effect, HealEffect)]
        return [self.kinds.index(path) for path in dict.fromkeys((*dealt, *healed))]

    def _channel(self, path: tuple, channel: Beat | None) -> dict[str, float]:
        """Write what a wind-up repeats, as one group."""
        if channel is None:
            return {"channel": -1, "channel_times": -1}
        first, last = self.write((*path, "does"), channel.does)
        group = row(EFFECTS, what=GROUP_EFFECT, line=-1, first=first, last=last, **PLAIN)
        return {
            "channel": self.effects.add([group], path)[0],
            "channel_every": self.book.clock.ticks(channel.every),
            "channel_times": self.lines.add((*path, "every", "times"), channel.every.times),
        }

    def script_hits(self) -> int:
        """Write an effect for each damage kind, for a script's hits; return the first."""
        hits = [index for index, (chapter, _) in enumerate(self.kinds) if chapter == "damage"]
        rows = [row(EFFECTS, what=DAMAGE_EFFECT, index=index, times=1.0, line=-1, **PLAIN) for index in hits]
        return self.effects.add(rows, ("script",))[0]

    def follows(self) -> dict[tuple[str, str], tuple[int, int]]:
        """Write what follows checks; return where each list begins and ends, by check and end."""
        return {
            (name, end): self.write(("checks", name, "follows", end, "does"), follow.does)
            for name, check in self.book.checks.items()
            for end, follow in check.follows.items()
        }

    def write(self, path: tuple, effects: Sequence[Effect]) -> tuple[int, int]:
        """Write a list of effects; return where it begins and ends."""
        return self.effects.add(self._rows(path, effects), path)

    def _rows(self, path: tuple, effects: Sequence[Effect]) -> list[tuple]:
        """Return the rows of a list of effects. What they hold is written first, so that a list lies in one piece."""
        return [self._effect((*path, index), effect) for index, effect in enumerate(effects)]

    def _effect(self, path: tuple, effect: Effect) -> tuple:
        """Return the row of an effect: what it names is its index, what it is worked out by its line."""
        values: dict[str, float] = {"times": 1.0, "line": -1, **PLAIN}
        values["what"] = WHAT[type(effect)]
        values |= self._shared(path, effect)
        for name, key, meaning in _own_fields(type(effect)):
            value = getattr(effect, name)
            if isinstance(meaning, Refers):
                values["part" if meaning.noun == "part" else "index"] = self.columns.number(meaning.noun, value)
            elif value is not None:
                values["steal" if name == "steal" else "line"] = self.lines.add((*path, key), value)
        if isinstance(effect, ReadyEffect | ProlongEffect):
            values["by"] = self.book.clock.ticks(effect.by) if effect.by else -1
            values["by_times"] = self.lines.add((*path, "by", "times"), effect.by.times if effect.by else None)
        match effect:
            case DamageEffect() | HealEffect() if effect.times is not None:
                values["times"] = same_for_all(effect.times)
            case PushEffect():
                values["times"] = 1.0 if effect.push is not None else -1.0 if effect.pull is not None else 0.0
                values["index"] = -1 if effect.towards is None else effect.towards.code
            case LayEffect():
                values["index"] = self.zones.get(effect.lay or effect.lift or "", NOT_HERE)
                values["times"] = 1.0 if effect.lay else -1.0
            case SummonEffect():
                values |= self._called((*path, "strength"), effect)
            case StepEffect():
                values["index"] = effect.step.code
            case StripEffect() | ProlongEffect() | TakeEffect():
                values |= self._of_buffs(effect)
            case ReadyEffect():
                values["index"] = self.abilities.get(effect.ready or effect.hold_off or "", NOT_HERE)
                values["times"] = 1.0 if effect.ready else -1.0
            case GroupEffect():
                values["first"], values["last"] = self.write((*path, "does"), effect.does)
            case ChoiceEffect():
                values["first"], values["last"] = self._choices((*path, "one_of"), effect)
        return row(EFFECTS, **values)

    def _called(self, path: tuple, effect: SummonEffect) -> dict[str, float]:
        """Return the columns of an effect that calls units: which, how many, for how long, and what they bear."""
        sort, lasts = sort_of(effect), effect.lasts
        return {
            "index": self.sorts.index(sort) if sort in self.sorts else NOT_HERE,
            "line": self.lines.add((*path[:-1], "count"), effect.count),
            "most": effect.most,
            "by": self.book.clock.ticks(lasts) if lasts else NEVER,
            "by_times": self.lines.add((*path[:-1], "lasts", "times"), lasts.times if lasts else None),
            "stacks": self.columns.number("buff", effect.bears),
            "steal": self.lines.add(path, effect.strength),
            "times": float(effect.with_giver),
        }

    def _of_buffs(self, effect: StripEffect | ProlongEffect | TakeEffect) -> dict[str, float]:
        """Return the columns of an effect that changes buffs which are there."""
        rest: dict[str, float]
        match effect:
            case StripEffect():
                word, rest = effect.strip, {"most": effect.most, "stacks": effect.stacks or 0}
            case ProlongEffect():
                word, rest = effect.prolong or effect.shorten or "", {"times": 1.0 if effect.prolong else -1.0}
            case TakeEffect():
                word = effect.take or effect.hand_over or ""
                rest = {"most": effect.most, "times": 1.0 if effect.take else -1.0, "stacks": int(effect.copies)}
        first, last = self.named(word)
        return {"first": first, "last": last, **rest}

    def named(self, word: str) -> tuple[int, int]:
        """Write the buffs that a word stands for; return where they begin and end."""
        meant = set(stripped(self.book, word))
        return self.strips.add([number for number, buff in enumerate(self.buffs) if buff in meant])

    def _shared(self, path: tuple, effect: Effect) -> dict[str, float]:
        """Return the columns of what every effect may carry, and whether it carries any of it."""
        values = self.columns.of(EFFECTS, path, effect, without=OWN)
        for key in ("later", "every"):
            values[key] = values[key] % NEVER
        values["again"] = self.lines.add((*path, "repeat"), effect.repeat)
        values["even"] = self.number_even(effect.evens_out)
        branches = effect.asks or effect.is_for_several
        return {**values, "to_user": int(effect.to is Receiver.USER), "branches": int(branches)}

    def _choices(self, path: tuple, effect: ChoiceEffect) -> tuple[int, int]:
        """Write the choices of an effect, each a group whose line is its weight; return where they begin and end."""
        rows = []
        for index, choice in enumerate(effect.one_of):
            first, last = self.write((*path, index, "does"), choice.does)
            weight = self.lines.add((*path, index, "weight"), choice.weight)
            rows.append(row(EFFECTS, what=GROUP_EFFECT, line=weight, first=first, last=last, **PLAIN))
        return self.effects.add(rows)
