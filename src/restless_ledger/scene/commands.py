"""Commands in words, such as `hurt 30 crush; advance 2 s; use hook_swing at warden`, carried out on a live scene."""

from __future__ import annotations

import shlex
from collections.abc import Iterator, Sequence
from typing import Any

from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook import InputError
from ..rulebook.problems import nearest
from .becoming import Became
from .command_verbs import VERBS, Subject
from .using import Answer

KEYWORDS = ("at", "by", "in", "part", "strength", "level")


@frozen
class Said:
    """What came of one command: whether it was done, and what is to be said besides the ledger."""

    done: bool = True
    lines: tuple[str, ...] = ()


class Script(Subject):
    """Carries out commands on a scene."""

    def carry_out(self, command: str) -> Said:
        """Carry out one command. Raises `InputError` on one that can't be read; then nothing has changed."""
        words = _split(command)
        if not words:
            return Said()
        name, *rest = words
        if name not in VERBS:
            raise InputError(f"{command.strip()}: there is no command {name}\n    {nearest(name, VERBS)}")
        plain, named = _sorted_out(rest)
        try:
            given = VERBS[name].act(self, plain, named)
        except (IndexError, ValueError) as error:
            if isinstance(error, InputError):
                raise
            raise InputError(f"{command.strip()}: this can't be read\n    write {VERBS[name].usage}") from None
        return _said(given)

    def completions(self, text: str) -> list[str]:
        """Return what the last word of an unfinished command may become."""
        words = text.rpartition(";")[2].split(" ")
        typed, before = words[-1], [word for word in words[:-1] if word]
        names = self._names(before) if before else iter(VERBS)
        return sorted({name for name in names if name.startswith(typed)})

    def _names(self, before: Sequence[str]) -> Iterator[str]:
        """Yield the names that can come after words."""
        last, book = before[-1], self.live.unit(0).sheet.book
        if last in ("at", "by") or (before[0] == "as" and len(before) == 1):
            yield from (unit.name for unit in self.live.units)
            yield from (unit.sheet.who for unit in self.live.units)
        elif last == "in":
            yield from book.gauges
        elif last == "part":
            yield from dict.fromkeys(part for body in book.bodies.values() for part in body.parts)
        elif before[0] in VERBS:
            for chapter in VERBS[before[0]].names:
                yield from getattr(book, chapter)
            if "at " in VERBS[before[0]].usage and len(before) > 1:
                yield "at"

    def status(self) -> str:
        """Return a line with the gauges and the buffs of the unit."""
        unit = self.unit
        parts = [f"{name} {number(unit[name])}/{number(unit[f'{name}_top'])}" for name in unit.sheet.gauges]
        for borne in unit.buffs:
            times = f" × {borne.stacks}" if borne.stacks > 1 else ""
            left = "" if borne.left is None else f" {number(borne.left)} {unit.sheet.book.clock.unit}"
            parts.append(f"{borne.label}{times}{left}")
        down = ["down"] if unit.is_down else []
        now = f"{number(self.live.seconds)} {unit.sheet.book.clock.unit}"
        return f"{unit.name}, level {unit.spec.level}, at {now}:  {'  '.join([*down, *parts])}"


def commands_in(text: str) -> list[str]:
    """Return the commands of a text: they are parted by semicolons and line ends; # begins a remark."""
    lines = (line.partition("#")[0] for line in text.splitlines())
    return [command.strip() for line in lines for command in line.split(";") if command.strip()]


def help_lines() -> list[tuple[str, str]]:
    """Return how each command is written, and what it does."""
    return [(verb.usage, verb.what) for verb in VERBS.values()]


def _split(command: str) -> list[str]:
    try:
        return shlex.split(command)
    except ValueError as error:
        raise InputError(f"{command.strip()}: this can't be read: {error}\n    close the quotation mark") from None


def _sorted_out(words: Sequence[str]) -> tuple[list[str], dict[str, str]]:
    """Return the words of a command, and those that come after a keyword, by that."""
    plain, named, rest = list[str](), dict[str, str](), list(words)
    while rest:
        word = rest.pop(0)
        if word in KEYWORDS and rest:
            named[word] = rest.pop(0)
        else:
            plain.append(word)
    return plain, named


def _said(given: Any) -> Said:
    match given:
        case Answer():
            return Said(given.done, () if given.done else (given.why_not,))
        case Became():
            return Said(True, (given.finding(),))
        case str():
            return Said(True, tuple(given.splitlines()))
        case _:
            return Said()
