"""Promises that are worked out exactly: chances of checks and drops, hits to kill, prices, experience,
builds, and duels that can be solved."""

from __future__ import annotations

from collections.abc import Iterator
from math import nan

from ...rulebook import InputError, Rulebook
from ...rulebook.promises import (
    AnyPromise,
    BuildsPromise,
    CheckPromise,
    DropPromise,
    ExperiencePromise,
    HitsPromise,
    UpgradePromise,
)
from ...sheets import CharacterSpec, build_sheet
from .claims import Claim, Judgement, impossible
from .solved import solved


class LeftOut(Exception):
    """A figure that is not told, as what it rests on changes on the way; its text is the reason."""


Figure = tuple[float, str]
"""The value of something, and for whom."""


def exact(book: Rulebook) -> list[Judgement]:
    """Judge every promise that can be worked out."""
    found = []
    for name, promise in book.promises.items():
        try:
            found += [_judge(book, name, promise, *claim) for claim in claims(book, promise)]
        except LeftOut as reason:
            assert isinstance(promise, HitsPromise)
            low, high = promise.expect.hits_to_kill
            claim = Claim(name, promise, ("hits_to_kill",), (low, high), "hits to kill", "hits")
            found.append(
                claim.judged(book, None, nan, nan, nan, note=f"not told by hits: {reason}; promise seconds of a fight")
            )
        except InputError as error:
            found.append(impossible(book, name, promise, error))
    return [*found, *solved(book)]


def claims(book: Rulebook, promise: AnyPromise) -> Iterator[tuple[tuple, list[float], list[Figure], str]]:
    """Yield, of a promise that is worked out, for each figure that it expects: its path, its bounds, its value
    in each case, and its unit."""
    match promise:
        case CheckPromise():
            yield ("chance",), promise.expect.chance, _chances(book, promise), "share"
        case HitsPromise():
            yield ("hits_to_kill",), promise.expect.hits_to_kill, _hits(book, promise), "hits"
        case UpgradePromise():
            from ...sheets.upgrades import prices

            paid = prices(book, promise.upgrade)
            for key, price in (("first", paid[0]), ("last", paid[-1]), ("in_all", sum(paid))):
                if bounds := getattr(promise.expect, key):
                    yield (key,), bounds, [(float(price), f"of {promise.upgrade}")], "coin"
        case DropPromise():
            yield from _drops(book, promise)
        case ExperiencePromise():
            from ...sheets.experience import experience_totals

            totals = experience_totals(book, promise.experience)
            for level, bounds in promise.expect.to_level.items():
                total = float(totals[level - book.rulebook.levels[0]])
                yield ("to_level", str(level)), bounds, [(total, f"of {promise.experience}")], "experience"
        case BuildsPromise():
            from ...analysis.builds import Builds

            count = float(Builds(book).count(promise.builds))
            yield ("count",), promise.expect.count, [(count, f"of {promise.builds}")], "builds"


def _judge(
    book: Rulebook, name: str, promise: AnyPromise, path: tuple, bounds: list[float], figures: list[Figure], unit: str
) -> Judgement:
    """Judge one figure: by the case in which it strays farthest."""
    low, high = bounds
    strays = [(max(low - value, value - high), value, where) for value, where in figures]
    worst, value, where = max(strays)
    said = " ".join(path).replace("_", " ")
    if worst > 0:
        return Claim(name, promise, path, (low, high), f"{said} {where}", unit).judged(book, False, value, value, value)
    values = [value for value, _ in figures]
    what = f"{said}, wherever it is promised" if len(values) > 1 else f"{said} {where}"
    return Claim(name, promise, path, (low, high), what, unit).judged(book, True, min(values), min(values), max(values))


def _levels(book: Rulebook, promise: AnyPromise) -> list[int]:
    first, last = book.rulebook.levels
    return promise.levels or list(range(first, last + 1))


def _chances(book: Rulebook, promise: CheckPromise) -> list[Figure]:
    from ...analysis.odds import chance_of, wanted_by_level

    check, first = book.checks[promise.check], book.rulebook.levels[0]
    classes = promise.classes or [who for who in book.classes if check.is_for(who)]
    wanted = {who: wanted_by_level(book, promise.check, who) for who in classes}
    return [
        (float(chance_of(check, wanted[who][level - first])), f"of {who} at level {level}")
        for who in classes
        for level in _levels(book, promise)
    ]


def _hits(book: Rulebook, promise: HitsPromise) -> list[Figure]:
    from ...analysis.expected_damage import ExpectedDamage
    from ...analysis.left_out import left_out

    blow = promise.hits
    if why := left_out(book, build_sheet(book, CharacterSpec(blow.on, _levels(book, promise)[0]))):
        raise LeftOut(why)
    hits = ExpectedDamage(book, meetings=1).hits_to_kill(blow.by, blow.on, blow.with_)
    said = f"of {blow.with_} by {blow.by} on {blow.on}"
    return [
        (float(hits[level - book.rulebook.levels[0]]), f"{said} at level {level}") for level in _levels(book, promise)
    ]


def _drops(book: Rulebook, promise: DropPromise) -> Iterator[tuple[tuple, list[float], list[Figure], str]]:
    """Yield the chances of a drop table: each weight over the sum of all of them."""
    table = book.drops[promise.drop]
    total = table.nothing + sum(piece.weight for piece in table.pieces)
    for name, bounds in promise.expect.chance.items():
        weight = (
            sum(piece.weight for piece in table.pieces if piece.gear == name) if name != "nothing" else table.nothing
        )
        yield ("chance", name), bounds, [(weight / total, f"in {promise.drop}")], "share"
    weights = {name: rarity.weight for name, rarity in book.rarities.items()}
    for name, bounds in promise.expect.rarity.items():
        yield ("rarity", name), bounds, [(weights[name] / sum(weights.values()), f"in {promise.drop}")], "share"
