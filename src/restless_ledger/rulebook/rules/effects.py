"""Rules of effects, wherever one stands."""

from __future__ import annotations

from ..effects import BuildupEffect, StripEffect
from ..pages import marks
from ..problems import Report, nearest
from ..quantities import Entry
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report, path: tuple, effect: Entry) -> None:
    """A buildup fills a meter, and a strip takes off something that there is."""
    match effect:
        case BuildupEffect():
            buff = book.buffs.get(effect.buildup)
            if buff and buff.catches_at is None:
                report.add(
                    (*path, "buildup"),
                    "this buff has no meter to fill",
                    effect.buildup,
                    f"write catches_at in buffs.{effect.buildup}, or use give",
                )
        case StripEffect() if not stripped(book, effect.strip) and not report.broken.get("buffs"):
            words = [*book.buffs, *marks(book), *dict.fromkeys(buff.kind for buff in book.buffs.values())]
            report.add(
                (*path, "strip"), "no buff has this name, kind or mark", effect.strip, nearest(effect.strip, words)
            )


def stripped(book: Rulebook, word: str) -> list[str]:
    """Return the buffs that a word stands for: a buff's name, a kind of buffs, or a mark."""
    return [name for name, buff in book.buffs.items() if word == name or word == buff.kind or word in buff.marks]
