"""Promises judged: what is expected of outcomes, each figure by a sequential rule, and exactly where that can be."""

from __future__ import annotations

from collections.abc import Callable

from ...rulebook import Rulebook
from .claims import VERDICTS, Judgement

Progress = Callable[[int, int], None]


def judge(book: Rulebook, seed: int = 1, progress: Progress | None = None) -> list[Judgement]:
    """Judge every promise of a rulebook, worst first.

    Each figure that is sampled gets an equal part of `audit.error_rate`, so that the chance of any wrong verdict stays
    below it (Bonferroni's inequality). `progress` is called with (judged, all). At Ctrl-C what is not clear by then is
    undecided.
    """
    from .sampled import Sampled
    from .worked_out import exact

    found = exact(book)
    sampled = Sampled(book, seed, frozenset((each.promise, each.path, each.what) for each in found))
    try:
        for done, judgements in enumerate(sampled.judge(), 1):
            found += judgements
            if progress:
                progress(done, len(sampled.trials))
    except KeyboardInterrupt:
        found += sampled.unjudged()
    return worst_first(book, found)


def worst_first(book: Rulebook, judgements: list[Judgement]) -> list[Judgement]:
    """Return judgements by their verdict, and within one as the rulebook lists the promises."""
    places = {name: index for index, name in enumerate(book.promises)}
    return sorted(judgements, key=lambda each: (VERDICTS.index(each.verdict), places[each.promise]))
