"""Work side by side: in order, what shares a lane one after the other, and all of it told to stop."""

from __future__ import annotations

import threading
import unittest

import restless_ledger as rl
from restless_ledger.engine.lanes import beside, side_by_side
from restless_ledger.engine.time_budget import check_time
from restless_ledger.workers import working


class Lanes(unittest.TestCase):
    def setUp(self) -> None:
        self.lock, self.begun, self.busy = threading.Lock(), list[int](), set[int]()

    def work(self, item: int) -> int:
        """Return an item's square, having made sure that nobody else is in its lane."""
        with self.lock:
            self.assertNotIn(item % 3, self.busy)
            self.busy.add(item % 3)
            self.begun.append(item)
        threading.Event().wait(0.002 * (item % 4))
        with self.lock:
            self.busy.remove(item % 3)
        if item == 40:
            raise ValueError("forty")
        return item * item

    def endless(self, item: int) -> int:
        """Return the first item; of others there is no end until they are told to stop."""
        while item > 0:
            threading.Event().wait(0.005)
            check_time()
        return item

    def test_results_come_in_order_and_lanes_are_gone_along_in_order(self) -> None:
        for threads in (1, 2, 3, 7):
            self.begun.clear()
            with working(threads=threads):
                found = list(side_by_side(self.work, range(30), lambda item: item % 3))
            self.assertEqual(found, [item * item for item in range(30)])
            for lane in range(3):
                mine = [item for item in self.begun if item % 3 == lane]
                self.assertEqual(mine, list(range(lane, 30, 3)))
        self.assertEqual(list(side_by_side(self.work, [], lambda item: item)), [])

    def test_work_beside_other_work_is_waited_for_and_raises_in_its_place(self) -> None:
        for threads in (1, 2):
            with working(threads=threads):
                with beside(lambda: self.work(5)) as made:
                    self.assertEqual(self.work(7), 49)
                    self.assertEqual(made(), 25)
                with self.assertRaisesRegex(ValueError, "forty"), beside(lambda: self.work(40)) as made:
                    made()

    def test_work_beside_other_work_leaves_it_the_time_and_stops_with_it(self) -> None:
        """Each is told of a time budget by itself; who is done first with the time takes none from the other."""
        with working(threads=2), rl.time_budget(0.05), self.assertRaises(rl.TimeUp), beside(lambda: self.endless(1)):
            self.endless(2)
        with working(threads=2), self.assertRaises(KeyError), beside(lambda: self.endless(1)):
            raise KeyError

    def test_what_is_raised_is_raised_in_its_place(self) -> None:
        for threads in (1, 3):
            found = list[int]()
            with working(threads=threads), self.assertRaisesRegex(ValueError, "forty"):
                found.extend(side_by_side(self.work, range(60), lambda item: item % 3))
            self.assertEqual(found, [item * item for item in range(40)])

    def test_nobody_works_on_when_the_rest_is_not_wanted(self) -> None:
        """Were it not so, this would never end."""
        with working(threads=3):
            results = side_by_side(self.endless, range(9), lambda item: item)
            self.assertEqual(next(results), 0)
            results.close()

    def test_a_time_budget_ends_all_lanes(self) -> None:
        with working(threads=3), self.assertRaises(rl.TimeUp), rl.time_budget(0.1) as budget:
            list(side_by_side(self.endless, range(9), lambda item: item))
        self.assertTrue(budget.spent)
