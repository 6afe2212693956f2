"""Damage: what settles at zero, below zero or nowhere; units that can't be killed; drift; parts; chances."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ...formula import Program, evaluate
from ...rulebook.bodies import Body
from ...rulebook.effects import DamageEffect
from ...sheets.hit import part_times, struck_parts
from ..audit_context import AuditContext
from ..finding import Fault
from ..other_harm import harms_otherwise
from ..phrases import figure, listed, said_levels
from ..registry import check
from ..sampling import SAMPLES, Pages, undefined, witness

LEAST_POINTS = 0.0005
WORTH = 1.25
"""A part is a choice where aiming at it brings between 1/1.25 and 1.25 times what not aiming does."""


@check
def formula_not_finite(case: AuditContext) -> Iterator[Fault]:
    for path, program in case.formulas:
        pages = _pages_of(case, path, program)
        if pages is not None and (told := undefined(program, pages)):
            yield Fault(path, f"this has no finite value within the declared ranges: {told}")


def _pages_of(case: AuditContext, path: tuple, program: Program) -> Pages | None:
    """Return sampled pages that hold every name of a formula; none for a constant."""
    if path[0] in ("damage", "healing") and path[-1] in ("lands", "settle"):
        return case.met(path[0], path[1])
    if path[0] == "upgrades":
        levels = case.book.upgrades[path[1]].levels
        return {"level": np.round(np.linspace(1, levels, SAMPLES))}
    return case.sampled if program.names else None


@check
def negative_settle(case: AuditContext) -> Iterator[Fault]:
    for name, kind, pages, values in _settled(case):
        if values.min() < -LEAST_POINTS:
            at = int(values.argmin())
            yield Fault(
                ("damage", name, "settle"),
                f"{name} can settle below zero, where it does nothing: {witness(kind.settle, pages, at)}",
            )


@check
def zero_settle(case: AuditContext) -> Iterator[Fault]:
    for name, kind, pages, values in _settled(case):
        if -LEAST_POINTS <= values.min() < LEAST_POINTS:
            at = int(values.argmin())
            yield Fault(("damage", name, "settle"), f"{name} can settle at zero: {witness(kind.settle, pages, at)}")


def _settled(case: AuditContext) -> Iterator[tuple]:
    """Yield each damage kind with sampled meetings and what settles in them, where that is finite."""
    for name, kind in case.book.damage.items():
        pages = case.met("damage", name)
        with np.errstate(all="ignore"):
            values = np.broadcast_to(evaluate(kind.settle, pages), (SAMPLES,))
        if np.isfinite(values).all():
            yield name, kind, pages, values


@check
def unkillable(case: AuditContext) -> Iterator[Fault]:
    for on in case.book.classes:
        harmless: dict[tuple[int, ...], list[str]] = {}
        for by in case.foes(on):
            amount, _ = case.best_blow(by, on)
            if harms_otherwise(case, by):
                continue
            if levels := tuple(case.levels[amount < LEAST_POINTS].tolist()):
                harmless.setdefault(levels, []).append(by)
        for levels, foes in harmless.items():
            verb = "does" if len(foes) == 1 else "do"
            yield Fault(
                ("classes", on),
                f"nothing that {listed(foes)} {verb} harms {on} of the same level at "
                f"{said_levels(levels)}, without gear and buffs",
            )


@check
def drifting_hits(case: AuditContext) -> Iterator[Fault]:
    most = case.book.audit.drift
    for by, on in case.meetings:
        amount, _ = case.best_blow(by, on)
        top = case.page(on)[f"{case.book.downing_gauge}_top"]
        with np.errstate(all="ignore"):
            hits = np.ceil(top / amount - 1e-9)
        sound = np.isfinite(hits) & (amount >= LEAST_POINTS)
        if sound.any() and hits[sound].max() > most * hits[sound].min():
            few, many = int(np.where(sound, hits, np.inf).argmin()), int(np.where(sound, hits, -np.inf).argmax())
            yield Fault(
                ("classes", by),
                f"{by} downs {on} of the same level with {hits[few]:g} average hits at level "
                f"{case.levels[few]} and {hits[many]:g} at level {case.levels[many]}, more than {most:g} times "
                "apart",
            )


@check
def weightless_piece(case: AuditContext) -> Iterator[Fault]:
    for name, table in case.book.drops.items():
        for index, piece in enumerate(table.pieces):
            if piece.weight == 0:
                yield Fault(
                    ("drops", name, "pieces", index, "weight"),
                    f"{piece.gear} has no weight in {name}: it never drops there",
                )
    for name, rarity in case.book.rarities.items():
        if rarity.weight == 0:
            yield Fault(("rarities", name, "weight"), f"{name} has no weight: nothing ever drops as {name}")


@check
def free_aim(case: AuditContext) -> Iterator[Fault]:
    for name, body in _choosable(case):
        times = _plain_times(body)
        mean = sum(part.share * times[each] for each, part in body.parts.items())
        for part_name, part in body.parts.items():
            if times[part_name] * part.aim > WORTH * mean:
                yield Fault(
                    ("bodies", name, "parts", part_name),
                    f"aiming at {part_name} always pays: "
                    f"{figure(times[part_name])} "
                    f"times the harm for {figure(part.aim)} of the chance, against {figure(mean)} on "
                    f"average",
                )


def _aimed_parts(case: AuditContext) -> set[str | None]:
    """Return every part that an effect or a play aims at, and None where one aims at none."""
    hits = {effect.part for _, effect in case.effects if isinstance(effect, DamageEffect)}
    return hits | {play.part for playbook in case.book.playbooks.values() for play in playbook.plays}


@check
def poor_aim(case: AuditContext) -> Iterator[Fault]:
    aimed = _aimed_parts(case)
    sure = any(kind.never_misses for kind in case.book.damage.values())
    for name, body in _choosable(case):
        times = _plain_times(body)
        mean = sum(part.share * times[each] for each, part in body.parts.items())
        for part_name, part in body.parts.items():
            chance = 1.0 if sure else part.aim  # what never misses does not miss a part either
            if part_name in aimed and part.own is None and times[part_name] * chance * WORTH < mean:
                yield Fault(
                    ("bodies", name, "parts", part_name),
                    f"a play or effect aims at {part_name}, and it never "
                    f"pays: {figure(times[part_name])} times the harm for {figure(part.aim)} of the chance, against "
                    f"{figure(mean)} on average",
                )


def _choosable(case: AuditContext) -> list[tuple]:
    """Return the bodies of which a part can be chosen: those of several parts that don't go in a fixed
    order, and whose factors are plain numbers."""
    return [
        (name, body)
        for name, body in case.book.bodies.items()
        if not body.segmented and len(body.parts) > 1 and not any(part.times.names for part in body.parts.values())
    ]


def _plain_times(body: Body) -> dict[str, float]:
    """Return what a hit on each part is multiplied by, of a body where that is the same for everybody."""
    return {name: float(np.asarray(part_times(part, {}))) for name, part in body.parts.items()}


@check
def untouched_part(case: AuditContext) -> Iterator[Fault]:
    aimed = _aimed_parts(case)
    for name, body in case.book.bodies.items():
        for part_name, part in body.parts.items():
            if part.share == 0 and part_name not in aimed and not body.segmented:
                yield Fault(
                    ("bodies", name, "parts", part_name, "share"),
                    f"{part_name} has no share of the hits, and nothing aims at it",
                )


@check
def chance_beyond_one(case: AuditContext) -> Iterator[Fault]:
    for name, kind in case.book.damage.items():
        if kind.critical:
            for who in case.dealers(name):
                chance = case.by_level(kind.critical.chance, who)
                odd = case.levels[(chance > kind.critical.tiers) | (chance < 0)]
                if len(odd):
                    yield Fault(
                        ("damage", name, "critical", "chance"),
                        f"the chance of a critical of {who} is "
                        f"{figure(chance.max() if chance.max() > 1 else chance.min())} at "
                        f"{said_levels(odd.tolist())}",
                    )
                    break


@check
def hopeless_aim(case: AuditContext) -> Iterator[Fault]:
    for name, kind in case.book.damage.items():
        if kind.never_misses:
            continue
        for on in case.book.classes:
            never: dict[tuple[int, ...], list[str]] = {}
            for by in case.foes(on):
                lands = case.expected.hit(name, by, on).lands if by in case.dealers(name) else np.ones(1)
                if levels := tuple(case.levels[lands <= 0].tolist() if len(lands) > 1 else ()):
                    never.setdefault(levels, []).append(by)
            for levels, foes in never.items():
                where = ("damage", name, "lands" if kind.lands else "aim")
                yield Fault(
                    where,
                    f"{name} of {listed(foes)} never lands on {on} of the same level at "
                    f"{said_levels(levels)}, without gear and buffs",
                )


@check
def share_beyond_one(case: AuditContext) -> Iterator[Fault]:
    for name, kind in case.book.damage.items():
        if kind.resist is None:
            continue
        for who in case.book.classes:
            share = case.by_level(kind.resist, who)
            whole = case.levels[share >= 1]
            if len(whole):
                yield Fault(
                    ("damage", name, "resist"),
                    f"{who} holds back {figure(share.max())} of {name} at "
                    f"{said_levels(whole.tolist())}: nothing gets through",
                )
    for path, effect in case.effects:
        steal = effect.steal if isinstance(effect, DamageEffect) else None
        if steal is not None and path[0] == "abilities":
            for who in case.learners[path[1]]:
                share = case.by_level(steal, who)
                if share.max() > 1:
                    yield Fault((*path, "steal"), f"{who} steals {figure(share.max())} of what it takes: more than all")
                    break


@check
def moot_part_times(case: AuditContext) -> Iterator[Fault]:
    for name, body in case.book.bodies.items():
        wearers = [who for who, character in case.book.classes.items() if character.body == name]
        struck = [struck_parts(body, case.page(who))[1] for who in wearers]
        harmless = not any((share * times).any() for parts in struck for share, times in parts)
        if wearers and not body.segmented and harmless:
            yield Fault(("bodies", name, "parts"), f"every part of {name} multiplies harm by 0: nothing can harm it")
