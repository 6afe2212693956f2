"""What is asked of a whole rulebook: the audit, a comparison, levers, tuning, fights seen in play."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from ..asking import asked
from ..results import Result
from ..rulebook import Rulebook

if TYPE_CHECKING:
    from concurrent.futures import Executor

    from ..archive import History
    from ..auditing import Audit
    from ..auditing.comparison import PromisedComparison
    from ..engine.run import Progress
    from ..handover import Reconciled
    from ..reporting import Report
    from ..study.levers import Levers
    from ..study.observed import Observed
    from ..study.tune import Tuning


@asked
def audit(
    book: Rulebook,
    *,
    quick: bool = False,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Audit:
    """Audit a rulebook: findings, worked examples, promises. `quick` leaves out what must be simulated.

    The seed decides the fights by which promises are judged; `progress` is called with (judged, all). At Ctrl-C the
    promises not judged by then are undecided. Raises `InputError` where the rulebook sets a check there isn't.
    """
    from ..auditing import Audit
    from ..workers import working

    with working(threads, executor):
        return Audit(book, quick, seed, progress)


@asked
def compare(
    old: Rulebook,
    new: Rulebook,
    *,
    fights: int = 4000,
    seed: int = 1,
    promises: bool = False,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> PromisedComparison:
    """Compare two rulebooks: values that changed, sheets, and every encounter fought by both with the same luck.

    With `promises` those of both are judged too, and it says which have turned. At Ctrl-C what was compared by then is
    kept. Raises `InputError` on fewer than 2 fights.
    """
    from ..auditing.comparison import PromisedComparison
    from ..workers import working

    with working(threads, executor):
        return PromisedComparison(old, new, fights, seed, promises, progress)


@asked
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
    threads: int | None = None,
    executor: Executor | None = None,
) -> Levers:
    """Vary numbers of a rulebook one by one, and rank them by what that does to an encounter, with the same luck.

    `only` names numbers by their dotted path, or a path above them. Raises `InputError` on an unknown encounter, side
    or number, and for a rulebook that was not read from files.
    """
    from ..study.levers import Levers
    from ..workers import working

    with working(threads, executor):
        return Levers(book, encounter, only, step, fights, seed, side, progress)


@asked
def observed(
    book: Rulebook,
    fights_seen: str | Path,
    *,
    fights: int = 4000,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Observed:
    """Hold fights observed in play, read from a CSV file, against the simulation of the same encounters.

    The file has the columns encounter, winner, and perhaps seconds, damage and level. Raises `InputError` on a file,
    column or row that can't be used.
    """
    from ..study.observed import Observed
    from ..study.observed_fights import read_seen
    from ..workers import working

    with working(threads, executor):
        return Observed(book, read_seen(book, fights_seen), fights, seed, progress)


@asked
def reconcile(book: Rulebook, log: str | Path) -> Reconciled:
    """Hold a game's log against the rules, line by line; where it does not fit, say which usual mistake explains it.

    The log is JSON Lines: a head that names who is in it, then a line for each hit, use, change of a gauge and buff.
    Raises `InputError` on a line that can't be read, with its number.
    """
    from ..handover import Reconciled

    return Reconciled(book, log)


@asked
def tune(
    book: Rulebook,
    targets: Sequence[str],
    vary: Sequence[str],
    *,
    fights: int = 4000,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
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
    from ..workers import working

    found: list[Target] = []
    for target in targets:
        found += [target_of(book, target)] if ":" in target else targets_of_promise(book, target)
    with working(threads, executor):
        return Tuning(book, found, [variable_of(book, each) for each in vary], fights, seed, progress)


@asked
def keep(result: Result, store: str | Path, *, command: str = "", rules: str | Path | None = None) -> None:
    """Append the figures of a result to a run store: with the values of its rulebook, the time, and the revision that
    version control has of the files at `rules`, if they are named.

    A store is a file of SQLite, or a directory of Parquet files (its name ends in `/` or `.parquet`). Any number of
    processes may append at once. `command` says what was asked. Raises `InputError` on a result that has no figures
    with intervals, and on a store that can't be written.
    """
    from ..archive import keep as append

    append(result, store, command, rules)


@asked
def history(store: str | Path, figure: str | None = None) -> History:
    """Read a run store: what its figures did over time, and which changes moved them beyond chance.

    `figure` is one figure, or the beginning of several; all of them unless it is given. Raises `InputError` where there
    is no store, and on a figure that is not in it.
    """
    from ..archive import History

    return History(store, figure)


@asked
def report(
    book: Rulebook,
    out: str | Path,
    *,
    since: Rulebook | None = None,
    fights: int = 1000,
    seed: int = 1,
    quick: bool = False,
    rulebook: str | Path | None = None,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Report:
    """Write a page of HTML with all that can be said of a rulebook: findings, promises, characters, encounters,
    matchups, journeys, and with `since` what changed since another rulebook. The page needs no network and no other
    file.

    `out` is a file that ends in .html, or a directory, in which index.html is written. Every encounter is fought
    `fights` times, every journey walked a tenth as often; with `quick` what must be simulated is left out. `rulebook`
    is where the rules lie, for the revision that version control has of them and for the commands on the page.
    `progress` is called with (done, all) in steps. At Ctrl-C the page holds what was done by then. Raises `InputError`
    where the page can't be written.
    """
    from ..reporting import Report
    from ..reporting.report import page_file
    from ..workers import working

    page_file(out)
    with working(threads, executor):
        made = Report(book, since, fights, seed, quick, rulebook, progress)
    made.put(out)
    return made
