"""Movement: jumps that hurt, ledges and reaches that decide nothing, units that can never be caught."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

import numpy as np

from ...formula import evaluate
from ...rulebook.characters import Character
from ...rulebook.effect_lists import given_by
from ...rulebook.effects import Effect, PushEffect
from ...rulebook.encounters import Encounter, Side, UnitGroup
from ...rulebook.pages import changed_names
from ...rulebook.words import Targets
from ...sheets.brought import grants_of, sources
from ...sheets.by_level import learned
from ...sheets.gear import take_items
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import figure, listed, said_levels
from ..registry import check

LEAST_SLIDE_M = 0.5
LEAST_POINTS = 0.0005


@check
def hurtful_jump(case: AuditContext) -> Iterator[Fault]:
    falls = case.book.falls
    for who, character in case.book.classes.items():
        reach = 0.0
        fastest = np.broadcast_to(falls.terminal.on(case.page(who)), case.levels.shape)
        for index, (jump, take_off) in enumerate(zip(character.jumps, character.jump_speeds, strict=True)):
            reach += take_off**2 / (2 * falls.gravity)
            speeds = np.minimum(math.sqrt(2 * falls.gravity * reach), fastest)
            speed = float(speeds.max())
            if speed <= falls.safe_speed:
                continue
            fall = {"fall_speed": speeds, "fall_height": reach, "safe_speed": falls.safe_speed}
            page: dict[str, Any] = {**case.page(who), **fall}
            harm = np.broadcast_to(evaluate(falls.damage, page), case.levels.shape)
            known = case.known(case.learners.get(jump.unlock or "", {}).get(who, 0))
            hurt = case.levels[known & (speeds > falls.safe_speed) & (harm >= LEAST_POINTS)]
            if len(hurt):
                yield Fault(
                    ("classes", who, "jumps", index),
                    f"jump {index + 1} of {who} comes down from "
                    f"{reach:.2f} m at "
                    f"{speed:.2f} m/s, faster than the safe {falls.safe_speed:g} m/s: it takes "
                    f"{figure(harm.max())} "
                    f"at {said_levels(hurt.tolist())}",
                )


def _placed(case: AuditContext) -> Iterator[tuple[str, Encounter]]:
    """Yield the encounters that take place somewhere."""
    yield from ((name, entry) for name, entry in case.book.encounters.items() if entry.arena)


def _at(case: AuditContext, group: UnitGroup) -> int:
    return group.level - int(case.levels[0])


def _line(case: AuditContext, program: object, group: UnitGroup) -> float:
    """Return the value of a formula on the page of a unit."""
    return _of(case, evaluate(program, case.page(group.who)), group)  # type: ignore[arg-type]


def _of(case: AuditContext, values: Any, group: UnitGroup) -> float:
    """Return what is a unit's of values that are there for each level, or one for all."""
    return float(np.broadcast_to(values, case.levels.shape)[_at(case, group)])


def _abilities(case: AuditContext, group: UnitGroup) -> list[str]:
    items = take_items(case.book, group.gear)
    granted = grants_of(sources(case.book, group.who, origin=group.origin, items=items, bought=group.bought))
    own = [name for name, level in learned(case.book, group.who) if level <= group.level]
    return [*own, *group.taught, *granted]


@check
def idle_ledge(case: AuditContext) -> Iterator[Fault]:
    for name, arena in case.book.arenas.items():
        drops = [side for side, edge in arena.edges.items() if edge == "pit" or not isinstance(edge, str)]
        fights = [entry for _, entry in _placed(case) if entry.arena == name]
        farthest = max((_farthest_slide(case, entry) for entry in fights), default=math.inf)
        if drops and fights and farthest < LEAST_SLIDE_M:
            what = (
                f"the farthest that anybody is pushed is {farthest:.2f} m"
                if farthest
                else "nobody there pushes, dashes or "
            )
            yield Fault(
                ("arenas", name, "edges", drops[0]),
                f"nobody can be pushed over the {drops[0]} edge of "
                f"{name}: "
                f"{what}" + ("" if farthest else "walks over an edge"),
            )


def _farthest_slide(case: AuditContext, encounter: Encounter) -> float:
    """Return how far anybody in an encounter can be made to slide, or slides by itself, in metres."""
    friction, found = case.book.movement.friction, 0.0
    elsewhere = [path for path, effect in case.effects if isinstance(effect, PushEffect) and path[0] != "abilities"]
    if elsewhere or any(isinstance(effect, PushEffect) and "reacts" in path for path, effect in case.effects):
        return math.inf  # what a buff or a reaction pushes is pushed as often as it comes
    groups = [(side.name, group) for side in encounter.sides for group in side.units]
    for side, group in groups:
        if case.book.classes[group.who].heedless:
            return math.inf
        for name in _abilities(case, group):
            ability = case.book.abilities[name]
            if ability.dash and ability.dash.times and "speed_now" in ability.dash.times.names:
                return math.inf  # who runs dashes faster than who stands
            if ability.dash:
                speed = _of(case, ability.dash.on(case.page(group.who)), group)
                found = max(found, speed**2 / (2 * friction))
            for effect in ability.effects:
                if isinstance(effect, PushEffect):
                    speed = _line(case, effect.push or effect.pull, group)
                    for other, target in groups:
                        if other != side or effect.towards:
                            weight = max(_line(case, case.book.movement.weight, target), 1e-9)
                            found = max(found, (speed / weight) ** 2 / (2 * friction))
    return found


@check
def reach_beyond_arena(case: AuditContext) -> Iterator[Fault]:
    fought: dict[str, list[Encounter]] = {name: [] for name in case.book.abilities}
    for entry in case.book.encounters.values():
        for name in {used for side in entry.sides for group in side.units for used in _abilities(case, group)}:
            fought[name].append(entry)
    for name, ability in case.book.abilities.items():
        fights = fought[name]
        arenas = [case.book.arenas[entry.arena] for entry in fights if entry.arena]
        if ability.reach is not None and arenas and len(arenas) == len(fights):
            widest = max(math.hypot(*arena.size) for arena in arenas)
            if ability.reach > widest:
                yield Fault(
                    ("abilities", name, "reach"),
                    f"{name} reaches {ability.reach:g} m, and the widest place "
                    f"where it "
                    f"is used is {widest:.1f} m from corner to corner",
                )


@check
def kept_out_of_reach(case: AuditContext) -> Iterator[Fault]:
    for name, playbook in case.book.playbooks.items():
        uses = [case.book.abilities[play.use] for play in playbook.plays if play.use]
        reaches = [
            math.inf if ability.reach is None or ability.lunge else ability.reach for ability in uses if ability.harms
        ]
        if playbook.distance and reaches and max(reaches) < playbook.distance:
            yield Fault(
                ("playbooks", name, "distance"),
                f"{name} keeps foes {playbook.distance:g} m away, and the longest "
                f"reach of its "
                f"plays is {max(reaches):g} m: it strikes only who comes nearer than it wants",
            )


@check
def uncatchable(case: AuditContext) -> Iterator[Fault]:
    for name, encounter in _placed(case):
        for side in encounter.sides:
            for other in encounter.sides:
                for number, group in enumerate(other.units if other is not side else ()):
                    keeps = _keeps(case, group)
                    pace = _line(case, case.book.movement.pace, group)
                    hunters = [*side.units, *_called(case, side)]
                    if keeps and not any(_catches(case, hunter, keeps, pace) for hunter in hunters):
                        best = max(hunters, key=lambda hunter: _line(case, case.book.movement.pace, hunter))
                        fast = _line(case, case.book.movement.pace, best)
                        path = ("encounters", name, "sides", encounter.sides.index(other), "units", number)
                        yield Fault(
                            path,
                            f"{group.who} walks {pace:.2f} m/s and keeps {keeps:g} m away; of "
                            f"{side.name} the "
                            f"fastest, {best.who}, walks {fast:.2f} m/s and nobody reaches so far: only "
                            f"walls can "
                            "stop it",
                        )


def _called(case: AuditContext, side: Side) -> list[UnitGroup]:
    """Return the units that a side can call, each at the level of its callers."""
    level = max(group.level for group in side.units)
    return [UnitGroup.of(effect.summon, level) for effect in case.summons]


def _keeps(case: AuditContext, group: Character) -> float:
    """Return how near a unit lets foes come."""
    playbook = group.playbook or case.book.classes[group.who].playbook
    return (case.book.playbooks[playbook].distance or 0.0) if playbook else 0.0


def _catches(case: AuditContext, group: UnitGroup, keeps: float, pace: float) -> bool:
    """Say whether a unit walks faster than a foe, or reaches as far as that keeps away."""
    abilities = [case.book.abilities[name] for name in _abilities(case, group)]
    far = any(
        ability.harms and (ability.reach is None or ability.reach + (ability.lunge or 0.0) >= keeps)
        for ability in abilities
    )
    fast = _line(case, case.book.movement.pace, group) > pace
    return (
        far
        or fast
        or any(ability.dash or any(_slows(case, effect) for effect in ability.effects) for ability in abilities)
    )


def _slows(case: AuditContext, effect: Effect | None) -> bool:
    """Say whether an effect pulls, or brings a buff that changes what a pace is read from."""
    if isinstance(effect, PushEffect):
        return True
    names = case.book.movement.pace.names
    given = [case.book.buffs[name] for name in given_by([effect] if effect else [])]
    changed = {name for buff in given for name in changed_names(buff)}
    return not changed.isdisjoint(names)


@check
def rooted(case: AuditContext) -> Iterator[Fault]:
    for name, encounter in _placed(case):
        for index, side in enumerate(encounter.sides):
            for number, group in enumerate(side.units):
                pace = _line(case, case.book.movement.pace, group)
                moves = [case.book.abilities[ability] for ability in _abilities(case, group)]
                if pace <= 0 and not any(ability.dash or ability.lunge for ability in moves):
                    yield Fault(
                        ("encounters", name, "sides", index, "units", number),
                        f"{group.who} of level {group.level} walks {figure(pace)} m/s: it never leaves its place",
                    )


@check
def crowded_spot(case: AuditContext) -> Iterator[Fault]:
    for name, arena in case.book.arenas.items():
        seen: dict[tuple, int] = {}
        for index, spot in enumerate(arena.supplies):
            key = (spot.supply, *spot.at)
            if key in seen:
                yield Fault(
                    ("arenas", name, "supplies", index), f"{spot.supply} lies twice at [{spot.at[0]:g}, {spot.at[1]:g}]"
                )
            seen[key] = index


@check
def grounded_member(case: AuditContext) -> Iterator[Fault]:
    told = set()
    for name, journey in case.book.journeys.items():
        classes = list(dict.fromkeys(member.who for member in journey.party))
        jumpers = [who for who in classes if case.book.classes[who].jumps]
        for who in classes:
            if jumpers and who not in jumpers and who not in told:
                told.add(who)
                yield Fault(("classes", who), f"{who} can't jump, and {listed(jumpers[:3])} of its party in {name} can")


@check
def boundless_reach(case: AuditContext) -> Iterator[Fault]:
    placed = {
        name
        for _, entry in _placed(case)
        for side in entry.sides
        for group in side.units
        for name in _abilities(case, group)
    }
    bounded = [name for name in placed if case.book.abilities[name].reach is not None]
    for name in case.book.abilities:
        ability = case.book.abilities[name]
        if name in placed and bounded and ability.reach is None and ability.targets != Targets.USER and ability.does:
            yield Fault(
                ("abilities", name),
                f"{name} has no reach, so it reaches everybody in the widest place; {sorted(bounded)[0]} has one",
            )


@check
def empty_jump(case: AuditContext) -> Iterator[Fault]:
    for name, ability in case.book.abilities.items():
        users = case.learners[name]
        if ability.jumps and users and not any(case.book.classes[who].jumps for who in users):
            classes = listed(sorted(users))
            yield Fault(
                ("abilities", name, "jumps"), f"{classes}, who can use {name}, can't jump: it does not lift them"
            )
