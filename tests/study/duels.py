"""Random duels, many of which can be solved exactly, and fights that contradict a solution."""

from __future__ import annotations

import random

from scipy.stats import binom

import restless_ledger as rl
from restless_ledger.duels.exact import Exact, exact_or_why
from restless_ledger.engine import set_up

from ..support import book_of

FIVE_ERRORS = 5.7e-7
"""The chance of being five standard errors off on either side."""


CHANGING = '"0.1 + might / 100"'
"""A spread that differs by its dealer."""


def duel_text(seed: int) -> str:
    """Return a random rulebook with a duel, `meet`: hits, heals, drains, buffs, beats, strips, refills and costs."""
    choose = random.Random(seed)

    def ticks(*some: int) -> str:
        return f'"{choose.choice(some)} ticks"'

    def effect() -> str:
        return choose.choice(
            (
                *['{ damage = "blow" }'] * 5,
                *['{ damage = "sear" }'] * 3,
                '{ damage = "blow", times = 0.5 }',
                '{ fill = 6, to = "user" }',
                '{ fill = "might / 3", to = "user" }',
                '{ drain = 4, gauge = "health" }',
                '{ give = "hex" }',
                '{ give = "glow", to = "user" }',
                '{ give = "rot" }',
                '{ strip = "glow" }',
                '{ drain = 3, gauge = "fury" }',
            )
        )

    def ability(name: str) -> str:
        does = ", ".join(effect() for _ in range(choose.choice((1, 1, 1, 2))))
        windup = f"windup = {ticks(1, 2, 3)}\n" if choose.random() < 0.4 else ""
        cost = "cost = { fury = 3 }\n" if choose.random() < 0.2 else ""
        return f"[abilities.{name}]\n{windup}{cost}cooldown = {ticks(5, 7, 10, 13)}\ndoes = [{does}]\n"

    def kind(name: str, power: str) -> str:
        aim = f'aim = {choose.choice((0.3, 0.6, 0.9))}\ndodge = "guard / 100"\n' if choose.random() < 0.6 else ""
        spread = f"spread = {choose.choice((0.1, 0.3, CHANGING))}\n" if choose.random() < 0.3 else ""
        critical = "critical = { chance = 0.2, times = 2 }\n" if choose.random() < 0.3 else ""
        rounding = 'round = "nearest"\n' if spread or choose.random() < 0.5 else ""
        return f'[damage.{name}]\npower = "{power}"\nsoak = "guard / 2"\n{aim}{spread}{critical}{rounding}'

    after = f", after_harm = {ticks(3, 8, 15, 40)}" if choose.random() < 0.7 else ""
    refill = (
        f"refill = {{ amount = {choose.choice((1, 3, 7))}, every = {ticks(2, 5, 10, 21)}{after} }}\n"
        if choose.random() < 0.6
        else ""
    )
    initiative = 'initiative = "might"\n' if choose.random() < 0.3 else ""
    learns = [
        ", ".join(f'"{name}"' for name in choose.choice((("one",), ("one", "two"), ("two", "three"), ("three",))))
        for _ in range(2)
    ]
    handling = 'handling = "raw"\n' if choose.random() < 0.3 else ""
    return f"""
[rulebook]
levels = [1, 1]
[clock]
ticks_per_second = 10
time_limit = "600 ticks"
{initiative}
[stats]
might = {{ range = [0, 500] }}
guard = {{ range = [0, 500] }}
[gauges.health]
top = {choose.choice((40, 60, 85))}
downs = true
{refill}[gauges.fury]
top = 12
refill = {{ amount = 1, every = {ticks(4, 9)} }}
{kind("blow", "might")}{kind("sear", "4 + might / 4")}[handlings.raw]
delay = {ticks(0, 2)}
aim = 0.7
[buffs.hex]
lasts = {ticks(6, 12)}
stats = {{ guard = {{ add = -3 }} }}
[buffs.glow]
lasts = {ticks(6, 15)}
stats = {{ guard = {{ add = 5 }} }}
[buffs.rot]
lasts = {ticks(9, 16)}
each = {{ every = {ticks(2, 3)}, does = [{choose.choice(('{ damage = "sear" }', '{ drain = 2, gauge = "health" }'))}] }}
{ability("one")}{ability("two")}{ability("three")}
[classes.ox]
growth.might = {choose.choice((8, 11, 14))}
growth.guard = {choose.choice((0, 4))}
learns = {{ 1 = [{learns[0]}] }}
{handling}
[classes.elf]
growth.might = {choose.choice((9, 11, 13))}
growth.guard = {choose.choice((0, 4))}
learns = {{ 1 = [{learns[1]}] }}
[encounters.meet]
[[encounters.meet.sides]]
name = "left"
units = [{{ class = "ox", level = 1 }}]
[[encounters.meet.sides]]
name = "right"
units = [{{ class = "elf", level = 1 }}]
"""


def solution_of(seed: int) -> tuple[rl.Rulebook, Exact | str]:
    """Return a random duel's rulebook and its solution, or why it has none."""
    book = book_of(duel_text(seed))
    return book, exact_or_why(set_up(book, "meet"))


def contradictions(book: rl.Rulebook, solution: Exact, fights: int, seed: int) -> list[str]:
    """Return where fights contradict a solution by five standard errors: in a share of outcomes, or of early ends."""
    trials = rl.trials(book, "meet", fights=fights, seed=seed)
    found = []
    middle = solution.seconds(0.5) * 10
    early = sum(chance for counts in solution.ticks.values() for tick, chance in counts.items() if tick <= middle)
    ended = sum(count for counts in trials.ticks.values() for tick, count in counts.items() if tick <= middle)
    shares = {name: (chance, sum(trials.ticks[name].values())) for name, chance in solution.chances.items()}
    for name, (chance, count) in {**shares, "ended early": (early, ended)}.items():
        held = min(max(chance, 0.0), 1.0)
        below, above = binom.cdf(count, fights, held), binom.sf(count - 1, fights, held)
        if min(below, above) < FIVE_ERRORS / 2:
            found.append(f"{name}: {chance:.4f} said, {count / fights:.4f} fought")
    return found
