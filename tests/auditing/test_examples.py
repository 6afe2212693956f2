"""Worked examples: what their steps do, what a miss tells, and what can't be carried out."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.auditing.examples import ExampleResult, run_example, run_examples

from ..support import TINY, book_of, problems_of

MORE = """
[gauges.wind]
top = "10 + might / 10"
begins = 8
refill = { amount = 1, every = "2 s" }
[damage.prick]
aim = 0.4
power = 50
[abilities.gore]
cost = { wind = 5 }
windup = "0.3 s"
recovery = "0.2 s"
cooldown = "3 s"
does = [{ damage = "blow", times = 2 }, { give = "torn" }]
[abilities.sting]
does = [{ damage = "prick" }]
[abilities.calm]
targets = "user"
cooldown = "9 s"
does = [{ fill = 30 }]
[buffs.torn]
lasts = "2 s"
marks = ["bleeding"]
stats = { might = { scale = -0.5 } }
[classes.bull]
growth.might = { base = 20, add = 1, every = 1 }
learns = { 1 = ["gore", "sting", "calm"], 4 = ["hit"] }
[upgrades.horns]
price = 10
stats = { might = { add = 5 } }
[slots.back]
[gear.yoke]
slot = "back"
stats = { might = { add = 7 } }
"""


def results(text: str) -> dict[str, ExampleResult]:
    return {result.name: result for result in run_examples(book_of(TINY + MORE + text))}


def example(name: str, inside: str, who: str = "bull", other: str = "") -> str:
    more = f'other = {{ class = "{other}" }}\n' if other else ""
    return f'[examples.{name}]\nwho = {{ class = "{who}" }}\n{more}{inside}\n'


class StepCases(unittest.TestCase):
    def test_each_step_does_what_it_says(self) -> None:
        cases = {
            "hurt_and_heal": (
                "steps = [{ hurt = 30 }, { fill = 12 }]\nexpect = { health = 82, health_fill = 0.82 }",
                "",
            ),
            "hurt_by_kind": ('steps = [{ hurt = 30, kind = "blow" }]\nexpect = { health = 70 }', ""),
            "other_gauge": ('steps = [{ hurt = 3, gauge = "wind" }]\nexpect = { wind = 5 }', ""),
            "downed": ("steps = [{ hurt = 500 }, { fill = 15 }]\nexpect = { down = true, health = 0 }", ""),
            "buff": ('steps = [{ give = "torn" }]\nexpect = { might = 10, "marked(bleeding)" = true }', ""),
            "buff_ends": (
                'steps = [{ give = "torn" }, { advance = "2 s" }]\nexpect = { might = 20, wind = 9, "marked(bleeding)" = false }',
                "",
            ),
            "used": (
                'steps = [{ use = "gore" }]\nexpect = { wind = 3 }\nexpect_other = { health = 60, might = 5 }',
                "ox",
            ),
            "again": (
                'steps = [{ use = "gore" }, { advance = "2.6 s" }, { use = "gore", refused = true }, { advance = "0.1 s" }, { use = "gore", refused = true }, { advance = "1.3 s" }, { use = "gore" }]\nexpect_other = { health = 20 }',
                "ox",
            ),
            "by_the_other": (
                'steps = [{ use = "hit", other = true }, { hurt = 7, other = true }]\nexpect = { health = 90 }\nexpect_other = { health = 93 }',
                "ox",
            ),
            "on_itself": ('steps = [{ hurt = 40 }, { use = "calm" }]\nexpect = { health = 90 }', ""),
            "even_luck_misses": ('steps = [{ use = "sting" }]\nexpect_other = { health = 100 }', "ox"),
            "level": (
                'steps = [{ hurt = 40 }, { use = "hit", refused = true }, { level = 4 }, { expect = { might = 23, health = 60 } }, { use = "hit" }]\nexpect = { level = 4 }\nexpect_other = { health = 77 }',
                "ox",
            ),
            "buy": (
                "steps = [{ buy = { horns = 1 } }, { buy = { horns = 2 } }]\nexpect = { might = 35, wind_top = 13.5 }",
                "",
            ),
            "wear": ('steps = [{ wear = ["yoke"] }]\nexpect = { might = 27 }', ""),
            "teach": (
                'steps = [{ use = "hit", refused = true }, { teach = "hit" }, { use = "hit" }]\nexpect_other = { health = 80 }',
                "ox",
            ),
            "within": ("steps = [{ hurt = 0.4 }]\nexpect = { health = 100 }\nwithin = 0.5", ""),
        }
        text = "".join(example(name, inside, other=other) for name, (inside, other) in cases.items())
        for name, result in results(text).items():
            with self.subTest(name):
                self.assertEqual([miss.record() for miss in result.misses], [])

    def test_falls_use_the_rule_of_falls(self) -> None:
        text = '[falls]\nsafe_speed = "4 m/s"\ndamage = "10 * (fall_speed - safe_speed)"\n'
        speed = (2 * 9.81 * 5) ** 0.5
        inside = f'steps = [{{ fall = "5 m" }}]\nexpect = {{ health = {100 - 10 * (speed - 4):.3f} }}'
        self.assertTrue(results(text + example("fall", inside))["fall"].holds)


class MissCases(unittest.TestCase):
    def test_a_miss_shows_expected_got_and_the_entries_that_led_there(self) -> None:
        inside = (
            'steps = [{ hurt = 30 }, { hurt = 1, gauge = "wind" }, { fill = 5 }]\nexpect = { health = 80, down = true }'
        )
        first, second = results(example("wrong", inside))["wrong"].misses
        self.assertEqual((first.what, first.expected, first.got), ("health", "80", "75"))
        self.assertRegex(first.place, r"book.toml:\d+")
        self.assertEqual(first.path, "examples.wrong.expect.health")
        self.assertEqual(
            [entry.split("  ", 2)[2] for entry in first.entries], ["bull is hurt  −30 = 70", "bull is healed  +5 = 75"]
        )
        self.assertEqual((second.expected, second.got), ("true", "false"))

    def test_what_stands_against_a_use_is_told(self) -> None:
        cases = {
            "unknown": ('steps = [{ use = "hit" }]\nexpect = { wind = 8 }', "ox", "it is not known"),
            "alone": ('steps = [{ use = "gore" }]\nexpect = { wind = 8 }', "", "there is nobody to use it on"),
            "busy": (
                'steps = [{ use = "gore" }, { use = "sting" }]\nexpect = { wind = 3 }',
                "ox",
                "it is busy for another 0.2 s",
            ),
            "cooling": (
                'steps = [{ use = "calm" }, { advance = "1 s" }, { use = "calm" }]\nexpect = { down = false }',
                "",
                "it is cooling down for another 8 s",
            ),
            "dear": (
                'steps = [{ hurt = 4, gauge = "wind" }, { use = "gore" }]\nexpect = { wind = 4 }',
                "ox",
                "it can’t be paid: 4 of 5 wind",
            ),
            "down": ('steps = [{ hurt = 500 }, { use = "sting" }]\nexpect = { down = true }', "ox", "it is down"),
            "not_refused": ('steps = [{ use = "gore", refused = true }]\nexpect = { wind = 3 }', "ox", "it was used"),
        }
        found = results("".join(example(name, inside, other=other) for name, (inside, other, _) in cases.items()))
        for name, (_, _, against) in cases.items():
            with self.subTest(name):
                self.assertEqual([miss.got for miss in found[name].misses], [against])

    def test_a_character_that_cannot_be_built_is_a_miss_and_no_traceback(self) -> None:
        result = results(example("bare", 'steps = [{ wear = ["yoke", "yoke"] }]\nexpect = { down = false }'))["bare"]
        self.assertIn("there is room for 1", result.misses[0].what)

    def test_examples_do_not_touch_each_other(self) -> None:
        book = book_of(TINY + MORE + example("one", "steps = [{ hurt = 30 }]\nexpect = { health = 70 }"))
        self.assertTrue(run_example(book, "one").holds and run_example(book, "one").holds)

    def test_faults_in_examples_are_told_when_the_rulebook_is_read(self) -> None:
        for inside, words in (
            ("expect = { helth = 3 }", "this is not on a character's page"),
            ("steps = []", "this example expects nothing"),
            ("steps = [{ kick = 3 }]\nexpect = { health = 1 }", "a step has exactly one of hurt, fill"),
            ('steps = [{ use = "hti" }]\nexpect = { health = 1 }', "did you mean hit?"),
            ("steps = [{ hurt = -3 }]\nexpect = { health = 1 }", "the number must be at least 0"),
            ("steps = [{ hurt = 3, other = true }]\nexpect = { health = 1 }", "this example has no other character"),
            ("steps = [{ level = 99 }]\nexpect = { health = 1 }", "levels go from 1 to 10"),
            ('steps = [{ advance = "3 rounds" }]\nexpect = { health = 1 }', "this rulebook counts seconds"),
        ):
            with self.subTest(inside):
                self.assertIn(words, problems_of(TINY + example("wrong", inside, who="ox")))


class ShippedCases(unittest.TestCase):
    def test_all_of_the_demo_hold_and_that_of_the_faulty_rulebook_does_not(self) -> None:
        found = run_examples(rl.demo())
        self.assertGreater(len(found), 50)
        self.assertEqual([result.record() for result in found if not result.holds], [])
        self.assertEqual([result.holds for result in run_examples(rl.faulty())], [False])


if __name__ == "__main__":
    unittest.main()
