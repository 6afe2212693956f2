"""How often 95% intervals hold the truth, of fights whose win rate is known exactly."""

from __future__ import annotations

from restless_ledger.engine import fight_many, set_up
from restless_ledger.monte_carlo import Trials

from ..support import TINY, book_of, one, sides

CHANCES = (0.05, 0.12, 0.2, 0.3, 0.41, 0.5, 0.62, 0.75, 0.88, 0.95)


def coin(chance: float) -> str:
    """Return a rulebook in which one strikes once, and downs its foe with this chance; or else the fight is called off."""
    return (
        TINY.replace('time_limit = "30 s"', 'time_limit = "1 s"')
        + f"""
[damage.toss]
aim = {chance}
power = 1000
[abilities.toss]
uses = 1
does = [{{ damage = "toss" }}]
[classes.gambler]
growth.might = 0
learns = {{ 1 = ["toss"] }}
"""
        + sides("coin", one("gambler"), one("post"))
    )


def coverage(chance: float, repetitions: int, fights: int = 1000) -> float:
    """Return in what share of repetitions, each with a seed of its own, the interval holds the chance."""
    setup, held = set_up(book_of(coin(chance)), "coin"), 0
    for seed in range(repetitions):
        rate = Trials(fight_many(setup, fights, seed, chunk=fights)).rate("left")
        held += rate.low <= chance <= rate.high
    return held / repetitions
