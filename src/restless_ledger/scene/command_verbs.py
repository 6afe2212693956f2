"""The commands that a live scene is poked by, each with how it is written."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Any

from ..formula.explain import number
from ..frozen_classes import frozen
from .becoming import Became
from .character import LiveCharacter
from .live import Live
from .using import Answer

QUANTITIES = re.compile(r"[-+]?[\d.]+\s*[^\d\s]*")


class Subject:
    """What commands are about: a scene, and in it the unit number `who`."""

    def __init__(self, live: Live) -> None:
        self.live = live
        self.who = 0

    @property
    def unit(self) -> LiveCharacter:
        """The unit that commands are about."""
        return self.live.unit(self.who)


Act = Callable[["Subject", list[str], dict[str, str]], Any]
"""Carries a command out: on a subject, with its words, and those after a keyword by that."""


@frozen
class Verb:
    """One command: how it is written, what it does, and the chapters whose names can stand in it."""

    usage: str
    what: str
    names: tuple[str, ...]
    act: Act


VERBS: dict[str, Verb] = {}


def verb(usage: str, what: str, *names: str) -> Callable[[Act], Act]:
    """Return a decorator that makes a function a command: how it is written, with its name first, and what it does."""

    def decorate(act: Act) -> Act:
        VERBS[usage.split(maxsplit=1)[0]] = Verb(usage, what, names, act)
        return act

    return decorate


def _number(text: str) -> float:
    """Read an amount, or a share such as 50%."""
    return float(text[:-1]) / 100 if text.endswith("%") else float(text)


def _quantities(words: Sequence[str]) -> list[str]:
    """Return the quantities with their units that stand in words: "5 m 3 m" is two of them."""
    return [found.strip() for found in QUANTITIES.findall(" ".join(words))]


@verb("hurt 30 [crush] [in health]", "take something off a gauge; with a kind, a hit from nobody", "damage")
def _hurt(it: Subject, words: list[str], named: dict[str, str]) -> None:
    it.unit.hurt(_number(words[0]), words[1] if len(words) > 1 else None, named.get("in"))


@verb("hit 30 crush [by warden] [part head]", "a hit of a kind and a power", "damage")
def _hit(it: Subject, words: list[str], named: dict[str, str]) -> None:
    it.unit.hit(words[1], _number(words[0]), by=named.get("by"), part=named.get("part"))


@verb("heal 30 [breath]", "give a gauge something back", "gauges")
def _heal(it: Subject, words: list[str], named: dict[str, str]) -> None:
    it.unit.heal(_number(words[0]), named.get("in", words[1] if len(words) > 1 else None))


@verb("use hook_swing [at warden] [part head] [away]", "begin to use an ability", "abilities")
def _use(it: Subject, words: list[str], named: dict[str, str]) -> Answer:
    return it.unit.use(words[0], at=named.get("at"), part=named.get("part"), away="away" in words[1:])


@verb("can hook_swing [at warden]", "say what stands against using it", "abilities")
def _can(it: Subject, words: list[str], named: dict[str, str]) -> str:
    return it.unit.can_use(words[0], at=named.get("at")).why_not or f"it can use {words[0]}"


@verb("advance 2 s", "let time pass")
def _advance(it: Subject, words: list[str], _: dict[str, str]) -> None:
    it.live.advance(" ".join(words))


@verb("give soaked [by warden] [strength 2]", "put a buff on", "buffs")
def _give(it: Subject, words: list[str], named: dict[str, str]) -> Answer:
    return it.unit.give(words[0], strength=_number(named.get("strength", "1")), by=named.get("by"))


@verb("strip soaked", "take a buff off", "buffs")
def _strip(it: Subject, words: list[str], _: dict[str, str]) -> Answer:
    return it.unit.strip(words[0])


@verb("move 5 m 3 m", "put somewhere: east and north of the south-west corner")
def _move(it: Subject, words: list[str], _: dict[str, str]) -> Answer:
    east, north = _quantities(words)
    return it.unit.move(east, north)


@verb("push 5 m/s north [by warden]", "set sliding: to a side, or away from somebody")
def _push(it: Subject, words: list[str], named: dict[str, str]) -> Answer:
    return it.unit.push(" ".join(words[:-1]), words[-1], by=named.get("by"))


@verb("fall 9 m", "let fall from a height")
def _fall(it: Subject, words: list[str], _: dict[str, str]) -> None:
    it.unit.fall(" ".join(words))


@verb("down", "take down")
def _down(it: Subject, _words: list[str], _: dict[str, str]) -> None:
    it.unit.down()


@verb("revive [50%]", "bring back")
def _revive(it: Subject, words: list[str], _: dict[str, str]) -> Answer:
    return it.unit.revive(_number(words[0]) if words else 1.0)


@verb("gain 300", "gain experience")
def _gain(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.gain(int(words[0]))


@verb("level 12", "have a level")
def _level(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.set_level(int(words[0]))


@verb("become warden [level 9]", "be of another class", "classes")
def _become(it: Subject, words: list[str], named: dict[str, str]) -> Became:
    return it.unit.become(words[0], level=int(named["level"]) if "level" in named else None)


@verb("wear cork_coat", "put gear on", "gear")
def _wear(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.wear(*words)


@verb("take_off cork_coat", "take gear off", "gear")
def _take_off(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.take_off(*words)


@verb("teach hook_swing", "teach abilities", "abilities")
def _teach(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.teach(*words)


@verb("buy whetstone [2]", "have more levels of an upgrade", "upgrades")
def _buy(it: Subject, words: list[str], _: dict[str, str]) -> Became:
    return it.unit.buy(words[0], int(words[1]) if len(words) > 1 else 1)


@verb("why brawn", "why a figure is what it is just now, or an entry of the ledger, by its number", "stats", "gauges")
def _why(it: Subject, words: list[str], _: dict[str, str]) -> str:
    return it.unit.why(int(words[0]) if words[0].isdigit() else words[0])


@verb("show [brawn]", "figures as they are now", "stats", "gauges")
def _show(it: Subject, words: list[str], _: dict[str, str]) -> str:
    unit, book = it.unit, it.unit.sheet.book
    rows = []
    for name in words or book.stats:
        by = ", ".join(unit.changed_by(name)) if name in book.stats else ""
        rows.append(f"{name} {number(unit[name])}" + (f" (changed by {by})" if by else ""))
    return ("\n" if words else ", ").join(rows) + ("" if words else f"\nuses {', '.join(unit.sheet.abilities)}")


@verb("check read_the_fog [at warden]", "try a check, and see what follows", "checks")
def _check(it: Subject, words: list[str], named: dict[str, str]) -> str:
    outcome = it.unit.check(words[0], at=named.get("at"))
    then = f"then comes {outcome.then}" if outcome.then else ""
    return "\n".join(line for line in (outcome.finding(), outcome.says, then) if line)


@verb("as warden", "let commands be about somebody else here")
def _as(it: Subject, words: list[str], _: dict[str, str]) -> str:
    name = it.live.unit(" ".join(words)).name
    it.who = [unit.name for unit in it.live.units].index(name)
    return f"from now on commands are about {name}"


@verb("reset", "be as at the beginning, all of them")
def _reset(it: Subject, _words: list[str], _: dict[str, str]) -> None:
    it.live.reset()


@verb("save scene.json", "save the scene to a file")
def _save(it: Subject, words: list[str], _: dict[str, str]) -> str:
    it.live.save(" ".join(words))
    return f"saved to {' '.join(words)}"
