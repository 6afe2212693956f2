"""Rules of effects, wherever one stands."""

from __future__ import annotations

from collections.abc import Sequence

from ...formula import Program
from ..effects import (
    AnyEffect,
    Beat,
    BuildupEffect,
    ChoiceEffect,
    DamageEffect,
    Effect,
    GroupEffect,
    HealEffect,
    ProlongEffect,
    StripEffect,
    TakeEffect,
)
from ..entries import Entry
from ..meaning import fields
from ..mitigations import Mitigation
from ..pages import marks
from ..problems import Report, nearest
from ..reactions import Reaction
from ..rulebook import Rulebook
from ..words import Event

OF_A_HIT = (Event.DEALING, Event.TAKING, Event.HEALING, Event.HEALED)
"""The events of a hit that landed: what they book can be read, and `after` can ask for it."""


def check(book: Rulebook, report: Report, path: tuple, effect: Entry) -> None:
    """A buildup fills a meter, and a strip takes off something that there is."""
    match effect:
        case BuildupEffect():
            buff = book.buffs.get(effect.buildup)
            if buff and buff.catches_at is None:
                report.add(
                    (*path, "buildup"),
                    "this buff has no meter to fill",
                    effect.buildup,
                    f"write catches_at in buffs.{effect.buildup}, or use give",
                )
        case StripEffect():
            check_word(book, report, (*path, "strip"), effect.strip)
        case ProlongEffect() | TakeEffect():
            for key in ("prolong", "shorten") if isinstance(effect, ProlongEffect) else ("take", "hand_over"):
                if (word := getattr(effect, key)) is not None:
                    check_word(book, report, (*path, key), word)
    if isinstance(effect, AnyEffect):
        _check_shared(report, path, effect)


def check_word(book: Rulebook, report: Report, path: tuple, word: str) -> None:
    """Report a word that no buff goes by."""
    if not stripped(book, word) and not report.broken.get("buffs"):
        words = [*book.buffs, *marks(book), *dict.fromkeys(buff.kind for buff in book.buffs.values())]
        report.add(path, "no buff has this name, kind or mark", word, nearest(word, words))


def _check_shared(report: Report, path: tuple, effect: AnyEffect) -> None:
    """What goes together does: `avoid` with a chance, `every` with several times, `within` with a group."""
    for key, needs in (("avoid", "chance"), ("evens_out", "chance"), ("every", "repeat")):
        if getattr(effect, key) and getattr(effect, needs) is None:
            report.add((*path, key), f"{key} goes with {needs}", "", f"write {needs}, or leave {key} out")
    if effect.within is not None and not effect.is_for_several:
        report.add((*path, "within"), "within is for groups", "", 'write to = "foes", or leave within out')


def stripped(book: Rulebook, word: str) -> list[str]:
    """Return the buffs that a word stands for: a buff's name, a kind of buffs, or a mark."""
    return [name for name, buff in book.buffs.items() if word == name or word == buff.kind or word in buff.marks]


def check_list(report: Report, path: tuple, holder: Entry) -> None:
    """Where a list of effects stands first, `booked` and `after` look back at a hit that there is."""
    match holder:
        case Reaction():
            known = holder.on in OF_A_HIT
            _check_list(report, (*path, "does"), holder.does, known, reacts=True)
        case Mitigation():
            _check_list(report, (*path, "does"), holder.does, True)
        case Beat():
            _check_list(report, (*path, "does"), holder.does, False)


def check_effects(report: Report, path: tuple, effects: Sequence[Effect]) -> None:
    """The same of a list of effects that is no entry's only one."""
    _check_list(report, path, effects, False)


def _check_list(report: Report, path: tuple, effects: Sequence[Effect], hit: bool, reacts: bool = False) -> None:
    for index, effect in enumerate(effects):
        here = (*path, index)
        if effect.after is not None and not hit:
            report.add(
                (*here, "after"), "no hit comes before this in its list", effect.after.value, "put the hit before it"
            )
        if not hit and not reacts:
            _check_booked(report, here, effect)
        match effect:
            case DamageEffect() | HealEffect():
                hit = True
            case GroupEffect():
                _check_list(report, (*here, "does"), effect.does, hit, reacts)
            case ChoiceEffect():
                for number, choice in enumerate(effect.one_of):
                    _check_list(report, (*here, "one_of", number, "does"), choice.does, hit, reacts)


def _check_booked(report: Report, path: tuple, effect: AnyEffect) -> None:
    """Report the formulas of one effect that read `booked`; those of the effects that it holds are theirs."""
    found: list[tuple[tuple, object]] = [((key,), getattr(effect, name)) for name, key, _ in fields(type(effect))]
    if isinstance(effect, ChoiceEffect):
        found += [(("one_of", number, "weight"), choice.weight) for number, choice in enumerate(effect.one_of)]
    for inner, value in found:
        if isinstance(value, Program) and "booked" in value.names:
            where = (*path, *inner)
            report.add(where, "no hit comes before this, so nothing is booked", "booked", "put the hit before it")
