"""Break the demo in random sensible ways, and see what the audit makes of it.

A mutation swaps two numbers, misspells a name, drops a line or multiplies a number by ten. It counts if it changes any
outcome: the page of any class at any level, the chance of any check, how any fight or journey goes. It is found if the
rulebook is refused, or if a finding, a worked example or a broken promise tells of it.
"""

from __future__ import annotations

import random
import re
import shutil
import tempfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.api import DEMO
from restless_ledger.auditing.examples import run_example
from restless_ledger.auditing.find import find
from restless_ledger.auditing.promises.claims import BROKEN
from restless_ledger.auditing.promises.sampled import Sampled
from restless_ledger.auditing.promises.worked_out import exact
from restless_ledger.sheets.by_level import page_by_level

GUARDS = ("examples.toml", "promises.toml", "audit.toml")
"""What watches over the rules is not broken itself."""
NUMBER = re.compile(r"(?<![\w.\[])\d+(?:\.\d+)?(?![\w.])")
WORD = re.compile(r"\b[a-z][a-z_]{3,}\b")
WAYS = ("swapped numbers", "a misspelling", "a dropped line", "times ten")


@dataclass(frozen=True)
class Mutation:
    """One change of one file."""

    way: str
    file: str
    line: int
    before: str
    after: str | None

    def __str__(self) -> str:
        return f"{self.way}, {self.file}:{self.line + 1}: {self.before.strip()!r} -> {(self.after or 'gone').strip()!r}"


def mutations(seed: int) -> Iterator[Mutation]:
    """Yield random mutations of the demo, for ever."""
    generator = random.Random(seed)
    texts = {
        file.name: file.read_text(encoding="utf-8").split("\n")
        for file in sorted(DEMO.glob("*.toml"))
        if file.name not in GUARDS
    }
    lines = [
        (file, number)
        for file, rows in texts.items()
        for number, row in enumerate(rows)
        if row.strip() and not row.strip().startswith("#")
    ]
    while True:
        way = generator.choice(WAYS)
        file, number = generator.choice(lines)
        before = texts[file][number]
        said = before.split("  #")[0].rstrip()
        after = _changed(generator, way, said)
        if after != said:
            yield Mutation(way, file, number, before, after)


def _changed(generator: random.Random, way: str, row: str) -> str | None:
    """Return a line with one thing wrong; the line itself where this can't be done to it."""
    if way == "a dropped line":
        return None
    if way == "a misspelling":
        words = list(WORD.finditer(row))
        if not words:
            return row
        word = generator.choice(words)
        at = word.start() + generator.randrange(len(word[0]) - 1)
        swapped = row[at + 1] + row[at]
        return row[:at] + (swapped if generator.random() < 0.5 else row[at + 1]) + row[at + 2 :]
    numbers = list(NUMBER.finditer(row))
    if way == "times ten":
        if not numbers:
            return row
        found = generator.choice(numbers)
        return row[: found.start()] + f"{float(found[0]) * 10:g}" + row[found.end() :]
    if len(numbers) < 2:
        return row
    first, second = sorted(generator.sample(numbers, 2), key=lambda each: each.start())
    return row[: first.start()] + second[0] + row[first.end() : second.start()] + first[0] + row[second.end() :]


def broken(mutation: Mutation) -> rl.Rulebook:
    """Load the demo with a mutation. Raises `InputError` where it is refused."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(DEMO, folder, dirs_exist_ok=True)
        file = Path(folder) / mutation.file
        rows = file.read_text(encoding="utf-8").split("\n")
        rows[mutation.line : mutation.line + 1] = [] if mutation.after is None else [mutation.after]
        file.write_text("\n".join(rows), encoding="utf-8")
        return rl.load(folder)


def outcomes(book: rl.Rulebook) -> dict[str, object]:
    """Return what comes of a rulebook: pages, chances, drops, fights and a few runs of its journeys."""
    found: dict[str, object] = {}
    for who in book.classes:
        found[f"page {who}"] = {name: values.tolist() for name, values in page_by_level(book, who).items()}
        found[f"learns {who}"] = book.classes[who].learns
    found["odds"] = [(record.check, record.who, record.level, str(record.chance)) for record in rl.odds(book).odds]
    found["falls"] = [str(record) for record in rl.falls(book).heights]
    for name in book.gear:
        found[f"gear {name}"] = str(book.gear[name].model_copy(update={"label": None}))
    for name in book.origins:
        found[f"origin {name}"] = str(book.origins[name].model_copy(update={"label": None}))
    found["creation"] = str(book.creation)
    for who in ("rigger", "lampwright"):
        found[f"upgrades {who}"] = str(rl.upgrades(book, who).levels)
    found["drops"] = [
        [f"{drop} {drop and dict(drop.rolled)}" for drop in rl.drops(book, name, count=200)] for name in book.drops
    ]
    for name in book.encounters:
        run = rl.trials(book, name, fights=6 if name == "quay_battle" else 60).run
        found[f"fights {name}"] = (
            sorted(run.counts.items()),
            {key: values.tolist() for key, values in run.tally.items()},
        )
    found["winter"] = [
        (run.seconds, run.levels, run.bought, run.coin) for run in rl.journey(book, "winter", runs=8).runs
    ]
    return found


def same(one: dict[str, object], other: dict[str, object]) -> bool:
    """Say whether nothing came out differently; labels alone are no outcome."""
    if set(one) != set(other):
        return False
    return all(repr(one[key]) == repr(other[key]) for key in one)


def found_by(book: rl.Rulebook) -> str:
    """Return what tells of a broken rulebook that can be read: a finding, a worked example, a promise, or nothing."""
    if findings := find(book):
        return f"the finding {findings[0].code}"
    for name in book.examples:
        if not run_example(book, name).holds:
            return "a worked example"
    if any(judgement.verdict == BROKEN for judgement in exact(book)):
        return "a promise"
    for judgements in Sampled(book, 1).judge():
        if any(judgement.verdict == BROKEN for judgement in judgements):
            return "a promise"
    return ""


@dataclass
class Score:
    """What became of many mutations."""

    tried: int
    harmless: list[Mutation]
    found: Counter[str]
    missed: list[Mutation]

    @property
    def share(self) -> float:
        """The share of those that change an outcome which was found."""
        found = sum(self.found.values())
        return found / max(1, found + len(self.missed))


def score(count: int, seed: int) -> Score:
    """Break the demo so many times, each time anew."""
    healthy, result = outcomes(rl.demo()), Score(0, [], Counter(), [])
    for mutation in mutations(seed):
        if result.tried == count:
            return result
        result.tried += 1
        try:
            book = broken(mutation)
        except rl.InputError:
            result.found["the reading"] += 1
            continue
        try:
            changed = not same(healthy, outcomes(book))
        except (rl.InputError, ZeroDivisionError, np.exceptions.AxisError):
            changed = True
        told = found_by(book)
        if told:
            result.found[told.split(" ", 2)[1] if told.startswith("the finding") else told.split(" ", 1)[1]] += 1
        elif changed:
            result.missed.append(mutation)
        else:
            result.harmless.append(mutation)
    return result
