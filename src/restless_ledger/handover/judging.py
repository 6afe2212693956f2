"""What the rules expect of each line of a log, as they are or under a mistake."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from functools import cached_property
from itertools import product
from typing import Any

from ..formula import Program, evaluate_one
from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.words import Way
from ..sheets import CharacterSpec, build_sheet
from ..sheets.resolve import hold_stat, round_figure
from ..sheets.stat_lines import own_lines_of
from .expressions import DRAWS, Function, identifier
from .functions import Functions
from .interpret import prepared
from .log import Event, Log
from .mistakes import Mistake

OUTCOME = ("tick", "seconds", "amount", "missed", "ability")
"""What a line says that decides nothing about it."""
WIDE = 5.0
"""Points that a spread has to be wide for its rounding not to matter."""
NEARLY = 0.0006
"""Half a thousandth of a point, and a little for what a game writes with few digits."""


@frozen
class Expected:
    """What a line may say: amounts from `low` to `high`, or that it missed; `certain` where there is one answer."""

    low: float
    high: float
    misses: bool
    certain: bool

    def allows(self, event: Event) -> bool:
        """Say whether a line says so."""
        if event.get("missed", False):
            return self.misses
        slack = NEARLY + 1e-9 * abs(self.high)
        return not (self.misses and self.certain) and self.low - slack <= abs(event["amount"]) <= self.high + slack


class Judge:
    """Holds the lines of a log against the rules."""

    def __init__(self, book: Rulebook, log: Log, functions: Functions) -> None:
        self.book = book
        self.log = log
        self.functions = {each.name: each for each in functions.all}
        self.hits = functions.hits
        self._pages: dict[tuple, dict[str, float]] = {}
        self._expected: dict[tuple, Expected] = {}
        self._made: dict[tuple[str, str], tuple[Function, Any]] = {}

    @cached_property
    def buffs_at(self) -> dict[int, dict[str, tuple[str, ...]]]:
        """By line, the buffs that each unit bears, as the log says."""
        return self._borne(ending=True)

    @cached_property
    def ever_borne(self) -> dict[int, dict[str, tuple[str, ...]]]:
        """By line, the buffs that each unit has borne so far."""
        return self._borne(ending=False)

    def _borne(self, ending: bool) -> dict[int, dict[str, tuple[str, ...]]]:
        """Return by line the buffs of each unit, in the order in which they began; `ending` says whether they end."""
        on: dict[str, list[str]] = {name: [] for name in self.log.units}
        found = {}
        for event in self.log.events:
            if event.event == "buff":
                mine = on[event["unit"]]
                if event["state"] == "begins" and event["buff"] not in mine:
                    mine.append(event["buff"])
                elif event["state"] == "ends" and ending and event["buff"] in mine:
                    mine.remove(event["buff"])
            found[event.line] = {name: tuple(mine) for name, mine in on.items()}
        return found

    def page(self, event: Event, name: str, mistake: Mistake | None) -> dict[str, float]:
        """Return the page of a unit at a line, by identifiers."""
        how = mistake.page if mistake else ""
        buffs = {"no_buffs": {}, "endless_buffs": self.ever_borne[event.line]}.get(how, self.buffs_at[event.line])
        key = (name, buffs.get(name, ()), how)
        if key not in self._pages:
            self._pages[key] = self._page(self.log.units[name], buffs.get(name, ()), how)
        return self._pages[key]

    def _page(self, spec: CharacterSpec, buffs: tuple[str, ...], how: str) -> dict[str, float]:
        first, last = self.book.rulebook.levels
        level = (spec.level or first) + {"level_below": -1, "level_above": 1}.get(how, 0)
        what: dict[str, Any] = {"level": min(max(level, first), last), "buffs": buffs}
        if how == "no_gear":
            what["gear"] = ()
        spec = CharacterSpec(**{**{key: getattr(spec, key) for key in CharacterSpec.__dataclass_fields__}, **what})
        try:
            sheet = build_sheet(self.book, spec)
        except InputError:  # gear that may not be worn a level below
            sheet = build_sheet(self.book, CharacterSpec(**{**spec.__dict__, "gear": ()}))
        page = dict(sheet.page)
        if how == "multiplied":
            page |= dict(self._multiplied(sheet.spec, sheet, page))
        return {identifier(name): value for name, value in page.items()}

    def _multiplied(self, spec: CharacterSpec, sheet: Any, page: Mapping[str, float]) -> Iterator[tuple[str, float]]:
        """Yield each stat of which several percentages change, with these multiplied."""
        own = own_lines_of(self.book, spec)
        for stat, entry in self.book.stats.items():
            changes = [each.stats[stat] for each in sheet.standing if stat in each.stats]
            changes += [self.book.buffs[buff].stats[stat] for buff in spec.buffs if stat in self.book.buffs[buff].stats]
            if sum(change.way is Way.SCALE for change in changes) < 2 or entry.is_ is not None:
                continue
            value, added, times = own[stat][-1].value, 0.0, 1.0
            for change in changes:
                amount = float(change.worth(page))
                if change.way is Way.ADD:
                    added += amount
                elif change.way is Way.SET:
                    value = amount
                else:
                    times *= 1 + amount if change.way is Way.SCALE else amount
            held = hold_stat((value + added) * times, *map(float, entry.limits(page)))
            yield stat, float(round_figure(held, entry.round.code))

    def expected(self, event: Event, mistake: Mistake | None = None) -> Expected | None:
        """Return what the rules expect of a hit or a change of a gauge; None of any other line."""
        if event.event == "hit":
            key = (mistake.name if mistake else "", *self._same(event))
            if key not in self._expected:
                self._expected[key] = self._hit(event, mistake)
            return self._expected[key]
        return self._gauge(event, mistake) if event.event == "gauge" else None

    def _same(self, event: Event) -> tuple:
        """Return what decides the outcome of a hit: two lines alike in it have the same."""
        places = [(at, key) for at in (self.buffs_at, self.ever_borne) for key in ("source", "unit")]
        borne = [at[event.line].get(event[key], ()) for at, key in places]
        said = {key: value for key, value in event.says.items() if key not in OUTCOME}
        return (*borne, *(repr(each) for each in sorted(said.items())))

    def _function(self, kind: str, mistake: Mistake | None) -> tuple[Function, Any]:
        """Return the function of a kind's hits, as it is or under a mistake, and what runs it."""
        key = (kind, mistake.name if mistake and mistake.hit else "")
        if key not in self._made:
            plain = self.functions[self.hits["damage", kind]]
            function = mistake.hit(plain) if mistake and mistake.hit else plain
            self._made[key] = (function, prepared(function))
        return self._made[key]

    def _hit(self, event: Event, mistake: Mistake | None) -> Expected:
        if not self._rolled(event):
            return Expected(-math.inf, math.inf, True, False)
        drawn = event.get("draws") or {}
        open_draws = [name for name in DRAWS if name not in drawn]
        ends = [(0.0, 1.0) if name == "spread" else (0.0, math.nextafter(1.0, 0.0)) for name in open_draws]
        amounts, missed, certain = list[float](), False, True
        for luck in product(*ends):
            found = self._steps(event, mistake, dict(zip(open_draws, luck, strict=True)))
            missed = missed or found["missed"] != 0
            if found["missed"] == 0 and self._says(event, found):
                amounts.append(found["thousandths"] / 1000)
            certain = certain and len(set(amounts)) < 2 and (not missed or not amounts)
        if not amounts:
            return Expected(math.inf, -math.inf, True, True)
        return Expected(min(amounts), max(amounts), missed, certain)

    def _rolled(self, event: Event) -> bool:
        """Say whether a line says all that was rolled for its hit; without it nothing can be said of the amount."""
        return set(self.book.damage[event["kind"]].rolled) <= set(event.get("rolled", ()))

    def _steps(
        self, event: Event, mistake: Mistake | None = None, luck: Mapping[str, float] | None = None
    ) -> dict[str, float]:
        """Return the steps of a hit, as a line has it; `luck` are draws that it does not say."""
        kind = self.book.damage[event["kind"]]
        function, run = self._function(event["kind"], mistake)
        pages = {who: self.page(event, event[key], mistake) for who, key in (("dealer", "source"), ("taker", "unit"))}
        taker = self.log.units[event["unit"]].who
        numbers = dict.fromkeys(function.numbers, 0.0)
        numbers |= dict.fromkeys(("times", "handling", "aimed_part", "segments", "scale"), 1.0)
        numbers["against"] = float(kind.against.get(taker, 1.0))
        numbers["part_times"] = self._part(event, pages["taker"], taker)
        given = {name: event.get(name) for name in numbers if name not in DRAWS}
        numbers |= {name: float(value) for name, value in given.items() if value is not None}
        numbers |= {f"rolled_{identifier(line)}": value for line, value in event.get("rolled", {}).items()}
        drawn = {**(event.get("draws") or {}), **(luck or {})}
        return run(pages, numbers | {name: float(value) for name, value in drawn.items() if name in numbers})

    @staticmethod
    def _says(event: Event, found: Mapping[str, float]) -> bool:
        """Say whether a way that a hit may come out is one that its line may mean."""
        critical = event.get("critical")
        return critical is None or bool(critical) == bool(found["tiers"])

    def _part(self, event: Event, page: Mapping[str, float], taker: str) -> float:
        body = self.book.classes[taker].body
        if event.get("part") is None or body is None:
            return 1.0
        parts = self.book.bodies[body].parts
        if event["part"] not in parts:
            raise InputError(f"{self.log.name}:{event.line}: {taker} has no part {event['part']}")
        return max(0.0, _worth(parts[event["part"]].times, page))

    def _gauge(self, event: Event, mistake: Mistake | None) -> Expected:
        how = mistake.booking if mistake else ""
        page = self.page(event, event["unit"], mistake)
        gauge = event["gauge"]
        top = page[identifier(f"{gauge}_top")]
        if how == "stale_top":
            spec = self.log.units[event["unit"]]
            first = self.book.rulebook.levels[0]
            top = self._page(CharacterSpec(spec.who, first), (), "")[identifier(f"{gauge}_top")]
        bottom = float(self.book.gauges[gauge].bottom)
        after = event["before"] + event["amount"]
        if how != "no_top":
            after = min(after, max(top, event["before"]))
        if how != "no_floor":
            after = max(after, bottom)
        return Expected(after, after, False, True)

    def fits(self, event: Event, mistake: Mistake | None = None) -> bool:
        """Say whether a line is as the rules, or a mistake, have it."""
        expected = self.expected(event, mistake)
        if expected is None:
            return True
        if event.event == "gauge":
            return abs(event["after"] - expected.low) <= NEARLY
        return expected.allows(event)

    def place_in_spread(self, event: Event) -> float | None:
        """Return where between the least and the most that it may be an amount lies, from 0 to 1, where only the spread
        is open."""
        if event.event != "hit" or event.get("missed", False) or event.get("critical") is None:
            return None
        expected, kind = self.expected(event), self.book.damage[event["kind"]]
        open_spread = "spread" not in (event.get("draws") or {}) and kind.spread is not None and kind.block is None
        if expected is None or not self._rolled(event) or not open_spread or expected.high - expected.low < WIDE:
            return None
        if kind.limits and not kind.limits[0] < expected.low <= expected.high < kind.limits[1]:
            return None
        return (abs(event["amount"]) - expected.low) / (expected.high - expected.low)

    def chances(self, event: Event) -> Iterator[tuple[str, float, float]]:
        """Yield, of a hit, what was drawn: whether it happened, and how likely it was."""
        if not self._rolled(event):
            return
        numbers = dict.fromkeys(("land", "critical", "spread", "block"), 0.0)
        neutral = Event(event.line, event.tick, "hit", {**event.says, "draws": numbers, "critical": None})
        found = self._steps(neutral)
        if 0 < found["lands"] < 1:
            yield "land", float(not event.get("missed", False)), found["lands"]
        chance = found.get("critical_chance", 0.0)
        if not event.get("missed", False) and event.get("critical") is not None and 0 < chance < 1:
            yield "critical", float(bool(event["critical"])), chance


def _worth(program: Program, page: Mapping[str, float]) -> float:
    return evaluate_one(program, {name: page[identifier(name)] for name in program.names})
