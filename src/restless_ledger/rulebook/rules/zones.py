"""Rules of zones."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook
from ..words import Ends, Of, Receiver
from ..zones import Zone
from .place import check_point


def check(book: Rulebook, report: Report) -> None:
    """A zone is there when it takes somebody, and one bears its buff once; an arena's own belongs to nobody."""
    for name, zone in book.zones.items():
        _check_zone(book, report, ("zones", name), zone)
    for name, arena in book.arenas.items():
        for index, laid in enumerate(arena.zones):
            here = ("arenas", name, "zones", index)
            check_point(report, (*here, "at"), arena, laid.at)
            if laid.zone in book.zones:
                _check_unowned(report, (*here, "zone"), laid.zone, book.zones[laid.zone])


def _check_zone(book: Rulebook, report: Report, here: tuple, zone: Zone) -> None:
    if zone.arms and zone.lasts and book.clock.ticks(zone.arms) > book.clock.ticks(zone.lasts):
        report.add((*here, "arms"), "it ends before it takes anybody", str(zone.arms), "make lasts longer")
    buff = book.buffs.get(zone.inside or "")
    if buff is not None and buff.outlasts_down:
        report.add(
            (*here, "inside"),
            "who goes down is in no zone",
            zone.inside,
            f"leave outlasts_down out of buffs.{zone.inside}",
        )
    if buff is not None and (buff.of is not Of.ALL or buff.ends is Ends.EACH):
        report.add(
            (*here, "inside"),
            "this buff can be borne several times at once",
            zone.inside,
            f"leave of and ends out of buffs.{zone.inside}, or give it by entering",
        )


def _check_unowned(report: Report, path: tuple, name: str, zone: Zone) -> None:
    """Report what a zone needs somebody for who laid it."""
    needs = ""
    if zone.to is not Receiver.ALL:
        needs = f'zones.{name} is for {zone.to}: write to = "all"'
    elif zone.follows:
        needs = f"zones.{name} follows somebody: leave follows out"
    elif zone.each and zone.each.every.times is not None:
        needs = f"the beat of zones.{name} is stretched by somebody's figures: leave times out"
    if needs:
        report.add(path, "nobody lays a zone of an arena", name, needs)
