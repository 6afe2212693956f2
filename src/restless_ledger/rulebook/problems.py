"""What is wrong with a rulebook: where, what, what was got, what would be right. All of it at once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Protocol

from ..formula import Program, unknown_names
from ..formula.errors import closest
from ..frozen_classes import frozen
from .pages import RESERVED, Page, gauge_names

if TYPE_CHECKING:
    pass


GOT = "got: "
NEAR = ("foes_near(", "mates_near(")
"""What is asked about a distance, which may be any number."""
OF_CHAPTER = {"buffs": ("marked", "stacks"), "abilities": ("ready", "winding_up")}
"""By chapter: the words that take a name that it declares."""


@frozen
class Problem:
    """One thing that is wrong. `place` is `file:line`, or just the file; `path` the dotted path, or empty."""

    place: str
    path: str
    what: str
    got: str = ""
    remedy: str = ""

    @property
    def file(self) -> str:
        """The file in which it stands."""
        return _order(self.place)[0]

    @property
    def line(self) -> int:
        """The line at which it stands, from 1; 0 where there is none."""
        return _order(self.place)[1]

    def __str__(self) -> str:
        head = f"{self.place}: {self.path}: {self.what}" if self.path else f"{self.place}: {self.what}"
        got = f"\n    got: {self.got}" if self.got else ""
        remedy = f"\n    {self.remedy}" if self.remedy else ""
        return head + got + remedy


class InputError(ValueError):
    """Input that can't be used. Its text says what is wrong and where, the value found, and the remedy."""

    @property
    def what(self) -> str:
        """What is wrong, and where: the first line of the text."""
        return str(self).partition("\n")[0]

    @property
    def got(self) -> str:
        """The value found, or nothing where the text does not tell it."""
        return next((line[len(GOT) :] for line in self._more() if line.startswith(GOT)), "")

    @property
    def remedy(self) -> str:
        """What to write instead, or nothing where the text does not tell it."""
        return " ".join(line for line in self._more() if not line.startswith(GOT))

    def _more(self) -> list[str]:
        return [line.strip() for line in str(self).splitlines()[1:]]


class RulebookError(InputError):
    """A rulebook that can't be read; `problems` lists everything that is wrong with it."""

    def __init__(self, problems: Iterable[Problem]) -> None:
        self.problems = sorted(problems, key=lambda problem: _order(problem.place))
        count = len(self.problems)
        text = "\n".join(str(problem) for problem in self.problems)
        super().__init__(text if count == 1 else f"{text}\n{count} problems in the rulebook")

    def __reduce__(self) -> tuple[type[RulebookError], tuple[list[Problem]]]:
        return type(self), (self.problems,)


def _order(place: str) -> tuple[str, int]:
    file, _, line = place.rpartition(":")
    return (file, int(line)) if line.isdecimal() else (place, 0)


class Locator(Protocol):
    """Anything that can say at which file and line a dotted path was written."""

    def place(self, path: tuple) -> str:
        """Return `file:line` of a path."""
        ...


def dotted(path: tuple) -> str:
    """Write a path as TOML would: `classes.rigger.growth`, `encounters.duel.sides[0]`."""
    text = ""
    for part in path:
        text += f"[{part}]" if isinstance(part, int) else f".{part}"
    return text.lstrip(".")


def nearest(got: str, known: Iterable[str]) -> str:
    """Return the remedy for an unknown name: the nearest known one, or a list of them."""
    names = list(known)
    near = closest(str(got), names)
    if near:
        return f"did you mean {near}?"
    if not names:
        return "none is declared"
    return "there are: " + ", ".join(names[:12]) + (" …" if len(names) > 12 else "")


@dataclass
class Report:
    """Gathers the problems of one rulebook while its chapters check themselves.

    `broken` names, by chapter, the entries that could not be read, or not whole: they count as declared,
    so that one fault is reported once.
    """

    locator: Locator
    broken: dict[str, set[str]] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def add(self, path: tuple, what: str, got: object = "", remedy: str = "") -> None:
        """Add a problem at a path: what is wrong, what was found, what to write instead."""
        self.problems.append(Problem(self.locator.place(path), dotted(path), what, f"{got}", remedy))

    def known(self, chapter: str, names: Iterable[str]) -> list[str]:
        """Return the names of a chapter, those that could not be read included."""
        return list(dict.fromkeys([*names, *sorted(self.broken.get(chapter, ()))]))

    def reference(
        self, path: tuple, noun: str, got: str | None, chapter: str, names: Iterable[str], *, hint: str = ""
    ) -> None:
        """Report a name that the chapter doesn't declare; a hint follows the nearest one that it does."""
        known = self.known(chapter, names)
        if got is not None and got not in known:
            self.add(
                path, f"there is no {noun} of this name", got, "; ".join(filter(None, (nearest(got, known), hint)))
            )

    def formula(self, path: tuple, program: Program | None, page: Page) -> None:
        """Report every name of a formula that its page lacks."""
        if program is None or all(name in page.known for name in program.names):
            return
        broken_gauges = (word for gauge in self.broken.get("gauges", ()) for word in gauge_names(gauge))
        names = [*page.names, *self.broken.get("stats", ()), *broken_gauges]
        names += [name for name in program.names if name.startswith(NEAR)] if "foes_left" in page.known else []
        broken = (words for chapter, words in OF_CHAPTER.items() if self.broken.get(chapter))
        hidden = tuple(f"there is no {word}(" for words in broken for word in words)
        for error in unknown_names(program, names, page.title):
            if not error.what.startswith(hidden):
                self.add(path, str(error))

    def own_name(self, path: tuple, name: str, reserved: frozenset[str] = RESERVED) -> None:
        """Report a name that formulas could not tell from a word of their own."""
        if name in reserved:
            self.add(path, f"{name} is a word of the formula language", "", "give it another name")
