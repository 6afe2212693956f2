"""A few random breakages of the demo, and that the audit tells of them; `make prove` breaks it two hundred times."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.auditing.examples import run_example
from restless_ledger.auditing.find import find
from restless_ledger.auditing.promises.claims import BROKEN
from restless_ledger.auditing.promises.worked_out import exact

from .mutation import WAYS, broken, mutations

COUNT = 4


class MutationCases(unittest.TestCase):
    def test_most_are_told_of_without_a_fight(self) -> None:
        told = 0
        for _, mutation in zip(range(COUNT), mutations(3), strict=False):
            try:
                book = broken(mutation)
            except rl.InputError:
                told += 1
                continue
            told += bool(
                find(book)
                or any(judgement.verdict == BROKEN for judgement in exact(book))
                or not all(run_example(book, name).holds for name in book.examples)
            )
        self.assertGreaterEqual(told, COUNT // 2)

    def test_mutations_are_of_every_way_and_change_one_line(self) -> None:
        some = [mutation for _, mutation in zip(range(80), mutations(4), strict=False)]
        self.assertEqual({mutation.way for mutation in some}, set(WAYS))
        self.assertTrue(all(mutation.after != mutation.before for mutation in some))


if __name__ == "__main__":
    unittest.main()
