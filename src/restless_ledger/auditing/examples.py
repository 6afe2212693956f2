"""Worked examples: carried out on the bench, step by step, and compared with what their author expects."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from ..engine import Setup, Unit, open_with, set_up_bench
from ..engine.codes import BEGIN, FALLEN_ALLY, FOE, HARM, HEAL, LANDED, NEVER, USE, USER_ONLY
from ..formula.explain import number
from ..frozen_classes import frozen
from ..ledger import Fight
from ..rulebook import InputError, Rulebook
from ..rulebook.examples import (
    AdvanceStep,
    AnyStep,
    BuyStep,
    Example,
    Expected,
    ExpectStep,
    FallStep,
    FillStep,
    GiveStep,
    HurtStep,
    LevelStep,
    Subject,
    TeachStep,
    UseStep,
    WearStep,
)
from ..rulebook.pages import gauge_names
from ..rulebook.playbooks import Play
from ..rulebook.problems import dotted
from ..scene.bench import Bench
from ..scene.refusals import why_not
from ..sheets import CharacterSpec, Sheet, build_sheet

ENTRIES_SHOWN = 8
WHO, OTHER = 0, 1


@frozen
class Miss:
    """One figure that is not as expected, or a step that can't be carried out; `entries` are those that led there."""

    place: str
    path: str
    what: str
    expected: str
    got: str
    entries: tuple[str, ...] = ()

    def record(self) -> dict[str, Any]:
        """Return the example as a record."""
        return {
            "place": self.place,
            "path": self.path,
            "what": self.what,
            "expected": self.expected,
            "got": self.got,
            "entries": list(self.entries),
        }


@frozen
class ExampleResult:
    """One worked example: it holds where nothing was missed."""

    name: str
    title: str
    place: str
    misses: tuple[Miss, ...]

    @property
    def holds(self) -> bool:
        """Whether all figures are as expected."""
        return not self.misses

    def record(self) -> dict[str, Any]:
        """Return the result as a record."""
        return {
            "example": self.name,
            "title": self.title,
            "place": self.place,
            "holds": self.holds,
            "misses": [miss.record() for miss in self.misses],
        }


def run_examples(book: Rulebook) -> list[ExampleResult]:
    """Carry out every worked example of a rulebook."""
    return [run_example(book, name) for name in book.examples]


def run_example(book: Rulebook, name: str) -> ExampleResult:
    """Carry out one worked example. What can't be carried out is a miss; nothing is raised."""
    example = book.examples[name]
    stage = _Stage(book, name, example)
    try:
        stage.run()
    except InputError as error:
        stage.miss(stage.here, str(error).split("\n", 1)[0], "that this can be done", "it can't")
    return ExampleResult(name, example.title or name, book.place("examples", name), tuple(stage.misses))


@dataclass
class _Made:
    """What a character is made of at this point of an example."""

    subject: Subject
    level: int
    gear: list[str]
    taught: list[str]
    bought: dict[str, int]
    plays: list[tuple[str, str | None]] = field(default_factory=list)

    def sheet(self, book: Rulebook) -> Sheet:
        subject = self.subject
        made = (subject.origin, subject.attributes, self.gear, self.taught, self.bought)
        return build_sheet(book, CharacterSpec(subject.who, self.level, *made))


class _Stage:
    """An example being carried out."""

    def __init__(self, book: Rulebook, name: str, example: Example) -> None:
        self.book, self.example = book, example
        self.root: tuple = ("examples", name)
        self.here: tuple = self.root
        self.misses: list[Miss] = []
        subjects = [example.who, *([example.other] if example.other else [])]
        self.made = [
            _Made(
                subject,
                book.rulebook.levels[0] if subject.level is None else subject.level,
                list(subject.gear),
                list(subject.taught),
                dict(subject.bought),
            )
            for subject in subjects
        ]
        for step in example.steps:
            play = (step.use, step.part) if isinstance(step, UseStep) else None
            if play and play not in self.made[int(step.other)].plays:
                self.made[int(step.other)].plays.append(play)

    def run(self) -> None:
        self.bench = self.set_up()
        for index, step in enumerate(self.example.steps):
            self.here = (*self.root, "steps", index)
            self.carry_out(step, int(step.other))
        self.here = (*self.root, "expect")
        self.compare(self.example.expect, WHO)
        self.here = (*self.root, "expect_other")
        self.compare(self.example.expect_other, OTHER)

    def set_up(self, before: Bench | None = None) -> Bench:
        """Make the characters anew; their gauges hold what they held before."""
        units: list[Unit] = []
        for index, made in enumerate(self.made):
            sheet = made.sheet(self.book)
            plays = tuple(
                (("abilities", use), Play.model_validate({"use": use, "part": part})) for use, part in made.plays
            )
            name = made.subject.name or sheet.label
            taken = any(name == unit.name for unit in units)
            lives = self.book.classes[sheet.who].lives
            units.append(Unit(f"{name} (other)" if taken else name, index, sheet, plays, lives=lives))
        setup: Setup = set_up_bench(self.book, *units)
        if before is not None:
            opens, held = setup.opening.gauges, before.state.gauges
            amounts = {
                unit: {
                    name: int(held[unit, gauge].now)
                    for gauge, name in enumerate(self.book.gauges)
                    if opens[unit, gauge].held and held[unit, gauge].held
                }
                for unit in range(len(units))
            }
            open_with(setup, setup.opening, amounts)
        return Bench(setup, even=True)

    def carry_out(self, step: AnyStep, unit: int) -> None:
        """Carry out one step on a unit."""
        bench, made = self.bench, self.made[unit]
        match step:
            case HurtStep(kind=None):
                bench.poke(unit, HARM, index=-1 - bench.gauge(unit, step.gauge), amount=step.hurt)
            case HurtStep():
                bench.poke(unit, HARM, index=list(self.book.damage).index(step.kind or ""), amount=step.hurt)
            case FillStep():
                bench.poke(unit, HEAL, index=bench.gauge(unit, step.gauge), amount=step.fill)
            case GiveStep():
                bench.poke(unit, BEGIN, index=bench.setup.names.buffs.index(step.give), amount=1.0)
            case FallStep():
                bench.poke(unit, LANDED, amount=step.fall)
            case AdvanceStep():
                bench.advance(self.book.clock.ticks(step.advance))
            case UseStep():
                self.use(step, unit)
            case ExpectStep():
                self.here = (*self.here, "expect")
                self.compare(step.expect, unit)
            case LevelStep():
                made.level = step.level
            case BuyStep():
                for name, levels in step.buy.items():
                    made.bought[name] = made.bought.get(name, 0) + levels
            case WearStep():
                made.gear = list(step.wear)
            case TeachStep():
                made.taught.append(step.teach)
        if isinstance(step, LevelStep | BuyStep | WearStep | TeachStep):
            self.bench = self.set_up(bench)

    def use(self, step: UseStep, unit: int) -> None:
        """Use an ability, and let time pass until it lands. What stands against it is a miss, unless it is expected."""
        bench, against = self.bench, self._against(step, unit)
        if not against:
            play = self._play(step, unit)
            target = self._target(play, unit)
            refusal, _ = bench.poke(unit, USE, index=play, target=target)
            against = why_not(bench, unit, refusal, play, target)
        if not against:
            lands = NEVER if bench.ability(play).beside else int(bench.state.units[unit].land_at)
            wait = max(0, lands - bench.ticks) if lands != NEVER else 0
            bench.advance(wait or int(bench.played))
        if bool(against) != step.refused:
            self.miss(
                (*self.here, "use"),
                step.use,
                "that it is refused" if step.refused else "that it can be used",
                against or "it was used",
                unit,
            )

    def _against(self, step: UseStep, unit: int) -> str:
        """Say what on the sheet stands against a use."""
        sheet = self.bench.setup.units[unit].sheet
        if step.use in sheet.abilities and step.use not in sheet.barred:
            for_others = self.bench.ability(self._play(step, unit)).targets in (FOE, FALLEN_ALLY)
            return "there is nobody to use it on" if for_others and len(self.made) == 1 else ""
        return sheet.barred.get(step.use, "it is not known")

    def _play(self, step: UseStep, unit: int) -> int:
        return int(self.bench.setup.tables.units[unit].first_play) + self.made[unit].plays.index((step.use, step.part))

    def _target(self, play: int, unit: int) -> int:
        only_user = self.bench.ability(play).targets == USER_ONLY
        return unit if only_user or len(self.made) == 1 else 1 - unit

    def compare(self, expected: Expected, unit: int) -> None:
        """Compare what is expected of a unit with what is so."""
        for name, value in expected.items():
            got = float(self.bench.down(unit)) if name == "down" else self.bench.figure(unit, name)
            if isinstance(value, bool):
                if value != (got != 0):
                    self.miss((*self.here, name), name, _said(value), _said(got != 0), unit)
            elif not abs(got - value) <= self.example.within:
                self.miss((*self.here, name), name, number(value), number(got), unit)

    def miss(self, path: tuple, what: str, expected: str, got: str, unit: int = WHO) -> None:
        entries = self._entries(unit, what) if hasattr(self, "bench") else ()
        self.misses.append(Miss(self.book.place(*path), dotted(path), what, expected, got, entries))

    def _entries(self, unit: int, name: str) -> tuple[str, ...]:
        """Return the last entries of a unit that led to a figure, as lines of its ledger: of a gauge, only those that
        are about it, and what happened."""
        fight, clock = Fight(self.bench.setup, self.bench.state, 0, 0), self.book.clock
        gauge = next((at for at, gauge in enumerate(self.book.gauges) if name in gauge_names(gauge)), None)
        rows = []
        for index, when, words, change, balance in fight.lines():
            entry = fight.state.entries[index]
            if entry.unit == unit and (gauge is None or not change or entry.gauge == gauge):
                booked = f"  {change} = {balance}" if change else ""
                rows.append(f"{index}  {when} {clock.unit}  {words}{booked}")
        return tuple(rows[-ENTRIES_SHOWN:])


def _said(value: bool) -> str:
    return "true" if value else "false"
