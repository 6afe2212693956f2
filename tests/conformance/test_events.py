"""Events and what reacts to them: each one set off on purpose, with what it may ask for."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, many, one, problems_of, sides
from .books import duel, ledger, rows

MARK = 'does = [{ drain = 0.5, gauge = "health" }] }'
"""What reactions do here: something that shows whom it reaches, and when."""
BALM = "[healing.balm]\npower = 4\n"
ROT = '[buffs.rot]\nlasts = "0.5 s"\n'


def reacting(who: str, reactions: str, does: str = '{ damage = "blow" }', more: str = "") -> str:
    """Return the tiny book in which a class reacts and the one ability does something else."""
    text = changed(TINY, ('does = [{ damage = "blow" }]', f"does = [{does}]"))
    return changed(text, (f"[classes.{who}]", f"[classes.{who}]\nreacts = [{reactions}]")) + more


def reached(who: str, event: str, does: str = '{ damage = "blow" }', more: str = "", to: str = "user") -> list[tuple]:
    """Return when and whom the reaction of a class reaches in a duel."""
    text = reacting(who, f'{{ on = {event}, to = "{to}", {MARK}', does, more)
    return [(row["tick"], row["unit"]) for row in rows(duel(text), "drain")]


class Hits(unittest.TestCase):
    def test_missing_and_dodging(self) -> None:
        never = "[damage.graze]\npower = 1\naim = 0\n"
        self.assertEqual(
            reached("ox", '"missing"', '{ damage = "graze" }', never, "other")[:2], [(0, "post"), (10, "post")]
        )
        self.assertEqual(reached("post", '"dodging"', '{ damage = "graze" }', never, "other")[:1], [(0, "ox")])
        self.assertEqual(reached("ox", '"missing"'), [])
        self.assertEqual(reached("ox", '"dealing"', '{ damage = "graze" }', never), [])

    def test_kind_ability_part_critical_and_guarded(self) -> None:
        sear = "[damage.sear]\npower = 1\ncritical = { chance = 1, times = 2 }\nguard = { when = 1, times = 0.5 }\n"
        other = '[abilities.other]\ndoes = [{ damage = "blow" }]\n'
        both = '{ damage = "sear" }, { damage = "blow" }'
        for asks, count in (
            ('kind = "sear"', 1),
            ('kind = "blow"', 1),
            ("critical = true", 1),
            ("critical = false", 1),
            ("guarded = true", 1),
            ("guarded = false, critical = true", 0),
            ('ability = "hit"', 2),
            ('ability = "other"', 0),
        ):
            found = reached("post", f'"taking", {asks}', both, sear + other)
            self.assertEqual([row for row in found if row[0] == 0], [(0, "post")] * count, asks)

    def test_a_part(self) -> None:
        body = "[bodies.b]\n[bodies.b.parts]\nhead = { share = 0.5, own = 15 }\ntrunk = { share = 0.5 }\n"
        text = changed(TINY, ("[classes.post]", '[classes.post]\nbody = "b"\nreacts = [REACTS]'))
        text = changed(text, ('{ damage = "blow" }]', '{ damage = "blow", part = "head" }]')) + body
        for event, ticks in (
            ('"taking", part = "head"', [0, 10]),
            ('"taking", part = "trunk"', []),
            ('"breaking", part = "head"', [10]),
            ('"breaking", part = "trunk"', []),
        ):
            fight = duel(text.replace("REACTS", f'{{ on = {event}, to = "user", {MARK}'), seed=1)
            found = [row["tick"] for row in rows(fight, "drain")]
            self.assertEqual([tick for tick in found if tick <= 10], ticks, event)

    def test_healing_and_healed(self) -> None:
        heals = '{ damage = "blow" }, { heal = "balm" }, { fill = 1 }'
        for who, event in (("ox", '"healing"'), ("post", '"healed"')):
            found = reached(who, event, heals, BALM)
            self.assertEqual([row for row in found if row[0] == 0], [(0, who)] * 2)
            self.assertEqual(
                [row for row in reached(who, f'{event}, kind = "balm"', heals, BALM) if row[0] == 0], [(0, who)]
            )

    def test_booked_and_after(self) -> None:
        text = reacting("ox", '{ on = "dealing", to = "other", does = [{ drain = "booked / 4", gauge = "health" }] }')
        self.assertEqual(rows(duel(text), "drain")[0]["booked"], -2.5)
        text = reacting(
            "ox", '{ on = "dealing", to = "user", does = [{ drain = 1, gauge = "health", after = "critical" }] }'
        )
        self.assertEqual(rows(duel(text), "drain"), [])


class Downs(unittest.TestCase):
    def test_felling_a_mate_down_and_a_foe_down(self) -> None:
        units = (f"{one('ox')}, {one('mule')}", f"{one('post')}, {one('post')}")
        for who, event, count in (
            ("ox", "felling", 1),
            ("ox", "foe_down", 1),
            ("mule", "foe_down", 1),
            ("mule", "felling", 0),
            ("post", "mate_down", 1),
            ("ox", "mate_down", 0),
        ):
            text = changed(TINY, ("[classes.post]", "[classes.mule]\ngrowth.might = 0\n[classes.post]"))
            text = changed(
                text, (f"[classes.{who}]", f'[classes.{who}]\nreacts = [{{ on = "{event}", to = "user", {MARK}]')
            )
            fight = rl.fight(book_of(text + sides("meet", *units)), "meet")
            first = rows(fight, "down")[0]["tick"]
            found = [row for row in rows(fight, "drain") if row["tick"] == first]
            self.assertEqual(len(found), count, (who, event))

    def test_a_mate_may_bring_back_who_went_down(self) -> None:
        text = changed(
            TINY,
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "mate_down", nth = 1, rests = "60 s", to = "other", does = [{ revive = 0.5 }] }]',
            ),
        )
        fight = rl.fight(book_of(text + sides("meet", one("ox"), f"{one('post')}, {one('post')}")), "meet")
        helpers = [row["source"] for row in rows(fight, "revive")]
        self.assertEqual(sorted(set(helpers)), sorted(helpers))  # each brings the other back once at most
        self.assertGreater(len(helpers), 0)


class Uses(unittest.TestCase):
    def test_using_and_who_answers_it(self) -> None:
        self.assertEqual(reached("ox", '"using"')[:2], [(0, "ox"), (10, "ox")])
        self.assertEqual(reached("ox", '"using"', to="other")[:1], [(0, "post")])
        self.assertEqual(reached("post", '"foe_using"', to="other")[:1], [(0, "ox")])
        self.assertEqual(reached("post", '"mate_using"'), [])
        self.assertEqual(reached("post", '"foe_using", ability = "hit"')[:1], [(0, "post")])

    def test_an_answer_comes_before_what_is_wound_up_lands(self) -> None:
        text = reacting("post", f'{{ on = "foe_using", {MARK}')
        fight = duel(changed(text, ('cooldown = "1 s"', 'cooldown = "1 s"\nwindup = "0.4 s"')))
        self.assertEqual(ledger(fight, "drain", "harm")[:2], [(0, "drain", "ox", -0.5), (4, "harm", "post", -10.0)])


class Buffs(unittest.TestCase):
    def test_giving_beginning_ending_and_stripped(self) -> None:
        gives = '{ give = "rot" }'
        self.assertEqual(reached("ox", '"giving"', gives, ROT)[:1], [(0, "ox")])
        self.assertEqual(reached("post", '"beginning", buff = "rot"', gives, ROT)[:2], [(0, "post"), (10, "post")])
        self.assertEqual(reached("post", '"ending"', gives, ROT)[:1], [(5, "post")])
        self.assertEqual(reached("post", '"stripped"', gives, ROT), [])
        self.assertEqual(reached("post", '"stripped"', f'{gives}, {{ strip = "rot" }}', ROT)[:1], [(0, "post")])
        self.assertEqual(reached("post", '"ending"', f'{gives}, {{ strip = "rot" }}', ROT), [])

    def test_a_buff_that_ends_as_its_bearer_goes_down_sets_off_neither(self) -> None:
        fuse = f'{ROT}reacts = [{{ on = "WORD", to = "giver", {MARK}]\n'
        text = reacting("post", "", '{ give = "rot" }, { damage = "blow", times = 100 }', fuse)
        for word in ("ending", "stripped"):
            self.assertEqual(rows(duel(text.replace("WORD", word)), "drain"), [])

    def test_a_buff_means_itself_and_may_reach_its_giver(self) -> None:
        fuse = f'{ROT}reacts = [{{ on = "ending", to = "TO", {MARK}]\n[buffs.other]\nlasts = "0.2 s"\n'
        for to, whom in (("giver", "ox"), ("user", "post"), ("other", "ox")):
            fight = duel(reacting("post", "", '{ give = "rot" }, { give = "other" }', fuse.replace("TO", to)))
            self.assertEqual([(row["tick"], row["unit"]) for row in rows(fight, "drain")][:1], [(5, whom)])


class Gauges(unittest.TestCase):
    MANA = "[gauges.mana]\ntop = 10\nbegins = 4\n"

    def ticks(self, event: str, does: str) -> list[int]:
        text = reacting("post", f'{{ on = {event}, gauge = "mana", to = "user", {MARK}', does, self.MANA)
        return [row["tick"] for row in rows(duel(text), "drain") if row["gauge"] == "health"]

    def test_emptied_filled_and_crossing_a_share(self) -> None:
        down, up = '{ drain = 1, gauge = "mana" }', '{ fill = 2, gauge = "mana" }'
        for event, does, ticks in (
            ('"emptied"', down, [30]),
            ('"filled"', up, [20]),
            ('"falling", share = 0.2', down, [10]),
            ('"falling", share = 0.25', down, [10]),
            ('"falling", share = 0.4', down, []),
            ('"rising", share = 0.5', up, [0]),
            ('"rising", share = 0.4', up, []),
            ('"rising", share = "might"', up, []),
        ):
            self.assertEqual(self.ticks(event, does), ticks, event)

    def test_a_top_that_changes_sets_off_nothing(self) -> None:
        shrinks = '[buffs.weak]\nstats = { might = { add = -40 } }\n[gauges.mana]\ntop = "50 + might"\nbegins = 20\n'
        for does, count in (('{ give = "weak" }', 0), ('{ drain = 11, gauge = "mana" }', 1)):
            text = reacting(
                "post", f'{{ on = "falling", gauge = "mana", share = 0.19, to = "user", {MARK}', does, shrinks
            )
            text = changed(text, ("growth.might = 0", "growth.might = 50"), ('cooldown = "1 s"', 'cooldown = "60 s"'))
            found = [row for row in rows(duel(text), "drain") if row["gauge"] == "health"]
            self.assertEqual(len(found), count)


class Times(unittest.TestCase):
    def test_the_opening_comes_before_everything_once(self) -> None:
        self.assertEqual(reached("post", '"opening"'), [(0, "post")])
        text = reacting("post", '{ on = "opening", to = "foes", does = [{ drain = 5, gauge = "health" }] }')
        text = changed(text, ("[classes.ox]", '[handlings.raw]\ndelay = "2 s"\n[classes.ox]\nhandling = "raw"'))
        self.assertEqual(ledger(duel(text))[0][:3], (0, "drain", "ox"))

    def test_each_round(self) -> None:
        text = changed(reacting("post", f'{{ on = "round", to = "user", {MARK}'), ("[clock]", "[clock]\nrounds = true"))
        text = changed(text, ('"30 s"', '"5 rounds"'), ('"1 s"', '"3 rounds"'))
        self.assertEqual([row["tick"] for row in rows(duel(text), "drain")], [0, 1, 2, 3, 4, 5])

    def test_every_nth_time_and_a_rest(self) -> None:
        self.assertEqual([row[0] for row in reached("ox", '"dealing", nth = 3')], [20, 50, 80])
        self.assertEqual([row[0] for row in reached("ox", '"dealing", rests = "2.5 s"')], [0, 30, 60, 90])
        self.assertEqual([row[0] for row in reached("ox", '"dealing", when = "health > 99", rests = "1.5 s"')], [0, 20])

    def test_a_chance(self) -> None:
        text = reacting("ox", f'{{ on = "dealing", chance = "might / 40", to = "user", {MARK}')
        count = many(4000)
        trials = rl.trials(
            book_of(text + sides("meet", one("ox"), one("post"))), "meet", fights=count, seed=3, threads=1
        )
        spent = next(row["spent"] for row in trials.records("deeds") if row["is"] == "class")
        error = (10 * 0.25 * 0.75 / count) ** 0.5 * 0.5
        self.assertLess(abs(spent - 10 * 0.25 * 0.5), 4 * error)

    def test_what_it_does_does_not_set_it_off_again_unless_it_says_so(self) -> None:
        for more, count in (("", 2), (", sets_off_itself = true", 2 + 8)):
            text = reacting(
                "ox", f'{{ on = "dealing", to = "other", does = [{{ damage = "blow", times = 0.1 }}]{more} }}'
            )
            text = changed(text, ("[clock]", "[clock]\nreaction_depth = 9"))
            self.assertEqual(len([row for row in rows(duel(text), "harm") if row["tick"] == 0]), count)

    def test_two_may_still_answer_each_other(self) -> None:
        answer = '{ on = "taking", to = "other", does = [{ damage = "blow", times = 0.1 }] }'
        text = changed(
            reacting("ox", answer),
            ("[classes.post]\ngrowth.might = 0", f"[classes.post]\ngrowth.might = 5\nreacts = [{answer}]"),
        )
        self.assertGreater(len([row for row in rows(duel(text), "harm") if row["tick"] == 0]), 3)


class Refused(unittest.TestCase):
    def test_what_an_event_has_not(self) -> None:
        for event, words in (
            ('"taking", mark = "x"', "has no mark"),
            ('"marked"', "needs a mark"),
            ('"emptied"', "needs a gauge"),
            ('"falling", gauge = "health"', "needs a share"),
            ('"using", critical = true', "has no critical"),
            ('"dealing", buff = "rot"', "has no buff"),
            ('"round"', "the clock has no rounds"),
            ('"taking", kind = "blo"', "did you mean blow"),
            ('"opening", if = "might > 1"', "has no other"),
            ('"striking"', "on"),
        ):
            text = reacting("ox", f'{{ on = {event}, to = "user", {MARK}', more=ROT)
            self.assertIn(words, problems_of(text), event)
        self.assertIn("has no other", problems_of(reacting("ox", f'{{ on = "opening", {MARK}')))
        self.assertIn("only a buff has a giver", problems_of(reacting("ox", f'{{ on = "taking", to = "giver", {MARK}')))


if __name__ == "__main__":
    unittest.main()
