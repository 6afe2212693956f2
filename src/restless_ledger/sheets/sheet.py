"""A character's sheet: every stat resolved, each with its lines of origin."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import field, replace
from functools import cached_property
from typing import Any

from ..formula.explain import number
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.frozen import FrozenDict
from ..rulebook.pages import gauge_names
from ..rulebook.problems import nearest
from .brought import Source
from .figures import GaugeFigure, StatFigure
from .gear import Item, Standing
from .page import changes_by_stat, held_gauges
from .spec import CharacterSpec, buffs_on, described
from .stat_lines import own_lines_of, stat_figure
from .unlocks import Known


@frozen
class Sheet(Result):
    """One character at one level. A value: two sheets share nothing that can change.

    Its table, `figures`, has a record for each stat and gauge: name, what it is, value, and where the value comes from.
    """

    TABLES = ("figures",)

    spec: CharacterSpec
    """Who it is: level, gear and all else that was chosen."""
    known: Known
    standing: tuple[Standing, ...]
    sources: tuple[Source, ...]
    """What passive abilities, gear and sets change."""
    page: Mapping[str, float]
    """The value of every name that its formulas may read."""
    book: Rulebook = field(compare=False)
    build: Callable[[Rulebook, CharacterSpec], Sheet] = field(compare=False)
    """What builds a sheet, for the same character with something else."""

    @cached_property
    def stats(self) -> Mapping[str, StatFigure]:
        """Every stat, in the order of the rulebook."""
        own, owner = own_lines_of(self.book, self.spec), described(self.book, self.spec)
        changes = changes_by_stat([*self.standing, *buffs_on(self.book, self.spec)])
        found = {
            name: stat_figure(self.book, own[name], name, changes.get(name, ()), owner, self.page)
            for name in self.book.stats
        }
        return FrozenDict(found)

    @cached_property
    def gauges(self) -> Mapping[str, GaugeFigure]:
        """Every gauge that it holds, in the order of the rulebook."""
        owner = described(self.book, self.spec)
        return FrozenDict({name: self._gauge(name, owner) for name in held_gauges(self.book, self.who)})

    def _gauge(self, name: str, owner: str) -> GaugeFigure:
        gauge, (now, top, _) = self.book.gauges[name], gauge_names(name)
        flows = (("", gauge.refill), ("wanes by ", gauge.wanes))
        read = {each: self.page[each] for each in gauge.top.names}
        place = self.book.place("gauges", name, "top")
        label, page = gauge.label or name, self.page
        return GaugeFigure(name, label, page[top], page[now], flows, gauge.top, read, owner, place)

    @property
    def who(self) -> str:
        """The class."""
        return self.spec.who

    @property
    def label(self) -> str:
        """The name of the class that people read."""
        return self.book.classes[self.who].label or self.who

    @property
    def level(self) -> int:
        """The level."""
        return self.spec.level or 0

    @property
    def buffs(self) -> tuple[str, ...]:
        """The buffs that are on."""
        return tuple(self.spec.buffs)

    @property
    def origin(self) -> str | None:
        """Where it comes from."""
        return self.spec.origin

    @property
    def attributes(self) -> Mapping[str, int]:
        """What the player chose, before what the origin adds."""
        return self.spec.attributes

    @property
    def gear(self) -> tuple[Item, ...]:
        """What it wears."""
        return tuple(item for item in self.spec.gear if isinstance(item, Item))

    @property
    def taught(self) -> tuple[str, ...]:
        """Abilities that it was taught."""
        return tuple(self.spec.taught)

    @property
    def bought(self) -> Mapping[str, int]:
        """The levels of upgrades."""
        return self.spec.bought

    @property
    def abilities(self) -> tuple[str, ...]:
        """The abilities that it can use."""
        return self.known.abilities

    @property
    def passives(self) -> tuple[str, ...]:
        """The passive abilities that it bears."""
        return self.known.passives

    @property
    def barred(self) -> Mapping[str, str]:
        """What is known but can't be used, each with the reason."""
        return self.known.barred

    @property
    def to_come(self) -> Mapping[str, int]:
        """What the class has yet to learn, and at which level."""
        return self.known.to_come

    def text(self, name: str) -> str:
        """Return a text of the character. Raises `InputError` on an unknown name, and one that stands for a number."""
        if name not in self.book.texts:
            if name in self.page:
                raise InputError(f'{self.label}: {name} is a number, and no text\n    ask for sheet["{name}"]')
            raise InputError(f"{self.label} has no text {name}\n    {nearest(str(name), self.book.texts)}")
        own, of_class = self.spec.texts, self.book.classes[self.who].texts
        return own.get(name) or of_class.get(name) or self.book.texts[name].text

    @property
    def texts(self) -> dict[str, str]:
        """Every text of the character, by name."""
        return {name: self.text(name) for name in self.book.texts}

    def tells(self, name: str) -> str:
        """Return what people read about an ability, a buff or a piece of gear, with this character's figures.

        Empty where nothing is written. Raises `InputError` on an unknown name.
        """
        chapters = (self.book.abilities, self.book.buffs, self.book.gear)
        entry = next((chapter[name] for chapter in chapters if name in chapter), None)
        if entry is None:
            known = [each for chapter in chapters for each in chapter]
            raise InputError(f"tells: there is no ability, buff or gear {name}\n    {nearest(str(name), known)}")
        return entry.tells.told(self.page, {**self.texts, "name": self.label}) if entry.tells else ""

    def __getitem__(self, name: str) -> StatFigure | GaugeFigure:
        if name in self.stats:
            return self.stats[name]
        if name in self.book.texts:
            raise InputError(f'{self.label}: {name} is a text, and no number\n    ask for sheet.text("{name}")')
        if name not in self.gauges:
            known = nearest(str(name), (*self.stats, *self.gauges))
            raise InputError(f"{self.label} has no stat and no gauge {name}\n    {known}")
        return self.gauges[name]

    def __iter__(self) -> Iterator[str]:
        return iter((*self.stats, *self.gauges))

    def change(self, **what: Any) -> Sheet:
        """Return the sheet of the same character with something else: `who`, `level`, `buffs`, `origin`, `attributes`,
        `gear`, `taught` or `bought`. Raises as building it anew does."""
        return self.build(self.book, replace(self.spec, **what))

    def why(self, name: str) -> str:
        """Say where a stat or gauge comes from, or whether an ability can be used, and if not why. Raises `InputError`
        on an unknown name."""
        if name in tuple(self):
            return self[name].why()
        if name not in self.book.abilities:
            known = [*self, *self.abilities, *self.passives, *self.barred, *self.to_come]
            raise InputError(f"sheet: {self.who} has no stat, gauge or ability {name}\n    {nearest(name, known)}")
        place = self.book.place("abilities", name)
        if name in self.barred:
            return f"{self.who}, level {self.level}, knows {name} but can't use it: {self.barred[name]}\n  {place}"
        if name in self.abilities or name in self.passives:
            passive = ", passively" if name in self.passives else ""
            granted = self._granted(name)
            return f"{self.who}, level {self.level}, knows {name}{passive}{granted}\n  {place}"
        if name in self.to_come:
            at = str(self.to_come[name])
            where = self.book.place("classes", self.who, "learns", at)
            return f"{self.who}, level {self.level}, does not know {name} yet: it is learned at level {at}\n  {where}"
        return f"{self.who} never learns {name} by itself: only an event or gear can bring it\n  {place}"

    def _granted(self, ability: str) -> str:
        """Say what grants an ability, where its class does not know it by itself."""
        if ability in self.book.classes[self.who].knows(self.level) or ability in self.taught:
            return ""
        by = [source.name for source in self.sources if ability in source.brings.grants]
        return f", granted by {' and '.join(by)}" if by else ""

    def _records(self, table: str) -> list[dict[str, Any]]:
        stats = [
            {
                "name": name,
                "is": "stat",
                "value": figure.value,
                "from": "; ".join(f"{line.step} {line.what}" for line in figure.lines),
            }
            for name, figure in self.stats.items()
        ]
        gauges = [
            {"name": name, "is": "gauge", "value": figure.top, "from": str(figure.explanation)}
            for name, figure in self.gauges.items()
        ]
        return [*stats, *gauges]

    def finding(self) -> str:
        """Say in a sentence who it is."""
        figures = ", ".join(f"{name} {number(figure.value)}" for name, figure in list(self.gauges.items())[:3])
        return f"{self.label} of level {self.level}: {figures}"
