"""Effects that ask for something, wait, happen several times, or are for several: against what the docs say of them."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.analysis.expected_damage import ExpectedDamage
from restless_ledger.engine import set_up

from ..support import OX_AND_POST, TINY, book_of, changed, many, one, problems_of, sides
from .books import duel, ledger, placed

SURE = "[damage.graze]\npower = 1\naim = 0.5\ncritical = { chance = 0.5, times = 2 }\n"
RARE = '{ use = "hit", when = "once == 0" }'


def hitting(does: str, more: str = "") -> str:
    """Return the tiny book with other effects of the one ability, which is used once."""
    once = changed(TINY, ('cooldown = "1 s"', 'cooldown = "60 s"'))
    return changed(once, ('does = [{ damage = "blow" }]', f"does = [{does}]")) + more


def booked(does: str, more: str = "", **keys: object) -> list[tuple]:
    """Return the changes of gauges in one fight with these effects."""
    return ledger(duel(hitting(does, more)), "harm", "heal", "drain", **keys)


class Conditions(unittest.TestCase):
    def test_when_is_read_on_the_users_page_and_if_on_the_receivers(self) -> None:
        self.assertEqual(booked('{ damage = "blow", when = "might == 10" }'), [(0, "harm", "post", -10.0)])
        self.assertEqual(booked('{ damage = "blow", when = "might == 0" }'), [])
        self.assertEqual(booked('{ damage = "blow", if = "might == 0" }'), [(0, "harm", "post", -10.0)])
        self.assertEqual(booked('{ damage = "blow", if = "might == 10" }'), [])

    def test_if_may_ask_for_the_distance(self) -> None:
        near, far = one("ox", 'at = ["1 m", "5 m"]'), one("post", 'at = ["6 m", "5 m"]')
        for text, count in (("distance == 5", 1), ("distance < 5", 0)):
            book = book_of(hitting(f'{{ damage = "blow", if = "{text}" }}') + placed(near, far))
            self.assertEqual(len(ledger(rl.fight(book, "meet"), "harm")), count)

    def test_groups_of_receivers(self) -> None:
        text = hitting('{ fill = -1, to = "user" }, { drain = 1, gauge = "health", to = "TO" }')
        text += sides("meet", f"{one('ox')}, {one('post')}", f"{one('post')}, {one('post')}")
        for to, hurt in (("target", 1), ("user", 1), ("mates", 1), ("allies", 2), ("foes", 2), ("all", 4)):
            fight = rl.fight(book_of(text.replace("TO", to)), "meet")
            self.assertEqual(len(ledger(fight, "drain")), hurt, to)

    def test_a_group_may_be_near_only(self) -> None:
        text = hitting('{ drain = 1, gauge = "health", to = "foes", within = "3 m" }')
        near, far = (one("post", f'at = ["{metres} m", "5 m"]') for metres in (3, 5))
        book = book_of(text + placed(one("ox", 'at = ["1 m", "5 m"]'), f"{near}, {far}"))
        self.assertEqual([row[2] for row in ledger(rl.fight(book, "meet"), "drain")], ["post 1"])


class Chances(unittest.TestCase):
    def share(self, does: str, more: str = "", fights: int = 40_000) -> tuple[float, float]:
        """Return in which share of many fights something is booked on the post, and the standard error of a half."""
        book, count = book_of(hitting(does, more) + OX_AND_POST), many(fights)
        trials = rl.trials(book, "meet", fights=count, seed=7, threads=1)
        harm = next((row["harm"] for row in trials.records("deeds") if row["unit"] == "ox"), 0.0)
        return harm / 10, 0.5 / count**0.5

    def test_a_chance_less_what_avoids_it(self) -> None:
        for text, expected in (
            ("chance = 0.3", 0.3),
            ('chance = "might / 20", avoid = "0.1 + might"', 0.4),
            ("chance = 2", 1.0),
            ("chance = 0.2, avoid = 0.5", 0.0),
        ):
            share, error = self.share(f'{{ damage = "blow", {text} }}')
            self.assertLessEqual(abs(share - expected), 4 * error * (0 < expected < 1), text)

    def test_each_of_several_times_has_its_own_chance(self) -> None:
        share, error = self.share('{ damage = "blow", chance = 0.5, repeat = 3 }')
        self.assertLess(abs(share - 1.5), 4 * error * 3**0.5)

    def test_a_group_shares_one_chance(self) -> None:
        book = book_of(hitting('{ chance = 0.5, does = [{ damage = "blow" }, { fill = -1 }, { damage = "blow" }] }'))
        found = {len(ledger(duel_of(book, seed), "harm")) for seed in range(40)}
        self.assertEqual(found, {0, 2})

    def test_one_of_several_by_weight(self) -> None:
        text = '{ one_of = [{ weight = 3, does = [{ damage = "blow" }] }, { weight = "might / 10" }, { weight = -5 }] }'
        share, error = self.share(text)
        self.assertLess(abs(share - 0.75), 4 * error)
        self.assertEqual(self.share('{ one_of = [{ weight = 0, does = [{ damage = "blow" }] }] }', fights=100)[0], 0)

    def test_expected_damage_is_what_fights_come_to_on_average(self) -> None:
        sure = "[damage.graze]\npower = 4\ncritical = { chance = 0.5, times = 2 }\n"
        for does in (
            '{ damage = "blow", repeat = 3, chance = "might / 20", avoid = 0.1 }',
            '{ damage = "graze" }, { damage = "blow", times = "booked / 10", after = "critical" }',
            '{ chance = 0.5, does = [{ damage = "blow" }, { one_of = [{ does = [{ damage = "graze" }] }, { weight = 3 }] }] }',
            '{ damage = "blow", if = "might > 0" }, { damage = "blow", times = 0.3, when = "might > 9" }',
        ):
            book, count = book_of(hitting(does, sure) + OX_AND_POST), many(20_000)
            trials = rl.trials(book, "meet", fights=count, seed=11, threads=1)
            harm = next((row["harm"] for row in trials.records("deeds") if row["unit"] == "ox"), 0.0)
            expected = float(ExpectedDamage(book).of_ability("ox", "post", "hit").amount[0])
            self.assertLess(abs(harm - expected), 4 * 15 / count**0.5, does)  # no use varies by more than 15 points

    def test_the_ledger_says_what_was_drawn_and_why(self) -> None:
        fight = duel(hitting('{ damage = "blow", chance = "might / 20", avoid = "0.1 + might" }'))
        told = next(row for row in fight.records() if row["verb"] == "chance")
        why = fight.why(told["entry"])
        for words in ("might 10 / 20", "0.1 + might 0", "against 0.4"):
            self.assertIn(words, why)


def duel_of(book: rl.Rulebook, seed: int) -> rl.ledger.Fight:
    from restless_ledger.rulebook.encounters import Encounter

    one_of = lambda who: {"name": who, "units": [{"class": who, "level": 1}]}  # noqa: E731
    return rl.Fight.play(set_up(book, Encounter.model_validate({"sides": [one_of("ox"), one_of("post")]})), seed, 0)


class Times(unittest.TestCase):
    def test_repeat_is_rounded_down_and_may_be_nothing(self) -> None:
        for text, count in (("3", 3), ('"might / 4"', 2), ("0", 0), ("-2", 0), ("0.9", 0)):
            self.assertEqual(len(booked(f'{{ damage = "blow", repeat = {text} }}')), count, text)

    def test_one_each_while(self) -> None:
        rows = booked('{ damage = "blow", repeat = 3, every = "0.4 s" }')
        self.assertEqual([row[0] for row in rows], [0, 4, 8])

    def test_later(self) -> None:
        rows = booked('{ damage = "blow", later = "1.25 s" }, { damage = "blow" }')
        self.assertEqual([row[0] for row in rows], [0, 13])

    def test_later_and_each_while(self) -> None:
        rows = booked('{ later = "1 s", repeat = 2, every = "0.5 s", does = [{ damage = "blow" }] }')
        self.assertEqual([row[0] for row in rows], [10, 15])

    def test_conditions_of_what_is_put_off_are_asked_as_it_happens(self) -> None:
        gone = '{ drain = 60, gauge = "health" }'
        rows = booked(f'{{ damage = "blow", later = "1 s", if = "health < 50" }}, {gone}')
        self.assertEqual([row[:2] for row in rows], [(0, "drain"), (10, "harm")])
        rows = booked(f'{{ if = "health < 50", does = [{{ damage = "blow", later = "1 s" }}] }}, {gone}')
        self.assertEqual([row[:2] for row in rows], [(0, "drain")])

    def test_what_is_put_off_comes_though_its_user_is_down_and_a_repetition_ends_with_it(self) -> None:
        dies = ', { drain = 100, gauge = "health", to = "user" }'
        self.assertEqual(
            [row[2] for row in booked('{ damage = "blow", later = "1 s" }' + dies)],
            ["ox"],
            "the fight is over before it comes",
        )
        text = hitting('{ damage = "blow", later = "1 s" }, { damage = "blow", repeat = 9, every = "0.3 s" }' + dies)
        text = changed(text, ("[classes.post]", "[classes.mule]\ngrowth.might = 0\n[classes.post]"))
        text += sides("meet", f"{one('ox')}, {one('mule')}", one("post"))
        rows = ledger(rl.fight(book_of(text), "meet"), "harm")
        self.assertEqual([row[0] for row in rows], [0, 10])

    def test_what_is_put_off_goes_by_initiative_then_in_the_order_in_which_it_was_put_off(self) -> None:
        text = hitting('{ damage = "blow", later = "1 s" }, { drain = 1, gauge = "health", later = "1 s" }')
        text = changed(text, ("growth.might = 0", 'growth.might = 20\nlearns = { 1 = ["hit"] }'))
        for initiative, order in (("might", ["post", "ox"]), ("0 - might", ["ox", "post"])):
            fight = duel(changed(text, ("[clock]", f'[clock]\ninitiative = "{initiative}"')))
            found = ledger(fight, "harm", "drain", fields=("source", "verb"))
            self.assertEqual(found, [(who, verb) for who in order for verb in ("harm", "drain")])

    def test_a_wind_up_that_goes_on(self) -> None:
        text = changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "30 s"\nwindup = "1 s"\nchannel = { every = "0.3 s", does = [CHANNEL] }'),
            ('{ damage = "blow" }', '{ drain = 1, gauge = "health" }'),
        )
        rows = ledger(duel(text.replace("CHANNEL", '{ damage = "blow" }')), "harm", "drain")
        self.assertEqual([row[:2] for row in rows], [(3, "harm"), (6, "harm"), (9, "harm"), (10, "drain")])

    def test_a_wind_up_that_is_broken_off_goes_on_no_more(self) -> None:
        beam = """[abilities.beam]
windup = "2 s"
cooldown = "30 s"
interruptible = true
channel = { every = "0.5 s", does = [{ drain = 1, gauge = "health" }] }
does = [{ damage = "blow" }]
"""
        text = changed(
            TINY,
            ("[classes.post]\ngrowth.might = 0", '[classes.post]\ngrowth.might = 5\nlearns = { 1 = ["beam"] }'),
            ('cooldown = "1 s"', 'cooldown = "30 s"\nwindup = "1.2 s"'),
        )
        rows = ledger(duel(text + beam), "drain", "interrupt", fields=("tick", "verb", "unit"))
        self.assertEqual(rows, [(5, "drain", "ox"), (10, "drain", "ox"), (12, "interrupt", "post")])


class After(unittest.TestCase):
    def outcomes(self, does: str) -> set[tuple]:
        """Return all that one use does in many fights, as the amounts in order."""
        book = book_of(hitting(does, SURE))
        return {tuple(row[3] for row in ledger(duel_of(book, seed), "harm", "drain", "heal")) for seed in range(60)}

    def test_a_missed_hit_keeps_from_its_target_what_comes_after_it(self) -> None:
        found = self.outcomes('{ damage = "graze" }, { drain = 5, gauge = "health" }')
        self.assertEqual(found, {(0.0,), (-1.0, -5.0), (-2.0, -5.0)})

    def test_after_a_hit_a_miss_a_critical_and_always(self) -> None:
        drain = '{ drain = 5, gauge = "health", after = "WORD" }'
        hit, miss, critical = (-1.0, -5.0), (0.0, -5.0), (-2.0, -5.0)
        for word, expected in (
            ("hit", {(0.0,), hit, critical}),
            ("miss", {miss, (-1.0,), (-2.0,)}),
            ("critical", {(0.0,), (-1.0,), critical}),
            ("always", {miss, hit, critical}),
        ):
            self.assertEqual(self.outcomes('{ damage = "graze" }, ' + drain.replace("WORD", word)), expected, word)

    def test_of_several_times_one_hit_is_enough_and_booked_is_their_sum(self) -> None:
        found = self.outcomes('{ damage = "graze", repeat = 2 }, { drain = "booked", gauge = "health", after = "hit" }')
        self.assertGreater(len(found), 5)
        for amounts in found:
            hits, drained = amounts[:2], amounts[2:]
            self.assertEqual(drained, (sum(hits),) if sum(hits) else ())

    def test_a_group_knows_what_was_hit_before_it_and_keeps_to_itself_what_is_missed_in_it(self) -> None:
        found = self.outcomes(
            '{ damage = "graze" }, { after = "hit", does = [{ drain = "3 * booked", gauge = "health" }] }'
        )
        self.assertEqual(found, {(0.0,), (-1.0, -3.0), (-2.0, -6.0)})
        found = self.outcomes('{ does = [{ damage = "graze" }] }, { drain = 5, gauge = "health" }')
        self.assertEqual(found, {(0.0, -5.0), (-1.0, -5.0), (-2.0, -5.0)})

    def test_a_hit_that_had_no_luck_is_no_miss(self) -> None:
        found = self.outcomes('{ damage = "graze", chance = 0.5 }, { drain = 5, gauge = "health", after = "miss" }')
        self.assertEqual(found, {(), (0.0, -5.0), (-1.0,), (-2.0,)})

    def test_booked_reads_the_last_hit(self) -> None:
        rows = booked('{ damage = "blow" }, { damage = "blow", times = "booked / 20" }, { fill = "booked" }')
        self.assertEqual([row[3] for row in rows], [-10.0, -5.0, 5.0])


class Refused(unittest.TestCase):
    def test_what_can_not_be_is_said(self) -> None:
        for does, words in (
            ('{ damage = "blow", avoid = 1 }', "avoid goes with chance"),
            ('{ damage = "blow", every = "1 s" }', "every goes with repeat"),
            ('{ damage = "blow", within = "1 m" }', "within is for groups"),
            ('{ damage = "blow", after = "hit" }', "no hit comes before this in its list"),
            ('{ fill = "booked" }', "nothing is booked"),
            ('{ does = [{ fill = "booked" }] }', "nothing is booked"),
            ('{ damage = "blow", if = "booked > 1" }', "booked"),
            ("{ does = [] }", "does"),
            ("{ one_of = [] }", "one_of"),
            ('{ damage = "blow", does = [] }', "exactly one of"),
            ('{ damage = "blow", later = "0 s" }', "later"),
            ('{ damage = "blow", to = "giver" }', "to"),
        ):
            self.assertIn(words, problems_of(hitting(does)), does)


if __name__ == "__main__":
    unittest.main()
