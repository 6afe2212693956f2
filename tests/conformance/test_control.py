"""What buffs keep their bearer from, what they make it do, and what ends them."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, one, problems_of, sides
from .books import duel, placed, rows

GIVE = '[abilities.curse]\ncooldown = "60 s"\ndoes = [{ give = "held" }]\n'
HELD = '[buffs.held]\nlasts = "2.5 s"\n'
FIGHTER = '[classes.post]\ngrowth.might = 5\nlearns = { 1 = ["strike"] }\n[abilities.strike]\ncooldown = "1 s"\nSTRIKE\ndoes = [{ damage = "blow" }]\n'


def cursed(buff: str, strike: str = "", more: str = "") -> str:
    """Return a book in which an ox curses a post at once, and the post strikes each second."""
    text = changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["curse"] }'))
    text = changed(text, ("[classes.post]\ngrowth.might = 0\n", FIGHTER.replace("STRIKE", strike)))
    text = changed(text, ("[clock]", '[clock]\ninitiative = "might"'))
    return text + GIVE + HELD + buff + "\n" + more


def strikes(buff: str, strike: str = "", more: str = "", until: int = 60) -> list[int]:
    """Return when the cursed post strikes."""
    return [
        row["tick"]
        for row in rows(duel(cursed(buff, strike, more)), "use")
        if row["cause"] == "strike" and row["tick"] < until
    ]


class Bars(unittest.TestCase):
    def test_acting_an_ability_and_a_school(self) -> None:
        # both are free at 0, where both choose before anything lands; the curse holds until 2.5 s
        self.assertEqual(strikes(""), [0, 10, 20, 30, 40, 50])
        for word in ("acting", "strike", "fists"):
            found = strikes(f'bars = ["{word}"]', 'school = "fists"')
            self.assertEqual(found, [0, 25, 35, 45, 55], word)
        self.assertEqual(strikes('bars = ["dashing", "walking", "reacting", "healed"]'), [0, 10, 20, 30, 40, 50])
        self.assertEqual(strikes('bars = ["dashing"]', 'lunge = "1 m"'), [0, 25, 35, 45, 55])

    def test_what_is_wound_up_goes_on_unless_it_is_broken_off(self) -> None:
        for more, verbs in (("", {"harm"}), ("breaks_off = true", {"interrupt"})):
            fight = duel(cursed(f'bars = ["acting"]\n{more}', 'windup = "0.5 s"'))
            self.assertEqual(
                {row["verb"] for row in fight.records() if row["tick"] < 25} & {"harm", "interrupt"}, verbs
            )

    def test_reacting(self) -> None:
        answer = 'reacts = [{ on = "taking", to = "other", does = [{ drain = 1, gauge = "health" }] }]'
        both = '{ give = "held" }, { damage = "blow" }'
        for bars, where, count in (
            ("", "class", 1),
            ('bars = ["reacting"]', "class", 0),
            ('bars = ["reacting"]', "buff", 1),
        ):
            text = changed(cursed(bars + "\n" + (answer if where == "buff" else "")), ('{ give = "held" }', both))
            if where == "class":
                text = changed(text, ("[classes.post]", f"[classes.post]\n{answer}"))
            self.assertEqual(len([row for row in rows(duel(text), "drain") if row["tick"] == 0]), count, (bars, where))

    def test_healed(self) -> None:
        heals = '{ drain = 50, gauge = "health" }, { give = "held" }, { fill = 5 }, { heal = "balm" }, { fill = 3, gauge = "mana" }'
        for bars, healed in (("", [5.0, 4.0, 3.0]), ('bars = ["healed"]', [3.0])):
            text = cursed(bars, more="[healing.balm]\npower = 4\n[gauges.mana]\ntop = 9\nbegins = 0\n")
            text = changed(text, ('does = [{ give = "held" }]', f"does = [{heals}]"))
            fight = duel(text)
            self.assertEqual([row["booked"] for row in rows(fight, "heal")], healed)
            self.assertEqual(len(rows(fight, "barred")), 3 - len(healed))

    def test_walking(self) -> None:
        text = changed(TINY, ("growth.might = 0", 'growth.might = 0\nlearns = { 1 = ["curse"] }'))
        text = changed(text, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"')) + GIVE + HELD
        text += placed(one("ox", 'at = ["1 m", "5 m"]'), one("post", 'at = ["9 m", "5 m"]')) + "[movement]\npace = 2\n"
        first = {}
        for bars in ("", 'bars = ["walking"]'):
            fight = rl.fight(book_of(text.replace(HELD, HELD + bars + "\n")), "meet")
            first[bars] = rows(fight, "harm")[0]["tick"]
        self.assertEqual(first['bars = ["walking"]'] - first[""], 25)

    def test_a_word_that_bars_nothing(self) -> None:
        self.assertIn("did you mean acting", problems_of(cursed('bars = ["actin"]')))
        self.assertIn("means something else", problems_of(cursed("", 'school = "acting"')))


class Forces(unittest.TestCase):
    def fought(self, buff: str, left: str, right: str, more: str = "") -> rl.ledger.Fight:
        return rl.fight(book_of(cursed(buff, more=more) + sides("meet", left, right)), "meet", seed=3)

    def test_taunted_it_aims_at_the_giver_alone(self) -> None:
        mule = "[classes.mule]\ngrowth.might = 0\n"
        two = f"{one('ox')}, {one('mule')}"
        struck = {}
        for aims in ("", 'aims_at = "giver"'):
            fight = self.fought(aims, two, one("post"), mule)
            struck[aims] = [
                row["unit"] for row in rows(fight, "use") if row["cause"] == "strike" and 0 < row["tick"] < 25
            ]
        self.assertEqual(set(struck['aims_at = "giver"']), {"ox"})
        several = {
            row["unit"]
            for seed in range(8)
            for row in rows(
                rl.fight(book_of(cursed("", more=mule) + sides("meet", two, one("post"))), "meet", seed=seed), "use"
            )
            if row["cause"] == "strike"
        }
        self.assertEqual(several, {"ox", "mule"})

    def test_the_only_foe_there_is_may_be_hidden_or_of_the_own_side_for_a_while(self) -> None:
        struck = []
        for buff in ("", 'hides_from = ["aiming"]', 'fights_for = "giver"'):
            text = changed(cursed(buff), ('learns = { 1 = ["curse"] }', 'learns = { 1 = ["curse", "hit"] }'))
            uses = rows(rl.fight(book_of(text + sides("meet", one("ox"), one("post"))), "meet", seed=3), "use")
            struck.append(any(row["cause"] == "hit" and 0 < row["tick"] < 25 for row in uses))
        self.assertEqual(struck, [True, False, False])

    def test_confused_it_aims_at_anybody_and_lured_at_its_own_side(self) -> None:
        two = f"{one('post')}, {one('post')}"
        for buff, whom in (('aims_at = "anybody"', {"ox", "post"}), ('fights_for = "giver"', {"post"})):
            book = book_of(changed(cursed(buff), ('lasts = "2.5 s"', 'lasts = "9 s"')) + sides("meet", one("ox"), two))
            found = set()
            for seed in range(12):
                fight = rl.fight(book, "meet", seed=seed)
                who = next(row["unit"] for row in rows(fight, "begin"))
                found |= {
                    row["unit"].split()[0]
                    for row in rows(fight, "use")
                    if row["source"] == who and 0 < row["tick"] < 90
                }
            self.assertEqual(found, whom, buff)

    def test_of_several_taunts_the_last_counts(self) -> None:
        text = changed(cursed('aims_at = "giver"'), ('cooldown = "60 s"', 'cooldown = "2 s"'))
        late = '[handlings.late]\ndelay = "1 s"\n[classes.mule]\ngrowth.might = 10\nlearns = { 1 = ["curse"] }\nhandling = "late"\n'
        fight = rl.fight(book_of(text + late + sides("meet", f"{one('ox')}, {one('mule')}", one("post"))), "meet")
        struck = {row["tick"]: row["unit"] for row in rows(fight, "use") if row["cause"] == "strike"}
        # the ox taunts at 0, 20, 40 …, the mule at 10, 30 …, each after the post has chosen
        self.assertEqual([struck[tick] for tick in (10, 20, 30, 40)], ["ox", "mule", "ox", "mule"])

    def test_the_lured_still_count_on_their_own_side(self) -> None:
        text = changed(cursed('fights_for = "giver"'), ('lasts = "2.5 s"', 'lasts = "9 s"'))
        fight = rl.fight(book_of(text + sides("meet", one("ox"), one("post"))), "meet")
        self.assertEqual(fight.outcome, "right")  # the only foe is lured for a while, and nobody wins by that
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["cause"] == "strike"][:3], [0, 90, 100])

    def test_feet(self) -> None:
        for walks, sign in (("away", 1), ("towards", -1)):
            text = cursed(f'walks = "{walks}"\nbars = ["acting"]') + "[movement]\npace = 2\n"
            text += placed(one("ox", 'at = ["5 m", "5 m"]'), one("post", 'at = ["9 m", "5 m"]'))
            fight = rl.fight(book_of(changed(text, ('lasts = "2.5 s"', 'lasts = "1 s"'))), "meet")
            steps = fight.state.paths[: int(fight.state.clock[0].steps)]
            walked = [float(step.x) for step in steps if step.unit == 1 and step.tick < 11]
            self.assertEqual(len(walked), 10)  # two metres in a second
            self.assertAlmostEqual(walked[-1], 9 + 2 * sign)

    def test_hidden_from_aiming_and_from_hits(self) -> None:
        hides = changed(
            cursed('hides_from = ["WORD"]'),
            ('does = [{ give = "held" }]', 'targets = "user"\ndoes = [{ give = "held" }]'),
        )
        fight = duel(hides.replace("WORD", "aiming"))
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["cause"] == "strike"][:3], [0, 25, 35])
        fight = duel(hides.replace("WORD", "hits"))
        found = [(row["tick"], row["invulnerable"], row["booked"]) for row in rows(fight, "harm")][:4]
        self.assertEqual(found, [(0, True, 0.0), (10, True, 0.0), (20, True, 0.0), (30, False, -5.0)])


class Ends(unittest.TestCase):
    def end(self, buff: str, more: str = "", extra: str = "") -> int:
        """Return when the curse on the post ends; the ox strikes it for 10 at 0.3 s and each second from then on."""
        text = cursed(buff, more=more)
        hit = '[handlings.late]\ndelay = "0.3 s"\n[classes.hitter]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\nhandling = "late"\n'
        text = changed(text, ('lasts = "2.5 s"', 'lasts = "9.9 s"')) + hit + extra
        fight = rl.fight(book_of(text + sides("meet", f"{one('ox')}, {one('hitter')}", one("post"))), "meet")
        return rows(fight, "end")[0]["tick"]

    def test_by_so_much_harm(self) -> None:
        for value, tick in (("0", 3), ("10", 3), ("10.5", 13), ('"2 * might"', 3), ('"4 * might"', 13)):
            self.assertEqual(self.end(f"breaks_at = {value}"), tick, value)

    def test_by_what_its_bearer_does_or_takes(self) -> None:
        # what the post uses at 0 began before the curse came, so that it counts as dealing but not as acting
        for word, tick in (("taking", 3), ("acting", 10), ("dealing", 0)):
            self.assertEqual(self.end(f'ends_on = ["{word}"]'), tick, word)

    def test_the_hit_that_ends_it_still_profits(self) -> None:
        text = changed(
            TINY,
            (
                "[classes.ox]",
                '[abilities.hide]\ntargets = "user"\ncooldown = "60 s"\ndoes = [{ give = "held" }]\n[classes.ox]',
            ),
        )
        text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hide", "hit"] }\nplaybook = "p"'))
        text += '[playbooks.p]\nplays = [{ use = "hide" }, { use = "hit" }]\n'
        text += '[buffs.held]\nstats = { might = { add = 5 } }\nends_on = ["WORD"]\n'
        for word in ("acting", "dealing"):
            fight = duel(text.replace("WORD", word))
            harm = [row["booked"] for row in rows(fight, "harm")][:2]
            self.assertEqual(harm, [-15.0, -10.0], word)

    def test_by_moving(self) -> None:
        text = changed(cursed('ends_on = ["moving"]', 'reach = "2 m"'), ('lasts = "2.5 s"', 'lasts = "60 s"'))
        text += placed(one("ox", 'at = ["1 m", "5 m"]'), one("post", 'at = ["9 m", "5 m"]'))
        self.assertLessEqual(rows(rl.fight(book_of(text), "meet"), "end")[0]["tick"], 1)


class Diminishes(unittest.TestCase):
    def test_shorter_each_time_until_it_is_forgotten(self) -> None:
        text = cursed('bars = ["acting"]\ndiminishes = { group = "stun", times = [1, 0.5, 0], forgets = "5 s" }')
        text = changed(text, ('cooldown = "60 s"', 'cooldown = "2 s"'), ('lasts = "2.5 s"', 'lasts = "1 s"'))
        fight = duel(text)
        found = [(row["tick"], row["verb"]) for row in fight.records() if row["verb"] in ("begin", "end", "barred")]
        self.assertEqual(
            found[:8],
            [
                (0, "begin"),
                (10, "end"),
                (20, "begin"),
                (25, "end"),
                (40, "barred"),
                (60, "barred"),
                (80, "begin"),
                (90, "end"),
            ],
        )

    def test_a_group_counts_together_and_what_can_not_be(self) -> None:
        more = '[buffs.root]\nlasts = "1 s"\ndiminishes = { group = "stun", times = TIMES, forgets = "5 s" }\n'
        text = cursed('diminishes = { group = "stun", times = [1, 0.5], forgets = "5 s" }', more=more)
        text = changed(text, ('{ give = "held" }]', '{ give = "held" }, { give = "root" }]'))
        ends = {row["cause"]: row["tick"] for row in rows(duel(text.replace("TIMES", "[1, 0.5]")), "end")}
        self.assertEqual(ends, {"held": 25, "root": 5})
        self.assertIn("has other factors", problems_of(text.replace("TIMES", "[1, 0]")))
        self.assertIn("without an end", problems_of(changed(text.replace("TIMES", "[1, 0.5]"), ('lasts = "1 s"', ""))))


if __name__ == "__main__":
    unittest.main()
