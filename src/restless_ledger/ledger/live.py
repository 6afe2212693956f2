"""A character on the bench: hurt it, heal it, give it buffs, let time pass, and be told of each change."""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np

from ..engine import Setup, Unit, set_up_bench
from ..engine.codes import BEGIN, FIRST_EVENT, HARM, HEAL, LANDED, Verb
from ..rulebook import InputError, Rulebook
from ..rulebook.measures import parse_length
from ..rulebook.quantities import parse_duration
from ..sheets import CharacterSpec, build_sheet
from .bench import Bench
from .fight import Fight
from .points import points

Parsed = TypeVar("Parsed")


def _parsed(what: str, parse: Callable[[Any], Parsed], text: object) -> Parsed:
    """Read a quantity; raises `InputError` where it can't be read."""
    if not isinstance(text, str):
        raise InputError(f"{what}: write the quantity as text, with its unit\n    got: {text!r}")
    try:
        return parse(text)
    except ValueError as error:
        raise InputError(f"{what}: {error}\n    got: {text!r}") from None


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

    def __init__(self, book: Rulebook, who: str, level: int | None = None) -> None:
        sheet = build_sheet(book, CharacterSpec(who, level))
        self.setup: Setup = set_up_bench(book, Unit(sheet.label, 0, sheet, (), lives=book.classes[who].lives))
        self._bench = Bench(self.setup)
        self._listeners: list[Callable[[Change], None]] = []
        self._untold: deque[Change] = deque()
        self._telling = False

    def on_change(self, listener: Callable[[Change], None]) -> Callable[[], None]:
        """Call `listener(change)` for each entry from now on; returns a function that ends that.

        Listeners are told after a whole call (`hurt`, `advance` …) is carried out, entry by entry in the order of the
        ledger, each with the figures of its own entry. What a listener changes itself is told to all after that.
        Raises `InputError` where the listener can't be called.
        """
        if not callable(listener):
            raise InputError(f"on_change: a listener is a function of one change\n    got: {listener!r}")
        self._listeners.append(listener)

        def end() -> None:
            if listener in self._listeners:
                self._listeners.remove(listener)

        return end

    def hurt(self, amount: float, kind: str | None = None, gauge: str | None = None) -> float:
        """Hurt by a positive amount; return what that took off the gauge, in points (as a positive number).

        With a damage kind, the amount is the power of a hit from nobody: the same hit as in a fight, with the
        character's own soak, resistance, guard stance, invulnerability, reactions and what it earns, but that it
        lands, strikes no part, and has no spread and no critical. Without a kind it is a plain loss, straight off the
        gauge (the one that takes the character down, unless named). A downed character takes nothing. What shields in
        front took, and what reactions did, is not counted. Raises `InputError` on an unknown name or amount.
        """
        self._check_amount("hurt", amount)
        if kind is not None:
            number = self._bench.find("damage kind", kind, tuple(self.setup.book.damage))
            on = int(self.setup.tables.kinds[number].gauge)
            return 0.0 - self._booked(self._bench.poke(0, HARM, index=number, amount=amount), HARM, "script", on)
        on = self._bench.gauge(0, gauge)
        return 0.0 - self._booked(self._bench.poke(0, HARM, index=-1 - on, amount=amount), HARM, "script", on)

    def heal(self, amount: float, gauge: str | None = None) -> float:
        """Heal by a positive amount; return what was booked, in points. Nothing heals the downed."""
        self._check_amount("heal", amount)
        on = self._bench.gauge(0, gauge)
        return self._booked(self._bench.poke(0, HEAL, index=on, amount=amount), HEAL, "script", on)

    def fall(self, height: str) -> float:
        """Let the character fall from a height such as "9 m"; return the harm booked, in points."""
        metres = _parsed("fall", parse_length, height)
        downing = self._bench.gauge(0, None)
        return 0.0 - self._booked(self._bench.poke(0, LANDED, amount=metres), HARM, "fall", downing)

    def give(self, buff: str) -> None:
        """Put a buff on the character."""
        self._tell(self._bench.poke(0, BEGIN, index=self._bench.find("buff", buff, self.setup.names.buffs)))

    def advance(self, duration: str) -> float:
        """Let time pass, such as "5 s" or "3 rounds"; return the time it is now."""
        clock = self.setup.book.clock
        parsed = _parsed("advance", parse_duration, duration)
        if (parsed.unit == "rounds") != clock.rounds and parsed.unit != "ticks":
            counted = 'rounds, such as "3 rounds"' if clock.rounds else 'seconds, such as "0.7 s"'
            raise InputError(f"advance: this rulebook counts {counted}\n    got: {duration!r}")
        self._tell(self._bench.advance(clock.ticks(parsed)))
        return self.seconds

    def __getitem__(self, name: str) -> float:
        """Return what a name on the character's page is now: a stat, a gauge, `health_top`, `marked(alight)`."""
        return self._bench.figure(0, name)

    @property
    def seconds(self) -> float:
        """How much time has gone by, in seconds (rounds where the clock counts rounds)."""
        return self.setup.book.clock.seconds(self._bench.ticks)

    @property
    def down(self) -> bool:
        """Whether the character is down."""
        return self._bench.down(0)

    @property
    def ledger(self) -> Fight:
        """All that was booked so far, as a fight's ledger."""
        return Fight(self.setup, self._bench.state, 0, 0)

    def _booked(self, entries: range, verb: int, cause: str, gauge: int) -> float:
        """Tell the listeners of new entries; return what the call itself booked on a gauge, in points."""
        number = self.setup.names.causes.index(cause)
        own = (self._bench.state.entries[index] for index in entries)
        found = [one for one in own if one.verb == verb and one.cause == number and one.gauge == gauge]
        booked = points(found[0].booked) if found else 0.0
        self._tell(entries)
        return booked

    def _tell(self, entries: range) -> None:
        """Tell the listeners of each new entry. What they change meanwhile waits until all were told of this."""
        self._untold.extend(self._change(index) for index in entries)
        if self._telling:
            return
        self._telling = True
        try:
            while self._untold:
                change = self._untold.popleft()
                for listener in tuple(self._listeners):
                    listener(change)
        finally:
            self._telling = False
            self._untold.clear()

    def _change(self, index: int) -> Change:
        entry, names = self._bench.state.entries[index], self.setup.names
        gauge = names.gauges[entry.gauge] if entry.verb < FIRST_EVENT and entry.gauge >= 0 else None
        top = int(entry.top)
        return Change(
            index,
            self.setup.book.clock.seconds(int(entry.tick)),
            Verb.at(entry.verb).value,
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
        number = isinstance(amount, int | float | np.number) and not isinstance(amount, bool)
        if not (number and math.isfinite(amount) and amount >= 0):
            other = "heal" if verb == "hurt" else "hurt"
            raise InputError(
                f"{verb}: the amount must be a number, zero or more; to {other} is a verb of its own\n    got: {amount}"
            )
