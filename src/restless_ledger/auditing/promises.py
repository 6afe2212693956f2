"""Promises judged: what is expected of outcomes, each figure by a sequential rule, and exactly where that can be."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from ..rulebook import InputError, Rulebook
from ..rulebook.problems import dotted
from ..rulebook.promises import AnyPromise, CheckPromise, HitsPromise

KEPT, BROKEN, UNDECIDED = "kept", "broken", "undecided"
VERDICTS = (BROKEN, UNDECIDED, KEPT)
"""Worst first."""
Progress = Callable[[int, int], None]


@dataclass(frozen=True)
class Judgement:
    """One figure of a promise: what was expected, what it came to, and whether that is clear.

    `low` to `high` is its interval (both the estimate itself where it is exact); `fights` how many fights or runs were
    spent; `telling` the number of a fight or run that shows what is wrong; `more` how many fights a verdict would take.
    """

    promise: str
    title: str
    place: str
    path: str
    what: str
    verdict: str
    least: float
    most: float
    estimate: float
    low: float
    high: float
    unit: str
    fights: int = 0
    seed: int | None = None
    telling: int | None = None
    where: str = ""
    more: int | None = None
    note: str = ""

    @property
    def order(self) -> tuple:
        return (VERDICTS.index(self.verdict), self.promise, self.path)

    def record(self) -> dict[str, Any]:
        """Return the judgement as a record; what has no finite value is left empty."""
        return {name: None if isinstance(value, float) and not math.isfinite(value) else value
                for name, value in vars(self).items()}  # fmt: skip


@dataclass(frozen=True)
class Claim:
    """One figure that a promise expects: its path below `expect`, and its bounds."""

    name: str
    promise: AnyPromise
    path: tuple
    bounds: tuple[float, float]
    what: str
    unit: str = ""

    @property
    def full_path(self) -> tuple:
        return ("promises", self.name, "expect", *self.path)

    def judged(self, book: Rulebook, verdict: bool | None, estimate: float, low: float, high: float,
               **more: Any) -> Judgement:  # fmt: skip
        """Return the judgement of this claim."""
        word = UNDECIDED if verdict is None else KEPT if verdict else BROKEN
        title = self.promise.title or self.name
        unit = book.clock.unit if self.unit == "s" else self.unit
        return Judgement(self.name, title, book.place(*self.full_path), dotted(self.full_path), self.what, word,
                         *self.bounds, estimate, low, high, unit, **more)  # fmt: skip


def exact(book: Rulebook) -> list[Judgement]:
    """Judge what can be worked out: the chances of checks, and hits to kill."""
    found = []
    for name, promise in book.promises.items():
        if isinstance(promise, CheckPromise | HitsPromise):
            try:
                found.append(_exact(book, name, promise))
            except InputError as error:
                found.append(impossible(book, name, promise, error))
    return found


def impossible(book: Rulebook, name: str, promise: AnyPromise, error: InputError) -> Judgement:
    """Return the judgement of a promise about what can't even be set up."""
    claim = Claim(name, promise, (), (math.nan, math.nan), "this can't be tried")
    said = str(error).replace("\n", " ")
    return claim.judged(book, False, math.nan, math.nan, math.nan, note=" ".join(said.split()))


def _exact(book: Rulebook, name: str, promise: CheckPromise | HitsPromise) -> Judgement:
    """Judge a promise whose figure is exact: by the class and level at which it strays farthest."""
    first, last = book.rulebook.levels
    levels = promise.levels or list(range(first, last + 1))
    if isinstance(promise, CheckPromise):
        key, figures, unit = "chance", _chances(book, promise, levels), "share"
    else:
        key, figures, unit = "hits_to_kill", _hits(book, promise, levels), "hits"
    bounds = tuple(getattr(promise.expect, key))
    values = {value for value, _ in figures}
    strays = [(max(bounds[0] - value, value - bounds[1]), value, where) for value, where in figures]
    worst, value, where = max(strays)
    what = f"{key.replace('_', ' ')} {where}" if worst > 0 else f"{key.replace('_', ' ')}, wherever it is promised"
    claim = Claim(name, promise, (key,), (bounds[0], bounds[1]), what, unit)
    low, high = (value, value) if worst > 0 else (min(values), max(values))
    return claim.judged(book, worst <= 0, value if worst > 0 else low, low, high)


def _chances(book: Rulebook, promise: CheckPromise, levels: list[int]) -> list[tuple[float, str]]:
    from ..sheet import build_sheet
    from ..study.odds import odds_of

    check = book.checks[promise.check]
    classes = promise.classes or [who for who in book.classes if check.is_for(who)]
    return [(float(odds_of(book, promise.check, build_sheet(book, who, level)).chance), f"of {who} at level {level}")
            for who in classes for level in levels]  # fmt: skip


def _hits(book: Rulebook, promise: HitsPromise, levels: list[int]) -> list[tuple[float, str]]:
    from ..study import Blows

    blow = promise.hits
    hits = Blows(book).hits_to_kill(blow.by, blow.on, blow.with_)
    said = f"of {blow.with_} by {blow.by} on {blow.on}"
    return [(float(hits[level - book.rulebook.levels[0]]), f"{said} at level {level}") for level in levels]


def judge(book: Rulebook, seed: int = 1, progress: Progress | None = None) -> list[Judgement]:
    """Judge every promise of a rulebook, worst first.

    Each figure that is sampled gets an equal part of `audit.error_rate`, so that the chance of any wrong verdict stays
    below it (Bonferroni's inequality). `progress` is called with (judged, all). At Ctrl-C what is not clear by then is
    undecided.
    """
    from .judging import Sampled

    sampled = Sampled(book, seed)
    found = exact(book)
    try:
        for done, judgements in enumerate(sampled.judge(), 1):
            found += judgements
            if progress:
                progress(done, len(sampled.trials))
    except KeyboardInterrupt:
        found += sampled.unjudged()
    return sorted(found, key=lambda judgement: judgement.order)


def claims_of(name: str, promise: AnyPromise, where: str) -> Iterator[Claim]:
    """Yield each figure that a promise of fights, of a journey or of duels expects; `where` says of which variant."""
    expect = promise.expect
    for key in type(expect).model_fields:
        value = getattr(expect, key)
        if isinstance(value, list):
            yield Claim(name, promise, (key,), (value[0], value[1]), f"{_said(key)}{where}", _unit(key))
        elif isinstance(value, dict):
            for inner, bounds in value.items():
                pairs = bounds.items() if isinstance(bounds, dict) else [("", bounds)]
                for deed, pair in pairs:
                    path = (key, str(inner), deed) if deed else (key, str(inner))
                    of = f" of {inner}" if not deed else f" of {deed} among all by {inner}"
                    yield Claim(name, promise, path, (pair[0], pair[1]), f"{_said(key)}{of}{where}", _unit(key))
        elif value is True:
            yield Claim(name, promise, (key,), (1.0, 1.0), f"nobody is dominated{where}", "")


def _said(key: str) -> str:
    words = {"wins": "share of wins", "mutual_downs": "share of mutual downs", "time_outs": "share of time-outs",
             "finish": "share that come to the end", "hours_to_level": "median hours to level",
             "damage_share": "share of the harm", "usage_share": "share of the uses"}  # fmt: skip
    if key in words:
        return words[key]
    head, _, tail = key.partition("_")
    return f"median of {head}" if tail == "median" else f"{tail}% quantile of {head}" if tail.isdecimal() else key


def _unit(key: str) -> str:
    return "s" if key.startswith("seconds") else "h" if key.startswith("hours") else "share"
