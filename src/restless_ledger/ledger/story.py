"""A fight as a story: what follows from an entry, and what was paid for it, stands in its line."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any

from ..engine import Setup
from ..engine.codes import FIRST_EVENT, IN_FRONT, Verb
from ..formula.explain import number
from .points import points, write_points
from .words import Wording

FLOWS = {Verb.REFILL, Verb.WANE, Verb.RISE, Verb.CUT}
OUTCOMES = {Verb.HARM, Verb.HEAL}
RESULTS = OUTCOMES | {Verb.LOST}
FOLLOWS = {
    Verb.COST,
    Verb.EARN,
    Verb.DRAIN,
    Verb.WEAR,
    Verb.MEND,
    Verb.LAUNCH,
    Verb.BUILDUP,
    Verb.BEGIN,
    Verb.REFRESH,
    Verb.BARRED,
    Verb.PUSH,
    Verb.SLID,
    Verb.STEP,
    Verb.STRUCK,
    Verb.TOSSED,
    Verb.JUMPED,
    Verb.LANDED,
    Verb.MITIGATE,
    Verb.CHANCE,
    Verb.CHOICE,
    Verb.READY,
    Verb.HOLD_OFF,
    Verb.PROLONG,
    Verb.PUT_OFF,
    Verb.BREAK,
}
"""Entries that stand in the line of the entry that they follow from. All others have a line of their own."""
SILENT = {Verb.USE, Verb.LAUNCH}
DECIDED = 3


@dataclass
class Line:
    """One line of a story. `entry` is the number of the entry that the line is about, `entries` the numbers of all
    entries that it tells of."""

    entry: int
    seconds: float
    when: str
    text: str
    change: str
    balance: str
    entries: list[int] = field(default_factory=list)

    def record(self) -> dict[str, Any]:
        """Return the line as a record."""
        return {
            "entry": self.entry,
            "seconds": self.seconds,
            "what": self.text,
            "change": self.change,
            "balance": self.balance,
            "entries": self.entries,
        }


def story(setup: Setup, rows: Sequence[Any]) -> Iterator[Line]:
    """Yield the lines of a fight's story. Each entry is told of in exactly one of them."""
    lines = dict[int, list[int]]()
    for index, line in enumerate(_line_of(setup, rows)):
        lines.setdefault(line, []).append(index)
    wording, clock = Wording(setup), setup.book.clock
    for head, entries in sorted(lines.items()):
        row = rows[head]
        said = "; ".join([wording.sentence(row), *_clauses(wording, rows, head, entries)])
        yield Line(head, clock.seconds(int(row.tick)), wording.when(row), said, *wording.amounts(row), entries)


def decisive(setup: Setup, rows: Sequence[Any], winner: int | None, most: int = DECIDED) -> list[int]:
    """Return the numbers of the entries that did most for the winner: harm to the other sides and healing of its own,
    on the gauge that downs, as a share of all that the side had of it at first. Without a winner those that did most
    for anybody. They stand in the order in which they happened."""
    gauge = setup.tables.rules[0].downing
    tops = dict[int, int]()
    for number_, unit in enumerate(setup.units):
        tops[unit.side] = tops.get(unit.side, 0) + int(setup.opening.gauges[number_, gauge].top)
    shares = dict[int, float]()
    for index, row in enumerate(rows):
        if row.verb >= FIRST_EVENT or row.gauge != gauge or Verb.at(row.verb) not in OUTCOMES or not row.booked:
            continue
        side = setup.units[row.unit].side
        if winner is None or (row.booked > 0) == (side == winner):
            shares[index] = abs(row.booked) / max(1, tops[side])
    return sorted(sorted(shares, key=lambda index: (-shares[index], index))[:most])


def _line_of(setup: Setup, rows: Sequence[Any]) -> list[int]:
    """Return, for each entry, the number of the entry in whose line it stands."""
    verbs = [Verb.at(row.verb) for row in rows]
    goes_to = list(range(len(rows)))
    for index, row in enumerate(rows):
        if row.parent >= 0 and _follows(rows, verbs, index):
            goes_to[index] = int(row.parent)
    _fold_in_front(rows, goes_to)
    _fold_uses(rows, verbs, goes_to)
    _fold_flows(setup, rows, verbs, goes_to)
    return [_end(goes_to, index) for index in range(len(rows))]


def _follows(rows: Sequence[Any], verbs: Sequence[Verb], index: int) -> bool:
    """Return whether an entry stands in the line of its parent: at once, or as what comes of a use or a push."""
    verb, parent = verbs[index], int(rows[index].parent)
    if verb == Verb.HEAL:
        return verbs[parent] == Verb.HARM
    if verb in FLOWS or verb in FOLLOWS:
        return verb == Verb.SLID or verbs[parent] in SILENT or rows[parent].tick == rows[index].tick
    return False


def _end(goes_to: list[int], index: int) -> int:
    while goes_to[index] != index:
        index = goes_to[index]
    return index


def _fold_in_front(rows: Sequence[Any], goes_to: list[int]) -> None:
    """Let what a gauge in front takes of a hit stand in the line of what is left of the hit."""
    for index, row in enumerate(rows[:-1]):
        after = rows[index + 1]
        same = (after.parent, after.unit, after.cause, after.verb) == (row.parent, row.unit, row.cause, row.verb)
        if row.verb < FIRST_EVENT and row.notes & IN_FRONT and same:
            goes_to[index] = index + 1


def _fold_uses(rows: Sequence[Any], verbs: Sequence[Verb], goes_to: list[int]) -> None:
    """Let a use of which one outcome comes stand in the line of that outcome."""
    outcomes = dict[int, list[int]]()
    for index in range(len(rows)):
        if verbs[index] in RESULTS and goes_to[index] == index:
            use = int(rows[index].parent)
            while use >= 0 and verbs[use] == Verb.LAUNCH:
                use = int(rows[use].parent)
            if use >= 0 and verbs[use] == Verb.USE:
                outcomes.setdefault(use, []).append(index)
    for use, found in outcomes.items():
        if len(found) == 1:
            goes_to[use] = found[0]


def _fold_flows(setup: Setup, rows: Sequence[Any], verbs: Sequence[Verb], goes_to: list[int]) -> None:
    """Let what flows by itself stand in the next line about its unit, or in the last line before."""
    nexts, last = dict[int, int](), dict[int, int]()
    for index in range(len(rows) - 1, -1, -1):
        row = rows[index]
        if verbs[index] in FLOWS and goes_to[index] == index:
            goes_to[index] = nexts.get(row.unit, index)
        elif goes_to[index] == index:
            nexts[row.unit] = nexts[row.source] = index
    for index, row in enumerate(rows):
        if verbs[index] in FLOWS and goes_to[index] == index:
            goes_to[index] = last.get(row.unit, index)
        elif goes_to[index] == index:
            last[row.unit] = last[row.source] = index


def _clauses(wording: Wording, rows: Sequence[Any], head: int, entries: Sequence[int]) -> Iterator[str]:
    """Yield what is said of the entries that stand in the line of another: what is booked on each unit's gauge as one
    sum, receivers of the same buff together."""
    about = int(rows[head].source)
    downing = wording.setup.tables.rules[0].downing
    sums, on = dict[tuple[int, int], int](), dict[str, list[str]]()
    others: list[str] = []
    slid = {int(rows[index].parent) for index in entries if Verb.at(rows[index].verb) == Verb.SLID}
    begun = {(rows[index].unit, rows[index].cause) for index in entries if Verb.at(rows[index].verb) == Verb.BEGIN}
    for index in entries:
        row, verb = rows[index], Verb.at(rows[index].verb)
        if index == head or verb in SILENT or (verb == Verb.PUSH and index in slid):
            continue
        if verb in FLOWS and row.gauge != downing:
            continue  # the table of balances has the sum
        if row.verb < FIRST_EVENT and row.gauge >= 0:
            key = (int(row.unit), int(row.gauge))
            sums[key] = sums.get(key, 0) + int(row.booked)
        elif verb == Verb.BEGIN:
            times = f" × {number(round(float(row.amount), 2))}" if row.amount != 1.0 else ""
            on.setdefault(f"{wording.cause(row.cause)}{times}", []).append(wording.unit(row.unit))
        elif verb != Verb.BUILDUP or (row.unit, row.cause) not in begun:
            much = f" {write_points(row.booked, True)}" if row.verb < FIRST_EVENT else ""
            others.append(wording.sentence(row) + much)
    for (unit, gauge), booked in sums.items():
        if booked:
            whose = "" if unit == about else f"{wording.unit(unit)} "
            yield f"{whose}{write_points(booked, True)} {wording.gauge(gauge)}"
    for buff, units in on.items():
        yield f"{buff} begins on {', '.join(units)}"
    yield from others


def left_of(setup: Setup, state: Any, side: int) -> tuple[float, float]:
    """Return how much of the gauge that downs the units of a side have left that are up, and the tops of it of all that
    began the fight on that side, both in points."""
    gauge = setup.tables.rules[0].downing
    mine = [unit for unit in range(len(setup.units)) if setup.units[unit].side == side]
    left = sum(int(state.gauges[unit, gauge].now) for unit in mine if state.units[unit].up)
    tops = sum(int(setup.opening.gauges[unit, gauge].top) for unit in mine if not setup.units[unit].comes_later)
    return points(left), points(tops)
