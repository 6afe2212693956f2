"""Claims: each figure that a promise expects, and what was judged of it."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Any

from ...frozen_classes import frozen
from ...rulebook import InputError, Rulebook
from ...rulebook.problems import dotted
from ...rulebook.promises import AnyPromise

KEPT, BROKEN, UNDECIDED = "kept", "broken", "undecided"
VERDICTS = (BROKEN, UNDECIDED, KEPT)
"""Worst first."""
CLOSE = 0.1
STOPPED = "stopped before it was judged"
Progress = Callable[[int, int], None]


@frozen
class Judgement:
    """One figure of a promise: what was expected, what was found, and whether that is clear.

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
    def close(self) -> bool:
        """Whether the estimate, where it is no exact figure, lies in the outer part (`CLOSE`) of the span between its
        bounds. A bound of a share that nothing can cross, 0 or 1, is no bound that it could be close to."""
        span = self.most - self.least
        if not (self.fights and math.isfinite(span) and span > 0 and math.isfinite(self.estimate)):
            return False
        below, above = (self.estimate - self.least) / span, (self.most - self.estimate) / span
        share = self.unit == "share"
        return (below < CLOSE and not (share and self.least <= 0)) or (above < CLOSE and not (share and self.most >= 1))

    def record(self) -> dict[str, Any]:
        """Return the judgement as a record; what has no finite value is left empty."""
        return {
            name: None if isinstance(value, float) and not math.isfinite(value) else value
            for name, value in vars(self).items()
        }


@frozen
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
        """The path of the claim from the rulebook's root."""
        return ("promises", self.name, "expect", *self.path)

    @property
    def key(self) -> tuple[str, str, str]:
        """What tells it from all other figures: its promise, its path, and what it is about."""
        return self.name, dotted(self.full_path), self.what

    def judged(
        self, book: Rulebook, verdict: bool | None, estimate: float, low: float, high: float, **more: Any
    ) -> Judgement:
        """Return the judgement of this claim."""
        word = UNDECIDED if verdict is None else KEPT if verdict else BROKEN
        title = self.promise.title or self.name
        unit = book.clock.unit if self.unit == "s" else self.unit
        return Judgement(
            self.name,
            title,
            book.place(*self.full_path),
            dotted(self.full_path),
            self.what,
            word,
            *self.bounds,
            estimate,
            low,
            high,
            unit,
            **more,
        )


def impossible(book: Rulebook, name: str, promise: AnyPromise, error: InputError) -> Judgement:
    """Return the judgement of a promise about what can't even be set up."""
    claim = Claim(name, promise, (), (math.nan, math.nan), "this can't be tried")
    said = str(error).replace("\n", " ")
    return claim.judged(book, False, math.nan, math.nan, math.nan, note=" ".join(said.split()))


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
    words = {
        "wins": "share of wins",
        "short_of_mix": "share of duels short of a place in the mix",
        "mutual_downs": "share of mutual downs",
        "time_outs": "share of time-outs",
        "finish": "share that reach the end",
        "hours_to_level": "median hours to level",
        "hours_to_stage": "median hours to stage",
        "level_at": "median level on arrival",
        "end_level": "median level at the end",
        "bought": "levels bought on average",
        "damage_share": "share of the harm",
        "usage_share": "share of the uses",
    }
    if key in words:
        return words[key]
    head, _, tail = key.partition("_")
    return f"median of {head}" if tail == "median" else f"{tail}% quantile of {head}" if tail.isdecimal() else key


def _unit(key: str) -> str:
    if key in ("level_at", "end_level", "bought"):
        return "levels"
    return "s" if key.startswith("seconds") else "h" if key.startswith("hours") else "share"
