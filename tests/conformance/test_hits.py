"""Hits: resistance, class table, guard stance, immunity, invulnerability, healing kinds, stealing, waste."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, placed, rows, sides

GIVE_SELF = """
[abilities.prepare]
targets = "user"
cooldown = "60 s"
does = [{ give = "stance" }]
[classes.wary]
growth.might = 0
learns = { 1 = ["prepare"] }
playbook = "prepare"
[playbooks.prepare]
plays = [{ use = "prepare" }]
"""


def first_hits(text: str, right: str = "post", count: int = 3) -> list[float]:
    """Return what the first hits of a duel of an ox and another booked."""
    return [row["booked"] for row in rows(duel(text, "ox", right), "harm")][:count]


class HeldBack(unittest.TestCase):
    def test_a_resistance_is_a_share_that_a_stat_can_give_and_below_zero_a_weakness(self) -> None:
        for resist, booked in (("0.25", -7.5), ("1", 0.0), ("3", 0.0), ("-0.5", -15.0), ("might / 100", -10.0)):
            text = changed(TINY, ('power = "might"', f'power = "might"\nresist = "{resist}"'))
            self.assertEqual(first_hits(text)[0], booked, resist)

    def test_a_table_of_classes_against_the_kind(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might"\nagainst = { post = 0.3, ox = 2 }'))
        self.assertEqual(first_hits(text)[0], -3.0)
        self.assertEqual(first_hits(text, "ox")[0], -20.0)

    def test_a_guard_stance_is_read_on_the_takers_page(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might"\nguard = { when = "marked(braced)", times = 0.4 }'))
        text += GIVE_SELF + '[buffs.stance]\nlasts = "1.5 s"\nmarks = ["braced"]\n'
        fight = duel(text, "ox", "wary")
        found = ledger(fight, "harm", fields=("tick", "booked", "guarded"))
        self.assertIn((10, -4.0, True), found[:2])
        self.assertIn((20, -10.0, False), found)
        self.assertIn("× 0.4 guarded", fight.why(next(row["entry"] for row in rows(fight, "harm") if row["guarded"])))

    def test_a_bearer_of_a_mark_is_immune(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might"\nbarred_by = ["braced"]'))
        text += GIVE_SELF + '[buffs.stance]\nlasts = "1.5 s"\nmarks = ["braced"]\n'
        found = ledger(duel(text, "ox", "wary"), "harm", fields=("tick", "booked", "immune"))
        self.assertIn((10, 0.0, True), found[:2])
        self.assertIn((20, -10.0, False), found)


class Healing(unittest.TestCase):
    def test_a_healing_kind_has_power_soak_and_critical_and_its_waste_is_apart(self) -> None:
        text = (
            TINY
            + """
[healing.balm]
power = "4 * might"
soak = "might"
critical = { chance = 1, times = 2 }
[abilities.mend]
targets = "user"
cooldown = "1 s"
does = [{ heal = "balm" }]
[classes.nurse]
growth.might = 2
learns = { 1 = ["mend"] }
playbook = "mending"
[playbooks.mending]
plays = [{ use = "mend", when = "health < 100" }]
"""
        )
        found = ledger(duel(text, "ox", "nurse"), "heal", fields=("booked", "waste", "critical", "kind"))
        self.assertEqual(found[0], (10.0, 2.0, True, "balm"))  # 2 × (4·2 − 2) = 12, of which 10 are missing

    def test_stealing_heals_by_a_share_of_what_was_booked_not_of_what_was_asked(self) -> None:
        text = changed(
            TINY,
            ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow", steal = "0.5" }]'),
            ("growth.might = 10", "growth.might = 70"),
        )
        fight = duel(text, "ox", "ox")
        heals = [(row["asked"], row["booked"]) for row in rows(fight, "heal")]
        harms = [row["booked"] for row in rows(fight, "harm")]
        self.assertEqual([asked for asked, _ in heals], [-booked / 2 for booked in harms][: len(heals)])

    def test_overkill_is_waste(self) -> None:
        fight = duel(changed(TINY, ("growth.might = 10", "growth.might = 130")))
        self.assertEqual(ledger(fight, "harm", fields=("asked", "booked", "waste")), [(-130.0, -100.0, 30.0)])


class Invulnerability(unittest.TestCase):
    TWO = changed(TINY, ("[classes.post]", '[classes.post]\ninvulnerable = { after_hit = "0.5 s" }'))

    def test_a_second_hit_in_the_same_tick_counts_only_from_the_next_tick_on(self) -> None:
        meet = sides("meet", one("ox", "count = 2"), one("post"))
        found = ledger(rl.fight(book_of(self.TWO + meet), "meet"), "harm", fields=("tick", "booked", "invulnerable"))
        self.assertEqual(found[:4], [(0, -10.0, False), (0, 0.0, True), (10, -10.0, False), (10, 0.0, True)])
        late = changed(self.TWO, ("[clock]", '[clock]\ninvulnerable_from = "next_tick"'))
        found = ledger(rl.fight(book_of(late + meet), "meet"), "harm", fields=("tick", "booked", "invulnerable"))
        self.assertEqual(found[:4], [(0, -10.0, False), (0, -10.0, False), (10, -10.0, False), (10, -10.0, False)])

    def test_two_projectiles_that_arrive_in_one_tick(self) -> None:
        text = changed(self.TWO, ("does = [{ damage", 'projectile = "10 m/s"\ndoes = [{ damage'))
        meet = placed(
            '{ class = "ox", level = 1, at = ["2 m", "5 m"] }, { class = "ox", level = 1, at = ["18 m", "5 m"] }',
            '{ class = "post", level = 1, at = ["10 m", "5 m"] }',
        )
        found = ledger(
            rl.fight(book_of(text + meet), "meet"), "launch", "harm", fields=("tick", "phase", "booked", "invulnerable")
        )
        self.assertEqual(
            found[:4], [(0, "land", 0.0, False)] * 2 + [(8, "arrive", -10.0, False), (8, "arrive", 0.0, True)]
        )

    def test_it_stops_only_the_kinds_it_names_and_ends_after_its_time(self) -> None:
        text = (
            changed(self.TWO, ('after_hit = "0.5 s"', 'after_hit = "1.5 s", stops = ["blow"]'))
            + """
[damage.spark]
power = 1
[abilities.spark]
cooldown = "1 s"
does = [{ damage = "spark" }]
[classes.flint]
growth.might = 0
learns = { 1 = ["spark"] }
"""
        )
        meet = sides("meet", one("ox") + ", " + one("flint"), one("post"))
        fight = rl.fight(book_of(text + meet), "meet")
        blows = [(row["tick"], row["invulnerable"]) for row in rows(fight, "harm") if row["kind"] == "blow"]
        self.assertEqual({kind["invulnerable"] for kind in rows(fight, "harm") if kind["kind"] == "spark"}, {False})
        spared = [tick for tick, invulnerable in blows if invulnerable]
        self.assertTrue(spared and all(tick % 10 == 0 for tick in spared))


if __name__ == "__main__":
    unittest.main()
