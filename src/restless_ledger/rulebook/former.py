"""Former spellings of a rulebook, and what is written today: an old file is told how to become a new one."""

from __future__ import annotations

KEYS = {
    ("Reaction", "while"): "write when",
    ("Ability", "cooldown_times"): 'write cooldown = { time = "…", times = "…" }',
    ("Supply", "every_times"): 'write every = { time = "…", times = "…" }',
    ("Ability", "on"): 'write targets, with "foes", "allies", "user" or "fallen_allies"',
    ("Gauge", "opens"): "write begins",
    ("Creation", "opens"): "write begins",
    ("Clock", "downs"): "write down_at",
    ("Handling", "reaction"): "write delay",
    ("Check", "rolls"): "write rolls within roll: roll = { …, rolls = 2 }",
    ("Check", "keep"): 'write keep within roll: roll = { …, keep = "worst" }',
    ("Creation", "dice"): "write rolled",
    ("Playbook", "keeps"): "write distance",
    ("Journey", "loses"): "write loses_coin",
    ("Play", "hold"): "write wait",
    ("Play", "at"): "write pick",
    ("HealEffect", "gauge"): 'write fill instead of heal: { fill = 5, gauge = "breath" }',
}
"""By a kind of entry and a key that it had: the remedy."""

WORDS = {("to", "self"): 'write "user"', ("to", "source"): 'write "other"'}
"""By a key and a word that could stand there: the remedy."""

TABLES = {"formula": 'write the formula itself, as text: "12 + 0.8 * level"', "heal": "write fill"}
"""By the telling key of a table that is no longer read: the remedy."""

FILLED = "heal names a healing kind; to fill a gauge by a formula, write fill"


def key_remedy(kind: str, key: str) -> str:
    """Return what to write instead of a key that a kind of entry had, or nothing."""
    return KEYS.get((kind, key), "")


def value_remedy(key: str, got: object, fault: str) -> str:
    """Return what to write instead of a value that a key had, or nothing. `fault` is what pydantic calls the error."""
    if isinstance(got, dict) and fault in ("effect", "step", "growth"):
        return next((TABLES[word] for word in got if word in TABLES), "")
    if key == "heal" and fault.startswith("string"):
        return FILLED
    return WORDS.get((key, str(got)), "") if fault == "literal_error" else ""
