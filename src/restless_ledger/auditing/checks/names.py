"""Names: what nothing refers to, what nothing reads, what could be taken for something else."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from ...rulebook.effect_lists import laid_by
from ...rulebook.effects import (
    BuildupEffect,
    DamageEffect,
    DrainEffect,
    FillEffect,
    GiveEffect,
    HealEffect,
    PushEffect,
    StripEffect,
)
from ...rulebook.pages import bearers, gauge_names, marks
from ...rulebook.rules.effects import stripped
from ..audit_context import AuditContext
from ..finding import Fault
from ..phrases import listed
from ..registry import check

NAMED_CHAPTERS = (
    "stats",
    "gauges",
    "damage",
    "healing",
    "bodies",
    "classes",
    "origins",
    "gear",
    "upgrades",
    "abilities",
    "buffs",
    "playbooks",
    "arenas",
    "stages",
)
SHORTEST_NAME = 5


@check
def near_names(case: AuditContext) -> Iterator[Fault]:
    for chapter in NAMED_CHAPTERS:
        for one, other in _alike(list(getattr(case.book, chapter))):
            yield Fault((chapter, other), f"{other} and {one} differ in one letter")


def _alike(names: list[str]) -> list[tuple[str, str]]:
    """Return the pairs of names that are one letter apart, in the order of the names.

    Such names are alike once a letter is taken out of one of them, or of both at the same place; so only those are
    compared of which some shortened form is the same.
    """
    shortened: dict[str, list[int]] = {}
    for place, name in enumerate(names):
        if len(name) >= SHORTEST_NAME:
            for form in {name, *(name[:at] + name[at + 1 :] for at in range(len(name)))}:
                shortened.setdefault(form, []).append(place)
    pairs = {pair for places in shortened.values() for pair in combinations(places, 2)}
    return [(names[one], names[other]) for one, other in sorted(pairs) if _one_letter_apart(names[one], names[other])]


def _one_letter_apart(one: str, other: str) -> bool:
    """Say whether two names differ by one letter more, less or other; names that end in different numbers do not."""
    if one.rstrip("0123456789") == other.rstrip("0123456789") or abs(len(one) - len(other)) > 1:
        return False
    at = next((at for at, (a, b) in enumerate(zip(one, other, strict=False)) if a != b), min(len(one), len(other)))
    short, long = sorted((one, other), key=len)
    return short[at:] == long[at + 1 :] if len(short) < len(long) else one[at + 1 :] == other[at + 1 :]


@check
def unread_stat(case: AuditContext) -> Iterator[Fault]:
    for name in case.book.stats:
        if name not in case.readers:
            yield Fault(("stats", name), f"no formula reads {name}")


@check
def unread_gauge(case: AuditContext) -> Iterator[Fault]:
    spent: set[str | None] = {gauge for ability in case.book.abilities.values() for gauge in ability.cost}
    spent |= {effect.gauge for _, effect in case.effects if isinstance(effect, DrainEffect)}
    spent |= {kind.gauge for kind in case.book.damage.values()}
    for name, gauge in case.book.gauges.items():
        read = any(word in case.readers for word in gauge_names(name))
        if not (gauge.downs or gauge.before or name in spent or read):
            yield Fault(("gauges", name), f"no cost, no harm and no formula ever asks for {name}")


@check
def unborne_mark(case: AuditContext) -> Iterator[Fault]:
    borne = {
        mark
        for path, brings in bearers(case.book)
        if path[0] != "buffs" or path[1] in case.given
        for mark in brings.marks
    }
    for mark in marks(case.book):
        asked = case.mark_readers[mark]
        if mark not in borne and asked:
            givers = [name for name, buff in case.book.buffs.items() if mark in buff.marks]
            yield Fault(
                asked[0],
                f"this asks for the mark {mark}, which only {listed(givers)} gives, "
                f"and nothing applies {'that' if len(givers) == 1 else 'those'}",
            )


@check
def untested_mark(case: AuditContext) -> Iterator[Fault]:
    for mark in marks(case.book):
        if not case.mark_readers[mark]:
            giver = next(path for path, brings in bearers(case.book) if mark in brings.marks)
            yield Fault((*giver, "marks"), f"no rule asks for the mark {mark}")


@check
def unapplied_buff(case: AuditContext) -> Iterator[Fault]:
    for name in case.book.buffs:
        if name not in case.given:
            yield Fault(("buffs", name), f"no ability, buff, reaction, supply or zone gives {name}")


@check
def unlearned_ability(case: AuditContext) -> Iterator[Fault]:
    named = {name for who in case.book.classes.values() for names in who.learns.values() for name in names}
    for name in case.book.abilities:
        if name not in case.reached and name not in named:
            yield Fault(("abilities", name), f"no class learns {name}, and no gear or event brings it")


@check
def unused_ability(case: AuditContext) -> Iterator[Fault]:
    for who, character in case.book.classes.items():
        own = [one.playbook for _, one in case.characters if one.who == who and one.playbook]
        own += [effect.playbook for effect in case.summons if effect.summon == who and effect.playbook]
        playbooks = [case.book.playbooks[name] for name in {*own, character.playbook} if name]
        used = {play.use for playbook in playbooks for play in playbook.plays}
        for level, names in character.learns.items():
            for index, name in enumerate(names):
                unlocks = any(jump.unlock == name for jump in character.jumps)
                usable = who in case.learners[name] and not case.book.abilities[name].passive
                if playbooks and usable and name not in used and not unlocks:
                    yield Fault(
                        ("classes", who, "learns", str(level), index),
                        f"{who} learns {name}, and no play of its playbook uses it",
                    )


@check
def idle_alteration(case: AuditContext) -> Iterator[Fault]:
    for path, entry in bearers(case.book):
        for name in entry.alters:
            if name in case.brought:
                continue
            who = case.learners[name]
            if not who:
                yield Fault((*path, "alters", name), f"nobody knows {name}: there is nothing to alter")
            elif path[0] == "classes" and path[1] not in who:
                yield Fault((*path, "alters", name), f"{path[1]} never knows {name}: there is nothing to alter")


@check
def unplayed_grant(case: AuditContext) -> Iterator[Fault]:
    used = {play.use for playbook in case.book.playbooks.values() for play in playbook.plays}
    for buff, entry in case.book.buffs.items():
        for index, name in enumerate(entry.grants):
            if name not in used:
                yield Fault(("buffs", buff, "grants", index), f"no playbook uses {name}: its bearers never do")


@check
def undealt_kind(case: AuditContext) -> Iterator[Fault]:
    dealt = {effect.damage for _, effect in case.effects if isinstance(effect, DamageEffect)}
    mended = {effect.heal for _, effect in case.effects if isinstance(effect, HealEffect)}
    for chapter, used, verb in (("damage", dealt, "deals"), ("healing", mended, "mends by")):
        for name in getattr(case.book, chapter):
            if name not in used:
                yield Fault((chapter, name), f"nothing {verb} {name}")


@check
def unused_entry(case: AuditContext) -> Iterator[Fault]:
    book = case.book
    named = [character for _, character in case.characters] + list(book.classes.values())
    journeys = book.journeys.values()
    used: dict[str, set[str | None]] = {
        "bodies": {who.body for who in book.classes.values()},
        "playbooks": {character.playbook for character in named} | {effect.playbook for effect in case.summons},
        "handlings": {character.handling for character in named}
        | {name for promise in book.promises.values() for name in getattr(promise, "handlings", None) or ()},
        "slots": {gear.slot for gear in book.gear.values()},
        "gear_sets": {gear.belongs_to for gear in book.gear.values()},
        "drops": {stage.drop for stage in book.stages.values()},
        "plans": {member.plan for journey in journeys for member in journey.party},
        "supplies": {spot.supply for arena in book.arenas.values() for spot in arena.supplies},
        "zones": {laid.zone for arena in book.arenas.values() for laid in arena.zones}
        | {ability.lays for ability in book.abilities.values()}
        | set(laid_by(effect for _, effect in case.effects)),
        "difficulties": {side.difficulty for entry in book.encounters.values() for side in entry.sides},
        "arenas": {encounter.arena for encounter in book.encounters.values()},
        "stages": {name for journey in journeys for name in journey.stages},
    }
    for chapter, names in used.items():
        for name in getattr(book, chapter):
            if name not in names:
                yield Fault((chapter, name), f"nothing refers to {chapter}.{name}")


@check
def unmet_class(case: AuditContext) -> Iterator[Fault]:
    met = {character.who for _, character in case.characters} | {effect.summon for effect in case.summons}
    if case.book.encounters:
        for who in case.book.classes:
            if who not in met:
                yield Fault(("classes", who), f"{who} is in no encounter and no party")


@check
def unfound_gear(case: AuditContext) -> Iterator[Fault]:
    found = {piece.gear for table in case.book.drops.values() for piece in table.pieces if piece.weight}
    found |= {name for stage in case.book.stages.values() for name in stage.gives}
    gifts = (gift for stage in case.book.stages.values() for gift in stage.gifts.values())
    found |= {name for gift in gifts for name in gift.gives}
    found |= {name for _, character in case.characters for name in character.gear}
    for name in case.book.gear:
        if name not in found:
            yield Fault(("gear", name), f"nothing drops {name}, no stage gives it and nobody wears it from the start")


@check
def vain_strip(case: AuditContext) -> Iterator[Fault]:
    for path, effect in case.effects:
        given = isinstance(effect, StripEffect) and any(
            name in case.given for name in stripped(case.book, effect.strip)
        )
        if isinstance(effect, StripEffect) and not given:
            yield Fault((*path, "strip"), f"nothing ever applies a buff that {effect.strip} stands for")


@check
def empty_handed_class(case: AuditContext) -> Iterator[Fault]:
    for who, character in case.book.classes.items():
        if character.learns and not case.harmful(who) and not _helps(case, who):
            yield Fault(("classes", who, "learns"), f"nothing that {who} learns harms, heals or changes anybody")


def _helps(case: AuditContext, who: str) -> bool:
    kinds = (HealEffect, FillEffect, GiveEffect, BuildupEffect, DrainEffect, PushEffect)
    return any(
        isinstance(effect, kinds)
        for name, at in case.learners.items()
        if who in at
        for effect in case.book.abilities[name].effects
    ) or bool(case.book.classes[who].reacts)
