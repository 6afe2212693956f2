"""Rules of abilities: a passive one is never used."""

from __future__ import annotations

from ..abilities import Ability
from ..alterations import Alteration
from ..brings import Brings
from ..problems import Report
from ..rulebook import Rulebook
from ..words import Middle, Targets
from .effects import check_effects


def check(book: Rulebook, report: Report) -> None:
    """A passive ability has lines of its own, any other one does something."""
    for name, ability in book.abilities.items():
        here = ("abilities", name)
        active = [key for key in ("does", "cost", "uses", "area", "projectile") if key in ability.model_fields_set]
        passive = [key for key in Brings.model_fields if key in ability.model_fields_set]
        if ability.passive and active:
            report.add((*here, active[0]), "a passive ability is never used", active[0], "remove it, or remove passive")
        if not ability.passive and passive:
            report.add(
                (*here, passive[0]),
                "only a passive ability has lines of its own",
                passive[0],
                "write passive = true, or give a buff",
            )
        _check_beside(report, here, ability)
        _check_area(report, here, ability)
        _check_at_place(report, here, ability)
        _check_straight(report, here, ability)
        if ability.priority and not book.clock.rounds:
            report.add(
                (*here, "priority"), "a priority counts in rounds", "", "write clock.rounds = true, or remove it"
            )
        if ability.least is not None and ability.reach is not None and ability.least > ability.reach:
            report.add(
                (*here, "least"), "nothing is as far as this and still in reach", f"{ability.least:g} m", "change one"
            )
        broken = name in report.broken.get("abilities", ())
        moves = ability.lunge or ability.dash or ability.jumps
        if not ability.passive and not broken and not (ability.does or ability.lays or moves):
            report.add((*here, "does"), "this ability does nothing", "", "write does = [...]")


AT_ONCE = ("windup", "recovery", "channel", "projectile", "lunge", "dash", "jumps", "cancels", "on_the_move")


def _check_beside(report: Report, here: tuple, ability: Ability) -> None:
    """What is used beside takes no time, and something keeps it from being used on every tick."""
    if not ability.beside:
        return
    for key in AT_ONCE:
        if key in ability.model_fields_set and getattr(ability, key):
            report.add((*here, key), "what is used beside takes effect at once", "", f"leave {key} out, or beside")
    if not ability.cost and ability.uses is None and ability.cooldown.time.amount == 0:
        report.add((*here, "beside"), "nothing keeps it from being used on every tick", "", "write a cooldown")


def _check_area(report: Report, here: tuple, ability: Ability) -> None:
    """An area that begins at the user reaches no farther than it is large, and no projectile carries it."""
    area = ability.area
    if area is None or not area.from_user:
        return
    if ability.reach is not None and ability.reach > area.extent:
        said = f"this reaches farther than the {area.outline} area from its user, which is {area.extent:g} m large"
        report.add((*here, "reach"), said, f"{ability.reach:g} m", "leave reach out, or make the area larger")
    if ability.targets is Targets.USER and area.origin is not Middle.USER:
        report.add((*here, "targets"), f"a {area.outline} needs somebody to aim at", "user", "write foes or allies")
    if ability.projectile is not None:
        report.add(
            (*here, "projectile"), "this area begins at its user, so that nothing flies", "", "leave projectile out"
        )


def _check_at_place(report: Report, here: tuple, ability: Ability) -> None:
    """What is aimed at a place has an area around it, and takes effect there as a whole."""
    if not ability.at_place:
        return
    if ability.area is None or ability.area.origin is Middle.USER:
        report.add((*here, "at_place"), "there is no area around the place", "", 'write area = { radius = "2 m" }')
    for key in ("beside", "channel"):
        if getattr(ability, key):
            report.add((*here, key), "what is aimed at a place takes effect as it lands", "", f"leave {key} out")


def _check_straight(report: Report, here: tuple, ability: Ability) -> None:
    """What flies straight on is a missile, and meets those who stand."""
    straight, there = ability.straight, (*here, "straight")
    if straight is None:
        return
    if ability.projectile is None:
        report.add(there, "nothing flies", "", 'write projectile = "9 m/s"')
    if ability.at_place:
        report.add(there, "what flies straight on does not stop at a place", "", "leave at_place out, or straight")
    if ability.targets in (Targets.FALLEN_ALLIES, Targets.USER):
        report.add(there, "a missile hits those who stand", ability.targets, "write targets = foes or allies")
    if straight.length is not None and ability.least is not None and straight.length < ability.least:
        said = "it ends before it comes to a target"
        report.add((*there, "length"), said, f"{straight.length:g} m", f"write more than {ability.least:g} m")


def check_alteration(book: Rulebook, report: Report, path: tuple, alteration: Alteration) -> None:
    """What is altered is used; what takes its place too."""
    for name, where in ((str(path[-1]), path), (alteration.becomes, (*path, "becomes"))):
        if name in book.abilities and book.abilities[name].passive:
            report.add(where, "a passive ability is never used", name, "name another one")
    check_effects(report, (*path, "does"), alteration.does or [])
