"""What the conformance cases share: a tiny rulebook to widen, and a ledger to compare with."""

from __future__ import annotations

from collections.abc import Sequence

import restless_ledger as rl

from ..support import TINY, book_of, one, sides

__all__ = ["TINY", "book_of", "duel", "ledger", "one", "placed", "rows", "sides"]


def duel(text: str, left: str = "ox", right: str = "post", seed: int = 1) -> rl.ledger.Fight:
    """Fight one unit of a class against one of another."""
    return rl.fight(book_of(text + sides("meet", one(left), one(right))), "meet", seed=seed)


def ledger(fight: object, *verbs: str, fields: Sequence[str] = ("tick", "verb", "unit", "booked")) -> list[tuple]:
    """Return the entries of some verbs (of all, if none is named) as tuples of some of their fields."""
    found = [row for row in fight.records() if not verbs or row["verb"] in verbs]
    return [tuple(row[field] for field in fields) for row in found]


def rows(fight: object, verb: str) -> list[dict]:
    """Return the records of one verb."""
    return [row for row in fight.records() if row["verb"] == verb]


def placed(left: str, right: str, arena: str = 'size = ["20 m", "10 m"]', more: str = "") -> str:
    """Return an arena and an encounter in it, each side given as the inside of a list of units."""
    return f"\n[arenas.yard]\n{arena}" + sides("meet", left, right, f'arena = "yard"\n{more}')
