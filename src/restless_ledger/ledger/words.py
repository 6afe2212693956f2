"""Say ledger entries in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..engine import Setup
from ..engine.codes import CRITICAL, GUARDED, IMMUNE, IN_FRONT, INVULNERABLE, MISSED, VERBS
from ..formula.explain import number
from ..rulebook import Rulebook

PLAIN_EVENTS = {
    "end": "{cause} on {unit} ends",
    "lost": "{whose} {cause} finds {unit} down or out of reach",
    "barred": "{cause} does not take on {unit}",
    "interrupt": "{unit}’s {cause} is interrupted{other}",
    "launch": "{whose} {cause} flies at {unit}, {amount} m",
    "push": "{unit} is pushed{other} at {amount} m/s",
    "landed": "{unit} lands at {amount} m/s",
    "supply": "{cause} lies there",
    "take": "{unit} takes {cause}",
    "checkpoint": "{unit} reaches checkpoint {amount}",
    "fled": "{unit} flees",
    "mistake": "{unit} makes a mistake",
}
"""Events that are always told in the same words."""


@dataclass(frozen=True)
class Wording:
    """Turns the numbers of one encounter's entries into names and sentences."""

    setup: Setup

    @property
    def book(self) -> Rulebook:
        return self.setup.book

    def unit(self, index: int) -> str:
        return self.setup.names.units[index]

    def gauge(self, index: int) -> str:
        name = self.setup.names.gauges[index]
        return self.book.gauges[name].label or name

    def kind(self, index: int) -> str:
        chapter, name = self.setup.names.kinds[index]
        return getattr(self.book, chapter)[name].label or name

    def cause(self, index: int) -> str:
        """Return the label of an ability, a buff or a supply, or the word for any other cause."""
        name, kind = self.setup.names.causes[index], self.setup.names.cause_kind(index)
        if kind == "class":  # what a class does by itself: its reactions
            return "answer"
        chapter = {"ability": "abilities", "buff": "buffs", "supply": "supplies"}.get(kind)
        if chapter is None or name not in getattr(self.book, chapter):
            return name
        return getattr(self.book, chapter)[name].label or name

    def sentence(self, entry: Any) -> str:
        """Say what an entry is about, without its amount."""
        unit, source, cause = self.unit(entry.unit), self.unit(entry.source), self.cause(entry.cause)
        by = f" by {_whose(source, unit)} {cause}" if cause != "script" else ""
        match VERBS[entry.verb]:
            case "harm":
                return self._harm(entry, unit, source, cause)
            case "heal":
                return f"{unit} is healed{by}"
            case "refill":
                return f"{unit}: {self.gauge(entry.gauge)} refills"
            case "cost":
                return f"{unit} pays for {cause} in {self.gauge(entry.gauge)}"
            case "cut":
                return f"{unit}: {self.gauge(entry.gauge)} is cut to its lower top"
            case "earn":
                return f"{unit} earns {self.gauge(entry.gauge)} by {cause}"
            case "drain":
                return f"{unit} loses {self.gauge(entry.gauge)}{by}"
            case "revive":
                return f"{unit} comes back with {self.gauge(entry.gauge)}" + ("" if cause == "return" else by)
            case "wear":
                return f"{unit}’s {self._part(entry)} wears"
        return self._event(entry, unit, source, cause)

    def _event(self, entry: Any, unit: str, source: str, cause: str) -> str:
        """Say what happened without anything being booked."""
        verb, other = VERBS[entry.verb], f" by {source}" if unit != source else ""
        words = {"unit": unit, "source": source, "cause": cause, "other": other, "whose": _possessive(source)}
        words["amount"] = number(round(float(entry.amount), 2))
        if verb in PLAIN_EVENTS:
            return PLAIN_EVENTS[verb].format(**words)
        return self._turned_event(verb, entry, words)

    def _turned_event(self, verb: str, entry: Any, words: dict[str, str]) -> str:
        """Say what happened where the words depend on the entry."""
        unit, cause, amount, other = (words[name] for name in ("unit", "cause", "amount", "other"))
        match verb:
            case "use":
                return f"{words['source']} uses {cause}" + (f" on {unit}" if other else "")
            case "begin":
                times = f" × {amount}" if entry.amount != 1.0 else ""
                return f"{cause}{times} begins on {unit}" + (f", from {words['source']}" if other else "")
            case "refresh":
                times = f", now × {amount}," if entry.amount != 1.0 else ""
                return f"{cause} on {unit}{times} is applied again{other}"
            case "down":
                return self._down(entry, unit)
            case "break":
                return f"{unit}’s {self._part(entry)} breaks"
            case "buildup":
                return f"{cause} builds up on {unit}: {amount} of {number(self._catches_at(entry))}"
            case "stopped":
                return f"{unit}’s {cause} stops here: it is {self.book.clock.reaction_depth} deep"
            case "over the edge":
                how = f", {amount} m deep{_pushed(other)}" if cause != "pit" else " into a pit"
                return f"{unit} goes over the edge{how}"
            case "return":
                return f"{unit} returns" + (f" at checkpoint {amount}" if entry.amount else ", where it first stood")
        raise AssertionError(f"there are no words for {verb}")

    def _part(self, entry: Any) -> str:
        return self.setup.names.parts[entry.part] if entry.part >= 0 else ""

    def _catches_at(self, entry: Any) -> float:
        return self.book.buffs[self.setup.names.causes[entry.cause]].catches_at or 0.0

    def _down(self, entry: Any, unit: str) -> str:
        """Say that a unit goes down, which parts go limp, and how many lives it has left."""
        body = self.book.classes[self.setup.units[entry.unit].sheet.who].body
        joints = self.book.bodies[body].joints if body else []
        limp = list(dict.fromkeys(part for joint in joints for part in (joint.start, joint.end)))
        lives = int(entry.amount)
        left = f"; {lives} {'life' if lives == 1 else 'lives'} left" if lives > 0 else ""
        return f"{unit} goes down" + (f" ({', '.join(limp)} go limp)" if limp else "") + left

    def _harm(self, entry: Any, unit: str, source: str, cause: str) -> str:
        whose = f"{_possessive(source)} {cause}" if cause != "fall" else f"{unit}’s fall"
        for note, words in (
            (MISSED, "misses"),
            (INVULNERABLE, "does nothing to the invulnerable"),
            (IMMUNE, "does nothing to the immune"),
        ):
            if entry.notes & note:
                return f"{whose} {words} {unit}"
        part = f", {self._part(entry)}" if entry.part >= 0 else ""
        critical = ", critical" if entry.notes & CRITICAL else ""
        guarded = ", guarded" if entry.notes & GUARDED else ""
        front = f" in {self.gauge(entry.gauge)}" if entry.notes & IN_FRONT else ""
        kind = f" ({self.kind(entry.kind)})" if entry.kind >= 0 else ""
        if cause == "script":
            return f"{unit} is hurt{kind}{front}"
        return f"{whose} hurts {unit if cause != 'fall' else 'it'}{part}{front}{critical}{guarded}"


def _possessive(name: str) -> str:
    return f"{name}’s"


def _whose(source: str, unit: str) -> str:
    return "its own" if source == unit else _possessive(source)


def _pushed(other: str) -> str:
    """Say who pushed, where somebody did."""
    return f", pushed{other}" if other else ""
