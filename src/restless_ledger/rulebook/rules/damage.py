"""Rules of damage kinds, and the order in which the engine numbers them."""

from __future__ import annotations

from collections.abc import Iterator

from ..damage import DamageKind
from ..pages import RESERVED_LINES
from ..problems import Report
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
        for line in set(kind.dealer_lines) & set(kind.taker_lines):
            report.add(
                (*here, "taker_lines", line), "the dealer has a line of this name too", line, "rename one of them"
            )
        if kind.lands and not kind.aim:
            report.add(
                (*here, "lands"), "lands is written but aim is not", kind.lands.text, 'write aim, such as aim = "0.9"'
            )
