"""What is asked of a whole rulebook: the audit, a comparison, levers, tuning, fights seen in play."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from ..rulebook import Rulebook

if TYPE_CHECKING:
    from ..auditing import Audit
    from ..auditing.comparison import PromisedComparison
    from ..engine.run import Progress
    from ..handover import Reconciled
    from ..study.levers import Levers
    from ..study.observed import Observed
    from ..study.tune import Tuning


def audit(book: Rulebook, *, quick: bool = False, seed: int = 1, progress: Progress | None = None) -> Audit:
    """Audit a rulebook: findings, worked examples, promises. `quick` leaves out what must be simulated.

    The seed decides the fights by which promises are judged; `progress` is called with (judged, all). At Ctrl-C the
    promises not judged by then are undecided. Raises `InputError` where the rulebook sets a check there isn't.
    """
    from ..auditing import Audit

    return Audit(book, quick, seed, progress)


def compare(
    old: Rulebook,
    new: Rulebook,
    *,
    fights: int = 4000,
    seed: int = 1,
    promises: bool = False,
    progress: Progress | None = None,
) -> PromisedComparison:
    """Compare two rulebooks: values that changed, sheets, and every encounter fought by both with the same luck.

    With `promises` those of both are judged too, and it says which have turned. At Ctrl-C what was compared by then is
    kept. Raises `InputError` on fewer than 2 fights.
    """
    from ..auditing.comparison import PromisedComparison

    return PromisedComparison(old, new, fights, seed, promises, progress)


def levers(
    book: Rulebook,
    encounter: str,
    *,
    only: Sequence[str] = (),
    step: float = 0.05,
    fights: int = 2000,
    seed: int = 1,
    side: str | None = None,
    progress: Progress | None = None,
) -> Levers:
    """Vary numbers of a rulebook one by one, and rank them by what that does to an encounter, with the same luck.

    `only` names numbers by their dotted path, or a path above them. Raises `InputError` on an unknown encounter, side
    or number, and for a rulebook that was not read from files.
    """
    from ..study.levers import Levers

    return Levers(book, encounter, only, step, fights, seed, side, progress)


def observed(
    book: Rulebook, fights_seen: str | Path, *, fights: int = 4000, seed: int = 1, progress: Progress | None = None
) -> Observed:
    """Hold fights observed in play, read from a CSV file, against the simulation of the same encounters.

    The file has the columns encounter, winner, and perhaps seconds, damage and level. Raises `InputError` on a file,
    column or row that can't be used.
    """
    from ..study.observed import Observed
    from ..study.observed_fights import read_seen

    return Observed(book, read_seen(book, fights_seen), fights, seed, progress)


def reconcile(book: Rulebook, log: str | Path) -> Reconciled:
    """Hold a game's log against the rules, line by line; where it does not fit, say which usual mistake explains it.

    The log is JSON Lines: a head that names who is in it, then a line for each hit, use, change of a gauge and buff.
    Raises `InputError` on a line that can't be read, with its number.
    """
    from ..handover import Reconciled

    return Reconciled(book, log)


def tune(
    book: Rulebook,
    targets: Sequence[str],
    vary: Sequence[str],
    *,
    fights: int = 4000,
    seed: int = 1,
    progress: Progress | None = None,
) -> Tuning:
    """Find the smallest change of some numbers that meets some targets, verified with luck that the search has not
    seen.

    A target is `ENCOUNTER:SIDE=low..high` (share of wins), `ENCOUNTER:seconds=low..high` (mean length) or another
    figure of fights, at one level with `ENCOUNTER@LEVEL`; or the name of a promise, and with it all that this promises.
    A number to vary is `PATH`, `PATH=low..high` or `PATH=low..high/step`. Raises `InputError` on what is none of these.
    At Ctrl-C what was best by then is verified."""
    from ..auditing.promises.targets import targets_of_promise
    from ..study.targets import Target, target_of, variable_of
    from ..study.tune import Tuning

    found: list[Target] = []
    for target in targets:
        found += [target_of(book, target)] if ":" in target else targets_of_promise(book, target)
    return Tuning(book, found, [variable_of(book, each) for each in vary], fights, seed, progress)
