"""What is counted of a program while it practises: against a program whose branches and calls can be counted by hand."""

from __future__ import annotations

import re
import unittest
from functools import partial

import numpy as np

from restless_ledger import rulebook
from restless_ledger.engine import set_up
from restless_ledger.engine.layout.books_layout import RESULT
from restless_ledger.engine.layout.fixed import ENTER, FIXED
from restless_ledger.engine.making.practice import BOUTS, practice_for
from restless_ledger.engine.native.fitting import programs_for
from restless_ledger.engine.native.loading import program_at

from .test_programs import Blockish

TO_COUNT = """
define double @rl_enter(ptr %tables, ptr %opening, ptr %state, ptr %results, i64 %count) {
begin:
  br label %turn
turn:
  %at = phi i64 [ 0, %begin ], [ %next, %on ]
  %next = add i64 %at, 1
  %rest = urem i64 %at, 3
  %third = icmp eq i64 %rest, 0
  %digit = urem i64 %at, 5
  br i1 %third, label %often, label %on, !kept !0
often:
  switch i64 %digit, label %on [
    i64 0, label %nought
    i64 3, label %three
  ]
nought:
  call void @nothing()
  br label %on
three:
  br label %on
on:
  %more = icmp slt i64 %next, %count
  br i1 %more, label %turn, label %end
end:
  %never = icmp slt i64 %count, 0
  br i1 %never, label %on, label %leave
leave:
  %number = sitofp i64 %at to double
  ret double %number
}
define internal void @nothing() noinline {
  ret void
}
!0 = !{}
"""
"""Goes round `count` times, and every third time by one of three ways of its own, one of which calls a function."""


def rounds(address: int, count: int) -> float:
    """Return what the program at an address gives back for so many results."""
    blocks = (Blockish(), Blockish(), Blockish())
    return program_at(address)(*blocks, np.recarray(count, RESULT))  # type: ignore[arg-type]


def weights(text: str) -> list[list[int]]:
    """Return the weights of each branch of a program that has any, in the order of their notes."""
    notes = re.findall(r'"branch_weights"((?:, i32 \d+)+)\}', text)
    return [[int(each) for each in re.findall(r"i32 (\d+)", note)] for note in notes]


class Weights(unittest.TestCase):
    def test_each_branch_is_counted_and_the_program_does_the_same(self) -> None:
        from llvmlite import binding

        from restless_ledger.engine.compiler.branches import Counts, counted, weighed

        binding.initialize_native_target()
        binding.initialize_native_asmprinter()
        found: list[float] = []

        def practise(count: int, address: int) -> None:
            found[:] = [rounds(address, count), rounds(address, count)]

        for count in (1, 2, 3, 100):
            counts = counted(TO_COUNT, ENTER, partial(practise, count))
            thirds = [at for at in range(count) if at % 3 == 0]
            nought, three = (sum(at % 5 == digit for at in thirds) for digit in (0, 3))
            expected = [(count - len(thirds), len(thirds)), (1, count - 1), (1, 0)]
            expected += [(len(thirds) - nought, nought), (len(thirds) - three, three)]
            twice = [(2 * not_so, 2 * so) for not_so, so in expected]
            self.assertEqual(counts, Counts([2, 2 * nought], twice))
            self.assertEqual(found, [count - 1.0] * 2)
            text = weighed(TO_COUNT, counts)
            binding.parse_assembly(text).verify()
            others = 2 * (len(thirds) - nought - three)
            shares = [[so, not_so] for not_so, so in twice[:3]] + [[others, 2 * nought, 2 * three]]
            self.assertEqual(weights(text), shares)
            entries = re.findall(r'"function_entry_count", i64 (\d+)', text)
            self.assertEqual(list(map(int, entries)), counts.entries)
            self.assertEqual(
                re.sub(r",? !prof !\d+|^!\d+ = .*(branch_weights|entry_count).*\n", "", text, flags=re.M).strip(),
                TO_COUNT.strip(),
            )

    def test_counts_beyond_a_word_keep_their_share_and_what_never_came_has_none(self) -> None:
        from restless_ledger.engine.compiler.branches import Counts, weighed

        text = weighed(TO_COUNT, Counts([2**50, 0], [(3 * 2**40, 2**40), (0, 0), (5, 0), (0, 2**33), (2**33, 0)]))
        (so, not_so), other, (usual, nought, three) = weights(text)
        self.assertAlmostEqual(not_so / so, 3, places=6)
        self.assertLess(max(not_so, nought), 2**32)
        self.assertEqual(other, [0, 5])
        self.assertTrue(nought > 0 == usual == three)


class Bouts(unittest.TestCase):
    def test_each_bout_fits_the_program_that_practises_on_it_and_no_quicker_one(self) -> None:
        files = sorted(BOUTS.glob("*.toml"))
        self.assertTrue(files)
        for file in files:
            name = f"{ENTER}_{file.stem}"
            self.assertIn(name, FIXED)
            book = rulebook.load(file)
            self.assertTrue(book.encounters)
            for bout in book.encounters:
                self.assertEqual(programs_for(set_up(book, bout).tables)[0], name)

    def test_a_program_without_bouts_does_not_practise(self) -> None:
        self.assertIsNone(practice_for("enter_battle"))
        self.assertIsNone(practice_for(ENTER))
