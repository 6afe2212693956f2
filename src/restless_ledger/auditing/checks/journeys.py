"""Lives and journeys: returns to nowhere, stages that can't be passed, experience that does not suffice."""

from __future__ import annotations

from collections.abc import Iterator

from ...analysis.odds import chance_of, wanted_by_level
from ...rulebook import InputError
from ...rulebook.journeys import Journey
from ...rulebook.rolls import AnyRoll
from ...sheets.experience import level_at
from ...sheets.rolls import ends
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import listed
from ..registry import check


@check
def respawn_nowhere(case: AuditContext) -> Iterator[Fault]:
    for name, encounter in case.book.encounters.items():
        if encounter.arena is None or case.book.arenas[encounter.arena].checkpoints:
            continue
        for index, side in enumerate(encounter.sides):
            for number, group in enumerate(side.units):
                lives = group.lives or case.book.classes[group.who].lives
                if lives > 1:
                    yield Fault(
                        ("encounters", name, "sides", index, "units", number),
                        f"{group.who} has {lives} "
                        f"lives here, and "
                        f"{encounter.arena} has no checkpoint: it returns where it first stood",
                    )


@check
def unpassable_stage(case: AuditContext) -> Iterator[Fault]:
    for path, stage, journey in _stages(case):
        if stage.check:
            entry = case.book.checks[stage.check]
            able = [member.who for member in journey.party if entry.is_for(member.who)]
            if not any(_passes(case, stage.check, who) for who in able):
                who = f"neither {' nor '.join(able)}" if len(able) > 1 else f"not even {able[0]}" if able else "nobody"
                yield Fault(path, f"{who} of the party can ever pass {stage.check}: the journey ends here")


def _stages(case: AuditContext) -> Iterator[tuple]:
    """Yield each stage of each journey with its path in it."""
    for name, journey in case.book.journeys.items():
        for index, stage in enumerate(journey.stages):
            yield ("journeys", name, "stages", index), case.book.stages[stage], journey


def _passes(case: AuditContext, name: str, who: str) -> bool:
    """Say whether a class, bare, has any chance of passing a check at some level."""
    wanted = wanted_by_level(case.book, name, who)
    return chance_of(case.book.checks[name], float(wanted.min())) > 0


@check
def vain_grind(case: AuditContext) -> Iterator[Fault]:
    for name, stage in case.book.stages.items():
        if stage.grind and not stage.experience:
            yield Fault(
                ("stages", name, "grind"),
                f"{name} is done again while somebody is below level "
                f"{stage.grind.below}, and it "
                f"brings no experience: always {stage.grind.most} times for nothing",
            )


@check
def unreached_level(case: AuditContext) -> Iterator[Fault]:
    for name, journey in case.book.journeys.items():
        most = 0
        for index, stage_name in enumerate(journey.stages):
            stage = case.book.stages[stage_name]
            if stage.level is not None and (at := _lowest(case, journey, most)) is not None and at < stage.level:
                yield Fault(
                    ("stages", stage_name, "level"),
                    f"{stage_name} is meant for level {stage.level}, and "
                    f"all that comes "
                    f"before it in {name} brings {most:,} experience: level {at} at most",
                )
            most += stage.experience * (1 + (stage.grind.most if stage.grind else 0))
            if (
                stage.grind
                and (at := _lowest(case, journey, most)) is not None
                and at < stage.grind.below
                and stage.experience
            ):
                yield Fault(
                    ("journeys", name, "stages", index),
                    f"{stage_name} is done again up to level "
                    f"{stage.grind.below}, "
                    f"and {stage.grind.most} times more bring the party to level {at} at most",
                )


def _lowest(case: AuditContext, journey: Journey, experience: int) -> int | None:
    """Return the level of the lowest member of a party with this much experience, or None where that can't be said."""
    first, levels = int(case.levels[0]), []
    for member in journey.party:
        begins = member.level or first
        if case.book.experience_of(member.who) is None:
            levels.append(begins)
            continue
        try:
            levels.append(
                max(begins, level_at(case.book, member.who, experience)) if begins == first else int(case.levels[-1])
            )
        except InputError:
            return None  # a curve that can't be used is another finding
    return min(levels)


@check
def idle_shop(case: AuditContext) -> Iterator[Fault]:
    for path, stage, journey in _stages(case):
        if stage.shop and not any(member.plan for member in journey.party):
            yield Fault(path, "there is a shop here, and nobody of the party has a plan to buy anything")


def most_paid(coin: int | AnyRoll) -> int:
    """Return the most that a stage can pay."""
    return int(ends(coin)[1]) if isinstance(coin, AnyRoll) else coin


@check
def idle_coin(case: AuditContext) -> Iterator[Fault]:
    for name, journey in case.book.journeys.items():
        stages = [case.book.stages[stage] for stage in journey.stages]
        coin = journey.coin + sum(most_paid(stage.coin) for stage in stages)
        if coin and not any(stage.shop for stage in stages):
            yield Fault(("journeys", name), f"{name} brings {coin:,} coin and reaches no shop")


@check
def idle_checkpoint(case: AuditContext) -> Iterator[Fault]:
    for name, journey in case.book.journeys.items():
        if journey.checkpoints and journey.defeat != "checkpoint":
            yield Fault(
                ("journeys", name, "checkpoints"), f'{name} has checkpoints, and a defeat there is "{journey.defeat}"'
            )


@check
def useless_reward(case: AuditContext) -> Iterator[Fault]:
    for path, stage, journey in _stages(case):
        party = {member.who for member in journey.party}
        for piece in stage.gives:
            classes = case.book.gear[piece].classes
            if classes is not None and not party & set(classes):
                yield Fault(path, f"this stage gives {piece}, which only {listed(classes)} may wear")


@check
def taught_nobody(case: AuditContext) -> Iterator[Fault]:
    for path, stage, journey in _stages(case):
        party = {member.who for member in journey.party}
        for who, names in stage.teaches.items():
            if who not in party:
                yield Fault(path, f"this stage teaches {who} {listed(names)}, and no {who} is in the party")
