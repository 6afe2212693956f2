"""Findings that say what happens in a fight, planted at random near where they hold, and the fights that say whether it
does."""

from __future__ import annotations

import random
from collections.abc import Callable

import restless_ledger as rl
from restless_ledger.auditing.find import find

from ..support import book_of, one, sides

AuditContext = tuple[str, Callable[[rl.Rulebook], bool]]
"""A rulebook's text, and whether what a finding says is so in its fights."""
LIMIT = 600

BASE = """
[rulebook]
levels = [1, 3]
[clock]
ticks_per_second = 10
time_limit = "600 ticks"
[stats]
might = {{ range = [0, 500] }}
hide = {{ range = [0, 500] }}
[gauges.health]
top = {top}
downs = true
{health}
[damage.blow]
power = "might"
soak = "hide"
{blow}
[classes.ox]
growth.might = 10
learns = {{ 1 = {learns} }}
{ox}
[classes.elk]
growth.might = 0
{elk}
{more}
"""


def written(
    more: str = "",
    learns: str = '["hit"]',
    top: int = 10_000_000,
    health: str = "",
    blow: str = "",
    ox: str = "",
    elk: str = "",
    oxen: int = 1,
) -> str:
    """Return a rulebook in which oxen meet an elk that does nothing."""
    text = BASE.format(more=more, learns=learns, top=top, health=health, blow=blow, ox=ox, elk=elk)
    group = one("ox") if oxen == 1 else one("ox").replace("level = 1", f"level = 1, count = {oxen}")
    return text + sides("meet", group, one("elk"))


def happened(book: rl.Rulebook, verb: str, cause: str, **wanted: object) -> int:
    """Return how often something is in the ledger of a fight."""
    return sum(
        record["verb"] == verb
        and record["cause"] == cause
        and all(record[key] == value for key, value in wanted.items())
        for record in rl.fight(book, "meet", seed=3).records()
    )


def timing(choose: random.Random) -> str:
    """Return random times of an ability."""
    ticks = [choose.randint(0, 4), choose.randint(0, 4), choose.randint(1, 12)]
    lines = "".join(f'{key} = "{each} ticks"\n' for key, each in zip(("windup", "recovery"), ticks[:2], strict=True))
    lines += choose.choice(("", "", 'cooldown_from = "finish"\n'))
    times = choose.choice(("", "", f", times = {choose.choice((0.5, 1.3, 2))}"))
    return lines + f'cooldown = {{ time = "{ticks[2]} ticks"{times} }}\n'


def permanent_buff(choose: random.Random) -> AuditContext:
    again = choose.choice(("refresh", "stack", "extend", "ignore"))
    text = f"""
[buffs.calm]
lasts = "{choose.randint(3, 18)} ticks"
again = "{again}"
stats = {{ hide = {{ add = 2 }} }}
[abilities.rest]
targets = "user"
{timing(choose)}does = [{{ give = "calm" }}]
"""
    return written(text, '["rest"]'), lambda book: not happened(book, "end", "calm")


def moot_cooldown(choose: random.Random) -> AuditContext:
    plain = f'windup = "{choose.randint(1, 5)} ticks"\nrecovery = "{choose.randint(1, 5)} ticks"\ncooldown = "{choose.randint(1, 9)} ticks"\n'
    more = choose.choice(("", "charges = 2\n", "interruptible = true\n"))
    body = choose.choice((plain, plain, timing(choose) + more)) + 'does = [{ damage = "blow" }]\n'
    elk = '[abilities.poke]\ncooldown = "3 ticks"\ndoes = [{ damage = "blow", times = 0 }]\n'
    text = written(f"[abilities.hit]\n{body}{elk}", top=100, elk='learns = { 1 = ["poke"] }')
    free = "\n".join(
        "" if line.startswith("cooldown =") and "3 ticks" not in line else line for line in text.splitlines()
    )
    return (
        text,
        lambda book: rl.trials(book, "meet", fights=20).ticks == rl.trials(book_of(free), "meet", fights=20).ticks,
    )


def beatless_buff(choose: random.Random) -> AuditContext:
    again = choose.choice(("refresh", "stack", "extend", "ignore", "keep_strongest"))
    text = f"""
[buffs.ache]
lasts = "{choose.randint(2, 12)} ticks"
again = "{again}"
each = {{ every = "{choose.randint(2, 12)} ticks", does = [{{ damage = "blow" }}] }}
[abilities.hit]
{timing(choose)}does = [{{ give = "ache" }}]
"""
    return written(text), lambda book: not happened(book, "harm", "ache")


def never_catches(choose: random.Random) -> AuditContext:
    text = f"""
[buffs.dizzy]
lasts = "3 ticks"
catches_at = 100
fades = "{choose.randint(5, 60)} per s"
marks = ["dizzied"]
[abilities.hit]
{timing(choose)}charges = {choose.choice((1, 1, 3))}
does = [{{ buildup = "dizzy", amount = {choose.randint(5, 60)} }}]
"""
    return written(text, oxen=choose.choice((1, 1, 2, 4))), lambda book: not happened(book, "begin", "dizzy")


def unkillable(choose: random.Random) -> AuditContext:
    more = choose.choice(("", '{ drain = 3, gauge = "health" }', '{ give = "ache" }'))
    text = f"""
[buffs.ache]
lasts = "9 ticks"
each = {{ every = "2 ticks", does = [{choose.choice(('{ damage = "blow" }', '{ drain = 2, gauge = "health" }', "{ fill = 2 }"))}] }}
[abilities.hit]
{timing(choose)}does = [{{ damage = "blow" }}{", " + more if more else ""}]
"""
    hide = choose.choice((5, 10, 15))

    def unhurt(book: rl.Rulebook) -> bool:
        balance = rl.fight(book, "meet").balances()[1]
        return balance["closing"] == balance["opening"]

    return written(text, elk=f"growth.hide = {hide}"), unhurt


def hopeless_aim(choose: random.Random) -> AuditContext:
    blow = f"aim = {choose.choice((0.2, 0.5))}\ndodge = {choose.choice((0.1, 0.2, 0.5, 0.6))}"
    text = f'[abilities.hit]\n{timing(choose)}does = [{{ damage = "blow" }}]\n'
    return written(text, blow=blow), lambda book: not happened(book, "harm", "hit", missed=False)


def share_beyond_one(choose: random.Random) -> AuditContext:
    text = f'[abilities.hit]\n{timing(choose)}does = [{{ damage = "blow" }}]\n'
    blow = f'resist = "hide / {choose.choice((4, 5, 8))}"\nsoak = "0"'
    case = written(text, blow=blow, elk=f"growth.hide = {choose.choice((3, 5, 7))}").replace('soak = "hide"\n', "", 1)
    return (
        case,
        lambda book: (
            not any(record["booked"] for record in rl.fight(book, "meet").records() if record["verb"] == "harm")
        ),
    )


def wasted_hits(choose: random.Random) -> AuditContext:
    text = f'[abilities.hit]\n{timing(choose)}does = [{{ damage = "blow" }}]\n'
    elk = f'invulnerable = {{ after_hit = "{choose.randint(2, 12)} ticks" }}'
    return written(text, elk=elk), lambda book: bool(happened(book, "harm", "hit", invulnerable=True))


def swallowed_hit(choose: random.Random) -> AuditContext:
    start = choose.choice(("at_once", "next_tick"))
    other = choose.choice(('{ damage = "blow" }', '{ damage = "sting" }'))
    stops = choose.choice(("", ', stops = ["blow"]', ', stops = ["sting"]'))
    text = f'[damage.sting]\npower = 3\n[abilities.hit]\n{timing(choose)}does = [{{ damage = "blow" }}, {other}]\n'
    text = written(text, elk=f'invulnerable = {{ after_hit = "1 ticks"{stops} }}')
    text = text.replace("ticks_per_second = 10\n", f'ticks_per_second = 10\ninvulnerable_from = "{start}"\n')

    def swallowed(book: rl.Rulebook) -> bool:
        hits = [record["invulnerable"] for record in rl.fight(book, "meet").records() if record["verb"] == "harm"]
        return all(hits[1::2])

    return text, swallowed


def outrun_refill(choose: random.Random) -> AuditContext:
    hits = "".join(f'[abilities.{name}]\n{timing(choose)}does = [{{ damage = "blow" }}]\n' for name in ("hit", "kick"))
    every, after = choose.randint(1, 6), choose.choice(("", f', after_harm = "{choose.randint(1, 9)} ticks"'))
    health = f'refill = {{ amount = {choose.choice((4, 7, 10))}, every = "{every} ticks"{after} }}'
    learns = choose.choice(('["hit"]', '["hit", "kick"]'))
    text = written(hits, learns, 100, health)
    return text, lambda book: rl.fight(book, "meet").outcome == "time-out"


def dear_ability(choose: random.Random) -> AuditContext:
    text = f"""
[gauges.wind]
top = "{choose.randint(3, 9)}"
{choose.choice(("", "begins = 1", 'refill = { amount = 1, every = "3 ticks" }'))}
[abilities.hit]
{timing(choose)}cost = {{ wind = {choose.randint(2, 10)} }}
does = [{{ damage = "blow" }}]
"""
    return written(text), lambda book: not happened(book, "use", "hit")


BOTH = (permanent_buff, hopeless_aim, share_beyond_one, wasted_hits)
"""Findings that are told exactly where they are so."""
AT_LEAST = (moot_cooldown, beatless_buff, never_catches, unkillable, swallowed_hit, outrun_refill, dear_ability)
"""Findings that are told only where they are so, and not everywhere."""


def judged(plant: Callable[[random.Random], AuditContext], seeds: range) -> tuple[int, list[int], list[int]]:
    """Return how often a finding is told, the seeds of which it is told wrongly, and those of which it is left out."""
    told, wrong, left_out = 0, [], []
    for seed in seeds:
        text, is_so = plant(random.Random(f"{plant.__name__} {seed}"))
        book = book_of(text)
        said = plant.__name__ in {finding.code for finding in find(book)}
        so = is_so(book)
        told += said
        if said and not so:
            wrong.append(seed)
        elif so and not said:
            left_out.append(seed)
    return told, wrong, left_out
