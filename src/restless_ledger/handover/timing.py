"""What comes too soon, too late, or twice in a log."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..sheets import build_sheet
from ..sheets.altered import usable
from .log import Event, Log

Untimely = tuple[Event, str, str]
"""A line that comes at a wrong time, the name of the mistake, and what is said of it."""


def timing(book: Rulebook, log: Log) -> Iterator[Untimely]:
    """Yield each line that comes at a wrong time, with the name of the mistake and what is said of it."""
    used: dict[tuple[str, str], Event] = {}
    hits, abilities = Counter[tuple](), _abilities(book, log)
    for event in log.events:
        if event.event == "use" and (ability := abilities.get((event["unit"], event["ability"]))):
            yield from _too_soon(book, ability, event, used.get((event["unit"], event["ability"])))
            used[event["unit"], event["ability"]] = event
        elif event.event == "hit" and (ability := abilities.get((event["source"], event.get("ability")))):
            yield from _off(book, ability, event, used.get((event["source"], event["ability"])))
            key = (event.tick, event["source"], event["unit"], event["ability"], event["kind"])
            hits[key] += 1
            most = max(1, sum(getattr(each, "damage", None) == event["kind"] for each in ability.effects))
            if hits[key] > most:
                yield event, "two_hits", f"this is hit {hits[key]} of one use on one tick, and {most} may be"
    yield from _buffs(book, log)


def _abilities(book: Rulebook, log: Log) -> dict[tuple[str | None, str | None], Ability]:
    """Return the abilities of those in a log, by unit and name, as gear, upgrades and passive abilities alter them; not
    those of which a buff may make others, for nobody could say when."""
    by_buffs = {name for buff in book.buffs.values() for name in buff.alters}
    sheets = {unit: build_sheet(book, spec) for unit, spec in log.units.items()}
    names = [name for name in book.abilities if name not in by_buffs]
    return {(unit, name): usable(book, sheet, name) for unit, sheet in sheets.items() for name in names}


def _too_soon(book: Rulebook, ability: Ability, event: Event, before: Event | None) -> Iterator[Untimely]:
    if before is None or not ability.cooldown.is_plain or ability.charges > 1:
        return
    wanted, got = book.clock.ticks(ability.cooldown), event.tick - before.tick
    if got < wanted:
        name = "cooldown_off_by_one" if got == wanted - 1 else "no_cooldown"
        yield event, name, f"{got} ticks after the use before, and its cooldown is {wanted}"


def _off(book: Rulebook, ability: Ability, event: Event, use: Event | None) -> Iterator[Untimely]:
    plain = (
        ability.windup.is_plain
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
    return book.clock.ticks(lasts) if lasts is not None and lasts.is_plain else None
