"""What comes too soon, too late, or twice in a log."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from ..rulebook import Rulebook
from .log import Event, Log

Untimely = tuple[Event, str, str]
"""A line that comes at a wrong time, the name of the mistake, and what is said of it."""


def timing(book: Rulebook, log: Log) -> Iterator[Untimely]:
    """Yield each line that comes at a wrong time, with the name of the mistake and what is said of it."""
    used: dict[tuple[str, str], Event] = {}
    hits = Counter[tuple]()
    for event in log.events:
        if event.event == "use":
            yield from _too_soon(book, event, used.get((event["unit"], event["ability"])))
            used[event["unit"], event["ability"]] = event
        elif event.event == "hit" and event.get("ability"):
            yield from _off(book, event, used.get((event["source"], event["ability"])))
            key = (event.tick, event["source"], event["unit"], event["ability"], event["kind"])
            hits[key] += 1
            effects = book.abilities[event["ability"]].effects
            most = max(1, sum(getattr(each, "damage", None) == event["kind"] for each in effects))
            if hits[key] > most:
                yield event, "two_hits", f"this is hit {hits[key]} of one use on one tick, and {most} may be"
    yield from _buffs(book, log)


def _too_soon(book: Rulebook, event: Event, before: Event | None) -> Iterator[Untimely]:
    ability = book.abilities[event["ability"]]
    if before is None or ability.cooldown.times is not None or ability.charges > 1:
        return
    wanted, got = book.clock.ticks(ability.cooldown), event.tick - before.tick
    if got < wanted:
        name = "cooldown_off_by_one" if got == wanted - 1 else "no_cooldown"
        yield event, name, f"{got} ticks after the use before, and its cooldown is {wanted}"


def _off(book: Rulebook, event: Event, use: Event | None) -> Iterator[Untimely]:
    ability = book.abilities[event["ability"]]
    plain = (
        ability.windup.times is None
        and ability.projectile is None
        and not any(getattr(each, "later", None) or getattr(each, "repeat", None) for each in ability.does)
    )
    if use is None or not plain:
        return
    wanted, got = book.clock.ticks(ability.windup), event.tick - use.tick
    if got != wanted:
        name = "ticks_off_by_one" if abs(got - wanted) == 1 else "wrong_windup"
        yield event, name, f"it lands {got} ticks after its use, and its wind-up is {wanted}"


def _buffs(book: Rulebook, log: Log) -> Iterator[Untimely]:
    begun: dict[tuple[str, str], Event] = {}
    last = log.events[-1].tick if log.events else 0
    for event in log.events:
        if event.event != "buff":
            continue
        key, ticks = (event["unit"], event["buff"]), _lasts(book, event["buff"])
        if event["state"] == "begins":
            begun[key] = event
        elif key in begun:
            got = event.tick - begun.pop(key).tick
            if ticks is not None and got > ticks:
                yield event, "buff_too_long", f"it ends after {got} ticks, and lasts {ticks}"
    for (_, buff), event in begun.items():
        ticks, got = _lasts(book, buff), last - event.tick
        if ticks is not None and got > ticks:
            yield event, "endless_buffs", f"{buff} has not ended {got} ticks on, and lasts {ticks}"


def _lasts(book: Rulebook, buff: str) -> int | None:
    """Return how many ticks a buff lasts; None where it has no end, or where figures change it."""
    lasts = book.buffs[buff].lasts
    return None if lasts is None or lasts.times is not None else book.clock.ticks(lasts)
