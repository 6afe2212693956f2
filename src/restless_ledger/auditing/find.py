"""Run the checks: every finding of a rulebook, worst first, as its own settings ask for."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from ..rulebook import InputError, Rulebook
from ..rulebook.audits import CheckSetting
from ..rulebook.problems import dotted, nearest
from .audit_context import AuditContext
from .entries import CheckEntry, catalogue
from .finding import Fault, Finding
from .registry import checks


def find(book: Rulebook, codes: Iterable[str] | None = None) -> list[Finding]:
    """Return what the checks find, all of them unless some are named, worst first.

    Raises `InputError` where the rulebook's settings or `codes` name a check there isn't.
    """
    functions = checks()
    _check_codes(book, functions)
    case, found = AuditContext(book), []
    for code in functions if codes is None else codes:
        if code not in functions:
            raise InputError(f"audit: there is no check {code}\n    {nearest(code, functions)}")
        setting = book.audit.checks.get(code)
        if setting and setting.severity == "off":
            continue
        faults = [fault for fault in functions[code](case) if not (setting and _excepted(setting, fault))]
        if faults:  # the catalogue is read only where something is found
            entry = catalogue()[code]
            severity = (setting and setting.severity) or entry.severity
            found += [_finding(book, entry, severity, fault) for fault in faults]
    return sorted(dict.fromkeys(found), key=lambda finding: finding.order)


def _check_codes(book: Rulebook, known: Collection[str]) -> None:
    for code in book.audit.checks:
        if code not in known:
            raise InputError(
                f"{book.place('audit', 'checks', code)}: audit.checks.{code}: there is no check of this "
                f"name\n    {nearest(code, known)}"
            )


def _excepted(setting: CheckSetting, fault: Fault) -> bool:
    """Say whether a setting excepts the place of a fault: by its path, or by one above it."""
    path = dotted(fault.path)
    return any(path == each or path.startswith((f"{each}.", f"{each}[")) for each in setting.except_)


def _finding(book: Rulebook, entry: CheckEntry, severity: str, fault: Fault) -> Finding:
    place = book.place(*fault.path)
    return Finding(entry.code, severity, place, dotted(fault.path), fault.what, entry.why, fault.remedy or entry.remedy)
