"""Who may be called into an encounter: the units that are kept ready for summoners."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..formula import evaluate_one
from ..rulebook import Rulebook
from ..rulebook.effect_lists import flat
from ..rulebook.effects import Effect, SummonEffect
from ..rulebook.in_use import called, effects_instead, in_use
from ..sheets import CharacterSpec, build_sheet
from .habits import habits
from .unit import Sort, Unit


def effects_of(book: Rulebook, unit: Unit) -> Iterator[Effect]:
    """Yield all that a unit can do by its abilities, and by what it is and bears from the beginning."""
    for name in dict.fromkeys(play.use for _, play in unit.plays if play.use):
        yield from book.abilities[name].effects
    body = book.classes[unit.sheet.who].body
    parts = book.bodies[body].parts.values() if body else ()
    for bears in (*(source.brings for source in unit.sheet.sources), *(part.breaks for part in parts)):
        yield from bears.answers
        yield from effects_instead(book, bears)


def sort_of(effect: SummonEffect) -> Sort:
    """Return what tells those whom an effect calls from others."""
    level = "" if effect.level is None else effect.level.text
    return effect.summon, level, effect.playbook or ""


def reserves(book: Rulebook, units: Sequence[Unit]) -> list[Unit]:
    """Return who can be called by each unit, and by those in turn: as many of a sort as there may be at a time."""
    if not called(book):
        return []
    found = list[Unit]()
    for root, unit in enumerate(units):
        waiting, most, made = [unit], dict[Sort, int](), dict[Sort, Unit]()
        while waiting:
            for effect in _summons(book, list(effects_of(book, waiting.pop()))):
                sort = sort_of(effect)
                most[sort] = max(most.get(sort, 0), effect.most)
                if sort not in made:
                    made[sort] = _called(book, unit, root, effect)
                    waiting.append(made[sort])
        for sort, one in made.items():
            for number in range(most[sort]):
                name = f"{one.name} {number + 1} of {unit.name}" if most[sort] > 1 else f"{one.name} of {unit.name}"
                found.append(one.named(name))
    return found


def _summons(book: Rulebook, effects: list[Effect]) -> list[SummonEffect]:
    """Return every call for units among effects and all that comes of them."""
    every = (*flat(effects), *in_use(book, effects).effects)
    return [effect for effect in every if isinstance(effect, SummonEffect)]


def _called(book: Rulebook, unit: Unit, root: int, effect: SummonEffect) -> Unit:
    """Return one whom an effect calls for a unit, by the name of its class."""
    level = unit.sheet.level
    if effect.level is not None:
        first, last = book.rulebook.levels
        level = int(min(max(evaluate_one(effect.level, {"level": float(level)}), first), last))
    sheet = build_sheet(book, CharacterSpec(effect.summon, level, difficulty=unit.sheet.spec.difficulty))
    label = book.classes[effect.summon].label or effect.summon
    made = habits(book, sheet, effect.playbook, None, 1)
    return Unit(label, unit.side, sheet, *made, None, label, root=root, sort=sort_of(effect))
