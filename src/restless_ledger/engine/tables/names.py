"""The names behind the numbers of the tables."""

from __future__ import annotations

from collections.abc import Mapping

from ...frozen_classes import frozen


@frozen
class Names:
    """What the numbers of an encounter stand for."""

    units: tuple[str, ...]
    sides: tuple[str, ...]
    slots: tuple[str, ...]
    gauges: tuple[str, ...]
    kinds: tuple[tuple[str, str], ...]
    """The chapter and the name of each damage kind and each healing kind."""
    parts: tuple[str, ...]
    causes: tuple[str, ...]
    """What a change can come from: a script, a fall, a gauge's refill, an ability, a buff, a class, a supply."""
    cause_kinds: tuple[str, ...]
    """What each cause is: `gauge` for all that happens by itself, `ability`, `buff`, `class` or `supply`."""
    abilities: tuple[str, ...]
    buffs: tuple[str, ...]
    paths: Mapping[str, tuple[tuple, ...]]
    """Where in the rulebook the rows of the tables `effects`, `reactions` and `mitigations` are written."""

    follows: Mapping[tuple[str, str], tuple[int, int]]
    """Where the effects begin and end that follow a check, by check and end; a bench alone has them."""

    def cause_kind(self, cause: int) -> str:
        """Return what a cause is: `gauge`, `ability`, `buff`, `class` or `supply`."""
        return self.cause_kinds[cause]
