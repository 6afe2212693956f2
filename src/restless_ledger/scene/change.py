"""Changes: what a listener is told of one entry of the ledger, or of a stat that has changed."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from ..engine import Setup
from ..engine.codes import CRITICAL, FIRST_EVENT, Note, Verb
from ..engine.layout.layout import State
from ..frozen_classes import frozen
from ..ledger.points import points
from ..ledger.rows import rows_of
from ..rulebook import Rulebook
from ..rulebook.cues import Cue


@frozen
class Blink:
    """A cue that a game follows: it begins `begins` seconds after the change, lasts `lasts`, and blinks each `every`
    (0: it does not). All in seconds; in rounds where the clock counts rounds."""

    name: str
    begins: float
    lasts: float
    every: float


@frozen
class Pushed:
    """The last push before a unit went down: its entry, who pushed, how fast (metres per second), and in which
    direction, in degrees clockwise from north (None: there is no place)."""

    entry: int
    source: str
    speed: float
    bearing: float | None


@frozen
class Change:
    """What a listener is told: one entry of the ledger, or a stat that has changed. Amounts are in points.

    `verb` is the ledger's word for what happened; besides, `stat` for a stat that has changed, `opening` for the value
    that a new listener is told first, and `reset`. `share` is how full the gauge is, 0 to 1; `before` and `value` are
    the figure before and after. An event that books nothing has no gauge. `distance` and `bearing` say where it came
    from: metres from the unit to the source, and degrees clockwise from north.
    """

    entry: int | None
    seconds: float
    verb: str
    unit: str
    gauge: str | None = None
    stat: str | None = None
    asked: float = 0.0
    booked: float = 0.0
    balance: float = 0.0
    share: float = 0.0
    waste: float = 0.0
    before: float = 0.0
    value: float = 0.0
    cause: str = ""
    """What it comes from, by its name: an ability, a buff, a gauge's refill, `script`, `fall` …"""
    source: str = ""
    """Who it comes from: the name of a unit."""
    ability: str | None = None
    kind: str | None = None
    part: str | None = None
    notes: tuple[str, ...] = ()
    """What is noted of a hit: missed, critical, guarded, invulnerable, immune, in_front, grazed."""
    amount: float | None = None
    """Of an event: a strength, what is built up, metres, metres per second, lives left."""
    at: tuple[float, float] | None = None
    """Where the unit stands, in metres east and north; None without a place."""
    distance: float | None = None
    bearing: float | None = None
    pushed: Pushed | None = None
    """Of a unit that goes down: the last push that it got."""
    limp: tuple[str, ...] = ()
    """Of a unit that goes down: the parts at joints that let go."""
    firm: tuple[str, ...] = ()
    """The parts whose joints hold: all of them where a unit stands up again, those that stay where it goes down."""
    cues: tuple[Blink, ...] = ()
    """What a game shows of it."""


class ChangeReader:
    """Makes changes of entries."""

    def __init__(self, setup: Setup, state: State) -> None:
        self.setup = setup
        self.state = state
        self.book: Rulebook = setup.book
        self.clock = setup.book.clock

    def of_entry(self, index: int) -> Change:
        """Return the change of an entry."""
        entry, names = self._row(index), self.setup.names
        verb, books = Verb.at(int(entry.verb)), entry.verb < FIRST_EVENT
        gauge = names.gauges[entry.gauge] if books and entry.gauge >= 0 else None
        cause, top = names.causes[entry.cause], int(entry.top)
        balance = points(entry.balance) if books else 0.0
        limp, firm = self._joints(int(entry.unit), verb)
        return Change(
            index,
            self.clock.seconds(int(entry.tick)),
            verb.value,
            names.units[entry.unit],
            gauge,
            None,
            points(entry.asked),
            points(entry.booked),
            balance,
            int(entry.balance) / top if books and top else 0.0,
            points(entry.waste),
            balance - points(entry.booked) if books else 0.0,
            balance,
            cause,
            names.units[entry.source],
            cause if names.cause_kind(entry.cause) == "ability" else None,
            names.kinds[entry.kind][1] if entry.kind >= 0 else None,
            names.parts[entry.part] if entry.part >= 0 else None,
            tuple(note.value for note in Note if entry.notes & note.bit),
            None if books else float(entry.amount),
            **self._place(entry),
            pushed=self._pushed(int(entry.unit)) if verb is Verb.DOWN else None,
            limp=limp,
            firm=firm,
            cues=tuple(self._cues(entry, verb, gauge)),
        )

    def of_stat(self, unit: int, stat: str, before: float, value: float, entry: int | None, verb: str) -> Change:
        """Return the change of a stat, as an entry brought it about (None: none did)."""
        name, seconds = self.setup.names.units[unit], self.clock.seconds(int(self.state.clock[0].tick))
        cause = self.of_entry(entry).cause if entry is not None else ""
        return Change(entry, seconds, verb, name, stat=stat, before=before, value=value, cause=cause)

    def of_gauge(self, unit: int, gauge: str, verb: str) -> Change:
        """Return what a gauge holds, as a change that changes nothing."""
        row = self.state.gauges[unit, self.setup.names.gauges.index(gauge)]
        now, top, seconds = points(row.now), int(row.top), self.clock.seconds(int(self.state.clock[0].tick))
        share = int(row.now) / top if top else 0.0
        unit_name = self.setup.names.units[unit]
        return Change(None, seconds, verb, unit_name, gauge, balance=now, share=share, before=now, value=now)

    def of_reset(self, unit: int) -> Change:
        """Return that a unit is as it was at first."""
        body = self.book.classes[self.setup.units[unit].sheet.who].body
        firm = tuple(self.book.bodies[body].jointed) if body else ()
        return Change(None, 0.0, "reset", self.setup.names.units[unit], firm=firm)

    def _row(self, index: int) -> Any:
        return rows_of(self.state, index, index + 1)[0]

    def _place(self, entry: Any) -> dict[str, Any]:
        """Return where the unit of an entry was, and from where it came."""
        if not self.setup.tables.rules[0].placed:
            return {}
        east, north = float(entry.from_x - entry.x), float(entry.from_y - entry.y)
        return {
            "at": (float(entry.x), float(entry.y)),
            "distance": math.hypot(east, north),
            "bearing": bearing(east, north),
        }

    def _pushed(self, unit: int) -> Pushed | None:
        number = int(self.state.units[unit].push_entry)
        if number < 0:
            return None
        entry = self._row(number)
        east, north = float(entry.x - entry.from_x), float(entry.y - entry.from_y)
        way = bearing(east, north) if self.setup.tables.rules[0].placed else None
        return Pushed(number, self.setup.names.units[entry.source], float(entry.amount), way)

    def _joints(self, unit: int, verb: Verb) -> tuple[tuple[str, ...], tuple[str, ...]]:
        """Return which parts go limp, and which hold, by what happens to a unit."""
        name = self.book.classes[self.setup.units[unit].sheet.who].body
        if name is None or verb not in (Verb.DOWN, Verb.REVIVE, Verb.RETURN):
            return (), ()
        body = self.book.bodies[name]
        limp = body.limp if verb is Verb.DOWN else []
        return tuple(limp), tuple(part for part in body.jointed if part not in limp)

    def _cues(self, entry: Any, verb: Verb, gauge: str | None) -> Iterator[Blink]:
        for name, cue in self.book.cues.items():
            if cue.on is verb and self._is_for(cue, entry, gauge):
                after, lasts, every = (self._seconds(span) for span in (cue.after, cue.lasts, cue.every))
                yield Blink(name, after, lasts, every)

    def _is_for(self, cue: Cue, entry: Any, gauge: str | None) -> bool:
        names = self.setup.names
        kind = names.kinds[entry.kind] if entry.kind >= 0 else ("", "")
        of, cause = names.cause_kind(entry.cause), names.causes[entry.cause]
        return (
            cue.kind in (None, kind[1] if kind[0] == "damage" else "")
            and cue.gauge in (None, gauge)
            and cue.ability in (None, cause if of == "ability" else "")
            and cue.buff in (None, cause if of == "buff" else "")
            and (cue.classes is None or self.setup.units[entry.unit].sheet.who in cue.classes)
            and cue.critical in (None, bool(entry.notes & CRITICAL))
        )

    def _seconds(self, duration: Any) -> float:
        return self.clock.seconds(self.clock.ticks(duration)) if duration is not None else 0.0


def bearing(east: float, north: float) -> float | None:
    """Return a direction in degrees clockwise from north; None where it leads nowhere."""
    return math.degrees(math.atan2(east, north)) % 360 if east or north else None
