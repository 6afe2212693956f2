"""What the checks of an audit share about one rulebook, each thing worked out once, when it is first asked for."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Hashable
from functools import cached_property
from typing import Any, TypeVar

import numpy as np

from ..analysis.expected_damage import ExpectedDamage, Takers
from ..formula import Program, evaluate, is_seen
from ..formula.arrays import Array
from ..rulebook import Rulebook
from ..rulebook.brings import Unlocks
from ..rulebook.buffs import Buff
from ..rulebook.characters import Character
from ..rulebook.damage import DamageKind
from ..rulebook.effect_lists import given_by
from ..rulebook.effects import AnyEffect, DamageEffect, Effect, SummonEffect
from ..rulebook.entries import Entry
from ..rulebook.meaning import Found
from ..rulebook.pages import bearers, marks
from ..rulebook.quantities import Duration
from ..rulebook.reactions import Reaction
from ..rulebook.rulebook import GUARDS
from ..rulebook.walks import walk_book
from ..rulebook.words import Receiver
from ..sheets.by_level import PageByLevel, learned, page_by_level
from ..sheets.growth import growth_by_level
from ..sheets.page import held_gauges
from .meetings import meetings
from .sampling import Pages, meeting, sample_pages

Kept = TypeVar("Kept")


class AuditContext:
    """One rulebook under audit."""

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        first, last = book.rulebook.levels
        self.levels = np.arange(first, last + 1)
        self._met: dict[tuple[str, str], Pages] = {}
        self._kept: dict[Hashable, Any] = {}

    @cached_property
    def expected(self) -> ExpectedDamage:
        """The average blows of the rulebook."""
        return ExpectedDamage(self.book, len(self.meetings))

    @cached_property
    def nodes(self) -> list[tuple[tuple, Any]]:
        """Every entry and value that the game's chapters hold, with its path."""
        return [(found.path, found.value) for found in self.found if isinstance(found.value, Entry | Program)]

    @cached_property
    def found(self) -> list[Found]:
        """Every entry, formula and value with a meaning that the game's chapters hold."""
        return list(walk_book(self.book, GUARDS))

    @cached_property
    def durations(self) -> list[tuple[tuple, Duration]]:
        """Every duration that is written, with its path."""
        return [(found.path, found.value) for found in self.found if isinstance(found.value, Duration)]

    @cached_property
    def formulas(self) -> list[tuple[tuple, Program]]:
        """Every formula with its path. Named formulas are a part of those that use them."""
        return [(path, value) for path, value in self.nodes if isinstance(value, Program) and path[0] != "formulas"]

    @cached_property
    def effects(self) -> list[tuple[tuple, Effect]]:
        """Every effect of abilities, buffs, reactions and supplies, with its path."""
        return [(path, value) for path, value in self.nodes if type(value).__name__.endswith("Effect")]

    def receivers_of(self, path: tuple) -> set[Receiver]:
        """Return the words that say who receives an effect at a path: its own, and those of the groups it stands in."""
        return {each.to for where, each in self.effects if path[: len(where)] == where and isinstance(each, AnyEffect)}

    @cached_property
    def readers(self) -> dict[str, list[tuple]]:
        """By name, the paths of the formulas that read it."""
        found: dict[str, list[tuple]] = defaultdict(list)
        for path, program in self.formulas:
            for name in program.names:
                found[name].append(path)
        return found

    @cached_property
    def mark_readers(self) -> dict[str, list[tuple]]:
        """By mark, the paths of all that asks for it: formulas, barred_by, reactions, strips."""
        found = {mark: list(self.readers.get(f"marked({mark})", ())) for mark in marks(self.book)}
        for path, node in self.nodes:
            if isinstance(node, Buff | DamageKind):
                for mark in node.barred_by:
                    found[mark].append((*path, "barred_by"))
            elif isinstance(node, Reaction) and node.mark is not None:
                found[node.mark].append((*path, "mark"))
            for key in ("strip", "prolong", "shorten", "take", "hand_over"):
                if isinstance(node, AnyEffect) and getattr(node, key, None) in found:
                    found[getattr(node, key)].append((*path, key))
            for index, word in enumerate(node.replaces if isinstance(node, Buff) else ()):
                if word in found:
                    found[word].append((*path, "replaces", index))
        return found

    @cached_property
    def characters(self) -> list[tuple[tuple, Character]]:
        """Every character that encounters and journeys name."""
        return [(path, value) for path, value in self.nodes if isinstance(value, Character)]

    @cached_property
    def learners(self) -> dict[str, dict[str, int]]:
        """By ability, the classes that learn it and may use it, and at which level."""
        found: dict[str, dict[str, int]] = {name: {} for name in self.book.abilities}
        for who in self.book.classes:
            for name, level in learned(self.book, who):
                found[name].setdefault(who, level)
        return found

    @cached_property
    def reached(self) -> set[str]:
        """Every ability that somebody gets to know or to use."""
        return {name for name, who in self.learners.items() if who} | self.brought

    @cached_property
    def brought(self) -> set[str]:
        """Every ability that comes otherwise than by learning it: taught by a stage or a school that opens, granted by
        gear, an upgrade or a buff, or in the place of another one."""
        taught = {name for _, character in self.characters for name in character.taught}
        for stage in self.book.stages.values():
            gifts = [gift.teaches for gift in stage.gifts.values()]
            taught |= {name for names in (*stage.teaches.values(), *gifts) for name in names}
        unlocks = [entry for _, entry in bearers(self.book) if isinstance(entry, Unlocks)]
        granted = {name for entry in unlocks for name in entry.grants}
        granted |= {name for buff in self.book.buffs.values() for name in buff.grants}
        put = {each.becomes for _, entry in bearers(self.book) for each in entry.alters.values() if each.becomes}
        opened = {school for entry in unlocks for school in entry.opens}
        opened_up = {
            name
            for who in self.book.classes.values()
            for names in who.learns.values()
            for name in names
            if self.book.abilities[name].school in opened
        }
        return taught | granted | put | opened_up

    @cached_property
    def given(self) -> dict[str, list[tuple]]:
        """By buff, the paths of the effects and the zones that put it on somebody."""
        found: dict[str, list[tuple]] = defaultdict(list)
        for path, effect in self.effects:
            for name in given_by([effect]):
                found[name].append(path)
        for name, zone in self.book.zones.items():
            if zone.inside is not None:
                found[zone.inside].append(("zones", name, "inside"))
        return found

    @cached_property
    def summons(self) -> list[SummonEffect]:
        """Every effect that calls units."""
        return [effect for _, effect in self.effects if isinstance(effect, SummonEffect)]

    @cached_property
    def meetings(self) -> list[tuple[str, str]]:
        """Every pair of classes of which the first can fight the second; all pairs without any encounter."""
        return meetings(self.book, {effect.summon for effect in self.summons})

    def foes(self, who: str) -> list[str]:
        """Return the classes that can fight one."""
        return self._foes.get(who, [])

    @cached_property
    def _foes(self) -> dict[str, list[str]]:
        found: dict[str, list[str]] = defaultdict(list)
        for by, on in self.meetings:
            found[on].append(by)
        return found

    @cached_property
    def curves(self) -> list[tuple[str, str, Array]]:
        """Every class's growth of each stat by level, before any limit, where all of it is finite."""
        levels = self.book.rulebook.levels
        found = [
            (who, stat, growth_by_level(growth, levels))
            for who, character in self.book.classes.items()
            for stat, growth in character.growth.items()
        ]
        return [curve for curve in found if np.isfinite(curve[2]).all()]

    def holders(self, gauge: str) -> list[str]:
        """Return the classes that hold a gauge."""
        return [who for who in self.book.classes if gauge in held_gauges(self.book, who)]

    def page(self, who: str) -> PageByLevel:
        """The page of a class at every level."""
        return self.kept(("page", who), lambda: page_by_level(self.book, who))

    def by_level(self, program: Program, who: str) -> Array:
        """Return the values of a formula on a class's own page, of shape (levels,)."""
        return np.broadcast_to(evaluate(program, self.page(who)), self.levels.shape)

    def dealers(self, kind: str) -> list[str]:
        """Return the classes that learn an ability which deals a damage kind."""
        return self._dealers[kind]

    @cached_property
    def _dealers(self) -> dict[str, list[str]]:
        found: dict[str, dict[str, None]] = {kind: {} for kind in self.book.damage}
        for ability, who in self.learners.items():
            for effect in self.book.abilities[ability].effects:
                if isinstance(effect, DamageEffect):
                    found[effect.damage].update(dict.fromkeys(who))
        return {kind: list(names) for kind, names in found.items()}

    @cached_property
    def sampled(self) -> Pages:
        """Pages spread over the declared ranges."""
        return sample_pages(self.book, seen=self._seen)

    def met(self, chapter: str, kind: str) -> Pages:
        """Return what meets on the line of a kind, for dealers and takers spread over the declared ranges."""
        if (chapter, kind) not in self._met:
            self._met[chapter, kind] = meeting(getattr(self.book, chapter)[kind], self.sampled, self._takers)
        return self._met[chapter, kind]

    @cached_property
    def _takers(self) -> Pages:
        return sample_pages(self.book, turn=1, seen=self._seen)

    @cached_property
    def _seen(self) -> list[str]:
        """The names that ask something of a fight, in the order of the formulas."""
        return list(dict.fromkeys(name for _, program in self.formulas for name in program.names if is_seen(name)))

    def kept(self, key: Hashable, work_out: Callable[[], Kept]) -> Kept:
        """Return what was worked out for this audit before, or work it out and keep it."""
        if key not in self._kept:
            self._kept[key] = work_out()
        return self._kept[key]

    def harmful(self, who: str) -> list[tuple[str, int]]:
        """Return the abilities of a class that harm, with the level at which each is learned."""
        return [(name, level) for name, level in learned(self.book, who) if self.book.abilities[name].harms]

    def known(self, level: int) -> np.ndarray:
        """Return at which levels something is known that is learned at one, of shape (levels,)."""
        return self.levels >= level

    def best_blow(self, by: str, on: str) -> tuple[Array, Array]:
        """Return, at each level, the most that one use and one second bring a class against another; both are NaN while
        it knows nothing that harms."""
        takers = self.expected.together(on)
        amount, rate = self.kept(("best blow", by, takers), lambda: self._best_blow(by, takers))
        return amount[takers.index(on)], rate[takers.index(on)]

    def _best_blow(self, by: str, takers: Takers) -> tuple[Array, Array]:
        amount, rate = (np.full((len(takers), len(self.levels)), np.nan) for _ in range(2))
        for ability, level in self.harmful(by):
            found, known = self.expected.on_several(by, takers, ability), self.known(level)
            amount = np.where(known, np.fmax(amount, found.amount), amount)
            rate = np.where(known, np.fmax(rate, found.per_second), rate)
        return amount, rate

    def all_damage(self, by: str, on: str) -> Array:
        """Return, at each level, what all that a class knows brings a second against another, used side by side: no
        less than what one of it can bring, on average."""
        rate = np.zeros(len(self.levels))
        for ability, level in self.harmful(by):
            rate = rate + np.where(self.known(level), self.expected.of_ability(by, on, ability).per_second, 0.0)
        return rate

    def soonest(self, ability: str, who: str | None = None) -> float:
        """Return how long it is at least from one use of an ability to the next, for a class or for all who learn it,
        in seconds (or rounds)."""
        users = [who] if who else list(self.learners[ability]) or list(self.book.classes)
        return min((float(self.expected.seconds(user, ability).min()) for user in users), default=np.inf)

    def most_together(self, ability: str) -> int:
        """Return by how many uses an ability can come at once: charges, and those on one side of an encounter that may
        know it."""
        users = self.learners[ability] or self.book.classes
        sides = [
            sum(group.count for group in side.units if group.who in users)
            for encounter in self.book.encounters.values()
            for side in encounter.sides
        ]
        parties = [sum(member.who in users for member in journey.party) for journey in self.book.journeys.values()]
        return self.book.abilities[ability].charges * max([1, *sides, *parties])
