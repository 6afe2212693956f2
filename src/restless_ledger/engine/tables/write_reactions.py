"""Reactions and mitigations → rows: what happens by itself, and what is done to a hit before it is booked."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

from ...rulebook.mitigations import Mitigation
from ...rulebook.reactions import Reaction
from ...rulebook.words import Event
from ..codes import CRITICAL, GUARDED, NEVER
from ..layout.ability_layout import MITIGATIONS, REACTIONS
from .table_rows import Pool, row, span
from .write_effects import NOT_HERE, EffectWriter

OF_ITS_BUFF = (Event.BEGINNING, Event.ENDING, Event.STRIPPED)


class ReactionWriter(EffectWriter):
    """Writes effects, and the reactions and mitigations that lead to them."""

    @cached_property
    def reactions(self) -> Pool:
        """The rows of reactions that have been written."""
        return Pool()

    @cached_property
    def mitigations(self) -> Pool:
        """The rows of mitigations that have been written."""
        return Pool()

    def react(self, path: tuple, reactions: Sequence[Reaction], cause: int, buff: int = -1) -> tuple[int, int]:
        """Write reactions, which book under a cause (-1: their bearer's class); return where they begin and end.
        `buff` is the one that they stand in."""
        rows = []
        for index, reaction in enumerate(reactions):
            here = (*path, index)
            effects = span("effect", self.write((*here, "does"), reaction.does))
            plain = self.columns.of(REACTIONS, here, reaction, without=("mark", "kind", "ability", "buff", "zone"))
            plain["rests"] %= NEVER
            rows.append(row(REACTIONS, **plain, **self._filters(reaction, buff), **effects, cause=cause))
        return self.reactions.add(rows, path)

    def mitigate(
        self, path: tuple, mitigations: Sequence[Mitigation], cause: int, soaks: bool = False
    ) -> tuple[int, int]:
        """Write mitigations, which book under a cause (-1: their bearer's class); return where they begin and end.
        `soaks` says that they are the soak of a part."""
        rows = []
        for index, mitigation in enumerate(mitigations):
            here = (*path, index)
            effects = span("effect", self.write((*here, "does"), mitigation.does))
            plain = self.columns.of(MITIGATIONS, here, mitigation)
            plain["rests"] %= NEVER
            wanted = mitigation.critical
            notes = {"noted": CRITICAL if wanted else 0, "unnoted": CRITICAL if wanted is False else 0}
            rows.append(row(MITIGATIONS, **plain, **notes, **effects, cause=cause, soaks=int(soaks)))
        return self.mitigations.add(rows, path)

    def _filters(self, reaction: Reaction, buff: int) -> dict[str, float]:
        """Return what an event must be about for a reaction, as numbers."""
        names = [name for _, name in self.kinds]
        about = buff if reaction.on in OF_ITS_BUFF else -1
        if reaction.buff is not None:
            about = list(self.buffs).index(reaction.buff) if reaction.buff in self.buffs else NOT_HERE
        noted = {CRITICAL: reaction.critical, GUARDED: reaction.guarded}
        return {
            "mark": self.lines.slots[f"marked({reaction.mark})"] if reaction.mark else -1,
            "kind": names.index(reaction.kind) if reaction.kind else -1,
            "ability": self.abilities.get(reaction.ability, NOT_HERE) if reaction.ability else -1,
            "buff": about,
            "zone": self.zones.get(reaction.zone, NOT_HERE) if reaction.zone else -1,
            "itself": int(reaction.buff is None),
            "noted": sum(bit for bit, wanted in noted.items() if wanted),
            "unnoted": sum(bit for bit, wanted in noted.items() if wanted is False),
        }
