"""What is asked of fights: one, many, duels, everyone against everyone."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from ..asking import asked
from ..rulebook import Rulebook

if TYPE_CHECKING:
    from concurrent.futures import Executor

    from ..duels.duel import Duel
    from ..engine.run import Progress
    from ..ledger import Fight
    from ..monte_carlo import Trials
    from ..study.matchups import Matchups


@asked
def fight(book: Rulebook, encounter: str, *, seed: int = 1, number: int = 0) -> Fight:
    """Play one fight of an encounter and keep its ledger. `number` is its place among the trials of that seed.

    Raises `InputError` on an unknown encounter or a character that can't be built, `FightFault` where a formula has
    no finite value.
    """
    from ..engine import set_up
    from ..ledger import Fight

    return Fight.play(set_up(book, encounter), seed, number)


@asked
def trials(
    book: Rulebook,
    encounter: str,
    *,
    fights: int = 10_000,
    seed: int = 1,
    chunk: int | None = None,
    progress: Progress | None = None,
    precision: float | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Trials:
    """Fight an encounter many times. The seed alone decides what comes out; workers and chunk size change nothing.

    Fights are fought on `threads` of this process (one for each processor unless it is said), or by the workers of an
    `executor`: any `concurrent.futures.Executor`, of this machine or of many. Its functions and arguments are pickled.

    With a `precision` it stops as soon as the 95% interval of every outcome is at most twice as wide, and `fights` is
    the most that are fought.

    `progress` is called with (done, asked). At Ctrl-C the trials hold the fights done so far. Raises as `fight`.
    """
    from ..engine import set_up
    from ..monte_carlo import Trials
    from ..workers import working

    with working(threads, executor):
        if precision is not None:
            return Trials.play_until(set_up(book, encounter), precision, fights, seed, progress)
        return Trials.play(set_up(book, encounter), fights, seed, chunk, progress)


@asked
def duel(
    book: Rulebook,
    one: str,
    other: str,
    *,
    level: int | None = None,
    fights: int = 10_000,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Duel:
    """Let two classes meet, or classes with gear (`rigger+boat_hook`), at one level (the first there is unless given):
    how many hits and seconds each ability takes, and who wins.

    It is solved exactly where luck changes nothing but amounts, and fought this many times where it changes more; the
    result says which. Raises `InputError` on an unknown name or level.
    """
    from ..duels.duel import Duel
    from ..workers import working

    with working(threads, executor):
        return Duel(book, one, other, level, fights, seed, progress)


@asked
def matchups(
    book: Rulebook,
    *,
    who: Sequence[str] = (),
    levels: Sequence[int] = (),
    precision: float = 0.02,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Matchups:
    """Fight everyone against everyone: win rates, ratings, and the mix that a rational field would play.

    `who` are classes, classes with gear (`rigger+boat_hook`) and parties (`rigger,warden`); those of journeys' parties
    unless some are named. Every pair is fought until its 95% interval is at most twice `precision` wide. Raises
    `InputError` on an unknown name, a level there isn't and fewer than two contestants.
    """
    from ..study.matchups import Matchups
    from ..workers import working

    with working(threads, executor):
        return Matchups(book, who, levels, precision, seed, progress)
