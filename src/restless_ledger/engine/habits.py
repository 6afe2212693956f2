"""What a unit does by itself: its plays, how well it is handled, its lives, and the distance that it keeps."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..formula import evaluate_one, parse
from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..rulebook.effects import DamageEffect, FillEffect, GiveEffect, HealEffect
from ..rulebook.handlings import Handling
from ..rulebook.pages import FACTS
from ..rulebook.playbooks import Play
from ..rulebook.words import Pick, Targets
from ..sheets import Sheet
from ..sheets.altered import usable
from ..sheets.hit import single
from ..sheets.hits import dealer_lines, drawn_lines, effect_times


def habits(
    book: Rulebook, sheet: Sheet, playbook: str | None, handling: str | None, lives: int | None
) -> tuple[tuple[tuple[tuple, Play], ...], Handling, int, float]:
    """Return plays, handling, lives and the distance that is kept: what is named, or else the class's own."""
    who = book.classes[sheet.who]
    chosen, handled = playbook or who.playbook, handling or who.handling
    return (
        tuple(_plays(book, chosen, sheet)),
        book.handlings[handled] if handled else Handling.model_construct(),
        lives or who.lives,
        (book.playbooks[chosen].distance or 0.0) if chosen else 0.0,
    )


def _plays(book: Rulebook, chosen: str | None, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Yield the plays a unit can ever carry out: those of its playbook whose abilities it knows, or
    that a buff can grant it."""
    if chosen is None:
        yield from _default_plays(book, sheet)
        return
    granted = {name for buff in book.buffs.values() for name in buff.grants}
    for index, play in enumerate(book.playbooks[chosen].plays):
        if play.use is None or play.use in sheet.abilities or play.use in granted:
            yield ("playbooks", chosen, "plays", index), play


def _default_plays(book: Rulebook, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Without a playbook: what does the most good for each second it takes, of all that can be paid for.

    Good is the power of its hits on the user's own page, and what it heals; what does neither (a buff,
    a push) comes first whenever it is ready. Healing and reviving go to those who need it.
    """
    known = [(name, usable(book, sheet, name)) for name in sheet.abilities]
    for name, ability in sorted(known, key=lambda each: _good_per_second(book, sheet, each[1]), reverse=True):
        own = ability.targets in (Targets.ALLIES, Targets.USER)
        heals = own and any(isinstance(effect, FillEffect | HealEffect) for effect in ability.effects)
        hurt = parse(f"{book.downing_gauge}_fill < 1") if heals else None
        given = [effect.give for effect in ability.effects if isinstance(effect, GiveEffect) and effect.to == "target"]
        if own and not heals and given and (marks := book.buffs[given[0]].marks):
            hurt = parse(f"not marked({marks[0]})")
        yield (
            ("abilities", name),
            Play.model_construct(
                {"use", "pick", "if_"}, use=name, pick=Pick.WEAKEST if heals else Pick.RANDOM, if_=hurt
            ),
        )


def _good_per_second(book: Rulebook, sheet: Sheet, ability: Ability) -> tuple[float, int]:
    """Return what an ability does a second (infinite for what neither harms nor heals), and its cooldown."""
    clock = book.clock
    page = {**sheet.page, **dict.fromkeys(FACTS, 0.0)}
    good, counted = 0.0, False
    for effect in ability.effects:
        match effect:
            case DamageEffect() | HealEffect():
                kind = book.damage[effect.damage] if isinstance(effect, DamageEffect) else book.healing[effect.heal]
                rolled = drawn_lines(kind, page, np.full(1, 0.5))
                good += single(effect_times(effect, page) * dealer_lines(kind, page, rolled)["power"])
                counted = True
            case FillEffect():
                good += evaluate_one(effect.fill, page)
                counted = True
    ticks = max(1, clock.ticks(ability.windup) + clock.ticks(ability.recovery))
    return good / ticks if counted else float("inf"), clock.ticks(ability.cooldown)
