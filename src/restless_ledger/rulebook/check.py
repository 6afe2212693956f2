"""What must be true of a whole rulebook: names exist, formulas can be read, and each chapter keeps its own rules."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from itertools import chain

from .abilities import Ability
from .alterations import Alteration
from .damage import DamageKind
from .former import FILLED
from .meaning import AtLevel, Found, Lasts, ReadOn, Refers, Says
from .measures import Rate
from .pages import LEVEL_PAGE, Page, character_page, fight_page, marks, meeting_page, steady_page
from .place import Supply
from .problems import Report, nearest
from .rulebook import Rulebook
from .rules import (
    abilities,
    amounts,
    bodies,
    buffs,
    characters,
    checks,
    classes,
    clock,
    creation,
    damage,
    effects,
    encounters,
    examples,
    experience,
    gauges,
    gear,
    journeys,
    lives,
    mitigations,
    named,
    place,
    playbooks,
    promises,
    reactions,
    stats,
    upgrades,
    zones,
)
from .sayings import NAME
from .walks import walk_book, walk_entry
from .zones import Zone

RULES = {
    clock: ("clock", "abilities"),
    named: (),
    stats: ("stats",),
    gauges: ("gauges",),
    damage: ("damage", "healing"),
    bodies: ("bodies",),
    classes: ("classes",),
    experience: ("experience",),
    creation: ("creation", "origins"),
    checks: ("checks",),
    gear: ("gear", "gear_sets", "rarities"),
    upgrades: ("upgrades", "plans"),
    abilities: ("abilities",),
    buffs: ("buffs",),
    playbooks: ("playbooks",),
    lives: ("lives",),
    place: ("arenas",),
    zones: ("zones", "arenas"),
    encounters: ("encounters", "arenas"),
    journeys: ("journeys", "stages"),
    examples: ("examples",),
    promises: ("promises",),
}
"""The rules of each chapter, in the order in which they report, and the chapters whose numbers they ask. Of all others
they ask only names and what is written at all, which no other number changes."""


def check(book: Rulebook, report: Report) -> None:
    """Report every name that is not declared, every formula that can't be read where it stands, every level and every
    duration that can't be, and what breaks a chapter's own rules."""
    _check_found(book, report, walk_book(book))
    amounts.check(book, report, ((name,) for name in type(book).model_fields))
    for rules in RULES:
        rules.check(book, report)


def check_entries(book: Rulebook, report: Report, entries: Collection[tuple]) -> None:
    """Report the same of a rulebook of which only numbers in these entries have changed since it was checked: each by
    chapter and name, or by chapter alone."""
    found = (walk_entry(book, entry) for entry in entries)
    _check_found(book, report, chain.from_iterable(found))
    amounts.check(book, report, entries)
    changed = {entry[0] for entry in entries}
    for rules, asked in RULES.items():
        if changed.intersection(asked):
            rules.check(book, report)


def _check_found(book: Rulebook, report: Report, every: Iterable[Found]) -> None:
    known, pages = Known(book), Pages(book)
    for found in every:
        for meaning in found.meanings:
            match meaning:
                case Refers():
                    known.check(report, found.path, meaning, found.value)
                case ReadOn():
                    report.formula(found.path, found.value, pages.page(meaning, found))
                case Lasts():
                    lasts = found.value.every if isinstance(found.value, Rate) else found.value
                    clock.check_duration(book, report, found.path, lasts, meaning.some)
                case Says():
                    for program in found.value.formulas:
                        if program.text not in (*book.texts, NAME):
                            report.formula(found.path, program, character_page(book))
                case AtLevel():
                    _check_level(book, report, found.path, found.value)
        _check_entry(book, report, found)


class Known:
    """The names that a rulebook declares, by what they are."""

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        self._names: dict[str, tuple[str, ...]] = {}

    def names(self, noun: str, chapter: str) -> tuple[str, ...]:
        """Return every name of a kind, in the order of the rulebook."""
        if noun not in self._names:
            match noun:
                case "part":
                    found = [part for body in self.book.bodies.values() for part in body.parts]
                case "school":
                    found = [ability.school for ability in self.book.abilities.values() if ability.school]
                case "mark":
                    found = list(marks(self.book))
                case _:
                    found = list(getattr(self.book, chapter))
            self._names[noun] = tuple(dict.fromkeys(found))
        return self._names[noun]

    def check(self, report: Report, path: tuple, meaning: Refers, got: str) -> None:
        """Report a name that is not declared."""
        names = self.names(meaning.noun, meaning.chapter)
        if meaning.noun != "mark":
            hint = FILLED if meaning.noun == "healing kind" else ""
            report.reference(path, meaning.noun, got, meaning.chapter, names, hint=hint)
        elif got not in names and not report.broken.get("buffs"):
            report.add(path, "nothing gives this mark", got, nearest(got, names))


class Pages:
    """The pages that the formulas of a rulebook are read on."""

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        self._pages: dict[tuple[str, ...], Page] = {}

    def page(self, meaning: ReadOn, found: Found) -> Page:
        """Return what a formula may read where it stands."""
        if isinstance(found.owner, DamageKind) and meaning.page in ("lands", "settle"):
            return meeting_page(found.owner, meaning.page)
        facts = meaning.facts if meaning.others else tuple(dict.fromkeys((*meaning.facts, *found.facts)))
        facts += found.lines if meaning.lines else ()
        if (meaning.page, *facts) not in self._pages:
            self._pages[meaning.page, *facts] = self._page(meaning.page, facts)
        return self._pages[meaning.page, *facts]

    def _page(self, page: str, facts: tuple[str, ...]) -> Page:
        if page == "level":
            return LEVEL_PAGE
        if page == "steady":
            return steady_page(self.book)
        return character_page(self.book) if page == "figure" else fight_page(self.book, *facts)


def _check_level(book: Rulebook, report: Report, path: tuple, level: int) -> None:
    first, last = book.rulebook.levels
    if not first <= level <= last:
        report.add(path, f"levels go from {first} to {last}", level, "choose one of them")


def _check_entry(book: Rulebook, report: Report, found: Found) -> None:
    """Report what is wrong with an entry that many chapters hold."""
    match found.value:
        case reactions.Reaction():
            reactions.check(book, report, found.path, found.value)
            effects.check_list(report, found.path, found.value)
        case mitigations.Mitigation():
            mitigations.check(report, found.path, found.value)
            effects.check_list(report, found.path, found.value)
        case effects.Beat():
            effects.check_list(report, found.path, found.value)
        case Ability() | Supply():
            effects.check_effects(report, (*found.path, "does"), found.value.does)
        case Zone():
            effects.check_effects(report, (*found.path, "entering"), found.value.entering)
            effects.check_effects(report, (*found.path, "leaving"), found.value.leaving)
        case Alteration():
            abilities.check_alteration(book, report, found.path, found.value)
        case characters.Character():
            characters.check_attributes(book, report, found.path, found.value)
        case effects.AnyEffect():
            effects.check(book, report, found.path, found.value)
