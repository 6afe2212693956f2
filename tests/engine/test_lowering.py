"""How functions are lowered apart from each other: a little kernel, against the same source as plain Python."""

from __future__ import annotations

import random
import tempfile
import unittest
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np

from restless_ledger.engine.layout.books_layout import RESULT
from restless_ledger.engine.layout.layout import State, Tables
from restless_ledger.engine.making.lower import shares_of
from restless_ledger.engine.native.loading import OBJECT_ENDING, load

from ..support import python_apart
from .test_programs import Blockish

LITTLE = """
@part(inlined=True)
def is_odd(number: int) -> bool:
    return number % 2 == 1

@part(seldom=True)
def both(amount: float, number: int) -> tuple[int, float]:
    return number + 1, amount / 2.0

@part()
def nothing(tables: Tables, number: int) -> None:
    number += 1

@part()
def down(number: int) -> int:
    return max(0, min(number - 2, 40))

@part(outermost=True)
def enter(tables: Tables, opening: State, state: State, results: np.ndarray) -> float:
    total = 0.0
    for number in range(results.shape[0]):
        nothing(tables, number)
        if is_odd(number):
            more, half = both(number, number)
            total += more * half + down(number)
    return total
"""
"""It hands a whole number to a fraction, gives several values back, and nothing."""


ALONE = r"""
import contextlib, re
from restless_ledger.engine.making import lower
sizes = lower._declared()
from llvmlite import binding
from restless_ledger.engine.compiler import program

def text(numbers):
    return re.sub(r"\d+", "#", str(binding.parse_bitcode(program.lowered(numbers))))

for first in range(0, len(sizes), 60):
    some = list(range(first, min(first + 6, len(sizes))))
    once = text(some)
    with_all = program._calls_resolved_once
    program._calls_resolved_once = contextlib.nullcontext
    print(len(once) > 1000, once == text(some))
    program._calls_resolved_once = with_all
"""
"""Lowers some functions of the kernel, with what operations and calls give asked once and each time, and compares the code but
for the numbers in its names."""


def little(source: str, part: Any) -> Any:
    """Return the outermost function of a kernel's source, whose functions are marked by `part`."""
    names = {"part": part, "np": np, "Tables": Tables, "State": State, "__name__": "little"}
    exec(source, names)
    return names["enter"]


def plain(**_: bool) -> Any:
    return lambda function: function


class Lowered(unittest.TestCase):
    def setUp(self) -> None:
        from restless_ledger.engine.compiler import program

        self.program = program
        patched = mock.patch.object(program, "DECLARED", [])
        patched.start()
        self.addCleanup(patched.stop)

    def declare(self, source: str) -> int:
        """Declare a kernel's functions and return how many they are."""
        little(source, lambda **how: lambda function: self.program.declare(function, **how))
        return len(self.program.DECLARED)

    def test_pieces_in_any_order_make_the_same_as_plain_python(self) -> None:
        from restless_ledger.engine.compiler.emit import emitted

        wanted, count = little(LITTLE, plain), self.declare(LITTLE)
        state: Any = Blockish()
        for pieces in ([range(count)], [[at] for at in range(count)], [[4, 0], [3], [2, 1]]):
            code = self.program.linked(map(self.program.lowered, pieces))
            with tempfile.TemporaryDirectory() as folder:
                file = Path(folder, f"little{OBJECT_ENDING}")
                file.write_bytes(emitted(code, "little", "none", {}, RESULT.itemsize))
                run = load(file, "little", "none")
            for fights in (0, 1, 2, 9, 200):
                results = np.recarray(fights, RESULT)
                self.assertEqual(run(state, state, state, results), wanted(state, state, state, results))

    def test_what_contradicts_its_annotation_is_not_made(self) -> None:
        for wrong, said in (
            (LITTLE.replace("int) -> bool", "int) -> int"), "little.is_odd gives bool; its annotation says int64"),
            (LITTLE.replace("down(number)\n", "down(half)\n"), "little.down takes int64 and is called with float64"),
            (LITTLE.replace("is_odd(number: int)", "is_odd(number: bool)"), "little.is_odd takes bool"),
        ):
            self.program.DECLARED.clear()
            with self.assertRaises(Exception) as raised:
                self.program.lowered(range(self.declare(wrong)))
            self.assertIn(said, str(raised.exception))

    def test_a_function_that_nobody_lowered_is_missed(self) -> None:
        count = self.declare(LITTLE)
        with self.assertRaisesRegex(RuntimeError, "little.both was not lowered"):
            self.program.linked([self.program.lowered(at for at in range(count) if at != 1)])


class Shares(unittest.TestCase):
    def test_shares_are_runs_of_all_that_differ_by_no_more_than_two_items(self) -> None:
        luck = random.Random(4)
        for _ in range(300):
            sizes = [luck.randint(1, 900) for _ in range(luck.randint(1, 400))]
            count = luck.randint(1, 40)
            shares = shares_of(sizes, count)
            self.assertEqual([number for share in shares for number in share], list(range(len(sizes))))
            self.assertLessEqual(len(shares), count)
            for share in shares:
                self.assertLessEqual(sum(sizes[number] for number in share), sum(sizes) / count + max(sizes))

    def test_what_calls_give_is_the_same_when_it_is_asked_once(self) -> None:
        told = python_apart(ALONE).split("\n")[:-1]
        self.assertGreater(len(told), 6)
        self.assertEqual(set(told), {"True True"})
