"""Duels against their exact solution: outcomes and lengths within four standard errors."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl

from ..support import book_of, many, sides
from .exact import Blow, Taker, outcome

FIGHTS = many(40_000)
LIMIT = 3000


def every(period: int, first: int, limit: int = LIMIT) -> range:
    return range(first, limit + 1, period)


def rulebook(
    left: str, right: str, more: str = "", health: str = "top = 100", limit: int = LIMIT, downs: str = "end_of_tick"
) -> str:
    """Return a duel's rulebook: each class is given as the inside of its table, all the rest as `more`."""
    return f"""
[clock]
ticks_per_second = 10
time_limit = "{limit} ticks"
down_at = "{downs}"
[stats]
might = {{ range = [0, 500] }}
hide = {{ range = [0, 500] }}
vigour = {{ range = [0, 500] }}
[gauges.health]
{health}
downs = true
[bodies.beast.parts]
head = {{ share = 0.2, times = 2 }}
back = {{ share = 0.5, times = 1 }}
tail = {{ share = 0.3, times = 0.5 }}
{more}
[classes.left]
{left}
[classes.right]
{right}
""" + sides("duel", '{ class = "left", level = 1 }', '{ class = "right", level = 1 }')


def strike(period: int, windup: int = 0, more: str = "", kind: str = "blow") -> str:
    return f'''
[abilities.strike_{period}]
windup = "{windup} ticks"
cooldown = "{period} ticks"
{more}does = [{{ damage = "{kind}" }}]
'''


PLAIN = '[damage.blow]\npower = "might"\nsoak = "hide"\nround = "nearest"\n'


def fighter(might: float, hide: float = 0, period: int = 10, body: str = "", vigour: float = 100) -> str:
    return f'growth = {{ might = {might}, hide = {hide}, vigour = {vigour} }}\nlearns = {{ 1 = ["strike_{period}"] }}\n{body}'


BEAST = 'body = "beast"\n'
PARTS = ((0.2, 2.0), (0.5, 1.0), (0.3, 0.5))


def cases() -> dict[str, tuple[str, dict[str, float]]]:
    """Return name → (rulebook, exact chances)."""
    found: dict[str, tuple[str, dict[str, float]]] = {}

    def case(name: str, text: str, left: Taker, right: Taker, limit: int = LIMIT, at_once: bool = False) -> None:
        found[name] = (text, outcome(left, right, limit, at_once))

    def blows(period: int, blow: Blow, first: int = 0) -> dict[int, dict[int, float]]:
        return dict.fromkeys(every(period, first), blow.distribution())

    aimed = PLAIN + 'aim = "0.7"\n'
    case(
        "misses",
        rulebook(fighter(30), fighter(25), aimed + strike(10)),
        Taker(100, blows(10, Blow(25, 0.7))),
        Taker(100, blows(10, Blow(30, 0.7))),
    )
    case(
        "misses, at once",
        rulebook(fighter(25), fighter(25), aimed + strike(10), downs="at_once"),
        Taker(100, blows(10, Blow(25, 0.7))),
        Taker(100, blows(10, Blow(25, 0.7))),
        at_once=True,
    )
    case(
        "dodge and clamp",
        rulebook(fighter(30, 4), fighter(25), PLAIN + 'aim = "0.9"\ndodge = "hide / 10"\n' + strike(10)),
        Taker(100, blows(10, Blow(21, 0.5))),
        Taker(100, blows(10, Blow(30, 0.9))),
    )
    spread = PLAIN + "spread = 0.3\n"
    case(
        "spread",
        rulebook(fighter(20), fighter(20, 1), spread + strike(10)),
        Taker(100, blows(10, Blow(20, spread=0.3))),
        Taker(100, blows(10, Blow(19, spread=0.3))),
    )
    case(
        "parts",
        rulebook(fighter(18, 0, 10, BEAST), fighter(17, 0, 9, BEAST), PLAIN + strike(10) + strike(9)),
        Taker(100, blows(9, Blow(17, parts=PARTS))),
        Taker(100, blows(10, Blow(18, parts=PARTS))),
    )
    critical = PLAIN + 'critical = { chance = "might / 100", times = 2.5 }\n'
    case(
        "critical",
        rulebook(fighter(15), fighter(20), critical + strike(10)),
        Taker(100, blows(10, Blow(20, critical=(0.2, 2.5)))),
        Taker(100, blows(10, Blow(15, critical=(0.15, 2.5)))),
    )
    refill = 'top = 60\nrefill = { amount = 3, every = "7 ticks" }'
    refills = dict.fromkeys(every(7, 7), 3)
    case(
        "refill",
        rulebook(fighter(9), fighter(8, 1), PLAIN + 'aim = "0.8"\n' + strike(10), health=refill),
        Taker(60, blows(10, Blow(8, 0.8)), refills),
        Taker(60, blows(10, Blow(8, 0.8)), refills),
    )
    case(
        "wind-up and different speeds",
        rulebook(fighter(21, 0, 11), fighter(20), aimed + strike(11, 4) + strike(10, 2)),
        Taker(100, blows(10, Blow(20, 0.7), 2)),
        Taker(100, blows(11, Blow(21, 0.7), 4)),
    )
    recovering = aimed + strike(5, 3, 'recovery = "9 ticks"\n')
    case(
        "recovery longer than the cooldown",
        rulebook(fighter(22, 0, 5), fighter(21, 0, 5), recovering),
        Taker(100, blows(12, Blow(21, 0.7), 3)),
        Taker(100, blows(12, Blow(22, 0.7), 3)),
    )
    case(
        "a formula for the top",
        rulebook(fighter(15, vigour=80), fighter(12, vigour=150), aimed + strike(10), health='top = "vigour"'),
        Taker(80, blows(10, Blow(12, 0.7))),
        Taker(150, blows(10, Blow(15, 0.7))),
    )
    case(
        "opens at a share",
        rulebook(fighter(15), fighter(14), aimed + strike(10), health='top = 100\nbegins = "40%"'),
        Taker(100, {-1: {60: 1.0}, **blows(10, Blow(14, 0.7))}),
        Taker(100, {-1: {60: 1.0}, **blows(10, Blow(15, 0.7))}),
    )
    case(
        "time-out",
        rulebook(fighter(10), fighter(9), PLAIN + 'aim = "0.3"\n' + strike(10), limit=300),
        Taker(100, blows(10, Blow(9, 0.3))),
        Taker(100, blows(10, Blow(10, 0.3))),
        limit=300,
    )
    case("everything at once", *reference())
    return found


def reference() -> tuple[str, Taker, Taker]:
    """Return parts, spread, critical, misses, refill and a periodic debuff that weakens, all together.

    The debuff (brawn × 0.5, 2 points each 20 ticks, lasts 60) is used at 0, 100, 200, …; the strike at 1, 13, …,
    except that a free unit uses the debuff first whenever it is ready.
    """
    text = rulebook(
        fighter(20, 3, 12, BEAST).replace('["strike_12"]', '["brand", "strike_12"]') + 'playbook = "brand_first"\n',
        fighter(19, 2, 12, BEAST).replace('["strike_12"]', '["brand", "strike_12"]') + 'playbook = "brand_first"\n',
        PLAIN
        + 'aim = "0.85"\nspread = 0.2\ncritical = { chance = 0.1, times = 1.5 }\n[damage.sear]\npower = 2\n'
        + strike(12)
        + """
[abilities.brand]
cooldown = "100 ticks"
does = [{ give = "branded" }]
[buffs.branded]
kind = "debuff"
lasts = "60 ticks"
stats = { might = { times = 0.5 } }
each = { every = "20 ticks", does = [{ damage = "sear" }] }
[playbooks.brand_first]
plays = [{ use = "brand" }, { use = "strike_12" }]
""",
        health='top = 100\nrefill = { amount = 1, every = "15 ticks" }',
    )
    strikes, tick, brand_at, strike_at = [], 0, 0, 0
    while tick <= LIMIT:
        if tick >= brand_at:
            brand_at = tick + 100
        else:
            strikes.append(tick)
            strike_at = tick + 12
        tick = max(tick + 1, min(brand_at, strike_at))
    weak = {tick for start in every(100, 0) for tick in range(start + 1, start + 60)}
    beats = {start + after: 2 for start in every(100, 0) for after in (20, 40, 60)}
    refills = dict.fromkeys(every(15, 15), 1)

    def taker(might: float, hide: float) -> Taker:
        def blow(tick: int) -> dict[int, float]:
            return Blow(might * (0.5 if tick in weak else 1) - hide, 0.85, PARTS, (0.1, 1.5), 0.2).distribution()

        return Taker(100, {tick: blow(tick) for tick in strikes}, refills, beats)

    return text, taker(19, 3), taker(20, 2)


class Exact(unittest.TestCase):
    def test_outcomes_and_lengths(self) -> None:
        found = cases()
        self.assertGreaterEqual(len(found), 12)
        for name, (text, exact) in found.items():
            with self.subTest(name):
                trials = rl.trials(book_of(text), "duel", fights=FIGHTS, seed=11)
                for way in ("left", "right", "mutual down", "time-out"):
                    chance = exact[way]
                    error = math.sqrt(max(chance * (1 - chance), 1e-12) / FIGHTS)
                    self.assertAlmostEqual(trials.rate(way).estimate, chance, delta=4 * error + 1e-9, msg=way)
                lengths = [(tick, count) for counts in trials.ticks.values() for tick, count in counts.items()]
                mean = sum(tick * count for tick, count in lengths) / FIGHTS
                variance = sum((tick - mean) ** 2 * count for tick, count in lengths) / FIGHTS
                self.assertAlmostEqual(mean, exact["ticks"], delta=4 * math.sqrt(variance / FIGHTS) + 1e-9)

    def test_the_solution_itself_on_a_case_done_by_hand(self) -> None:
        # two coins: each lands with 1/2 and fells at once; left alone 1/3, right alone 1/3, both 1/3
        coin = {key: {0: 0.5, 1: 0.5} for key in range(600)}
        exact = outcome(Taker(1, coin), Taker(1, coin), 599)
        for way in ("left", "right", "mutual down"):
            self.assertAlmostEqual(exact[way], 1 / 3, places=12)
