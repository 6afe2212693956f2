"""What is asked of characters: sheets, builds, odds, curves, falls, gear, upgrades, journeys."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from ..asking import asked
from ..rulebook import InputError, Rulebook
from ..rulebook.files import read_regular
from ..sheets import CharacterSpec, CheckOutcome, Item, Sheet, Verdict, build_sheet, try_check
from ..sheets.creation import judge_build

if TYPE_CHECKING:
    from concurrent.futures import Executor

    import numpy as np

    from ..analysis.builds import Builds
    from ..analysis.curves import Curves
    from ..analysis.falls import Falls
    from ..analysis.odds import OddsTable
    from ..engine.run import Progress
    from ..progress import Drops, Journeys, Spent, Upgrades
    from ..scene import Live

CHECKED = 63
"""What the draws of a check that is made by hand are for."""


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
def live(
    book: Rulebook,
    who: str | CharacterSpec,
    *,
    level: int | None = None,
    origin: str | None = None,
    attributes: Mapping[str, int] | None = None,
    gear: Sequence[str | Item] = (),
    taught: Sequence[str] = (),
    bought: Mapping[str, int] | None = None,
    companions: Sequence[str | CharacterSpec] = (),
    against: Sequence[str | CharacterSpec] = (),
    acting: Sequence[str | int] = (),
    arena: str | None = None,
    seed: int | None = 1,
) -> Live:
    """Put a character on the bench, to be poked by hand by the rules of fights; with companions and foes, if any.

    It is made as by `sheet`, or is a `CharacterSpec`. A companion or foe that is a class's name has the character's
    level. Those in `acting` (names, classes, or numbers, the character itself being 0) carry out their playbooks as
    time passes; all others do nothing by themselves. In an `arena` one side begins in the west, the other in the east.
    The seed decides every draw, those that a fight opens with too; with None these are as on average, as on a sheet.
    Raises `InputError` on an unknown name and a character that can't be built.
    """
    from ..scene import Live

    if not isinstance(who, CharacterSpec):
        who = CharacterSpec(who, level, origin, attributes or {}, gear, taught, bought or {})
    return Live.of(book, who, companions, against, acting, arena, seed)


@asked
def restore(book: Rulebook, file: str | Path) -> Live:
    """Return a live scene that was saved to a file. Raises `InputError` where it can't be read, is of another version
    or rulebook, or was changed since it was saved."""
    from ..scene import Live

    try:
        text = read_regular(Path(file)).decode("utf-8", "replace")
    except OSError as error:
        raise InputError(f"{file}: the file can't be read: {error.strerror}") from None
    return Live.restored(book, text, str(file))


@asked
def check(book: Rulebook, name: str, who: str | CharacterSpec, *, seed: int = 1, **made: Any) -> CheckOutcome:
    """Roll one check for a character, as often as it may try. It is made as by `sheet`, of the same keywords. What
    follows is only told; a live scene carries it out.

    Raises `InputError` on an unknown name, and a character that can't be built.
    """
    from ..progress.luck import draw_one

    one, numbers = sheet(book, who, **made), iter(range(1 << 30))

    def luck() -> float:
        return draw_one(seed, next(numbers), CHECKED)

    return try_check(book, name, one.page, who=one.who, named=one.label, texts=one.texts, luck=luck)


@asked
def builds(book: Rulebook) -> Builds:
    """Count the builds that character creation allows, exactly: per origin, and what the origins have in common.

    Raises `InputError` where the rulebook has no origins or no attributes.
    """
    from ..analysis.builds import Builds

    return Builds(book)


@asked
def judge(book: Rulebook, origin: str, *, attributes: Mapping[str, int] | None = None) -> Verdict:
    """Say whether chosen attributes are allowed for an origin; if not, what to add or take back, which range is broken,
    and which other origins would allow it.

    What is not named stays where it opens: with nothing named it is the opening state, allowed or not. Raises
    `InputError` on an unknown origin or attribute.
    """
    return judge_build(book, origin, attributes)


@asked
def roll_attributes(book: Rulebook, *, count: int = 1, seed: int = 1) -> dict[str, np.ndarray]:
    """Roll the dice of creation for this many characters; return each attribute's values, of shape (count,).

    Raises `InputError` where the rulebook rolls none.
    """
    from .. import progress

    return progress.roll_attributes(book, count, seed)


@asked
def odds(book: Rulebook, *, checks: Sequence[str] = (), levels: Sequence[int] | None = None) -> OddsTable:
    """Work out the exact chance of passing stat checks (all, unless some are named) by class and level.

    Raises `InputError` on an unknown check, a level there isn't, and a formula without a finite value.
    """
    from ..analysis.odds import OddsTable

    return OddsTable(book, checks, levels)


@asked
def curves(book: Rulebook, *, who: Sequence[str] = (), figures: Sequence[str] = ()) -> Curves:
    """Lay the stats, gauges and experience of classes (all unless some are named) side by side, level by level.

    `figures` names stats and gauges; all are shown unless some are named. Raises `InputError` on an unknown name.
    """
    from ..analysis.curves import Curves

    return Curves(book, who, figures)


@asked
def falls(book: Rulebook, *, levels: Sequence[int] | None = None, characters: Sequence[CharacterSpec] = ()) -> Falls:
    """Work out from what height each class is hurt and killed, at the first, the middle and the last level unless
    others are given; with `characters`, each of those as it is, with its gear and all else that it has.

    Raises `InputError` on a level there isn't, and on a character that can't be built.
    """
    from ..analysis.falls import Falls

    return Falls(book, levels, characters)


@asked
def drops(book: Rulebook, table: str, *, count: int = 1, seed: int = 1) -> Drops:
    """Roll a drop table this many times; each drop has its own rolled changes. Drop k of a seed is always the same.

    Raises `InputError` on an unknown table.
    """
    from ..progress import Drops

    return Drops(book, table, count, seed)


@asked
def upgrades(book: Rulebook, who: str, *, level: int | None = None) -> Upgrades:
    """Say what each level of each upgrade costs a class and gives it. Raises `InputError` on an unknown name."""
    from ..progress import Upgrades

    return Upgrades(book, who, level)


@asked
def spend(book: Rulebook, plan: str, coin: int, *, bought: Mapping[str, int] | None = None) -> Spent:
    """Spend coin by a plan, from what has been bought before. Raises `InputError` on an unknown plan."""
    from .. import progress

    return progress.spend(book, plan, coin, bought)


@asked
def journey(
    book: Rulebook,
    name: str,
    *,
    runs: int = 1000,
    seed: int = 1,
    progress: Progress | None = None,
    threads: int | None = None,
    executor: Executor | None = None,
) -> Journeys:
    """Walk a journey many times, every fight really fought. The seed alone decides what comes out.

    Most of a run is Python, of which one process carries out one thread at a time: the processes of an `executor` are
    quicker than threads.

    `progress` is called with (done, asked). At Ctrl-C the journeys hold the runs done so far. Raises `InputError` on an
    unknown journey and a member that can't be built, `FightFault` where a formula has no finite value.
    """
    from ..progress import Journeys
    from ..workers import working

    with working(threads, executor):
        return Journeys(book, name, runs, seed, progress)
