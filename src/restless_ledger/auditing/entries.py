"""The catalogue of checks: each one's code, severity, why it matters, the remedy, and an example with its twin."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from ..frozen_classes import frozen

FOLDER = Path(__file__).with_name("checks")
GROUPS = (
    "names",
    "stats",
    "costs",
    "damage",
    "timing",
    "control",
    "reactions",
    "movement",
    "choice",
    "winning",
    "zones",
    "telling",
    "journeys",
)


@frozen
class CheckEntry:
    """What the catalogue says of one check. `wrong` and `right` are TOML on top of `base()`: `wrong` has the fault,
    `right` is near to it and has it not."""

    code: str
    group: str
    severity: str
    title: str
    why: str
    remedy: str
    wrong: str
    right: str


@cache
def catalogue() -> dict[str, CheckEntry]:
    """Return every check's entry by its code, in the order of the groups: `checks/names.toml` is beside
    `checks/names.py`."""
    import tomllib

    found = {}
    for group in GROUPS:
        entries = tomllib.loads((FOLDER / f"{group}.toml").read_text(encoding="utf-8"))
        for code, entry in entries.items():
            found[code] = CheckEntry(code, group, **entry)
    return found


def base() -> str:
    """Return the small clean rulebook that the catalogue's examples are laid on top of."""
    return (FOLDER / "base.toml").read_text(encoding="utf-8")


def as_page() -> str:
    """Return the catalogue as a page of documentation; `make reference` writes it."""
    entries = list(catalogue().values())
    rows = [
        "# Findings",
        "",
        f"The {len(entries)} checks of `restless-ledger audit`, by what they look at. This page is made from the "
        "catalogue beside the checks (`src/restless_ledger/auditing/checks/`): `make reference` writes it anew.",
        "",
        "Other faults are reported when the rulebook is read, by every command, which ends with code 2: names that "
        "don't exist (with the nearest that does), shares of a body that don't add up to one, ranges that are upside "
        "down, formulas that can't be read or read what is not on their page. In the formats for other tools they "
        "come under `unreadable`.",
        "",
        "`wrong` has the fault and `right` is near to it and has it not; both are laid on top of the small rulebook "
        "at the end of the page. `restless-ledger audit --explain CODE` says the same in the terminal.",
    ]
    for group in GROUPS:
        rows += ["", f"## {group.capitalize()}"]
        for entry in entries:
            if entry.group == group:
                rows += [
                    "",
                    f"### `{entry.code}`: {entry.title}",
                    "",
                    f"{entry.severity.capitalize()}. {entry.why} Remedy: {entry.remedy}.",
                    "",
                    "```toml",
                    "# wrong",
                    entry.wrong.strip(),
                    "# right",
                    entry.right.strip(),
                    "```",
                ]
    return "\n".join([*rows, "", "## The rulebook beneath the examples", "", "```toml", base().strip(), "```", ""])
