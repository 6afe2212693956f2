"""What a formula may read: the names on one character's page, and on the line where two characters meet."""

from __future__ import annotations

import keyword
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING

from ..formula import ALONE, FUNCTIONS, SEEN, TAKES, asked
from ..frozen_classes import frozen

if TYPE_CHECKING:
    from collections.abc import Iterator

    from .brings import Bears
    from .damage import DamageKind
    from .rulebook import Rulebook

FACTS = (
    *("booked", "distance", "fall_speed", "fall_height", "asked", "at_user", "behind", "above", "crash_speed"),
    "speed_now",
)
"""What is true of a character only for a moment: on its page while an event is dealt with, and not otherwise."""
MET = ("level_gap", "distance", "behind", "above")
"""What is between two characters who meet: of the taker, how far behind it the dealer is and how much higher."""
MEETING_NAMES = ("power", "soak", "level_gap", "aim", "dodge")
RESERVED = frozenset(keyword.kwlist) | {*FUNCTIONS, *TAKES, *SEEN, "level", *FACTS, "safe_speed"}
"""Words with a meaning of their own on a character's page; no stat, gauge or line may take one for its name."""
RESERVED_LINES = RESERVED | {*MEETING_NAMES, "critical_chance", "critical_times", "spread", "held"}
"""Words that a line of a damage kind may not take for its name. A stat may: where two meet no stat is read."""


@frozen
class Page:
    """A set of names, and what to call it in a message."""

    title: str
    names: tuple[str, ...]

    @cached_property
    def known(self) -> frozenset[str]:
        """The same names, to look one up."""
        return frozenset(self.names)


def bearers(book: Rulebook) -> Iterator[tuple[tuple[str, ...], Bears]]:
    """Yield all that brings marks and reactions, with its path: buffs first, then all that is there from the beginning,
    then the parts that break."""
    for chapter in ("buffs", "classes", "origins", "abilities", "upgrades", "gear", "difficulties"):
        for name, entry in getattr(book, chapter).items():
            yield (chapter, name), entry
    for name, pieces in book.gear_sets.items():
        for count, bonus in pieces.worn.items():
            yield ("gear_sets", name, "worn", str(count)), bonus
    for name, body in book.bodies.items():
        for part_name, part in body.parts.items():
            yield ("bodies", name, "parts", part_name, "breaks"), part.breaks


def changed_names(entry: Bears) -> set[str]:
    """Return the names on its bearer's page that an entry changes: stats, and marks as formulas ask for them."""
    return {*getattr(entry, "stats", ()), *(f"marked({mark})" for mark in entry.marks)}


def marks(book: Rulebook) -> tuple[str, ...]:
    """Return every mark that something gives, in the order of `bearers`."""
    return book.kept(
        ("marks",), lambda: tuple(dict.fromkeys(mark for _, entry in bearers(book) for mark in entry.marks))
    )


def steady_names(book: Rulebook) -> tuple[str, ...]:
    """Return the names that change only when a character's stats do: level, stats and marks."""
    return ("level", *book.stats, *(f"marked({mark})" for mark in marks(book)))


@lru_cache(maxsize=1024)
def gauge_names(gauge: str) -> tuple[str, str, str]:
    """Return the three names of a gauge: its amount now, its top, its share of the top."""
    return gauge, f"{gauge}_top", f"{gauge}_fill"


def character_page(book: Rulebook) -> Page:
    """Return all that can be read on one character's page."""
    names = steady_names(book) + tuple(name for gauge in book.gauges for name in gauge_names(gauge))
    return Page("a character's page", names)


def steady_page(book: Rulebook) -> Page:
    """Return the page without its gauges, for the formulas that settle the gauges' tops."""
    return Page("a character's page, gauges apart", steady_names(book))


def fight_page(book: Rulebook, *facts: str) -> Page:
    """Return a character's page with all that it can see of a fight, and some facts of the moment, such as `booked` on
    the page of the unit that was hit. A distance in brackets may be any number."""
    title = f"a character's page with {' and '.join(facts)}" if facts else "a character's page"
    return Page(title, (*character_page(book).names, *facts, *ALONE, *seen_by_name(book)))


def seen_by_name(book: Rulebook) -> tuple[str, ...]:
    """Return what can be asked of a fight about an ability or a buff."""
    of_abilities = (asked(word, name) for word in ("ready", "winding_up") for name in book.abilities)
    return (*of_abilities, *(asked("stacks", name) for name in book.buffs))


LEVEL_PAGE = Page("a curve by level", ("level",))


def meeting_page(kind: DamageKind, formula: str) -> Page:
    """Return what `lands` or `settle` of a damage kind may read: the results of both characters' lines."""
    lines = (*kind.dealer_lines, *kind.taker_lines, *kind.rolled)
    if formula == "lands":
        return Page("the line where aim and dodge meet", ("aim", "dodge", *MET, *lines))
    return Page("the line where power and soak meet", ("power", "soak", *MET, *lines))
