"""Buffs: what they change, a second application, buildup, dispel, immunity, no end, two on one stat, two sources."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, ledger, one, rows, sides

SPELL = """
[stats.luck]
base = 10
[damage.sear]
power = 2
[abilities.curse]
cooldown = "2 s"
does = [{ give = "hex" }]
[classes.witch]
growth.might = 0
learns = { 1 = ["curse"] }
[buffs.hex]
kind = "debuff"
"""


def cursed(buff: str, units: str = one("witch"), limit: str = "30 s") -> rl.ledger.Fight:
    """Fight a witch, who gives the buff each 2 s, against a post, in ticks of a tenth of a second."""
    text = changed(TINY, ('time_limit = "30 s"', f'time_limit = "{limit}"')) + SPELL + buff
    return rl.fight(book_of(text + sides("meet", units, one("post"))), "meet")


def luck(fight: rl.ledger.Fight) -> float:
    """Return what luck the post has at the end."""
    return float(fight.state.pages[-3, fight.setup.names.slots.index("luck")])


class Changes(unittest.TestCase):
    def test_set_add_scale_and_times(self) -> None:
        for change, value in (("set = 3", 3), ("add = -4", 6), ("scale = 0.5", 15), ("times = 0.2", 2)):
            self.assertAlmostEqual(luck(cursed(f"stats = {{ luck = {{ {change} }} }}\n", limit="1 s")), value)

    def test_two_buffs_on_one_stat_are_summed_as_their_ways_say(self) -> None:
        more = "stats = { luck = { scale = 0.5 } }\n[buffs.charm]\nstats = { luck = { scale = 0.3 } }\n"
        text = changed(SPELL, ('{ give = "hex" }', '{ give = "hex" }, { give = "charm" }'))
        fight = rl.fight(
            book_of(changed(TINY, ('"30 s"', '"1 s"')) + text + more + sides("meet", one("witch"), one("post"))), "meet"
        )
        self.assertAlmostEqual(luck(fight), 10 * (1 + 0.5 + 0.3))

    def test_a_buff_without_end_lasts(self) -> None:
        fight = cursed("stats = { luck = { add = 1 } }\n")
        self.assertEqual(rows(fight, "end"), [])
        self.assertEqual(luck(fight), 11)


class Again(unittest.TestCase):
    BUFF = 'lasts = "3 s"\nstats = { luck = { add = 1 } }\n'

    def ends(self, again: str, more: str = "") -> list[int]:
        text = self.BUFF + f'again = "{again}"\n' + more
        return [row["tick"] for row in rows(cursed(text, limit="8 s"), "end")]

    def test_the_five_ways_a_second_application_behaves(self) -> None:
        # applied at 0, 2, 4, 6 and 8 s, lasting 3 s
        self.assertEqual(self.ends("refresh"), [])
        self.assertEqual(self.ends("ignore"), [30, 70])  # taken again at 4 s
        self.assertEqual(self.ends("extend"), [])
        self.assertEqual(self.ends("stack"), [])
        self.assertEqual(self.ends("keep_strongest"), [])

    def test_extend_adds_to_the_time_left_up_to_so_many_times(self) -> None:
        text = self.BUFF + 'again = "extend"\n'
        fight = cursed(text, '{ class = "witch", level = 1, lives = 1 }', limit="3 s")
        self.assertEqual(int(fight.state.buffs[1, 0].ends_at), 60)  # at 0 s: 3 s; at 2 s: 3 s more
        held = cursed(text + "most = 1\n", limit="3 s")
        self.assertEqual(int(held.state.buffs[1, 0].ends_at), 50)  # never more than 3 s from now

    def test_stack_counts_once_more_each_time_up_to_its_limit(self) -> None:
        fight = cursed(self.BUFF + 'again = "stack"\nmost = 3\n', limit="9 s")
        self.assertEqual([row["amount"] for row in rows(fight, "refresh")], [2.0, 3.0, 3.0, 3.0])
        self.assertEqual(luck(fight), 13)

    def test_stacks_multiply_beats(self) -> None:
        beat = 'lasts = "9 s"\nagain = "stack"\neach = { every = "1 s", does = [{ damage = "sear" }] }\n'
        found = ledger(cursed(beat, limit="5 s"), "harm", fields=("tick", "booked"))
        self.assertEqual(found, [(10, -2.0), (20, -2.0), (30, -4.0), (40, -4.0), (50, -6.0)])

    def test_keep_strongest_takes_the_stronger_and_leaves_the_weaker(self) -> None:
        text = changed(
            SPELL,
            ('{ give = "hex" }', '{ give = "hex", strength = "luck" }'),
            ("[classes.witch]", "[classes.witch]\ngrowth.luck = { from = 2, to = 11 }"),
        )
        text += self.BUFF + 'again = "keep_strongest"\n'
        weak, strong = '{ class = "witch", level = 1 }', '{ class = "witch", level = 6 }'
        fight = rl.fight(
            book_of(changed(TINY, ('"30 s"', '"1 s"')) + text + sides("meet", f"{strong}, {weak}", one("post"))), "meet"
        )
        self.assertEqual(luck(fight), 10 + 7)
        self.assertEqual(len(rows(fight, "barred")) + len(rows(fight, "refresh")), 1)

    def test_two_sources_share_one_buff_whose_beats_go_to_the_last(self) -> None:
        beat = 'lasts = "3 s"\neach = { every = "1 s", does = [{ damage = "sear" }] }\n'
        fight = cursed(beat, '{ class = "witch", level = 1, count = 2 }', limit="1.5 s")
        last = [row["source"] for row in fight.records() if row["verb"] in ("begin", "refresh")][-1]
        self.assertEqual([(row["source"], row["booked"]) for row in rows(fight, "harm")], [(last, -2.0)])


class Buildup(unittest.TestCase):
    def test_it_catches_when_its_meter_is_full_and_the_meter_fades(self) -> None:
        text = (
            changed(SPELL, ('{ give = "hex" }', '{ buildup = "hex", amount = 45 }'))
            + 'lasts = "1 s"\ncatches_at = "99 + level"\nfades = "5 per s"\n'
        )
        fight = rl.fight(
            book_of(changed(TINY, ('"30 s"', '"9 s"')) + text + sides("meet", one("witch"), one("post"))), "meet"
        )
        built = ledger(fight, "buildup", "begin", fields=("tick", "verb", "amount"))
        # 45 at 0 s; 35 + 45 at 2 s; 70 + 45 at 4 s: full; then from nothing again
        self.assertEqual(
            built,
            [
                (0, "buildup", 45.0),
                (20, "buildup", 80.0),
                (40, "buildup", 115.0),
                (40, "begin", 1.0),
                (60, "buildup", 45.0),
                (80, "buildup", 80.0),
            ],
        )


class Strips(unittest.TestCase):
    def test_by_name_by_kind_by_mark_the_newest_first_and_so_many(self) -> None:
        text = (
            TINY
            + """
[buffs.hex]
kind = "debuff"
marks = ["cursed"]
[buffs.rash]
kind = "debuff"
[buffs.glow]
[abilities.three]
targets = "user"
cooldown = "60 s"
does = [{ give = "hex" }, { give = "rash" }, { give = "glow" }, { strip = "WORD", most = 1 }]
[classes.vessel]
growth.might = 0
learns = { 1 = ["three"] }
playbook = "three"
[playbooks.three]
plays = [{ use = "three" }]
"""
        )
        for word, taken in (("debuff", "rash"), ("hex", "hex"), ("cursed", "hex"), ("buff", "glow")):
            book = book_of(text.replace("WORD", word) + sides("meet", one("vessel"), one("post")))
            self.assertEqual([row["cause"] for row in rows(rl.fight(book, "meet"), "end")], [taken])

    def test_a_mark_bars_a_buff(self) -> None:
        text = (
            changed(SPELL, ('{ give = "hex" }', '{ give = "charm" }, { give = "hex" }'))
            + 'barred_by = ["charmed"]\n[buffs.charm]\nmarks = ["charmed"]\n'
        )
        fight = rl.fight(book_of(TINY + text + sides("meet", one("witch"), one("post"))), "meet")
        self.assertEqual([row["cause"] for row in rows(fight, "begin")], ["charm"])
        self.assertEqual(rows(fight, "barred")[0]["cause"], "hex")

    def test_buffs_end_when_their_bearer_goes_down_unless_they_outlast_it(self) -> None:
        for outlasts, ended in (("false", 1), ("true", 0)):
            text = TINY + SPELL + f"outlasts_down = {outlasts}\n"
            meet = sides("meet", one("witch") + ", " + one("ox"), one("post") + ", " + one("post"))
            fight = rl.fight(book_of(text + meet), "meet")
            downs = {row["unit"]: row["tick"] for row in rows(fight, "down")}
            self.assertEqual(
                len([row for row in rows(fight, "end") if row["tick"] == downs.get(row["unit"])]) > 0, bool(ended)
            )


if __name__ == "__main__":
    unittest.main()
