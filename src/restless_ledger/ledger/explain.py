"""Why an entry is what it is: every step from the formulas' figures to the amount booked."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from ..engine import Setup
from ..engine.codes import (
    AMOUNT_FACTORS,
    CHANCE,
    CHANCE_FACTORS,
    CRITICAL,
    FACTORS,
    FIRST_EVENT,
    GRAZED,
    IMMUNE,
    INVULNERABLE,
    MISSED,
    THOUSAND,
)
from ..engine.layout.layout import State
from ..engine.tables.compiled_formulas import meeting_slots
from ..formula import Explanation, explain
from ..formula.explain import number
from ..rulebook import InputError
from .points import write_points
from .words import Wording

REASONS = {
    "handling": "by how well it is played",
    "segments": "with segments gone",
    "times": "of this effect",
    "resist": "is not resisted",
    "against": "against its class",
    "critical": "",
    "spread": "",
    "scale": "by distance, place in the area, stacks or strength",
    "guard": "guarded",
    "block": "blocked",
    "graze": "grazing",
}
"""What to say of each factor; of those of a part, the part."""


def factors(state: State, index: int) -> dict[str, float]:
    """Return every factor of a recorded hit by its name, as it was applied; 1 for those that changed nothing."""
    return dict(zip(FACTORS, state.entry_factors[index].tolist(), strict=True))


class EntryExplainer:
    """Explains the entries of one recorded fight."""

    def __init__(self, setup: Setup, state: State) -> None:
        self.setup = setup
        self.state = state
        self.wording = Wording(setup)
        self.programs = {line.path: line.program for line in setup.lines}

    def explain(self, index: int) -> str:
        """Return the explanation of an entry as lines of text."""
        entry = self.state.entries[index]
        clock = self.setup.book.clock
        rows = [f"entry {index}, at {number(clock.seconds(entry.tick))} {clock.unit}: {self.wording.sentence(entry)}"]
        if entry.kind >= 0 and not entry.notes & (INVULNERABLE | IMMUNE):
            rows += self._hit(index)
        elif entry.verb == CHANCE:
            rows += self._chance(entry)
        elif entry.verb < FIRST_EVENT and entry.line >= 0:
            line = self.setup.lines[entry.line]
            said = self._explain(line.path, self._page(entry.dealer_page))
            rows.append(self._row("amount", str(said), line.path))
        if entry.verb < FIRST_EVENT and not entry.notes & (MISSED | INVULNERABLE | IMMUNE):
            rows += self._booked(entry)
        return "\n".join(rows)

    def _chance(self, entry: Any) -> Iterator[str]:
        """Yield how likely something was, and what was drawn."""
        path = self.setup.lines[entry.line].path
        yield self._row("chance", str(self._explain(path, self._page(entry.dealer_page))), path)
        avoid = (*path[:-1], "avoid")
        if avoid in self.programs:
            yield self._row("avoid", str(self._explain(avoid, self._page(entry.taker_page))), avoid)
        drawn, chance = _told_apart(float(entry.drawn), float(entry.chance))
        yield self._row("drew", f"{drawn} against {chance}: {'it happens' if entry.amount else 'nothing happens'}")

    def _page(self, row: int) -> dict[str, float]:
        if row >= len(self.state.kept):
            raise InputError("entry: the pages behind this entry are not kept: there is room for no more")
        return dict(zip(self.setup.names.slots, self.state.kept[row].tolist(), strict=False))

    def _explain(self, path: tuple, values: dict[str, float]) -> Explanation:
        return explain(self.programs[path], values)

    def _row(self, step: str, text: str, path: tuple = ()) -> str:
        place = self.setup.book.place(*path) if path else ""
        return f"  {step:<9} {text:<46}  {place}".rstrip()

    def _hit(self, index: int) -> Iterator[str]:
        entry = self.state.entries[index]
        here = self.setup.names.kinds[entry.kind]
        kind = getattr(self.setup.book, here[0])[here[1]]
        dealer, taker = self._page(entry.dealer_page), self._page(entry.taker_page)
        scripted = self.setup.names.causes[entry.cause] == "script"
        meeting = dict.fromkeys(meeting_slots(kind), 0.0)
        meeting.update(
            power=float(entry.power),
            soak=float(entry.soak),
            level_gap=dealer["level"] - taker["level"],
            distance=float(entry.distance),
            behind=float(entry.behind),
            above=float(entry.above),
        )
        meeting |= {line: dealer[line] for line in kind.rolled}
        for side, page in (("dealer_lines", dealer), ("taker_lines", taker)):
            for line in getattr(kind, side):
                meeting[line] = self._explain((*here, side, line), page).value
        for line, roll in kind.rolled.items():
            yield self._row(line, f"{number(dealer[line])}, drawn from {roll}", (*here, "rolled", line))
        if entry.drawn == entry.drawn and not scripted:
            yield from self._landing(index, here, dealer, taker, meeting)
            if entry.notes & MISSED:
                return
        if scripted:
            yield self._row("power", f"{number(entry.power)}, given by the script")
        else:
            yield self._row("power", str(self._explain((*here, "power"), dealer)), (*here, "power"))
        yield self._row("soak", str(self._explain((*here, "soak"), taker)), (*here, "soak"))
        for side, page in (("dealer_lines", dealer), ("taker_lines", taker)):
            for line in getattr(kind, side):
                yield self._row(line, str(self._explain((*here, side, line), page)), (*here, side, line))
        yield self._row("settle", str(self._explain((*here, "settle"), meeting)), (*here, "settle"))
        yield from self._factors(index, kind.round)

    def _landing(self, index: int, here: tuple, dealer: dict, taker: dict, meeting: dict) -> Iterator[str]:
        for line, page in (("aim", dealer), ("dodge", taker)):
            if (*here, line) in self.programs:
                said = self._explain((*here, line), page)
                meeting[line] = said.value
                yield self._row(line, str(said), (*here, line))
        entry = self.state.entries[index]
        yield self._row("lands", str(self._explain((*here, "lands"), meeting)), (*here, "lands"))
        yield from self._multiplied(index, CHANCE_FACTORS, float(entry.lands))
        drawn, chance = _told_apart(float(entry.drawn), float(entry.chance))
        verdict = "too high, it misses" if entry.notes & MISSED else "it lands"
        if entry.notes & GRAZED:
            verdict = "a little too high, it grazes"
        yield self._row("drew", f"{drawn} against {chance}: {verdict}")

    def _multiplied(self, index: int, factors: tuple[str, ...], value: float) -> Iterator[str]:
        """Yield a line for each factor that changed a value, with the value after it."""
        entry, kept = self.state.entries[index], self.factors(index)
        part = self.setup.names.parts[entry.part] if entry.part >= 0 else ""
        for factor in factors:
            times, before = kept[factor], value
            value *= times
            if times != 1.0 or (factor == "critical" and entry.notes & CRITICAL):
                if factor == "times":
                    yield from self._times(entry, times)
                why = part if factor in ("part", "aimed_part") else REASONS[factor]
                yield self._row(
                    factor.split("_")[0], f"{number(before)} × {times:.6g} {why}".rstrip() + f" = {number(value)}"
                )

    def _times(self, entry: Any, times: float) -> Iterator[str]:
        """Yield the formula of an effect's `times`, where the page that is kept still gives what was applied."""
        if entry.line >= 0:
            path = self.setup.lines[entry.line].path
            said = self._explain(path, self._page(entry.dealer_page))
            if math.isclose(said.value, times):
                yield self._row("effect", str(said), path)

    def factors(self, index: int) -> dict[str, float]:
        """Return every factor of a hit by its name, as it was applied; 1 for those that changed nothing."""
        return factors(self.state, index)

    def _factors(self, index: int, rounding: str) -> Iterator[str]:
        """Yield a line for each factor that changed the amount, then how it was rounded and what stood in front."""
        entry = self.state.entries[index]
        yield from self._multiplied(index, AMOUNT_FACTORS, float(entry.settled))
        kind = getattr(self.setup.book, self.setup.names.kinds[entry.kind][0])[self.setup.names.kinds[entry.kind][1]]
        after = abs(int(entry.asked)) + int(entry.in_front)
        before = after + int(entry.mitigated)
        if rounding != "none":
            yield self._row("round", f"{rounding} to a whole number = {write_points(before)}")
        if kind.limits and before in [round(limit * THOUSAND) for limit in kind.limits]:
            yield self._row(
                "limits", f"from {number(kind.limits[0])} to {number(kind.limits[1])} = {write_points(before)}"
            )
        if entry.mitigated:
            said = f"{write_points(before)} {_signed(-entry.mitigated)} = {write_points(after)}"
            yield self._row("mitigated", said)
        if entry.in_front:
            yield self._row("front", f"{write_points(entry.in_front)} of it taken by what stands in front")

    def _booked(self, entry: Any) -> Iterator[str]:
        gauge = self.wording.gauge(entry.gauge) if entry.gauge >= 0 else self.setup.names.parts[entry.part]
        before = int(entry.balance) - int(entry.booked)
        yield self._row("asked", f"{write_points(entry.asked, True)} {gauge}")
        yield self._row(
            "booked", f"{write_points(before)} {_signed(entry.booked)} = {write_points(entry.balance)} {gauge}"
        )
        if entry.waste:
            yield self._row("waste", f"{write_points(entry.waste)} that the gauge could not take")


def _told_apart(drawn: float, chance: float) -> tuple[str, str]:
    """Return a draw and a chance with as many digits as show which is greater, three at least."""
    for digits in range(3, 18):
        texts = f"{drawn:.{digits}f}", f"{chance:.{digits}f}"
        if texts[0] != texts[1]:
            break
    return texts


def _signed(thousandths: int) -> str:
    return f"{'−' if thousandths < 0 else '+'} {write_points(abs(int(thousandths)))}"
