"""Promises: each kind of figure against what is known exactly, the three verdicts, and what a broken one shows."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.auditing.promises.claims import Judgement
from restless_ledger.auditing.promises.judge import judge
from restless_ledger.auditing.promises.sampled import Sampled, dominated
from restless_ledger.statistics import Rate

from ..support import TINY, book_of, one, sides

CHANCE = 0.3
COIN = f"""
[damage.toss]
aim = {CHANCE}
power = 1000
[abilities.toss]
windup = "0.5 s"
uses = 1
does = [{{ damage = "toss" }}]
[classes.gambler]
growth.might = 0
learns = {{ 1 = ["toss"] }}
"""
CAREFUL = """playbook = "careful"
[playbooks.careful]
plays = [{ use = "toss", when = "health > 0" }]
"""
"""What looks at its health is not solved, but fought."""
"""A gambler strikes once, half a second in: its foe is down with a chance of exactly 0.3, or the fight is called off."""
TOSS = TINY + COIN + CAREFUL + sides("coin", one("gambler"), one("post")) + sides("meet", one("ox"), one("post"))


def promise(name: str, about: str, expect: str, more: str = "") -> str:
    return f"[promises.{name}]\n{about}\n{more}\nexpect = {{ {expect} }}\n"


def judged(*promises: str, seed: int = 1, settings: str = "") -> list[Judgement]:
    return judge(book_of(TOSS + "".join(promises) + settings), seed)


class VerdictCases(unittest.TestCase):
    def test_kept_broken_and_undecided(self) -> None:
        about = 'encounter = "coin"'
        for bounds, verdict in (
            ("[0.2, 0.4]", "kept"),
            ("[0.5, 1]", "broken"),
            ("[0, 0.1]", "broken"),
            ("[0.3, 1]", "undecided"),
        ):
            (found,) = judged(promise("rate", about, f"wins = {{ left = {bounds} }}", "fights = 3000"))
            with self.subTest(bounds):
                self.assertEqual(found.verdict, verdict)
                self.assertLessEqual(found.low, CHANCE)
                self.assertGreaterEqual(found.high, CHANCE)
                self.assertEqual(found.telling is not None, verdict == "broken")

    def test_a_broken_promise_names_a_fight_that_shows_it(self) -> None:
        for bounds, winner in (("[0.5, 1]", None), ("[0, 0.1]", "left")):
            text = promise("rate", 'encounter = "coin"', f"wins = {{ left = {bounds} }}")
            (found,) = judged(text, seed=7)
            fight = rl.fight(book_of(TOSS), found.where, seed=found.seed or 0, number=found.telling or 0)
            self.assertEqual(fight.winner, winner)

    def test_what_more_an_undecided_one_would_take(self) -> None:
        (found,) = judged(promise("rate", 'encounter = "coin"', "wins = { left = [0.27, 0.33] }", "fights = 200"))
        self.assertEqual(found.verdict, "undecided")
        self.assertGreater(found.more or 0, 1000)

    def test_wrong_verdicts_on_real_fights_stay_below_the_error(self) -> None:
        """A rate of exactly 0.3 against bounds that begin just above it: kept would be wrong. 60 seeds at 5% would have
        3 wrong ones; four standard errors more are 10."""
        book = book_of(
            TOSS
            + promise("rate", 'encounter = "coin"', "wins = { left = [0.301, 1] }", "fights = 1500")
            + "[audit]\nerror_rate = 0.05\n"
        )
        wrong = sum(judge(book, seed)[0].verdict == "kept" for seed in range(60))
        self.assertLessEqual(wrong, 10)

    def test_the_error_is_shared_out_among_all_figures(self) -> None:
        one_figure = promise("a", 'encounter = "coin"', "wins = { left = [0, 1] }")
        more = promise("b", 'encounter = "coin"', "time_outs = [0, 1], wins = { left = [0, 1] }", "levels = [1, 2]")
        self.assertAlmostEqual(Sampled(book_of(TOSS + one_figure), 1).error, 0.01)
        self.assertAlmostEqual(Sampled(book_of(TOSS + one_figure + more), 1).error, 0.01 / 5)

    def test_the_same_seed_the_same_verdicts(self) -> None:
        text = promise("rate", 'encounter = "coin"', "wins = { left = [0.2, 0.4] }")
        self.assertEqual(judged(text), judged(text))


class FigureCases(unittest.TestCase):
    def test_figures_of_fights_that_are_known(self) -> None:
        """An ox hits a post of 100 health for 10 each second: it wins always, after ten hits, 9 s in."""
        expect = (
            "wins = { left = [0.97, 1] }, mutual_downs = [0, 0.03], time_outs = [0, 0.03], seconds_10 = [9, 9], "
            "seconds_median = [9, 9], seconds_90 = [9, 9], survival = { ox = [0.97, 1], post = [0, 0.03] }, "
            "damage_share = { ox = { hit = [1, 1] } }, usage_share = { ox = { hit = [1, 1] } }"
        )
        found = judged(promise("known", 'encounter = "meet"', expect))
        self.assertEqual([each.path for each in found if each.verdict != "kept"], [])
        self.assertEqual(len(found), 10)
        estimates = {each.path.split(".expect.")[1]: each.estimate for each in found}
        self.assertEqual((estimates["seconds_median"], estimates["survival.post"]), (9.0, 0.0))

    def test_shares_of_harm_and_uses(self) -> None:
        """Of a blow that does 10 each second and a jab that does 5 each two seconds, four fifths of the harm are blows,
        and two thirds of the uses; with ten-second fights a little off, as the last one may be either."""
        text = (
            TOSS
            + """
[abilities.jab]
cooldown = "2 s"
does = [{ damage = "blow", times = 0.5 }]
[playbooks.both]
plays = [{ use = "jab" }, { use = "hit" }]
[classes.goat]
growth.might = 10
learns = { 1 = ["hit", "jab"] }
playbook = "both"
"""
            + sides("pair", one("goat"), one("post"))
        )
        found = judge(
            book_of(
                text
                + promise(
                    "shares",
                    'encounter = "pair"',
                    "damage_share = { goat = { jab = [0.1, 0.4] } }, usage_share = { goat = { jab = [0.2, 0.6] } }",
                )
            )
        )
        self.assertEqual({each.verdict for each in found}, {"kept"})
        (broken,) = judge(
            book_of(text + promise("shares", 'encounter = "pair"', "usage_share = { goat = { jab = [0.9, 1] } }"))
        )
        self.assertEqual(broken.verdict, "broken")

    def test_levels_and_handlings_make_variants(self) -> None:
        text = TOSS.replace("growth.might = 10", "growth.might = { base = 10, add = 10, every = 1 }")
        text += "[handlings.shaky]\naim = 0.5\n[handlings.sure]\n"
        book = book_of(
            text
            + promise("length", 'encounter = "meet"', "seconds_median = [0, 60]", "levels = [1, 2, 10]")
            + promise("hands", 'encounter = "coin"', "wins = { left = [0, 1] }", 'handlings = ["shaky", "sure"]')
        )
        found = judge(book)
        self.assertEqual([each.estimate for each in found if each.promise == "length"], [9.0, 4.0, 0.0])
        shaky, sure = (next(each for each in found if each.what.endswith(word)) for word in ("shaky", "sure"))
        self.assertTrue(shaky.low <= CHANCE / 2 <= shaky.high and sure.low <= CHANCE <= sure.high)
        self.assertLess(shaky.estimate, sure.estimate)

    def test_exact_figures(self) -> None:
        check = '[checks.gate]\nvalue = "might"\nroll = { between = [1, 20] }\nneeds = 21\n'
        for bounds, verdict in (("[0.5, 0.5]", "kept"), ("[0.55, 1]", "broken")):
            (found,) = judged(check, promise("gate", 'check = "gate"', f"chance = {bounds}", 'classes = ["ox"]'))
            self.assertEqual((found.verdict, found.estimate, found.fights), (verdict, 0.5, 0))
        for bounds, verdict in (("[10, 10]", "kept"), ("[1, 9]", "broken")):
            (found,) = judged(
                promise("hits", 'hits = { by = "ox", on = "post", with = "hit" }', f"hits_to_kill = {bounds}")
            )
            self.assertEqual((found.verdict, found.estimate), (verdict, 10.0))

    def test_prices_drops_experience_and_builds(self) -> None:
        text = """
[upgrades.horns]
price = { base = 10, add = 5, every = 1 }
levels = 4
stats = { might = { add = 1 } }
[slots.back]
[gear.yoke]
slot = "back"
[gear.bell]
slot = "back"
[rarities.plain]
weight = 3
[rarities.fine]
weight = 1
[drops.shed]
pieces = [{ gear = "yoke", weight = 2 }, { gear = "bell", weight = 1 }]
nothing = 5
[experience]
to_next = 100
[creation]
attributes = ["might"]
budget = 5
begins = "lowest"
[origins.hill]
ranges = { might = [0, 3] }
"""
        found = judged(
            text,
            promise("price", 'upgrade = "horns"', "first = [10, 10], last = [25, 25], in_all = [70, 70]"),
            promise(
                "drop",
                'drop = "shed"',
                "chance = { yoke = [0.25, 0.25], bell = [0.125, 0.125], nothing = [0.625, 0.625] }, rarity = { fine = [0.25, 0.25] }",
            ),
            promise("way", 'experience = "ox"', "to_level = { 1 = [0, 0], 10 = [900, 900] }"),
            promise("made", 'builds = "hill"', "count = [4, 4]"),
        )
        self.assertEqual([each.path for each in found if each.verdict != "kept"], [])
        self.assertEqual(len(found), 10)
        (broken,) = judged(text, promise("price", 'upgrade = "horns"', "in_all = [1, 69]"))
        self.assertEqual((broken.verdict, broken.estimate, broken.what), ("broken", 70.0, "in all of horns"))

    def test_figures_of_a_journey(self) -> None:
        text = """
[stages.field]
encounter = "meet"
side = "left"
experience = 100
minutes = 30
[stages.rest]
minutes = 60
[experience]
to_next = 100
[journeys.trek]
party = [{ class = "ox" }]
stages = ["field", "rest"]
"""
        hours = (1800 + 3600 + 9) / 3600
        expect = f"finish = [0.7, 1], hours_median = [{hours - 0.001}, {hours + 0.001}], hours_to_level = {{ 2 = [0.5, 0.51], 3 = [0, 9] }}, hours_to_stage = {{ field = [0, 0], rest = [0.5, 0.51] }}, level_at = {{ rest = [2, 2] }}, end_level = [2, 2]"
        found = {
            each.path.split(".expect.")[1]: each
            for each in judged(text, promise("trek", 'journey = "trek"', expect, "runs = 60"))
        }
        self.assertEqual(
            {path: each.verdict for path, each in found.items()},
            {
                "finish": "kept",
                "hours_median": "kept",
                "hours_to_level.2": "kept",
                "hours_to_level.3": "undecided",
                "hours_to_stage.field": "kept",
                "hours_to_stage.rest": "kept",
                "level_at.rest": "kept",
                "end_level": "kept",
            },
        )
        self.assertEqual(found["hours_to_level.3"].note, "no run comes so far")

    def test_duels(self) -> None:
        """Oxen are a match for each other; a post never wins, so it is dominated by both."""
        text = '[classes.cow]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\n'
        even = promise("even", 'duels = ["ox", "cow"]', "wins = [0.3, 0.7]", "fights = 3000")
        wide = promise(
            "wide", 'duels = ["ox", "cow", "post"]', "wins = [0.3, 0.7], none_dominated = true", "fights = 3000"
        )
        # both fall on the same tick in every such duel, so make one of them hit at random
        (found,) = judge(book_of(TOSS.replace('power = "might"', 'power = "might"\nspread = 0.5') + text + even))
        self.assertEqual((found.verdict, found.fights > 0), ("kept", True))
        broken = judge(book_of(TOSS.replace('power = "might"', 'power = "might"\nspread = 0.5') + text + wide))
        self.assertEqual(
            {each.path.rsplit(".", 1)[1]: each.verdict for each in broken},
            {"wins": "broken", "none_dominated": "broken"},
        )

    def test_how_far_each_is_from_the_mix(self) -> None:
        """The post loses everything: half of one half is missing. Oxen and cows miss nothing that fights could show."""
        cow = '[classes.cow]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\n'
        book = TOSS.replace('power = "might"', 'power = "might"\nspread = 0.5') + cow
        for classes, bounds, verdict, least in (
            ('["ox", "cow"]', "[0, 0.04]", "kept", 0.0),
            ('["ox", "cow", "post"]', "[0, 0.2]", "broken", 0.2),
            ('["ox", "cow", "post"]', "[0.2, 0.26]", "kept", 0.2),
        ):
            (found,) = judge(
                book_of(book + promise("p", f"duels = {classes}", f"short_of_mix = {bounds}", "fights = 6000"))
            )
            self.assertEqual(found.verdict, verdict)
            self.assertTrue(least <= found.low <= found.estimate <= found.high <= 0.3, found)
            self.assertEqual("post" in found.note, "post" in classes)

    def test_dominance_is_said_only_when_it_is_shown(self) -> None:
        def rates(*pairs: tuple[str, str, float, float]) -> dict[tuple[str, str], Rate]:
            found = {(one, other): Rate(0, 0, (low + high) / 2, low, high) for one, other, low, high in pairs}
            return found | {
                (other, one): Rate(0, 0, 1 - (low + high) / 2, 1 - high, 1 - low) for one, other, low, high in pairs
            }

        ring = rates(("rock", "knife", 0.8, 0.9), ("knife", "cloth", 0.8, 0.9), ("cloth", "rock", 0.8, 0.9))
        self.assertEqual(dominated(["rock", "knife", "cloth"], ring), ())
        row = rates(("a", "b", 0.8, 0.9), ("a", "c", 0.8, 0.9), ("b", "c", 0.6, 0.7))
        self.assertEqual(dominated(["a", "b", "c"], row), ("b", "a"))
        unclear = rates(("a", "b", 0.4, 0.6), ("a", "c", 0.4, 0.6), ("b", "c", 0.4, 0.6))
        self.assertIsNone(dominated(["a", "b", "c"], unclear))
