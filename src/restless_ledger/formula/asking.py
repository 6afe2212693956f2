"""What a formula may ask of a fight: how long it has lasted, how many are left, what somebody is doing just now."""

from __future__ import annotations

MARKED = "marked"
TAKES = {
    MARKED: ("mark", "alight"),
    "ready": ("ability", "hook_swing"),
    "stacks": ("buff", "scalded"),
    "winding_up": ("ability", "hook_swing"),
    "foes_near": ("distance in metres", "4"),
    "mates_near": ("distance in metres", "4"),
}
"""The words that take a name or a number in brackets: of what, and an example. Word and brackets are one name."""
SEEN = {
    "since_start": "the seconds since the fight began; in rounds, the rounds",
    "foes_left": "how many foes are up",
    "mates_left": "how many mates are up, oneself apart",
    "foes_near": "how many foes are no farther away than this; without a place all are",
    "mates_near": "how many mates are no farther away than this",
    "ready": "1 where it knows this ability and its cooldown is over, else 0",
    "stacks": "how many stacks of a buff it bears",
    "winding_up": "1 while it winds something up, or the ability that is named",
    "aimed_at": "how many foes wind something up that is aimed at it",
    "dealt": "the harm that it has dealt in this fight",
    "taken": "the harm that it has taken in this fight",
    "healed": "what it has healed in this fight",
}
"""What can be seen of a fight. Outside of one all of it is 0, but that every ability is ready."""
ALONE = ("since_start", "foes_left", "mates_left", "winding_up", "aimed_at", "dealt", "taken", "healed")
"""Those of them that mean something without brackets."""


def asked(word: str, of: str | float) -> str:
    """Return the name of what a word asks, such as `ready(hook_swing)` or `foes_near(4)`."""
    return f"{word}({of})" if isinstance(of, str) else f"{word}({of:.12g})"


def taken_apart(name: str) -> tuple[str, str]:
    """Return the word of a name and what stands in its brackets, or nothing."""
    word, _, rest = name.partition("(")
    return word, rest.removesuffix(")")


def is_seen(name: str) -> bool:
    """Say whether a name asks something of a fight."""
    word, of = taken_apart(name)
    return word in SEEN and (bool(of) or word in ALONE)


def outside(name: str) -> float | None:
    """Return what a name that asks something of a fight is where there is none; None of any other name."""
    if not is_seen(name):
        return None
    return 1.0 if name.startswith("ready(") else 0.0
