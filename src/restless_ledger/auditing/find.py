"""Run the checks: every finding of a rulebook, worst first, as its own settings ask for."""

from __future__ import annotations

from collections.abc import Iterable

from ..rulebook import InputError, Rulebook
from ..rulebook.audits import CheckSetting
from ..rulebook.problems import dotted, nearest
from .case import Case
from .entries import CheckEntry, catalogue
from .finding import Fault, Finding
from .registry import checks


def find(book: Rulebook, codes: Iterable[str] | None = None) -> list[Finding]:
    """Return what the checks find, all of them unless some are named, worst first.

    Raises `InputError` where the rulebook's settings or `codes` name a check there isn't.
    """
    entries, functions = catalogue(), checks()
    _check_codes(book, entries)
    case, found = Case(book), []
    for code in entries if codes is None else codes:
        if code not in entries:
            raise InputError(f"audit: there is no check {code}\n    {nearest(code, entries)}")
        setting = book.audit.checks.get(code)
        severity = (setting and setting.severity) or entries[code].severity
        if severity != "off":
            found += [_finding(book, entries[code], severity, fault) for fault in functions[code](case)
                      if not (setting and _excepted(setting, fault))]  # fmt: skip
    return sorted(dict.fromkeys(found), key=lambda finding: finding.order)


def _check_codes(book: Rulebook, entries: dict[str, CheckEntry]) -> None:
    for code in book.audit.checks:
        if code not in entries:
            raise InputError(f"{book.place('audit', 'checks', code)}: audit.checks.{code}: there is no check of this "
                             f"name\n    {nearest(code, entries)}")  # fmt: skip


def _excepted(setting: CheckSetting, fault: Fault) -> bool:
    """Say whether a setting excepts the place of a fault: by its path, or by one above it."""
    path = dotted(fault.path)
    return any(path == each or path.startswith((f"{each}.", f"{each}[")) for each in setting.except_)


def _finding(book: Rulebook, entry: CheckEntry, severity: str, fault: Fault) -> Finding:
    place = book.place(*fault.path)
    return Finding(entry.code, severity, place, dotted(fault.path), fault.what, entry.why, fault.remedy or entry.remedy)
