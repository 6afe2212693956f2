"""Why hits to kill are not told of somebody."""

from __future__ import annotations

from ..rulebook import Rulebook
from ..rulebook.rules.gauges import fronts
from ..sheets import Sheet


def left_out(book: Rulebook, taker: Sheet) -> str:
    """Return why hits to kill are not given for hits on somebody, or nothing: what is left changes on the way."""
    body = book.bodies.get(book.classes[taker.who].body or "")
    name = taker.label
    if body and body.segmented:
        return f"{name} loses a segment at each hit"
    if body and any(part.own for part in body.parts.values()):
        return f"parts of {name} can break"
    if any(source.brings.mitigates for source in taker.sources) or (
        body and any(part.soak is not None for part in body.parts.values())
    ):
        return f"{name} changes hits before they are booked"
    if any(book.gauges[front].begins.roll for front in fronts_of(book, taker)):
        return f"what stands in front of {name} opens anywhere in a range"
    return ""


def fronts_of(book: Rulebook, taker: Sheet) -> list[str]:
    """Return the gauges that take harm in the place of the one that downs, of those that a character holds."""
    return [front for front in fronts(book, book.downing_gauge or "") if front in taker.gauges]
