"""The bench: characters who do nothing by themselves, stepped by a script by the same rules as fights are played by."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from ..engine import Setup, codes
from ..engine.codes import USE
from ..engine.layout.layout import State, copy_state
from ..engine.machine import evaluate, play_until, poke
from ..engine.recording import recorded
from ..formula.explain import number
from ..rulebook import InputError
from ..rulebook.problems import nearest
from .points import points

LEAST_ROOM = 64


class Bench:
    """The state of some characters on a bench, every entry kept. `even` sets luck aside: each draw is in the middle."""

    def __init__(self, setup: Setup, even: bool = False) -> None:
        self.setup = setup
        self.state: State = setup.new_state(LEAST_ROOM)
        self.state.memory[:] = setup.opening.memory
        self.state.run[0].fixed_luck = int(even)

    def carry_out(self, action: Callable[[State], object]) -> range:
        """Carry an action out on a copy with room enough and keep it if it is sound; return the entries it wrote.

        Raises `FightFault` where it is not; then nothing has changed.
        """
        before = int(self.state.clock[0].entries)

        def play(room: int) -> State:
            copy = copy_state(self.state, room)
            action(copy)
            return copy

        state = recorded(play, max(LEAST_ROOM, 2 * before))
        self.setup.raise_fault(state)
        self.state = state
        return range(before, int(state.clock[0].entries))

    def poke(self, unit: int, verb: int, *, index: int = 0, amount: float = 0.0) -> range:
        """Let a script change something (see `engine/kernel/script.py`); return the entries it wrote."""
        return self._poke(unit, verb, index=index, amount=amount)[1]

    def use(self, unit: int, play: int, target: int) -> str:
        """Begin a play; return what stands against it, with the figures, or nothing."""
        return self._against(unit, play, self._poke(unit, USE, index=play, target=target)[0])

    def _poke(self, unit: int, verb: int, **what: Any) -> tuple[int, range]:
        refusals = []
        entries = self.carry_out(lambda state: refusals.append(poke(self.setup.tables, state, unit, verb, **what)))
        return refusals[-1], entries

    def _against(self, unit: int, play: int, refusal: int) -> str:
        """Say what stands against a play: how long still, or which gauge, how much of how much."""
        row, me = self.setup.tables.plays[play], self.state.units[unit]
        match refusal:
            case codes.NOTHING_AGAINST:
                return ""
            case codes.IS_DOWN:
                return "it is down"
            case codes.IS_BUSY:
                return f"it is busy for another {self._still(int(me.free_at))}"
            case codes.IS_COOLING_DOWN if self.state.known[row.known].uses == 0:
                return "it has no uses left in this fight"
            case codes.IS_COOLING_DOWN:
                return f"it is cooling down for another {self._still(int(self.state.known[row.known].ready_at))}"
            case codes.IS_TOO_DEAR:
                return "it can’t be paid: " + ", ".join(self._lacking(unit, int(row.ability)))
            case codes.IS_SLIDING:
                return "it still slides"
            case codes.IS_NOT_MET:
                name = self.setup.names.abilities[int(row.ability)]
                return f"it requires {self.setup.book.abilities[name].requires}"
            case codes.IS_BARRED:
                return f"it is kept from it by {', '.join(self._barring(unit, int(row.ability)))}"
        raise AssertionError(f"nobody has written what refusal {refusal} is")

    def _barring(self, unit: int, ability: int) -> Iterator[str]:
        """Yield the buffs that keep a unit from an ability."""
        tables, name = self.setup.tables, self.setup.names.abilities[ability]
        entry = self.setup.book.abilities[name]
        for place, buff in enumerate(self.setup.names.buffs):
            row = tables.buffs[place]
            barred = ability in tables.barred[row.first_barred : row.last_barred]
            leaps = bool(entry.dash or entry.lunge or entry.jumps) and row.bars & codes.BARS_DASHING
            if self.state.buffs[unit, place].on and (barred or leaps or row.bars & codes.BARS_ACTING):
                yield self.setup.book.buffs[buff].label or buff

    def _still(self, until: int) -> str:
        clock = self.setup.book.clock
        return f"{number(clock.seconds(until - self.ticks))} {clock.unit}"

    def _lacking(self, unit: int, ability: int) -> Iterator[str]:
        """Yield each gauge that does not hold what an ability costs, and how much of how much it holds."""
        tables, book = self.setup.tables, self.setup.book
        row = tables.abilities[ability]
        for cost in tables.effects[row.first_cost : row.first_effect]:
            wanted = max(0.0, evaluate(tables, self.state, int(cost.line), unit))
            held = points(self.state.gauges[unit, cost.index].now)
            if held < wanted:
                name = self.setup.names.gauges[cost.index]
                yield f"{number(held)} of {number(wanted)} {book.gauges[name].label or name}"

    def advance(self, ticks: int) -> range:
        """Let time pass; return the entries that were written meanwhile."""
        until = self.ticks + ticks
        return self.carry_out(lambda state: play_until(self.setup.tables, state, until))

    @property
    def ticks(self) -> int:
        """The tick that it stands at."""
        return int(self.state.clock[0].tick)

    def figure(self, unit: int, name: str) -> float:
        """Return what a name on a unit's page is now. Raises `InputError` on an unknown one."""
        return float(self.state.pages[unit, self.find("name", name, self.setup.names.slots)])

    def down(self, unit: int) -> bool:
        """Say whether a unit is down."""
        return not self.state.units[unit].up

    def gauge(self, unit: int, name: str | None) -> int:
        """Return the number of a gauge that a unit holds; the one that takes it down unless it is named."""
        name = name or self.setup.book.downing_gauge or ""
        self.find("gauge", name, list(self.setup.units[unit].sheet.gauges))
        return self.setup.names.gauges.index(name)

    def find(self, noun: str, name: str, names: tuple[str, ...] | list[str]) -> int:
        """Return the place of a name among others. Raises `InputError` with the nearest one."""
        if name not in names:
            raise InputError(f"{self.setup.title}: there is no {noun} {name} here\n    {nearest(name, names)}")
        return names.index(name)
