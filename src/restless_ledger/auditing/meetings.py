"""Who can fight whom."""

from __future__ import annotations

from ..rulebook import Rulebook


def meetings(book: Rulebook, called: set[str]) -> list[tuple[str, str]]:
    """Return every pair of classes of which the first can fight the second; all pairs without any encounter. Those who
    can be called may be on any side."""
    found: dict[tuple[str, str], None] = {}
    for name, encounter in book.encounters.items():
        classes = {side.name: called | {group.who for group in side.units} for side in encounter.sides}
        for journey in book.journeys.values():
            for stage_name in journey.stages:
                stage = book.stages[stage_name]
                if stage.encounter == name and stage.side in classes:
                    classes[stage.side or ""] |= {member.who for member in journey.party}
        for one, mine in classes.items():
            for other, theirs in classes.items():
                if one != other:
                    found.update(dict.fromkeys((a, b) for a in sorted(mine) for b in sorted(theirs)))
    if not found:
        return [(one, other) for one in book.classes for other in book.classes if one != other]
    return list(found)
