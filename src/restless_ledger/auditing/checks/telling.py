"""What people are told: texts, cues, and what follows checks."""

from __future__ import annotations

from collections.abc import Iterator

from ...rulebook.checks import PASSED
from ...rulebook.sayings import Saying
from ..audit_context import AuditContext
from ..finding import Fault
from ..registry import check


@check
def untold_text(case: AuditContext) -> Iterator[Fault]:
    named = {each.text for found in case.found if isinstance(found.value, Saying) for each in found.value.formulas}
    for name in case.book.texts:
        if name not in named:
            yield Fault(("texts", name), f"no text for people names {name}")


@check
def idle_cue(case: AuditContext) -> Iterator[Fault]:
    book = case.book
    for name, cue in book.cues.items():
        kind = book.damage.get(cue.kind or "")
        if cue.buff is not None and cue.buff not in case.given:
            yield Fault(("cues", name, "buff"), f"nothing ever applies {cue.buff}, so {name} is never shown")
        elif cue.ability is not None and cue.ability not in case.reached:
            yield Fault(("cues", name, "ability"), f"nobody gets to know {cue.ability}, so {name} is never shown")
        elif cue.critical and kind is not None and kind.critical is None:
            yield Fault(("cues", name, "critical"), f"{cue.kind} is never critical, so {name} is never shown")


@check
def unheard_follow(case: AuditContext) -> Iterator[Fault]:
    for name, entry in case.book.checks.items():
        least = [margin for degree, margin in entry.degrees.items() if degree in entry.follows]
        if PASSED in entry.follows and least and min(least) <= 0 and len(least) == len(entry.degrees):
            said = "each try that passes reaches a degree that has a follow of its own"
            yield Fault(("checks", name, "follows", PASSED), f"passed never follows {name}: {said}")
