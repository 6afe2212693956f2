"""Why an entry is what it is: every step from the formulas' figures to the amount booked."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..engine import Setup
from ..engine.codes import CRITICAL, FIRST_EVENT, IMMUNE, INVULNERABLE, MISSED
from ..engine.layout import State
from ..engine.linebook import meeting_slots
from ..formula import Explanation, explain
from ..formula.explain import number
from .points import write_points
from .words import Wording


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
            rows += self._hit(entry)
        elif entry.verb < FIRST_EVENT and entry.line >= 0:
            line = self.setup.lines[entry.line]
            said = self._explain(line.path, self._page(entry.dealer_page))
            rows.append(self._row("amount", str(said), line.path))
        if entry.verb < FIRST_EVENT and not entry.notes & (MISSED | INVULNERABLE | IMMUNE):
            rows += self._booked(entry)
        if entry.parent >= 0:
            rows.append(f"  because of entry {entry.parent}: {self.wording.sentence(self.state.entries[entry.parent])}")
        return "\n".join(rows)

    def _page(self, row: int) -> dict[str, float]:
        return dict(zip(self.setup.names.slots, self.state.kept[row].tolist(), strict=False))

    def _explain(self, path: tuple, values: dict[str, float]) -> Explanation:
        return explain(self.programs[path], values)

    def _row(self, step: str, text: str, path: tuple = ()) -> str:
        place = self.setup.book.place(*path) if path else ""
        return f"  {step:<9} {text:<46}  {place}".rstrip()

    def _hit(self, entry: Any) -> Iterator[str]:
        here = self.setup.names.kinds[entry.kind]
        kind = getattr(self.setup.book, here[0])[here[1]]
        dealer, taker = self._page(entry.dealer_page), self._page(entry.taker_page)
        scripted = self.setup.names.causes[entry.cause] == "script"
        meeting = dict.fromkeys(meeting_slots(kind), 0.0)
        meeting.update(power=float(entry.power), soak=float(entry.soak), level_gap=dealer["level"] - taker["level"])
        if entry.lands == entry.lands and entry.drawn == entry.drawn and not scripted:
            yield from self._landing(entry, here, dealer, taker, meeting)
            if entry.notes & MISSED:
                return
        if scripted:
            yield self._row("power", f"{number(entry.power)}, given by the script")
        else:
            yield self._row("power", str(self._explain((*here, "power"), dealer)), (*here, "power"))
        yield self._row("soak", str(self._explain((*here, "soak"), taker)), (*here, "soak"))
        for side, page in (("dealer_lines", dealer), ("taker_lines", taker)):
            for line in getattr(kind, side):
                said = self._explain((*here, side, line), page)
                meeting[line] = said.value
                yield self._row(line, str(said), (*here, side, line))
        yield self._row("settle", str(self._explain((*here, "settle"), meeting)), (*here, "settle"))
        yield from self._factors(entry, kind.round)

    def _landing(self, entry: Any, here: tuple, dealer: dict, taker: dict, meeting: dict) -> Iterator[str]:
        for line, page in (("aim", dealer), ("dodge", taker)):
            if (*here, line) in self.programs:
                said = self._explain((*here, line), page)
                meeting[line] = said.value
                yield self._row(line, str(said), (*here, line))
        yield self._row("lands", str(self._explain((*here, "lands"), meeting)), (*here, "lands"))
        verdict = "too high, it misses" if entry.notes & MISSED else "it lands"
        yield self._row("drew", f"{entry.drawn:.3f} against {entry.lands:.3f}: {verdict}")

    def _factors(self, entry: Any, rounding: str) -> Iterator[str]:
        """Yield a line for each factor that changed the amount, with the amount after it."""
        amount = float(entry.settled)
        part = self.setup.names.parts[entry.part] if entry.part >= 0 else ""
        for step, factor, why in (
            ("times", entry.times, "of this effect"), ("part", entry.part_times, part),
            ("resist", entry.resist_times, "is not resisted"), ("against", entry.against_times, "against its class"),
            ("critical", entry.critical_times, ""), ("spread", entry.spread_times, ""),
            ("scale", entry.scale, "by distance, stacks or strength"), ("guard", entry.guard_times, "guarded"),
        ):  # fmt: skip
            amount *= factor
            if factor != 1.0 or (step == "critical" and entry.notes & CRITICAL):
                yield self._row(
                    step,
                    f"{number(amount / factor if factor else 0)} × {factor:.4g} {why}".rstrip()
                    + f" = {number(amount)}",
                )
        if rounding != "none":
            asked = abs(int(entry.asked)) + int(entry.in_front)
            yield self._row("round", f"{rounding} to a whole number = {write_points(asked)}")
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


def _signed(thousandths: int) -> str:
    return f"{'−' if thousandths < 0 else '+'} {write_points(abs(int(thousandths)))}"
