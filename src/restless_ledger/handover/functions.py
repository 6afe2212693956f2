"""The rules of a rulebook as pure functions."""

from __future__ import annotations

from collections.abc import Iterator

from ..formula import Program
from ..rulebook import Rulebook
from ..rulebook.problems import dotted
from ..rulebook.rulebook import GUARDS
from ..rulebook.walks import walk_book
from ..sheets.growth import growth_by_level
from .expressions import Expression, Function, Step, expression, identifier, rounded
from .hits import hit_function
from .mitigations import mitigation_functions


class Functions:
    """Every function of a rulebook."""

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        self.names: set[str] = set()
        self.hits: dict[tuple[str, str], str] = {}
        self.mitigations: dict[tuple[tuple, str], str] = {}
        most = (*self._formulas(), *self._growth(), *self._stats(), *self._hits(), *self._mitigations())
        self.all = [*most, self._booking()]
        read = {name for each in self.all for _, names in each.pages for name in names}
        self.page = sorted({identifier(name) for name in read} | self._written_in_steps())

    def _written_in_steps(self) -> set[str]:
        return {step.name.split(".")[1] for each in self.all for step in each.steps if "." in step.name}

    def _name(self, *words: str) -> str:
        name = identifier("_".join(words))
        number = 2
        while name in self.names:
            name, number = f"{identifier('_'.join(words))}_{number}", number + 1
        self.names.add(name)
        return name

    def _formulas(self) -> Iterator[Function]:
        seen: set[tuple] = set()
        for found in walk_book(self.book, (*GUARDS, "formulas", "damage", "healing")):
            if not isinstance(found.value, Program) or found.path in seen or not self._is_written(found.path):
                continue
            seen.add(found.path)
            yield Function(
                self._name(*map(str, found.path)),
                f"{self.book.place(*found.path)}: {dotted(found.path)}",
                found.value.text,
                (("page", found.value.names),),
                gives=expression(found.value.tree, "page"),
            )

    def _is_written(self, path: tuple) -> bool:
        return bool(self.book.place(*path))

    def _growth(self) -> Iterator[Function]:
        for who, entry in self.book.classes.items():
            for stat, growth in entry.growth.items():
                path = ("classes", who, "growth", stat)
                values = tuple(float(each) for each in growth_by_level(growth, self.book.rulebook.levels))
                says = "by level, held at the first and the last"
                yield Function(
                    self._name("growth", who, stat),
                    f"{self.book.place(*path)}: {dotted(path)}",
                    says,
                    numbers=("level",),
                    gives=("table", "level"),
                    values=values,
                )

    def _stats(self) -> Iterator[Function]:
        for name, stat in self.book.stats.items():
            ends = [end for end in (*stat.range, stat.is_) if isinstance(end, Program)]
            names = tuple(dict.fromkeys(word for end in ends for word in end.names))
            low, high = (expression(end.tree, "page") if isinstance(end, Program) else float(end) for end in stat.range)
            base: Expression = "start"
            if stat.is_ is not None:
                base = ("+", "start", expression(stat.is_.tree, "page"))
            changed = ("*", ("*", ("+", base, "added"), ("+", 1.0, "scaled")), "times")
            held = Step("held", ("least", ("greatest", changed, low), high), "held within its range")
            path = ("stats", name)
            yield Function(
                self._name("stat", name),
                f"{self.book.place(*path)}: {dotted(path)}",
                f"{stat.label or name}: (start + added) × (1 + scaled) × times, held, rounded: {stat.round}",
                (("page", names),),
                ("start", "added", "scaled", "times"),
                (held,),
                rounded("held", stat.round),
            )

    def _booking(self) -> Function:
        bottom = ("greatest", "bottom", ("least", ("+", "now", "asked"), ("greatest", "top", "now")))
        return Function(
            self._name("book_change"),
            "",
            "how much of a change a gauge takes, all in thousandths",
            numbers=("now", "asked", "top", "bottom"),
            steps=(Step("after", bottom),),
            gives=("-", "after", "now"),
        )

    def _hits(self) -> Iterator[Function]:
        for chapter in ("damage", "healing"):
            for name, kind in getattr(self.book, chapter).items():
                self.hits[chapter, name] = self._name("hit", name)
                yield hit_function(self.book, (chapter, name), kind, self.hits[chapter, name])

    def _mitigations(self) -> Iterator[Function]:
        for path, what, function in mitigation_functions(self.book, self._name):
            self.mitigations[path, what] = function.name
            yield function
