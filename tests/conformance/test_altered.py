"""Abilities that ask for something, are used beside others or in them, and are altered or granted."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.analysis.expected_damage import ExpectedDamage

from ..support import changed, problems_of
from .books import TINY, book_of, duel, one, placed, rows, sides

JAB = '[abilities.jab]\ncooldown = "0.7 s"\ndoes = [{ damage = "blow", times = 0.1 }]\n'


def knowing(text: str, *names: str, plays: str = "") -> str:
    """Let the ox know more, and give it a playbook."""
    more = ", ".join(f'"{name}"' for name in ("hit", *names))
    text = changed(text, ('learns = { 1 = ["hit"] }', f'learns = {{ 1 = [{more}] }}\nplaybook = "p"'))
    return (
        text
        + f"[playbooks.p]\nplays = [{plays or ', '.join(f'{{ use = {chr(34)}{name}{chr(34)} }}' for name in ('hit', *names))}]\n"
    )


def uses(fight: rl.ledger.Fight, cause: str = "") -> list:
    """Return when what was used, or when one thing was."""
    found = [(row["tick"], row["cause"]) for row in rows(fight, "use")]
    return [tick for tick, name in found if name == cause] if cause else found


def harm(fight: rl.ledger.Fight) -> list[tuple[int, float]]:
    return [(row["tick"], -row["booked"]) for row in rows(fight, "harm")]


class Asks(unittest.TestCase):
    def test_what_an_ability_requires_is_asked_before_each_use(self) -> None:
        text = changed(
            TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nrequires = "health_fill == 1 and since_start > 1.5"')
        )
        self.assertEqual(uses(duel(text), "hit")[:2], [16, 26])
        self.assertIn("did you mean", problems_of(changed(TINY, ('cooldown = "1 s"', 'requires = "helth > 1"'))))


class Meanwhile(unittest.TestCase):
    def test_beside_takes_effect_at_once_and_its_user_goes_on(self) -> None:
        text = knowing(changed(TINY, ('cooldown = "1 s"', 'windup = "1 s"\nrecovery = "0.5 s"')), "jab")
        alone = uses(duel(text + JAB.replace("0.7 s", "99 s")), "hit")
        fight = duel(text + JAB + "beside = true\n")
        self.assertEqual(uses(fight, "jab")[:6], [1, 8, 16, 23, 31, 38])  # on 15 and 30 the hit comes first
        self.assertEqual(uses(fight, "hit"), alone[: len(uses(fight, "hit"))])
        self.assertEqual([tick for tick, amount in harm(fight) if amount == 10][:3], [10, 25, 40])

    def test_without_it_nothing_is_different(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'windup = "1 s"\nrecovery = "0.5 s"'))
        idle = knowing(text, "jab") + JAB + 'beside = true\nrequires = "0"\n'
        self.assertEqual(harm(duel(idle)), harm(duel(knowing(text))))

    def test_what_cancels_ends_the_recovery_or_the_wind_up(self) -> None:
        slow = changed(TINY, ('cooldown = "1 s"', 'windup = "0.3 s"\nrecovery = "2 s"'))
        text = knowing(slow, "jab") + JAB
        fight = duel(text + 'cancels = "recovery"\n')
        # wound up from 0 to 0.3 s; the jab comes on the next tick of its recovery, and the hit again after it
        self.assertEqual(uses(fight)[:4], [(0, "hit"), (4, "jab"), (5, "hit"), (11, "jab")])
        idle = changed(text, ('does = [{ damage = "blow" }]\n[classes', "does = [{ fill = 1, chance = 0 }]\n[classes"))
        self.assertEqual(uses(duel(idle + 'cancels = "recovery"\n'))[:2], [(0, "hit"), (4, "jab")])  # nothing changed
        fight = duel(text + 'cancels = "windup"\nrequires = "since_start >= 0.1"\n')
        self.assertEqual(uses(fight)[:2], [(0, "hit"), (1, "jab")])
        self.assertEqual([row["cause"] for row in rows(fight, "interrupt")][:1], ["hit"])
        self.assertEqual(uses(duel(text))[:2], [(0, "hit"), (23, "hit")])

    def test_who_may_walk_while_winding_up(self) -> None:
        for more, gone in (("", False), ("on_the_move = true", True)):
            text = knowing(changed(TINY, ('cooldown = "1 s"', f'windup = "9 s"\nreach = "9 m"\n{more}')))
            text = changed(text, ("[playbooks.p]", '[playbooks.p]\ndistance = "4 m"'))
            book = book_of(text + placed(one("ox", 'at = ["5 m", "5 m"]'), one("post", 'at = ["6 m", "5 m"]')))
            fight = rl.fight(book, "meet")
            self.assertEqual(rows(fight, "use")[0]["tick"], 0)
            # three metres at 3 m/s take a second, of which only the last step is not a whole one
            self.assertEqual(int(fight.state.clock[0].steps) >= 10, gone, more)

    def test_what_can_be_wrong(self) -> None:
        for more, said in (
            ('beside = true\nwindup = "1 s"', "takes effect at once"),
            ("beside = true", "on every tick"),
            ('cancels = "both"', "this is not one of the words"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('cooldown = "1 s"', more))), more)


class Alters(unittest.TestCase):
    def test_what_is_written_takes_its_place_then_it_is_multiplied_then_comes_more(self) -> None:
        text = changed(
            TINY,
            (
                "[classes.ox]",
                '[classes.ox]\nalters = { hit = { cooldown = "0.5 s", more = [{ damage = "blow", times = 0.5 }], times = { cooldown = 3, effects = 2 } } }',
            ),
        )
        self.assertEqual(harm(duel(text))[:4], [(0, 20.0), (0, 5.0), (15, 20.0), (15, 5.0)])

    def test_gear_and_levels_of_an_upgrade_multiply_one_after_the_other(self) -> None:
        text = TINY + (
            '[slots.hand]\n[gear.club]\nslot = "hand"\nalters = { hit = { times = { effects = 1.5 } } }\n'
            "[upgrades.drill]\nprice = 1\nlevels = 5\nalters = { hit = { times = { cooldown = 0.5, effects = 2 } } }\n"
        )
        worn = one("ox", 'gear = ["club"]')
        fight = rl.fight(book_of(text + sides("meet", worn, one("post"))), "meet")
        self.assertEqual(harm(fight)[:2], [(0, 15.0), (10, 15.0)])
        from restless_ledger.sheets import CharacterSpec, build_sheet
        from restless_ledger.sheets.altered import alterations_of, altered

        book = book_of(text)
        sheet = build_sheet(book, CharacterSpec("ox", 1, bought={"drill": 2}))
        ability = altered(book, "hit", alterations_of(sheet.sources, dict(sheet.bought), "hit"))
        self.assertEqual((float(ability.cooldown.time.amount), str(ability.does[0].times)), (0.25, "((1) * 2) * 2"))

    def test_costs_reach_and_areas(self) -> None:
        change = "times = { cost = 0.5, reach = 2, radius = 2 }"
        text = changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { rage = 4 }\nreach = "2 m"\narea = { radius = "1 m" }'),
            ("[classes.ox]", f"[classes.ox]\nalters = {{ hit = {{ {change} }} }}"),
        )
        text += "[gauges.rage]\ntop = 10\n"
        posts = one("post", 'at = ["4.5 m", "5 m"]') + ", " + one("post", 'at = ["6 m", "5 m"]')
        fight = rl.fight(book_of(text + placed(one("ox", 'at = ["1 m", "5 m"]'), posts)), "meet")
        self.assertEqual((uses(fight)[0][0], rows(fight, "cost")[0]["booked"]), (0, -2.0))
        self.assertEqual(len({row["unit"] for row in rows(fight, "harm") if row["tick"] == 0}), 2)

    def test_another_ability_takes_its_place(self) -> None:
        text = changed(TINY, ("[classes.ox]", '[classes.ox]\nalters = { hit = { becomes = "jab" } }')) + JAB
        fight = duel(text)
        self.assertEqual(harm(fight)[:2], [(0, 1.0), (7, 1.0)])
        self.assertEqual({row["cause"] for row in rows(fight, "use")}, {"hit"})  # it is the same deed, done otherwise

    def test_what_takes_its_place_may_do_what_nothing_else_does(self) -> None:
        for bearer in ("[classes.ox]", "[buffs.wild]"):
            text = TINY + '[buffs.wild]\n[buffs.dazed]\n[abilities.daze]\ndoes = [{ give = "dazed" }]\n'
            text = changed(text, (bearer, f'{bearer}\nalters = {{ hit = {{ becomes = "daze" }} }}'))
            if bearer == "[buffs.wild]":
                reacts = '[{ on = "opening", to = "user", does = [{ give = "wild" }] }]'
                text = changed(text, ("[classes.ox]", f"[classes.ox]\nreacts = {reacts}"))
            self.assertEqual({row["cause"] for row in rows(duel(text), "begin")} - {"wild"}, {"dazed"}, bearer)

    def test_closed_forms_heed_what_alters_an_ability(self) -> None:
        drill = "[abilities.drill]\npassive = true\nalters = { hit = { times = { effects = 2, cooldown = 0.5 } } }\n"
        text = changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"], 4 = ["drill"] }')) + drill
        blow = ExpectedDamage(book_of(text)).of_ability("ox", "post", "hit")
        self.assertEqual(blow.amount.tolist(), [10.0] * 3 + [20.0] * 7)
        self.assertEqual(blow.seconds.tolist(), [1.0] * 3 + [0.5] * 7)
        for level, seconds, uses in ((3, 1.0, 10), (4, 0.5, 5)):
            kill = rl.duel(book_of(text), "ox", "post", level=level, fights=20).times_to_kill[0][0]
            self.assertEqual((kill.seconds, kill.uses_to_kill), (seconds, {uses: 1.0}))
            fight = rl.fight(
                book_of(text + sides("meet", one("ox"), one("post")).replace("level = 1", f"level = {level}")), "meet"
            )
            self.assertEqual(fight.seconds, (uses - 1) * seconds)

    def test_a_buff_alters_while_it_lasts_and_the_latest_counts(self) -> None:
        text = changed(
            TINY,
            (
                "[classes.ox]",
                '[classes.ox]\nreacts = [{ on = "dealing", nth = 2, to = "user", does = [{ give = "wild" }, { give = "wilder", chance = 0 }] }]',
            ),
        )
        text += '[buffs.wild]\nlasts = "1.5 s"\nalters = { hit = { times = { effects = 3 } } }\n'
        text += '[buffs.wilder]\nlasts = "0.5 s"\nalters = { hit = { times = { effects = 5 } } }\n'
        self.assertEqual(harm(duel(text))[:5], [(0, 10.0), (10, 10.0), (20, 30.0), (30, 10.0), (40, 30.0)])
        self.assertEqual(
            harm(duel(text.replace("chance = 0", "chance = 1").replace('"0.5 s"', '"1.2 s"')))[2], (20, 50.0)
        )

    def test_a_buff_grants_what_its_bearers_playbook_has(self) -> None:
        text = changed(
            TINY, ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow" }, { give = "wild", to = "user" }]')
        )
        text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "p"'))
        text += '[playbooks.p]\nplays = [{ use = "jab" }, { use = "hit" }]\n' + JAB
        granting = text + '[buffs.wild]\nlasts = "0.5 s"\ngrants = ["jab"]\n'
        self.assertEqual(uses(duel(granting))[:4], [(0, "hit"), (1, "jab"), (10, "hit"), (11, "jab")])
        plain = text + '[buffs.wild]\nlasts = "0.5 s"\n'
        self.assertEqual(uses(duel(plain), "jab"), [])

    def test_what_can_be_wrong(self) -> None:
        for more, said in (
            ("alters = { hti = { uses = 1 } }", "did you mean hit?"),
            ('alters = { hit = { becomes = "hti" } }', "did you mean hit?"),
            ('alters = { hit = { windups = "1 s" } }', "there is no key windups here"),
            ("alters = { hit = { times = { effects = -1 } } }", "at least 0"),
            ("alters = { calm = { uses = 1 } }", "a passive ability is never used"),
        ):
            text = changed(TINY, ("[classes.ox]", f"[classes.ox]\n{more}")) + "[abilities.calm]\npassive = true\n"
            self.assertIn(said, problems_of(text), more)
        self.assertIn(
            "a buff grants abilities that are used",
            problems_of(TINY + '[abilities.calm]\npassive = true\n[buffs.b]\ngrants = ["calm"]\n'),
        )
