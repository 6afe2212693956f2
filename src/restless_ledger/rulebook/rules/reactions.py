"""Rules of reactions, wherever one stands."""

from __future__ import annotations

from ..measures import with_article
from ..problems import Report, nearest
from ..reactions import Reaction
from ..rulebook import Rulebook
from ..words import Event, Receiver

HITS = (Event.DEALING, Event.TAKING, Event.MISSING, Event.DODGING, Event.HEALING, Event.HEALED)
LANDED = (Event.DEALING, Event.TAKING)
DONE = (*HITS, Event.USING, Event.MATE_USING, Event.FOE_USING)
BUFFS = (Event.GIVING, Event.BEGINNING, Event.ENDING, Event.STRIPPED)
ZONES = (Event.ENTERING, Event.LEAVING)
GAUGES = (Event.EMPTIED, Event.FILLED, Event.FALLING, Event.RISING)
FILTERS: dict[str, tuple[Event, ...]] = {
    "mark": (Event.MARKED,),
    "kind": HITS,
    "ability": DONE,
    "part": (*LANDED, Event.BREAKING),
    "critical": (*LANDED, Event.HEALING, Event.HEALED),
    "guarded": LANDED,
    "buff": BUFFS,
    "zone": ZONES,
    "gauge": GAUGES,
    "share": (Event.FALLING, Event.RISING),
}
"""By key: the events that have such a thing."""
NEEDED = {"mark": FILTERS["mark"], "gauge": GAUGES, "share": FILTERS["share"]}
"""By key: the events that can't do without it."""
ALONE = (Event.OPENING, Event.ROUND, Event.MOVING)
"""The events that have no other."""


def check(book: Rulebook, report: Report, path: tuple, reaction: Reaction) -> None:
    """What a reaction asks for is something that its event has, and what its event needs is there."""
    for key, events in FILTERS.items():
        if getattr(reaction, key) is not None and reaction.on not in events:
            remedy = f"leave it out, or write on = {' or '.join(events)}"
            report.add((*path, key), f'on = "{reaction.on}" has no {key}', "", remedy)
    for key, events in NEEDED.items():
        if getattr(reaction, key) is None and reaction.on in events:
            report.add(path, f'on = "{reaction.on}" needs {with_article(key)}', "", f"write {key} = …")
    if reaction.on is Event.ROUND and not book.clock.rounds:
        report.add((*path, "on"), "the clock has no rounds", "round", "write clock.rounds = true, or another event")
    if reaction.kind is not None and reaction.kind not in (names := [*book.damage, *book.healing]):
        report.add(
            (*path, "kind"), "no kind of damage or healing has this name", reaction.kind, nearest(reaction.kind, names)
        )
    if reaction.on in ALONE and (reaction.to is Receiver.OTHER or reaction.if_ is not None):
        key = "to" if reaction.to is Receiver.OTHER else "if"
        report.add((*path, key), f'on = "{reaction.on}" has no other', "other", 'write to = "user", and no if')
    if reaction.to is Receiver.GIVER and path[0] != "buffs":
        report.add((*path, "to"), "only a buff has a giver", "giver", "move the reaction into a buff, or write another")
