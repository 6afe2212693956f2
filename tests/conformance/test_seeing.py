"""What plays see of a fight, whom they pick by a formula, weights, turns, and priorities in rounds."""

from __future__ import annotations

import unittest
from collections import Counter

import restless_ledger as rl
from restless_ledger.analysis.time_to_kill import times_to_kill

from ..support import changed, problems_of
from .books import TINY, book_of, duel, ledger, one, placed, rows, sides
from .test_choosing import plays

JAB = '[abilities.jab]\ncooldown = "1 s"\ndoes = [{ damage = "blow" }]\n'
WINDS = '[abilities.slam]\ncooldown = "4 s"\nwindup = "1 s"\ndoes = [{ damage = "blow" }]\n'


def knowing(text: str, *more: str) -> str:
    """Return a book in which the ox knows more abilities."""
    names = ", ".join(f'"{name}"' for name in ("hit", *more))
    return text.replace('learns = { 1 = ["hit"] }', f"learns = {{ 1 = [{names}] }}", 1)


def uses(fight: rl.ledger.Fight, who: str = "ox") -> list[tuple[int, str]]:
    """Return when somebody used what."""
    return [(row["tick"], row["cause"]) for row in rows(fight, "use") if row["source"] == who]


class Seen(unittest.TestCase):
    def test_the_time_since_the_start_is_seen_on_the_very_tick(self) -> None:
        # nothing else is due at 2.4 s: a unit that waits looks all the same
        fight = duel(plays('{ use = "hit", when = "since_start >= 2.35" }'))
        self.assertEqual(uses(fight)[:2], [(24, "hit"), (34, "hit")])

    def test_how_many_are_left_and_near(self) -> None:
        text = plays('{ use = "hit", when = "foes_left <= 1 or mates_left == 0" }')
        many = rl.fight(book_of(text + sides("meet", one("ox", "count = 2"), one("post", "count = 2"))), "meet")
        self.assertEqual(uses(many, "ox 1"), [])
        alone = rl.fight(book_of(text + sides("meet", one("ox"), one("post", "count = 2"))), "meet")
        self.assertEqual(uses(alone)[0][0], 0)
        near = plays('{ use = "hit", when = "foes_near(3) == 2" }')
        for at, count in ((4.5, 0), (3.5, 1)):  # the ox stands at 1, 5; one post at 2, 5
            ox, near_by, other = (f'at = ["{x} m", "5 m"]' for x in (1, 2, at))
            here = placed(one("ox", ox), f"{one('post', near_by)}, {one('post', other)}")
            found = uses(rl.fight(book_of(near + here), "meet"))
            self.assertEqual(bool(found), bool(count), at)

    def test_what_somebody_does_and_at_whom(self) -> None:
        text = knowing(plays('{ use = "slam" }'), "slam") + WINDS
        post = '[classes.post]\nlearns = { 1 = ["jab"] }\nplaybook = "q"\n'
        for play, expected in (
            ('{ use = "jab", if = "winding_up(slam) and at_user" }', True),
            ('{ use = "jab", if = "winding_up" }', True),
            ('{ use = "jab", when = "aimed_at == 1" }', True),
            ('{ use = "jab", when = "winding_up" }', False),
            ('{ use = "jab", if = "winding_up(hit)" }', False),
        ):
            book = changed(text, ("[classes.post]\n", post)) + JAB + f"[playbooks.q]\nplays = [{play}]\n"
            found = [tick for tick, _ in uses(duel(book), "post")]
            # the slam is wound up from 0 s to 1 s, 4 s to 5 s and so on
            self.assertEqual(bool(found), expected, play)
            self.assertTrue(all(tick % 40 <= 10 for tick in found), (play, found))

    def test_whether_an_ability_is_ready_and_how_many_stacks_there_are(self) -> None:
        text = knowing(plays('{ use = "jab", when = "not ready(hit)" }', '{ use = "hit" }'), "jab") + JAB
        self.assertEqual(uses(duel(text))[:4], [(0, "hit"), (1, "jab"), (10, "hit"), (11, "jab")])
        edge = '[buffs.edge]\nagain = "stack"\n'
        text = plays('{ use = "hit", when = "stacks(edge) < 3" }') + edge
        text = changed(text, ('does = [{ damage = "blow" }]', 'does = [{ give = "edge", to = "user" }]'))
        self.assertEqual(len(uses(duel(text))), 3)

    def test_what_was_dealt_and_taken_and_healed_so_far(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "1 + dealt / 10"'))
        found = [-row["booked"] for row in rows(duel(text), "harm")][:4]
        self.assertEqual(found, [1.0, 1.1, 1.21, 1.331])
        text = changed(TINY, ('power = "might"', 'power = "1 + since_start"'))
        self.assertEqual([-row["booked"] for row in rows(duel(text), "harm")][:3], [1.0, 2.0, 3.0])

    def test_every_entry_can_be_explained_with_what_was_seen(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might + since_start + 2 * foes_left"'))
        fight = duel(text)
        harm = [number for number, row in enumerate(fight.records()) if row["verb"] == "harm"]
        self.assertIn("might 10 + since_start 3 + 2 × foes_left 1 = 15", fight.why(harm[3]))

    def test_what_an_effect_multiplies_by_is_explained_where_the_page_still_gives_it(self) -> None:
        text = changed(TINY, ('{ damage = "blow" }', '{ damage = "blow", times = "1 + since_start" }'))
        fight = duel(text)
        harm = [number for number, row in enumerate(fight.records()) if row["verb"] == "harm"]
        self.assertIn("effect    1 + since_start 3 = 4", fight.why(harm[3]))
        self.assertIn("times     10 × 4 of this effect = 40", fight.why(harm[3]))
        flies = changed(text, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "9 m"\nprojectile = "4 m/s"'))
        book = book_of(flies + placed(one("ox", 'at = ["1 m", "5 m"]'), one("post", 'at = ["5 m", "5 m"]')))
        fight = rl.fight(book, "meet")
        harm = [number for number, row in enumerate(fight.records()) if row["verb"] == "harm"]
        self.assertIn("times     10 × 2 of this effect = 20", fight.why(harm[0]))  # it flew for a second
        self.assertNotIn("effect    1", fight.why(harm[0]))  # what is kept is the page of its launch

    def test_a_fight_with_every_tick_played_is_the_same(self) -> None:
        lines = '{ use = "hit", when = "since_start > 1.25 and ready(jab)" }', '{ use = "jab", weight = 1 }'
        book = book_of(knowing(plays(*lines), "jab") + JAB + sides("meet", one("ox", "count = 2"), one("post")))
        from restless_ledger.engine import fight_once, set_up

        setup = set_up(book, "meet")
        quick, slow = (fight_once(setup, 5, 0, every_tick=every) for every in (False, True))
        self.assertEqual(quick.entries.tobytes(), slow.entries.tobytes())

    def test_outside_of_a_fight_nothing_is_there_and_all_is_ready(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might + 100 * foes_left + ready(hit) + since_start"'))
        book = book_of(text)
        kill = times_to_kill(book, rl.sheet(book, "ox"), rl.sheet(book, "post"))[0]
        self.assertEqual(kill.record()["hits"], 10)  # 11 each

    def test_what_can_be_wrong(self) -> None:
        for play, said in (
            ('{ use = "hit", when = "ready(hti)" }', "did you mean ready(hit)?"),
            ('{ use = "hit", when = "stacks(rot) > 1" }', "there is no stacks(rot)"),
            ('{ use = "hit", when = "foes_near(hit) > 1" }', "foes_near takes one distance in metres"),
            ('{ use = "hit", when = "ready > 1" }', "ready is a function and needs its operands"),
            ('{ use = "hit", when = "at_user" }', "there is no at_user"),
            ('{ use = "hit", mine = { might = "1" } }', "already on the target's page"),
            ('{ use = "hit", mine = { booked = "1" } }', "booked is a word of the formula language"),
            ('{ use = "hit", pick = { least = "health", most = "health" } }', "exactly one of least and most"),
            ('{ wait = "1 s", weight = 2 }', "only a play that uses an ability has a weight"),
            ('{ use = "hit", turn = 2 }', "no play has turn = 1"),
        ):
            self.assertIn(said, problems_of(plays(play)), play)
        self.assertIn("there is no since_start", problems_of(changed(TINY, ("top = 100", 'top = "100 + since_start"'))))
        self.assertIn(
            "there is no foes_left",
            problems_of(changed(TINY, ("might = { range = [0, 500] }", 'might = { is = "foes_left" }'))),
        )


class Picks(unittest.TestCase):
    def test_the_least_and_the_most_of_a_formula_with_lines_of_ones_own(self) -> None:
        for pick, expected in (("most", "bull"), ("least", "calf")):
            play = f'{{ use = "hit", pick = {{ {pick} = "(might - mine_is) ** 2" }}, mine = {{ mine_is = "might" }} }}'
            text = plays(play) + "[classes.calf]\ngrowth.might = 9\n[classes.bull]\ngrowth.might = 40\n"
            fight = rl.fight(book_of(text + sides("meet", one("ox"), f"{one('calf')}, {one('bull')}")), "meet")
            self.assertEqual(rows(fight, "use")[0]["unit"], expected)

    def test_if_reads_lines_of_the_users_own(self) -> None:
        play = '{ use = "hit", mine = { blow = "3 * might" }, if = "health <= blow" }'
        text = plays(play) + '[classes.lamb]\ngrowth.might = 0\ngauges = ["health"]\n'
        text = changed(text, ("top = 100", 'top = "100 - 75 * marked(weak)"')).replace(
            "[classes.lamb]", '[classes.lamb]\nmarks = ["weak"]'
        )
        fight = rl.fight(book_of(text + sides("meet", one("ox"), f"{one('post')}, {one('lamb')}")), "meet", seed=2)
        self.assertEqual({row["unit"] for row in rows(fight, "use")}, {"lamb"})

    def test_those_that_are_equally_good_fall_by_a_draw(self) -> None:
        text = plays('{ use = "hit", pick = { most = "might" } }') + sides("meet", one("ox"), one("post", "count = 2"))
        book = book_of(text)
        found = Counter(rows(rl.fight(book, "meet", number=number), "use")[0]["unit"] for number in range(200))
        self.assertLess(abs(found["post 1"] - 100), 4 * (200 / 4) ** 0.5)


class Order(unittest.TestCase):
    def test_weights_share_the_uses_among_those_that_can_be_carried_out(self) -> None:
        text = knowing(plays('{ use = "hit", weight = 1 }', '{ use = "jab", weight = 3 }'), "jab") + JAB
        text = text.replace('cooldown = "1 s"', 'cooldown = "1 tick"').replace("top = 100", "top = 100000")
        found = Counter(cause for _, cause in uses(duel(text)))
        count = sum(found.values())
        self.assertGreater(count, 250)
        self.assertLess(abs(found["jab"] - 0.75 * count), 4 * (count * 0.75 * 0.25) ** 0.5)

    def test_what_has_no_weight_or_cannot_be_carried_out_is_not_drawn(self) -> None:
        text = knowing(plays('{ use = "hit", weight = 0 }', '{ use = "jab", weight = 2 }', '{ use = "hit" }'), "jab")
        # the jab is drawn whenever it is ready; the hit comes by the play without a weight in between
        self.assertEqual(uses(duel(text + JAB))[:4], [(0, "jab"), (1, "hit"), (10, "jab"), (11, "hit")])

    def test_turns_go_round_and_wait_for_their_ability(self) -> None:
        lines = '{ use = "hit", turn = 1 }', '{ use = "jab", turn = 2 }', '{ use = "poke", turn = 3 }'
        text = knowing(plays(*lines), "jab", "poke") + JAB + '[abilities.poke]\ndoes = [{ damage = "blow" }]\n'
        self.assertEqual([cause for _, cause in uses(duel(text))][:7], ["hit", "jab", "poke"] * 2 + ["hit"])
        without = text.replace('"hit", "jab", "poke"]', '"hit", "poke"]')
        self.assertNotEqual(without, text)
        self.assertEqual([cause for _, cause in uses(duel(without))][:5], ["hit", "poke"] * 2 + ["hit"])
        spent = [cause for _, cause in uses(duel(text + "uses = 2\n"))]  # of the poke
        self.assertEqual(spent[:10], ["hit", "jab", "poke"] * 2 + ["hit", "jab"] * 2)

    def test_a_higher_priority_lands_first_in_a_round(self) -> None:
        guard = '[abilities.guard]\npriority = 1\ncooldown = "1 rounds"\ntargets = "user"\ndoes = [{ give = "shut" }]\n'
        shut = '[buffs.shut]\nlasts = "1 rounds"\nmarks = ["shut"]\n'
        text = changed(
            TINY,
            (
                'ticks_per_second = 10\ntime_limit = "30 s"',
                'rounds = true\ntime_limit = "3 rounds"\ninitiative = "might"',
            ),
            ('cooldown = "1 s"', 'cooldown = "1 rounds"'),
            ('power = "might"', 'power = "might"\nbarred_by = ["shut"]'),
            ("growth.might = 0", 'growth.might = 0\nlearns = { 1 = ["guard"] }'),
        )
        for more, harmed in ((guard + shut, False), (guard.replace("priority = 1\n", "") + shut, True)):
            found = ledger(duel(text + more), "harm", fields=("tick", "booked"))
            self.assertEqual(any(tick == 0 and booked for tick, booked in found), harmed)
        self.assertIn("a priority counts in rounds", problems_of(changed(TINY, ('cooldown = "1 s"', "priority = 2"))))
