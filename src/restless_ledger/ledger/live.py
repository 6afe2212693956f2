"""A character on the bench: hurt it, heal it, give it buffs, let time pass, and be told of each change."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from ..engine import Setup, Unit, set_up_bench
from ..engine.codes import BEGIN, FIRST_EVENT, HARM, HEAL, LANDED, VERBS
from ..rulebook import InputError, Rulebook
from ..rulebook.quantities import parse_duration, parse_length
from ..sheet import build_sheet
from .bench import Bench
from .fight import Fight
from .points import points


@dataclass(frozen=True)
class Change:
    """What a listener is told: one entry. Amounts are in points; `share` is how full the gauge is, 0 to 1.

    An event that books nothing (a buff begins or ends, the character goes down) has no gauge.
    """

    entry: int
    seconds: float
    verb: str
    gauge: str | None
    asked: float
    booked: float
    balance: float
    share: float
    waste: float
    cause: str


class Live:
    """One character, stepped by hand by the same rules that fights are played by."""

    def __init__(self, book: Rulebook, who: str, level: int | None = None, fight: type[Fight] = Fight) -> None:
        sheet = build_sheet(book, who, level)
        self.setup: Setup = set_up_bench(book, Unit(sheet.label, 0, sheet, ()))
        self._bench = Bench(self.setup)
        self._fight = fight
        self._listeners: list[Callable[[Change], None]] = []

    def on_change(self, listener: Callable[[Change], None]) -> Callable[[], None]:
        """Call `listener(change)` after each change from now on; returns a function that ends that."""
        self._listeners.append(listener)
        return lambda: self._listeners.remove(listener)

    def hurt(self, amount: float, kind: str | None = None, gauge: str | None = None) -> float:
        """Hurt by a positive amount; return what was booked, in points (as a positive number).

        With a damage kind, the amount is its power, and the character's own soak is held against it; it lands,
        without part, spread or critical. Without one it goes straight to the gauge (the one that takes the
        character down, unless named). A downed character takes nothing.
        """
        self._check_amount("hurt", amount)
        if kind is not None:
            return -self._poke(HARM, self._bench.find("damage kind", kind, tuple(self.setup.book.damage)), amount)
        return -self._poke(HARM, -1 - self._bench.gauge(0, gauge), amount)

    def heal(self, amount: float, gauge: str | None = None) -> float:
        """Heal by a positive amount; return what was booked, in points. Nothing heals the downed."""
        self._check_amount("heal", amount)
        return self._poke(HEAL, self._bench.gauge(0, gauge), amount)

    def fall(self, height: str) -> float:
        """Let the character fall from a height such as "9 m"; return the harm booked, in points."""
        return -self._poke(LANDED, 0, parse_length(height))

    def give(self, buff: str) -> None:
        """Put a buff on the character."""
        self._poke(BEGIN, self._bench.find("buff", buff, self.setup.names.buffs), 0.0)

    def advance(self, duration: str) -> float:
        """Let time pass, such as "5 s" or "3 rounds"; return the time it is now."""
        self._tell(self._bench.advance(self.setup.book.clock.ticks(parse_duration(duration))))
        return self.seconds

    def __getitem__(self, name: str) -> float:
        """Return what a name on the character's page is now: a stat, a gauge, `health_top`, `marked(alight)`."""
        return self._bench.figure(0, name)

    @property
    def seconds(self) -> float:
        return self.setup.book.clock.seconds(self._bench.ticks)

    @property
    def down(self) -> bool:
        return self._bench.down(0)

    @property
    def ledger(self) -> Fight:
        """All that was booked so far, as a fight's ledger."""
        return self._fight(self.setup, self._bench.state, 0, 0)

    def _poke(self, verb: int, index: int, amount: float) -> float:
        return self._tell(self._bench.poke(0, verb, index, amount)[1])

    def _tell(self, entries: range) -> float:
        """Tell the listeners of each new entry; return the sum of what was booked."""
        new = [self._change(index) for index in entries]
        for change in new:
            for listener in tuple(self._listeners):
                listener(change)
        return sum(change.booked for change in new)

    def _change(self, index: int) -> Change:
        entry, names = self._bench.state.entries[index], self.setup.names
        gauge = names.gauges[entry.gauge] if entry.verb < FIRST_EVENT and entry.gauge >= 0 else None
        top = int(self._bench.state.gauges[0, entry.gauge].top) if gauge else 0
        return Change(
            index,
            self.setup.book.clock.seconds(int(entry.tick)),
            VERBS[entry.verb],
            gauge,
            points(entry.asked),
            points(entry.booked),
            points(entry.balance),
            int(entry.balance) / top if top else 0.0,
            points(entry.waste),
            names.causes[entry.cause],
        )

    @staticmethod
    def _check_amount(verb: str, amount: float) -> None:
        if not (math.isfinite(amount) and amount >= 0):
            other = "heal" if verb == "hurt" else "hurt"
            raise InputError(
                f"{verb}: the amount must be a number, zero or more; to {other} is a verb of its own\n    got: {amount}"
            )
