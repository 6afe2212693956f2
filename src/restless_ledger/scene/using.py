"""Using an ability: whom it is aimed at, what stands against it, and its beginning."""

from __future__ import annotations

from typing import Any

from ..engine.codes import ALLY, FOE, NEVER, USE, USER_ONLY
from ..engine.refusals import NOTHING_AGAINST
from ..frozen_classes import frozen
from ..rulebook import InputError
from ..rulebook.problems import nearest
from .refusals import why_not
from .scene import Scene


@frozen
class Answer:
    """Whether something was done, or could be; `why_not` says what stands against it, with the figures."""

    done: bool
    why_not: str = ""

    def __bool__(self) -> bool:
        return self.done


def answered(scene: Scene, unit: int, refusal: int, play: int = -1, target: int = -1) -> Answer:
    """Return the answer to what was asked of a unit, by the number of what stands against it."""
    return Answer(refusal == NOTHING_AGAINST, why_not(scene.bench, unit, refusal, play, target))


def use(scene: Scene, unit: int, ability: str, at: str | int | None, part: str | None, away: bool) -> Answer:
    """Begin to use an ability; what has no wind-up lands at once. Raises `InputError` on an unknown name."""
    answer, play, target = _asked(scene, unit, ability, at)
    if play < 0:
        return answer
    aimed = number_of_part(scene, target, part)
    what: dict[str, Any] = {"index": play, "target": target, "part": aimed, "away": away, "strict": True}
    answer = answered(scene, unit, scene.bench.poke(unit, USE, **what)[0], play, target)
    me, bench = scene.bench.state.units[unit], scene.bench
    if answer and me.land_at != NEVER and me.land_at <= bench.ticks:
        bench.advance(int(bench.played))
    return answer


def can_use(scene: Scene, unit: int, ability: str, at: str | int | None) -> Answer:
    """Say whether a unit could use an ability now, or what stands against it. Nothing changes."""
    answer, play, target = _asked(scene, unit, ability, at)
    if play < 0:
        return answer
    refusal = scene.bench.would(unit, USE, index=play, target=target, strict=True)
    return answered(scene, unit, refusal, play, target)


def _asked(scene: Scene, unit: int, ability: str, at: str | int | None) -> tuple[Answer, int, int]:
    """Return what on its sheet stands against a use, the play of the ability (-1: there is none), the target."""
    bench, book = scene.bench, scene.book
    if ability not in book.abilities:
        raise InputError(f"abilities: there is no ability {ability}\n    {nearest(ability, book.abilities)}")
    sheet, plays = bench.setup.units[unit].sheet, bench.setup.units[unit].plays
    own = [
        number for number, (path, play) in enumerate(plays) if play.use == ability and path == ("abilities", ability)
    ]
    if not own or ability in sheet.barred:
        return Answer(False, sheet.barred.get(ability) or sheet.why(ability).split("\n")[0]), -1, -1
    play = int(bench.setup.tables.units[unit].first_play) + own[-1]
    target = _target(scene, unit, play) if at is None else scene.find(at)
    return (Answer(True), play, target) if target >= 0 else (Answer(False, "there is nobody to use it on"), -1, -1)


def _target(scene: Scene, unit: int, play: int) -> int:
    """Return whom an ability is used on where nobody is named: for foes and the fallen, the first of them that it can
    be used on, or else the first of them at all; -1 for nobody."""
    on, units = scene.bench.ability(play).targets, scene.bench.state.units
    if on in (USER_ONLY, ALLY):
        return unit
    foes, side = on == FOE, units[unit].side
    there = [each for each in range(len(units)) if (units[each].side != side) == foes and not units[each].absent]
    there = [each for each in there if each != unit]
    return next((each for each in there if bool(units[each].up) == foes), there[0] if there else -1)


def number_of_part(scene: Scene, unit: int, part: str | None) -> int:
    """Return the number of the name of a part; -1 for none. Raises `InputError` where the unit has not got it."""
    if part is None:
        return -1
    bench, book = scene.bench, scene.book
    body = book.classes[bench.setup.units[unit].sheet.who].body
    parts = list(book.bodies[body].parts) if body else []
    bench.find("part", part, parts)
    if bench.state.parts[int(bench.setup.tables.units[unit].first_part) + parts.index(part)].gone:
        raise InputError(f"{bench.setup.names.units[unit]} has lost its {part}\n    name another part, or none")
    return list(dict.fromkeys(name for each in book.bodies.values() for name in each.parts)).index(part)
