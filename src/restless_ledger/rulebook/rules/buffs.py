"""Rules of buffs."""

from __future__ import annotations

from ..buffs import Buff
from ..problems import Report, nearest
from ..rulebook import Rulebook
from ..words import Again, Bar, Ends
from .effects import check_word

MOST_APART = 50


def check(book: Rulebook, report: Report) -> None:
    """Only what ends can be extended or get shorter, and what is barred is there."""
    schools = {ability.school for ability in book.abilities.values() if ability.school}
    groups: dict[str, tuple[float, ...]] = {}
    for name, buff in book.buffs.items():
        here = ("buffs", name)
        if buff.again == "extend" and buff.lasts is None:
            report.add((*here, "again"), "a buff without an end can't be extended", "", "write lasts, or another again")
        for index, word in enumerate(buff.bars):
            names = [*Bar, *schools, *book.abilities]
            if word not in names:
                what = "this is no ability, no school and nothing that a buff can bar"
                report.add((*here, "bars", index), what, word, nearest(word, names))
        _check_stacks(report, here, buff)
        for index, granted in enumerate(buff.grants):
            if granted in book.abilities and book.abilities[granted].passive:
                what = "a buff grants abilities that are used"
                report.add((*here, "grants", index), what, granted, "give the buff what the passive ability brings")
        for index, word in enumerate(buff.replaces):
            check_word(book, report, (*here, "replaces", index), word)
        if buff.diminishes:
            if buff.lasts is None:
                report.add((*here, "diminishes"), "a buff without an end can't get shorter", "", "write lasts")
            if buff.again == "extend":
                report.add((*here, "diminishes"), "what is extended can't get shorter", "", "write another again")
            if groups.setdefault(buff.diminishes.group, tuple(buff.diminishes.times)) != tuple(buff.diminishes.times):
                what = f"another buff of the group {buff.diminishes.group} has other factors"
                report.add((*here, "diminishes", "times"), what, "", "write the same in all of them")
    _check_words(book, report, schools)


def _check_stacks(report: Report, here: tuple, buff: Buff) -> None:
    """Stacks end in a way of their own only where there are stacks, and an end; and only so many have a row each."""
    if buff.ends is not Ends.TOGETHER:
        for wrong, what, remedy in (
            (buff.again is not Again.STACK, "only stacks end one by one", 'write again = "stack"'),
            (buff.lasts is None, "a buff without an end keeps its stacks", "write lasts"),
        ):
            if wrong:
                report.add((*here, "ends"), what, buff.ends.value, remedy)
    if buff.ends is Ends.EACH and buff.most > MOST_APART:
        report.add(
            (*here, "most"),
            f"at most {MOST_APART} stacks have times of their own",
            buff.most,
            "write most = 10, or less",
        )
    if buff.carries and (buff.lasts is None or buff.again in (Again.EXTEND, Again.IGNORE)):
        report.add((*here, "carries"), "nothing is left that could be carried over", buff.carries, "leave it out")


def _check_words(book: Rulebook, report: Report, schools: set[str]) -> None:
    """Report an ability or a school that has the name of something that can be barred."""
    for name in book.abilities:
        if name in tuple(Bar):
            report.add(("abilities", name), "bars means something else by this name", name, "rename it")
    for name, ability in book.abilities.items():
        if ability.school in tuple(Bar):
            report.add(
                ("abilities", name, "school"), "bars means something else by this name", ability.school, "rename it"
            )
