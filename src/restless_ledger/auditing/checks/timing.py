"""Time: cooldowns without effect, buffs that never end, refills that outrun harm, invulnerability, ticks."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ...formula import evaluate
from ...rulebook.buffs import Buff
from ...rulebook.effects import BuildupEffect, DamageEffect, GiveEffect
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import figure, listed, said_levels
from ..registry import check


@check
def moot_cooldown(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for name, ability in case.book.abilities.items():
        cooldown, busy = clock.ticks(ability.cooldown), clock.ticks(ability.windup) + clock.ticks(ability.recovery)
        plain = (
            ability.cooldown_from == "use"
            and ability.charges == 1
            and not (ability.shared or not ability.cooldown.is_plain or ability.interruptible)
        )
        if plain and 0 < cooldown < busy:
            yield Fault(
                ("abilities", name, "cooldown"),
                f"{name} is ready after {clock.seconds(cooldown):g} {clock.unit}, "
                f"and its wind-up and recovery take {clock.seconds(busy):g} {clock.unit}",
            )


@check
def permanent_buff(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for path, effect in case.effects:
        if path[0] != "abilities" or not isinstance(effect, GiveEffect) or "does" not in path:
            continue
        ability, buff = case.book.abilities[path[1]], case.book.buffs[effect.give]
        if ability.harms or ability.uses is not None or ability.passive or path[1] not in case.reached:
            continue
        if effect.asks or len(path) > 4 or _ends_otherwise(buff):
            continue
        every = case.soonest(path[1])
        lasts = np.inf if buff.lasts is None else clock.seconds(clock.ticks(buff.lasts))
        if lasts > every and buff.again != "ignore" and not _outrun_by_cost(case, path[1], every):
            long = "has no end" if buff.lasts is None else f"lasts {lasts:g} {clock.unit}"
            yield Fault(
                (*path, "give"),
                f"{effect.give} {long}, and {path[1]} gives it again after {every:g} {clock.unit}: it need never end",
            )


def _ends_otherwise(buff: Buff) -> bool:
    """Say whether something else than its time ends a buff, or makes that shorter."""
    plain = buff.lasts is None or buff.lasts.is_plain
    return bool(buff.ends_on) or buff.breaks_at is not None or buff.diminishes is not None or not plain


def _outrun_by_cost(case: AuditContext, ability: str, every: float) -> bool:
    """Say whether an ability costs more than what refills by itself between two uses, for everybody who learns it."""
    clock = case.book.clock
    for gauge, cost in case.book.abilities[ability].cost.items():
        refill = case.book.gauges[gauge].refill
        rates = [
            np.max(evaluate(cost, case.page(who))) / every
            - (
                np.max(evaluate(refill.amount, case.page(who))) / clock.seconds(clock.ticks(refill.every))
                if refill
                else 0.0
            )
            for who in case.learners[ability]
        ]
        if rates and min(rates) > 0:
            return True
    return False


@check
def endless_stack(case: AuditContext) -> Iterator[Fault]:
    for name, buff in case.book.buffs.items():
        if buff.again in ("stack", "extend") and "most" not in buff.model_fields_set and name in case.given:
            what = "stacks" if buff.again == "stack" else "is extended"
            if _outlasts_cadence(case, name, buff):
                yield Fault(
                    ("buffs", name, "again"), f"{name} {what} without limit: it can be given again before it ends"
                )


def _outlasts_cadence(case: AuditContext, name: str, buff: Buff) -> bool:
    """Say whether something gives a buff again before it ends."""
    lasts = np.inf if buff.lasts is None else case.book.clock.seconds(case.book.clock.ticks(buff.lasts))
    return any(
        path[0] != "abilities" or "reacts" in path or case.soonest(path[1]) <= lasts for path in case.given[name]
    )


@check
def outrun_refill(case: AuditContext) -> Iterator[Fault]:
    clock, downing = case.book.clock, case.book.downing_gauge or ""
    refill = case.book.gauges[downing].refill if downing else None
    if refill is None:
        return
    every = clock.seconds(clock.ticks(refill.every))
    after = clock.seconds(clock.ticks(refill.after_harm)) if refill.after_harm else 0.0
    for who in case.book.classes:
        amount, strongest, least = case.by_level(refill.amount, who), np.zeros(len(case.levels)), np.inf
        for foe in case.foes(who):
            strongest = np.fmax(strongest, case.all_damage(foe, who))
            hits = sum(1 / case.soonest(name, foe) for name, _ in case.harmful(foe))
            # each hit keeps off what would have come in the time that follows it, and at most one refill more
            least = min(least, 1 / every - hits * (after / every + 1) if after else 1 / every)
        with np.errstate(all="ignore"):
            gain = amount * least if least > 0 else np.zeros(len(case.levels))
        over = case.levels[(gain >= strongest) & (strongest > 0)]
        if len(over) and np.isfinite(least):
            at = int(over[0] - case.levels[0])
            yield Fault(
                ("gauges", downing, "refill"),
                f"{who} regains {figure(gain[at])} {downing} a "
                f"{_unit(clock.unit)} at "
                f"level {over[0]}, and all abilities of the strongest of its foes take "
                f"{figure(strongest[at])}; so at {said_levels(over.tolist())}",
            )


def _unit(unit: str) -> str:
    return "second" if unit == "s" else "round"


@check
def wasted_hits(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for who, character in case.book.classes.items():
        spared = character.invulnerable
        if spared is None:
            continue
        long, wasted = clock.seconds(clock.ticks(spared.after_hit)), []
        for foe in case.foes(who):
            for ability, _ in case.harmful(foe):
                kinds = {
                    effect.damage for effect in case.book.abilities[ability].effects if isinstance(effect, DamageEffect)
                }
                stopped = spared.stops is None or kinds & set(spared.stops)
                if stopped and case.soonest(ability, foe) < long:
                    wasted.append(f"{ability} of {foe}")
        if wasted:
            yield Fault(
                ("classes", who, "invulnerable", "after_hit"),
                f"{who} is spared for {long:g} {clock.unit} "
                f"after a "
                f"hit, longer than it takes to use {listed(wasted[:3])} again",
            )


@check
def same_tick_hits(case: AuditContext) -> Iterator[Fault]:
    spared = [who for who, character in case.book.classes.items() if character.invulnerable]
    if case.book.clock.invulnerable_from == "next_tick" and spared:
        yield Fault(
            ("clock", "invulnerable_from"),
            f"invulnerability begins on the next tick: two hits on the same "
            f"tick both "
            f"count against {listed(spared[:3])}",
        )
    for name, hits in _double_hits(case):
        for index, kind in hits[1:]:
            open_to = [on for by, on in case.meetings if by in case.learners[name] and not _spares(case, on, kind)]
            if kind in [other for _, other in hits[:1]] and open_to:
                yield Fault(
                    ("abilities", name, "does", index),
                    f"hit {index + 1} of {name} lands on the same tick "
                    f"as the "
                    f"first, of the same kind, and both count against "
                    f"{listed(sorted(set(open_to))[:3])}",
                )


def _double_hits(case: AuditContext) -> Iterator[tuple[str, list[tuple[int, str]]]]:
    """Yield each ability that hits its target more than once, with the place and the kind of each hit."""
    for name, ability in case.book.abilities.items():
        hits = [
            (index, effect.damage)
            for index, effect in enumerate(ability.does)
            if isinstance(effect, DamageEffect) and effect.to == "target" and effect.later is None
            for _ in range(2 if effect.repeat and not effect.every else 1)
        ]
        if len(hits) > 1:
            yield name, hits


@check
def swallowed_hit(case: AuditContext) -> Iterator[Fault]:
    if case.book.clock.invulnerable_from == "next_tick":
        return
    for name, hits in _double_hits(case):
        for index, kind in hits[1:]:
            spared = [on for by, on in case.meetings if by in case.learners[name] and _spares(case, on, kind)]
            if spared:
                yield Fault(
                    ("abilities", name, "does", index),
                    f"hit {index + 1} of {name} lands on the same tick "
                    f"as the "
                    f"first, and {listed(sorted(set(spared))[:3])} is spared by then",
                )


def _spares(case: AuditContext, who: str, kind: str) -> bool:
    spared = case.book.classes[who].invulnerable
    return bool(spared and case.book.clock.ticks(spared.after_hit) and (spared.stops is None or kind in spared.stops))


@check
def off_tick(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for path, duration in case.durations:
        if duration.unit == "s" and duration.amount * clock.ticks_per_second % 1:
            real = clock.seconds(clock.ticks(duration))
            yield Fault(
                path, f"{duration} ends between two ticks, so it takes {clock.ticks(duration)} ticks: {real:.4g} s"
            )


@check
def beatless_buff(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for name, buff in case.book.buffs.items():
        short = buff.each and buff.lasts and clock.ticks(buff.each.every) > clock.ticks(buff.lasts)
        renewed = buff.again != "ignore" and name in case.given and _outlasts_cadence(case, name, buff)
        if buff.each and short and not renewed:
            yield Fault(
                ("buffs", name, "each", "every"),
                f"{name} beats every {buff.each.every} and lasts {buff.lasts}: it ends before its first beat",
            )


@check
def never_catches(case: AuditContext) -> Iterator[Fault]:
    for name, buff in case.book.buffs.items():
        sources = [
            (path, effect)
            for path, effect in case.effects
            if isinstance(effect, BuildupEffect) and effect.buildup == name
        ]
        direct = any(isinstance(effect, GiveEffect) and effect.give == name for _, effect in case.effects)
        plain = all(path[0] == "abilities" and "does" in path for path, _ in sources)
        if buff.catches_at is None or buff.fades is None or not sources or direct or not plain or not case.book.classes:
            continue
        full = min(float(np.min(evaluate(buff.catches_at, case.page(who)))) for who in case.book.classes)
        most = [(_most(case, path[1], effect), case.soonest(path[1]), path) for path, effect in sources]
        if all(
            case.most_together(path[1]) * amount < full
            and case.most_together(path[1]) * amount <= case.book.clock.per_unit(buff.fades) * every
            for amount, every, path in most
        ):
            amount, every, path = max(most, key=lambda each: each[0])
            yield Fault(
                (*path, "amount"),
                f"{path[1]} builds up {figure(amount)} of the {figure(full)} at which {name} catches, "
                f"and {figure(case.book.clock.per_unit(buff.fades) * every)} fade before it can be used again",
            )


def _most(case: AuditContext, ability: str, effect: BuildupEffect) -> float:
    users = case.learners[ability] or case.book.classes
    return max((float(np.max(evaluate(effect.amount, case.page(who)))) for who in users), default=0.0)


@check
def short_time_limit(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for name, encounter in case.book.encounters.items():
        limit = clock.ticks(encounter.time_limit) if encounter.time_limit else clock.limit_ticks()
        hold = clock.ticks(encounter.objective.hold) if encounter.objective and encounter.objective.hold else None
        if hold is not None and hold > limit:
            yield Fault(
                ("encounters", name, "objective", "hold"),
                f"{name} is called off after "
                f"{clock.seconds(limit):g} "
                f"{clock.unit}, and the objective is to be held for {clock.seconds(hold):g} "
                f"{clock.unit}",
            )


@check
def outlived_fight(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    limits = [entry.time_limit for entry in case.book.encounters.values() if entry.time_limit]
    longest = max([clock.limit_ticks(), *map(clock.ticks, limits)])
    for path, duration in case.durations:
        waits = path[0] in ("abilities", "buffs", "gauges")
        if waits and clock.ticks(duration) > longest:
            yield Fault(
                path,
                f"{duration} is longer than any fight: the last is called off after "
                f"{clock.seconds(longest):g} {clock.unit}",
            )
