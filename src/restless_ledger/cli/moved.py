"""What moved between two looks at the same thing: a sheet, a fight, trials, an audit."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Iterable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from ..auditing import Audit, Finding
    from ..ledger import Fight
    from ..monte_carlo import Trials
    from ..sheets import Sheet

MOST_MOVED = 12
"""Lines of one kind that are said; the rest is counted."""


def moved_sheet(before: Sheet, now: Sheet) -> list[str]:
    """Say which figures of a character moved, and what it has learned or lost."""
    lines = []
    for name in dict.fromkeys((*before.page, *now.page)):
        old, new = before.page.get(name), now.page.get(name)
        if old != new:
            lines.append(f"{name}: {_said(old)} → {_said(new)}")
    learned = [name for name in now.abilities if name not in before.abilities]
    lost = [name for name in before.abilities if name not in now.abilities]
    lines += [f"now knows {name}" for name in learned] + [f"no longer knows {name}" for name in lost]
    return _few(lines)


def _said(value: float | None) -> str:
    from ..formula.explain import number

    return "none" if value is None else number(value)


def moved_fight(before: Fight, now: Fight) -> list[str]:
    """Say how the same fight ends now, and which entry is the first that differs."""
    old, new = before.finding(), now.finding()
    ending = [f"{old} → {new}"] if old != new else []
    pairs = zip(before.lines(), now.lines(), strict=False)
    differs = next(((was, line) for was, line in pairs if was != line), None)
    if differs is None:
        more = len(now) - len(before)
        return ending + ([f"{abs(more)} entries {'more' if more > 0 else 'less'} at the end"] if more else [])
    was, line = (" ".join(part for part in each[1:] if part) for each in differs)
    return [*ending, f"The first entry that differs is {differs[0][0]}: {was} → {line}"]


def moved_trials(before: Trials, now: Trials) -> list[str]:
    """Say whether the share of wins and the length moved beyond chance; with the same luck, fight by fight."""
    from ..study.compare import outcome_change

    if before.setup.digest == now.setup.digest:
        return ["Nothing that this encounter depends on has changed."]
    change = outcome_change(before.setup.book, now.setup.book, now.setup.name, min(before.fights, now.fights), now.seed)
    if change.failed:
        return [change.failed]
    low, high = (f"{end:+.1%}".replace("-", "−") for end in (change.low, change.high))
    beyond = "moved beyond chance" if not change.low <= 0 <= change.high else "has not moved beyond chance"
    unit = now.setup.book.clock.unit
    lines = [f"Wins of {change.side}: {change.old:.1%} → {change.new:.1%} ({low} to {high}): {beyond}."]
    if not change.seconds_low <= 0 <= change.seconds_high:
        lines.append(f"Length: {change.seconds_old:.4g} → {change.seconds_new:.4g} {unit} on average.")
    return [*lines, f"{change.changed:,} of {change.fights:,} fights differ."]


def moved_audit(before: Audit, now: Audit) -> list[str]:
    """Say which findings are new and which are gone, which worked examples turned, and which promises."""
    from ..auditing.formats.words import said_estimate

    new, gone = _apart(map(_key, now.findings), map(_key, before.findings))
    lines = _few([f"new {said}" for said in new]) + _few([f"gone: {said}" for said in gone])
    held = {each.name: each.holds for each in before.examples}
    for example in now.examples:
        if example.holds != held.get(example.name, True):
            lines.append(f"worked example {'holds again' if example.holds else 'does not hold'}: {example.title}")
    was = {(each.path, each.what): each.verdict for each in before.promises}
    for each in now.promises:
        old = was.get((each.path, each.what))
        if old is not None and old != each.verdict:
            lines.append(f"promise {old} → {each.verdict}: {each.title}, {each.what}: {said_estimate(each)}")
    return [*lines, f"{now.finding()}."] if lines else []


def _key(finding: Finding) -> str:
    return f"{finding.severity} {finding.code} at {finding.path}: {finding.what}"


def _apart(now: Iterable[Hashable], before: Iterable[Hashable]) -> tuple[list[Hashable], list[Hashable]]:
    """Return what is there now and was not before, and what was and is not, as often as each is."""
    here, there = Counter(now), Counter(before)
    return list((here - there).elements()), list((there - here).elements())


def _few(lines: list[str]) -> list[str]:
    left = len(lines) - MOST_MOVED
    return [*lines[:MOST_MOVED], f"and {left} more"] if left > 0 else lines
