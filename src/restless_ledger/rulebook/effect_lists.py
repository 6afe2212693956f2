"""What lists of effects hold, however deep: every effect, the buffs that they give, whether any of them branches."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from .effects import BuildupEffect, ChoiceEffect, Effect, GiveEffect, GroupEffect, LayEffect, SummonEffect


def flat(effects: Sequence[Effect]) -> Iterator[Effect]:
    """Yield every effect of a list, those included that groups and choices hold."""
    for effect in effects:
        yield effect
        match effect:
            case GroupEffect():
                yield from flat(effect.does)
            case ChoiceEffect():
                for choice in effect.one_of:
                    yield from flat(choice.does)


def given_by(effects: Iterable[Effect]) -> Iterator[str]:
    """Yield the buffs that effects can put on somebody, at once or by a buildup."""
    for effect in effects:
        match effect:
            case GiveEffect():
                yield effect.give
            case BuildupEffect():
                yield effect.buildup
            case SummonEffect():
                if effect.bears is not None:
                    yield effect.bears


def laid_by(effects: Iterable[Effect]) -> Iterator[str]:
    """Yield the zones that effects can lay."""
    for effect in effects:
        if isinstance(effect, LayEffect) and effect.lay is not None:
            yield effect.lay


def branches(effects: Sequence[Effect]) -> bool:
    """Say whether some effect of a list does not simply happen: it asks for something, waits, happens several times, is
    for several, or holds others."""
    return any(
        isinstance(effect, GroupEffect | ChoiceEffect) or effect.asks or effect.is_for_several for effect in effects
    )
