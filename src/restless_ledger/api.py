"""The face of the library: functions that answer what people ask of a rulebook. What follows the subject is named."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from . import rulebook
from .asking import asked
from .rulebook import Rulebook
from .sheets import CharacterSpec, Item, Sheet, build_sheet

if TYPE_CHECKING:
    import numpy as np

    from .auditing import Audit
    from .auditing.comparison import PromisedComparison
    from .engine.run import Progress
    from .ledger import Fight, Live
    from .progress import Drops, Journeys, Spent, Upgrades
    from .study import Builds, Curves, Falls, OddsTable, Trials
    from .study.duels import Duel
    from .study.levers import Levers
    from .study.matchups import Matchups
    from .study.observed import Observed
    from .study.tune import Tuning

DEMO = Path(__file__).parent / "demo" / "gullwick"
FAULTY = Path(__file__).parent / "demo" / "faulty"


@asked
def load(path: str | Path) -> Rulebook:
    """Read a rulebook: a directory of TOML files, or one file.

    Raises `RulebookError`, which lists all that is wrong with file, line, path and remedy, and `InputError` when
    there is nothing to read.
    """
    return rulebook.load(path)


def demo() -> Rulebook:
    """Read the shipped rulebook, the Gullwick Stair."""
    return load(DEMO)


def faulty() -> Rulebook:
    """Read the shipped rulebook that is wrong on purpose: it shows every finding at least once."""
    return load(FAULTY)


@asked
def sheet(
    book: Rulebook,
    who: str | CharacterSpec,
    *,
    level: int | None = None,
    buffs: Sequence[str] = (),
    origin: str | None = None,
    attributes: Mapping[str, int] | None = None,
    gear: Sequence[str | Item] = (),
    taught: Sequence[str] = (),
    bought: Mapping[str, int] | None = None,
) -> Sheet:
    """Build a class at a level (the first there is unless given), with the named buffs on; or a `CharacterSpec`.

    With an origin, `attributes` are the values that the player chose; the others stay where they open. `gear` is worn:
    names, whose rolled changes are as they are on average, or items of drops. `taught` are abilities that an event has
    taught, `bought` the levels of upgrades. Raises `InputError` on an unknown name, a level there isn't, a build or
    gear that isn't allowed, and a gauge whose top is not above zero.
    """
    if isinstance(who, CharacterSpec):
        return build_sheet(book, who)
    return build_sheet(book, CharacterSpec(who, level, origin, attributes or {}, gear, taught, bought or {}, buffs))


@asked
def audit(book: Rulebook, *, quick: bool = False, seed: int = 1, progress: Progress | None = None) -> Audit:
    """Audit a rulebook: findings, worked examples, promises. `quick` leaves out what must be simulated.

    The seed decides the fights by which promises are judged; `progress` is called with (judged, all). At Ctrl-C the
    promises not judged by then are undecided. Raises `InputError` where the rulebook sets a check there isn't.
    """
    from .auditing import Audit

    return Audit(book, quick, seed, progress)


@asked
def fight(book: Rulebook, encounter: str, *, seed: int = 1, number: int = 0) -> Fight:
    """Play one fight of an encounter and keep its ledger. `number` is its place among the trials of that seed.

    Raises `InputError` on an unknown encounter or a character that can't be built, `FightFault` where a formula has
    no finite value.
    """
    from .engine import set_up
    from .ledger import Fight

    return Fight.play(set_up(book, encounter), seed, number)


@asked
def trials(
    book: Rulebook,
    encounter: str,
    *,
    fights: int = 10_000,
    seed: int = 1,
    threads: int | None = None,
    chunk: int | None = None,
    progress: Progress | None = None,
    precision: float | None = None,
) -> Trials:
    """Fight an encounter many times. The seed alone decides what comes out; threads and chunk size change nothing.

    With a `precision` it stops as soon as the 95% interval of every outcome is at most twice as wide, and `fights` is
    the most that are fought.

    `progress` is called with (done, asked). At Ctrl-C the trials hold the fights done so far. Raises as `fight`.
    """
    from .engine import set_up
    from .study import Trials

    if precision is not None:
        return Trials.play_until(set_up(book, encounter), precision, fights, seed, threads, progress)
    return Trials.play(set_up(book, encounter), fights, seed, threads, chunk, progress)


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
) -> Duel:
    """Let two classes meet, or classes with gear (`rigger+boat_hook`), at one level (the first there is unless given):
    how many hits and seconds each ability takes, and who wins.

    It is solved exactly where luck changes nothing but amounts, and fought so many times where it changes more; the
    result says which. Raises `InputError` on an unknown name or level.
    """
    from .study.duels import Duel

    return Duel(book, one, other, level, fights, seed, progress)


@asked
def builds(book: Rulebook) -> Builds:
    """Count the builds that character creation allows, exactly: per origin, and what the origins have in common.

    Raises `InputError` where the rulebook has no origins or no attributes.
    """
    from .study import Builds

    return Builds(book)


@asked
def odds(book: Rulebook, *, checks: Sequence[str] = (), levels: Sequence[int] | None = None) -> OddsTable:
    """Work out the exact chance of passing stat checks (all, unless some are named) by class and level.

    Raises `InputError` on an unknown check, a level there isn't, and a formula without a finite value.
    """
    from .study import OddsTable

    return OddsTable(book, checks, levels)


@asked
def curves(book: Rulebook, *, who: Sequence[str] = (), figures: Sequence[str] = ()) -> Curves:
    """Lay the stats, gauges and experience of classes (all unless some are named) side by side, level by level.

    `figures` names stats and gauges; all are shown unless some are named. Raises `InputError` on an unknown name.
    """
    from .study import Curves

    return Curves(book, who, figures)


@asked
def drops(book: Rulebook, table: str, *, count: int = 1, seed: int = 1) -> Drops:
    """Roll a drop table so many times; each drop has its own rolled changes. Drop k of a seed is always the same.

    Raises `InputError` on an unknown table.
    """
    from .progress import Drops

    return Drops(book, table, count, seed)


@asked
def journey(
    book: Rulebook,
    name: str,
    *,
    runs: int = 1000,
    seed: int = 1,
    threads: int | None = None,
    progress: Progress | None = None,
) -> Journeys:
    """Walk a journey many times, every fight really fought. The seed alone decides what comes out.

    `progress` is called with (done, asked). At Ctrl-C the journeys hold the runs done so far. Raises `InputError` on an
    unknown journey and a member that can't be built, `FightFault` where a formula has no finite value.
    """
    from .progress import Journeys

    return Journeys(book, name, runs, seed, threads, progress)


@asked
def matchups(
    book: Rulebook,
    *,
    who: Sequence[str] = (),
    levels: Sequence[int] = (),
    precision: float = 0.02,
    seed: int = 1,
    progress: Progress | None = None,
) -> Matchups:
    """Fight everyone against everyone: win rates, ratings, and the mix that a rational field would play.

    `who` are classes, classes with gear (`rigger+boat_hook`) and parties (`rigger,warden`); those of journeys' parties
    unless some are named. Every pair is fought until its 95% interval is at most twice `precision` wide. Raises
    `InputError` on an unknown name, a level there isn't and fewer than two contestants.
    """
    from .study.matchups import Matchups

    return Matchups(book, who, levels, precision, seed, progress)


@asked
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
    from .auditing.comparison import PromisedComparison

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
) -> Levers:
    """Vary numbers of a rulebook one by one, and rank them by what that does to an encounter, with the same luck.

    `only` names numbers by their dotted path, or a path above them. Raises `InputError` on an unknown encounter, side
    or number, and for a rulebook that was not read from files.
    """
    from .study.levers import Levers

    return Levers(book, encounter, only, step, fights, seed, side, progress)


@asked
def observed(
    book: Rulebook, fights_seen: str | Path, *, fights: int = 4000, seed: int = 1, progress: Progress | None = None
) -> Observed:
    """Hold fights observed in play, read from a CSV file, against the simulation of the same encounters.

    The file has the columns encounter, winner, and perhaps seconds, damage and level. Raises `InputError` on a file,
    column or row that can't be used.
    """
    from .study.observed import Observed, read_seen

    return Observed(book, read_seen(book, fights_seen), fights, seed, progress)


@asked
def tune(
    book: Rulebook,
    aims: Sequence[str],
    moves: Sequence[str],
    *,
    fights: int = 4000,
    seed: int = 1,
    progress: Progress | None = None,
) -> Tuning:
    """Find the smallest change of some numbers that meets some aims, verified with luck that the search has not seen.

    An aim is `ENCOUNTER:SIDE=low..high` (share of wins), `ENCOUNTER:seconds=low..high` (mean length) or another figure
    of fights, at one level with `ENCOUNTER@LEVEL`; or the name of a promise, and with it all that this promises. A move
    is `PATH`, `PATH=low..high` or `PATH=low..high/step`. Raises `InputError` on what is none of these. At Ctrl-C what
    was best by then is verified.
    """
    from .auditing.aims import aims_of_promise
    from .study.aims import Aim, aim_of, move_of
    from .study.tune import Tuning

    found: list[Aim] = []
    for aim in aims:
        found += [aim_of(book, aim)] if ":" in aim else aims_of_promise(book, aim)
    return Tuning(book, found, [move_of(book, move) for move in moves], fights, seed, progress)


@asked
def roll_attributes(book: Rulebook, *, count: int = 1, seed: int = 1) -> dict[str, np.ndarray]:
    """Roll the dice of creation for so many characters; return each attribute's values, of shape (count,).

    Raises `InputError` where the rulebook rolls none.
    """
    from . import progress

    return progress.roll_attributes(book, count, seed)


@asked
def upgrades(book: Rulebook, who: str, *, level: int | None = None) -> Upgrades:
    """Say what each level of each upgrade costs a class and gives it. Raises `InputError` on an unknown name."""
    from .progress import Upgrades

    return Upgrades(book, who, level)


@asked
def spend(book: Rulebook, plan: str, coin: int, *, bought: Mapping[str, int] | None = None) -> Spent:
    """Spend coin by a plan, from what has been bought before. Raises `InputError` on an unknown plan."""
    from . import progress

    return progress.spend(book, plan, coin, bought)


@asked
def falls(book: Rulebook, *, levels: Sequence[int] | None = None) -> Falls:
    """Work out from what height each class is hurt and killed, at the first, the middle and the last level unless
    others are given. Raises `InputError` on a level there isn't."""
    from .study import Falls

    return Falls(book, levels)


@asked
def live(book: Rulebook, who: str, *, level: int | None = None) -> Live:
    """Put a character on the bench, to be hurt, healed and given buffs by hand."""
    from .ledger import Live

    return Live(book, who, level)
