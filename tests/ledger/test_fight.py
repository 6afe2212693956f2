"""The ledger: balances added up anew, and explanations worked out anew from their own figures."""

from __future__ import annotations

import re
import unittest

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, book_of


class Balances(unittest.TestCase):
    def test_every_gauge_reconciles_from_the_entries_alone(self) -> None:
        book = rl.demo()
        for encounter in book.encounters:
            for number in range(10):
                fight = rl.fight(book, encounter, seed=5, number=number)
                opening = {
                    (unit.name, gauge): figure.begins
                    for unit in fight.setup.units
                    for gauge, figure in unit.sheet.gauges.items()
                }
                balance = dict(opening)
                for row in fight.records():
                    if row["gauge"] is None:
                        continue
                    key = (row["unit"], row["gauge"])
                    balance[key] = round(balance[key] + row["booked"], 3)
                    self.assertEqual(balance[key], row["balance"])
                    self.assertGreaterEqual(row["balance"], 0)
                    self.assertAlmostEqual(row["waste"], abs(row["asked"] - row["booked"]), places=9)
                for row in fight.balances():
                    self.assertEqual(row["closing"], balance[row["unit"], row["gauge"]])
                    self.assertEqual(row["difference"], 0)

    def test_nothing_changes_the_gauge_of_the_downed(self) -> None:
        for number in range(10):
            down: set[str] = set()
            for row in rl.fight(rl.demo(), "landing_ambush", seed=2, number=number).records():
                if row["verb"] == "revive":
                    down.discard(row["unit"])
                if row["gauge"] is not None:
                    self.assertNotIn(row["unit"], down)
                if row["verb"] == "down":
                    down.add(row["unit"])

    def test_entries_are_in_order_and_parents_come_first(self) -> None:
        fight = rl.fight(rl.demo(), "landing_ambush", seed=2)
        frame = fight.frame()
        self.assertTrue((frame["tick"].diff().dropna() >= 0).all())
        self.assertEqual(list(frame["entry"]), list(range(len(fight))))
        known = frame[frame["parent"].notna()]
        self.assertTrue((known["parent"] < known["entry"]).all())
        self.assertTrue((fight.frame("balances")["difference"] == 0).all())

    def test_a_tampered_gauge_is_refused(self) -> None:
        from restless_ledger.engine import set_up
        from restless_ledger.engine.machine import reconcile
        from restless_ledger.engine.setup import EngineFault

        setup = set_up(book_of(TINY + OX_AND_POST), "meet")
        state = setup.new_state()
        state.memory[:] = setup.opening.memory
        reconcile(setup.tables, state)
        setup.raise_fault(state)
        state.gauges[1, 0].now -= 1
        reconcile(setup.tables, state)
        with self.assertRaises(EngineFault) as caught:
            setup.raise_fault(state)
        self.assertIn("the books of post", str(caught.exception))


def figure(text: str) -> float:
    return float(text.replace("−", "-").replace(",", ""))


class Explanations(unittest.TestCase):
    def test_every_entry_can_be_explained_and_adds_up(self) -> None:
        fight = rl.fight(rl.demo(), "landing_ambush", seed=4)
        for index, row in enumerate(fight.records()):
            why = fight.why(index)
            self.assertTrue(why.startswith(f"entry {index}, at "))
            if row["balance"] is None or row["missed"] or row["invulnerable"] or row["immune"]:
                self.assertNotIn("booked ", why)
                continue
            before, sign, change, after = re.search(r"booked +(\S+) ([+−]) (\S+) = (\S+)", why).groups()  # type: ignore[union-attr]
            booked = figure(change) * (-1 if sign == "−" else 1)
            self.assertAlmostEqual(booked, row["booked"], places=6)
            self.assertAlmostEqual(figure(before) + booked, figure(after), places=6)
            self.assertAlmostEqual(figure(after), row["balance"], places=6)

    def test_a_hits_steps_multiply_to_what_was_asked(self) -> None:
        fight = rl.fight(rl.demo(), "stair_duel", seed=7)
        checked = 0
        for index, row in enumerate(fight.records()):
            if row["verb"] != "harm" or row["missed"]:
                continue
            why = fight.why(index)
            power, soak = (
                figure(re.search(rf"\n  {line} .*?([\d.,−]+)(?:  |\n)", why)[1]) for line in ("power", "soak")
            )  # type: ignore[index]
            settled = max(1, power - soak) if row["kind"] == "crush" else power * 60 / (60 + soak)
            for step in ("times", "part", "resist", "against", "critical", "spread", "scale", "guard"):
                factor = re.search(rf"\n  {step} .*× ([\d.]+)", why)
                settled *= float(factor[1]) if factor else 1
            self.assertAlmostEqual(settled, -row["asked"], delta=0.01 + 2e-4 * settled)
            checked += 1
        self.assertGreater(checked, 10)

    def test_the_formulas_figures_are_those_of_the_sheet(self) -> None:
        book = rl.demo()
        fight = rl.fight(book, "stair_duel", seed=7)
        index = next(
            i
            for i, row in enumerate(fight.records())
            if row["kind"] == "crush" and row["source"] == "Rigger" and not row["missed"]
        )
        brawn = rl.sheet(book, "rigger", level=8)["brawn"].value
        self.assertIn(f"10 + 1.3 × brawn {brawn:g} = {10 + 1.3 * brawn:g}", fight.why(index))
        self.assertIn("harm.toml:", fight.why(index))

    def test_an_entry_there_is_not(self) -> None:
        fight = rl.fight(rl.demo(), "stair_duel")
        for number in (-1, len(fight)):
            with self.assertRaises(rl.InputError) as caught:
                fight.why(number)
            self.assertIn(f"from 0 to {len(fight) - 1}", str(caught.exception))
