"""Rules of damage kinds, and the order in which the engine numbers them."""

from __future__ import annotations

from collections.abc import Iterator

from ..damage import DamageKind
from ..pages import RESERVED_LINES, character_page
from ..problems import Report
from ..rolls import Deck
from ..rulebook import Rulebook


def kinds(book: Rulebook) -> Iterator[tuple[tuple[str, str], DamageKind]]:
    """Yield every damage kind, then every healing kind, with its path. The engine numbers them in this order."""
    for chapter in ("damage", "healing"):
        for name, kind in getattr(book, chapter).items():
            yield (chapter, name), kind


def check(book: Rulebook, report: Report) -> None:
    """An extra line needs a name of its own, and a chance to land an aim."""
    for here, kind in kinds(book):
        if here[0] == "healing" and here[1] in book.damage:
            report.add(here, "a damage kind has this name too", here[1], "rename one of them")
        for line in (*kind.dealer_lines, *kind.taker_lines):
            side = "dealer_lines" if line in kind.dealer_lines else "taker_lines"
            report.own_name((*here, side, line), line, RESERVED_LINES)
        for line in sorted(set(kind.dealer_lines) & set(kind.taker_lines)):
            report.add(
                (*here, "taker_lines", line), "the dealer has a line of this name too", line, "rename one of them"
            )
        _check_rolls(book, report, here, kind)
        if kind.lands and not kind.aim:
            report.add(
                (*here, "lands"), "lands is written but aim is not", kind.lands.text, 'write aim, such as aim = "0.9"'
            )


def _check_rolls(book: Rulebook, report: Report, here: tuple, kind: DamageKind) -> None:
    """A line that is rolled has a name of its own; a deck gives one card at a time; limits go upwards."""
    for name, roll in kind.rolled.items():
        path = (*here, "rolled", name)
        report.own_name(path, name, RESERVED_LINES)
        if name in character_page(book).known or name in (*kind.dealer_lines, *kind.taker_lines):
            report.add(path, f"{name} is already on the page, or a line of this kind", "", "give it another name")
        if isinstance(roll, Deck) and roll.rolls > 1:
            report.add((*path, "rolls"), "a deck gives one card at a time", roll.rolls, "leave rolls out")
    if kind.limits and kind.limits[0] > kind.limits[1]:
        report.add((*here, "limits"), "limits go from the least to the most", kind.limits, "turn them round")
    if kind.grazes and kind.never_misses:
        report.add((*here, "grazes"), "what never misses never grazes", "", "write aim, or leave grazes out")
