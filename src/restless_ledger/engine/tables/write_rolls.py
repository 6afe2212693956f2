"""Rolls → rows: ranges with their ends, and the numbers of dice and decks with the chance of at most each."""

from __future__ import annotations

from ...formula import Program, parse
from ...rulebook.rolls import AnyRoll, Between, Deck
from ...sheets.rolls import steps
from ..layout.kind_layout import FACES, ROLLS
from .compiled_formulas import CompiledFormulas
from .table_rows import Pool, row, span


class RollWriter:
    """Writes the rolls of an encounter."""

    def __init__(self, lines: CompiledFormulas) -> None:
        self.lines = lines
        self.rolls = Pool()
        self.faces = Pool()

    def add(self, path: tuple, roll: AnyRoll, slot: int = -1) -> int:
        """Number a roll; `slot` is where what is rolled is written on the page of who rolls (-1: nowhere)."""
        low, high = -1, -1
        numbers: list[tuple] = []
        if isinstance(roll, Between):
            low, high = (
                self.lines.add((*path, "between", place), end if isinstance(end, Program) else parse(f"{end!r}"))
                for place, end in enumerate(roll.between)
            )
        elif isinstance(roll, Deck):
            numbers = [(card, 1.0) for card in roll.deck]
        else:
            numbers = list(zip(*(column.tolist() for column in steps(roll)), strict=True))
        faces = self.faces.add([row(FACES, value=value, up_to=up_to) for value, up_to in numbers])
        one = row(
            ROLLS,
            low=low,
            high=high,
            whole=int(isinstance(roll, Between) and roll.whole),
            deck=int(isinstance(roll, Deck)),
            **span("face", faces),
            rolls=roll.rolls,
            best=int(roll.keep == "best"),
            slot=slot,
        )
        return self.rolls.add([one])[0]
