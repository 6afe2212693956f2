"""Say ledger entries in words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..engine import Setup
from ..engine.codes import CRITICAL, MISSED, VERBS
from ..rulebook import Rulebook


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
        name = self.setup.names.kinds[index]
        return self.book.damage[name].label or name

    def cause(self, index: int) -> str:
        """Return the label of an ability or a buff, or the word for any other cause."""
        name, kind = self.setup.names.causes[index], self.setup.names.cause_kind(index)
        if kind == "gauge":
            return name
        return (self.book.abilities[name] if kind == "ability" else self.book.buffs[name]).label or name

    def sentence(self, entry: Any) -> str:
        """Say what an entry is about, without its amount."""
        unit, source, cause = self.unit(entry.unit), self.unit(entry.source), self.cause(entry.cause)
        match VERBS[entry.verb]:
            case "harm":
                return self._harm(entry, unit, source, cause)
            case "heal":
                return f"{unit} is healed" + (f" by {_whose(source, unit)} {cause}" if cause != "script" else "")
            case "refill":
                return f"{unit}: {self.gauge(entry.gauge)} refills"
            case "cost":
                return f"{unit} pays for {cause} in {self.gauge(entry.gauge)}"
            case "cut":
                return f"{unit}: {self.gauge(entry.gauge)} is cut to its lower top"
            case "use":
                return f"{source} uses {cause}" + (f" on {unit}" if unit != source else "")
            case "begin":
                return f"{cause} begins on {unit}" + (f", from {source}" if unit != source else "")
            case "refresh":
                return f"{cause} on {unit} is refreshed" + (f" by {source}" if unit != source else "")
            case "end":
                return f"{cause} on {unit} ends"
            case "lost":
                return f"{_possessive(source)} {cause} finds {unit} down"
        return f"{unit} goes down"

    def _harm(self, entry: Any, unit: str, source: str, cause: str) -> str:
        if entry.notes & MISSED:
            return f"{_possessive(source)} {cause} misses {unit}"
        part = f", {self.setup.names.parts[entry.part]}" if entry.part >= 0 else ""
        critical = ", critical" if entry.notes & CRITICAL else ""
        kind = f" ({self.kind(entry.kind)})" if entry.kind >= 0 else ""
        if cause == "script":
            return f"{unit} is hurt{kind}"
        return f"{_possessive(source)} {cause} hurts {unit}{part}{critical}"


def _possessive(name: str) -> str:
    return f"{name}’s"


def _whose(source: str, unit: str) -> str:
    return "its own" if source == unit else _possessive(source)
