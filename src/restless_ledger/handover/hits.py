"""A hit of a damage kind as a function, step by step, in the engine's order."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..formula import Program
from ..rulebook import Rulebook
from ..rulebook.damage import DamageKind
from ..rulebook.problems import dotted
from .expressions import DRAWS, FACTORS, MEETING, Expression, Function, Step, expression, identifier, rounded


def hit_function(book: Rulebook, path: tuple, kind: DamageKind, name: str) -> Function:
    """Return a hit of a kind, step by step, with its draws as arguments."""
    steps = list(_hit_steps(kind))
    read: dict[str, list[str]] = {"dealer": [], "taker": []}
    programs = [*kind.dealer_lines.values(), kind.power, kind.aim, kind.spread]
    programs += [kind.critical.chance, kind.critical.times] if kind.critical else []
    programs += [kind.grazes.within, kind.grazes.times] if kind.grazes else []
    read["dealer"] = _names([each for each in programs if each is not None], tuple(kind.rolled))
    programs = [*kind.taker_lines.values(), kind.soak, kind.dodge, kind.resist]
    programs += [kind.guard.when, kind.guard.times] if kind.guard else []
    programs += [kind.block.chance, kind.block.times] if kind.block else []
    programs += [kind.critical.avoid] if kind.critical else []
    read["taker"] = _names([each for each in programs if each is not None], ())
    pages = tuple((who, tuple(dict.fromkeys((*names, "level")))) for who, names in read.items())
    numbers = (*MEETING, *FACTORS, *DRAWS, *(f"rolled_{identifier(line)}" for line in kind.rolled))
    return Function(name, f"{book.place(*path)}: {dotted(path)}", kind.label or path[1], pages, numbers, tuple(steps))


def _names(programs: Sequence[Program], without: tuple[str, ...]) -> list[str]:
    return list(dict.fromkeys(name for each in programs for name in each.names if name not in without))


def _hit_steps(kind: DamageKind) -> Iterator[Step]:
    """Yield the steps of a hit, in the engine's order."""
    for line in kind.rolled:
        yield Step(f"dealer.{identifier(line)}", f"rolled_{identifier(line)}", "what was rolled for this hit")
    yield Step("power", expression(kind.power.tree, "dealer"), f"power: {kind.power}")
    yield Step("soak", expression(kind.soak.tree, "taker"), f"soak: {kind.soak}")
    yield Step("meet.power", "power", "where the two meet")
    yield Step("meet.soak", "soak")
    yield Step("meet.level_gap", ("-", ("page", "dealer", "level"), ("page", "taker", "level")))
    for fact in MEETING:
        yield Step(f"meet.{fact}", fact)
    for line in kind.rolled:
        yield Step(f"meet.{identifier(line)}", f"rolled_{identifier(line)}")
    for page, lines in (("dealer", kind.dealer_lines), ("taker", kind.taker_lines)):
        for line, program in lines.items():
            yield Step(f"meet.{identifier(line)}", expression(program.tree, page), f"{line}: {program}")
    yield from _landing(kind)
    settled = ("greatest", 0.0, expression(kind.settle.tree, "meet"))
    yield Step("settled", settled, f"settle: {kind.settle}")
    yield from _critical(kind)
    spread: Expression = 1.0
    if kind.spread is not None:
        share = ("least", 1.0, ("greatest", 0.0, expression(kind.spread.tree, "dealer")))
        spread = ("+", 1.0, ("*", share, ("-", ("*", 2.0, "spread"), 1.0)))
    yield Step("spread_times", spread, f"spread: {kind.spread}" if kind.spread else "")
    amount: Expression = "settled"
    for factor in ("times", "part_times", "critical_times", "spread_times", "scale"):
        amount = ("*", amount, factor)
    yield Step("struck", amount)
    yield from _held_back(kind)
    graze: Expression = ("*", "blocked", "graze_times")
    yield Step("whole", rounded(graze, kind.round), f"rounded: {kind.round}")
    low, high = kind.limits if kind.limits else (0.0, 0.0)
    limited: Expression = ("least", high, ("greatest", low, "whole")) if kind.limits else "whole"
    yield Step("amount", ("choose", "missed", 0.0, limited))
    yield Step("thousandths", ("choose", "missed", -1.0, ("round", ("*", "amount", 1000.0))))


def _landing(kind: DamageKind) -> Iterator[Step]:
    if kind.never_misses:
        yield Step("lands", 1.0, "it never misses")
        yield Step("missed", 0.0)
        yield Step("grazed", 0.0)
        yield Step("graze_times", 1.0)
        return
    aim = expression(kind.aim.tree, "dealer") if kind.aim else 1.0
    yield Step("meet.aim", aim, f"aim: {kind.aim}" if kind.aim else "")
    yield Step("meet.dodge", expression(kind.dodge.tree, "taker"), f"dodge: {kind.dodge}")
    chance = ("least", ("greatest", expression(kind.landing.tree, "meet"), 0.0), 1.0)
    yield Step("chance", chance, f"lands: {kind.landing}")
    yield Step("lands", ("*", "chance", ("*", ("*", "handling", "aimed_part"), "segments")))
    yield Step("over", ("not", ("<", "land", "lands")))
    if kind.grazes is None:
        yield Step("grazed", 0.0)
        yield Step("graze_times", 1.0)
        yield Step("missed", "over")
        return
    within = ("<", "land", ("+", "lands", expression(kind.grazes.within.tree, "dealer")))
    yield Step("grazed", ("and", "over", within), f"grazes within {kind.grazes.within}")
    times = ("greatest", 0.0, expression(kind.grazes.times.tree, "dealer"))
    yield Step("graze_times", ("choose", "grazed", times, 1.0))
    yield Step("missed", ("and", "over", ("not", "grazed")))


def _critical(kind: DamageKind) -> Iterator[Step]:
    if kind.critical is None:
        yield Step("tiers", 0.0, "it is never critical")
        yield Step("critical_times", 1.0)
        return
    critical = kind.critical
    chance = expression(critical.chance.tree, "dealer")
    if critical.avoid is not None:
        chance = ("greatest", 0.0, ("-", chance, expression(critical.avoid.tree, "taker")))
    yield Step("critical_chance", chance, f"critical: {critical.chance}")
    yield Step("each_times", ("greatest", 0.0, expression(critical.times.tree, "dealer")), f"times: {critical.times}")
    if critical.tiers == 1:
        yield Step("tiers", ("<", "critical", "critical_chance"))
        yield Step("critical_times", ("choose", "tiers", "each_times", 1.0))
        return
    sure = ("greatest", 0.0, ("least", float(critical.tiers), ("floor", "critical_chance")))
    yield Step("sure", sure, f"up to {critical.tiers} tiers")
    more = ("<", "critical", ("-", "critical_chance", "sure"))
    yield Step("tiers", ("choose", ("<", "sure", float(critical.tiers)), ("+", "sure", more), "sure"))
    several = ("greatest", 0.0, ("+", 1.0, ("*", "tiers", ("-", "each_times", 1.0))))
    once = ("choose", ("<", "tiers", 1.0), 1.0, ("choose", ("<", "tiers", 2.0), "each_times", several))
    yield Step("critical_times", once)


def _held_back(kind: DamageKind) -> Iterator[Step]:
    resist: Expression = 1.0
    if kind.resist is not None:
        resist = ("greatest", 0.0, ("-", 1.0, expression(kind.resist.tree, "taker")))
    yield Step("resist_times", resist, f"resist: {kind.resist}" if kind.resist else "")
    guarded: Expression = 0.0
    guard: Expression = 1.0
    if kind.guard is not None:
        guarded = ("!=", expression(kind.guard.when.tree, "taker"), 0.0)
        guard = ("choose", "on_guard", ("greatest", 0.0, expression(kind.guard.times.tree, "taker")), 1.0)
    yield Step("on_guard", guarded, f"guard: {kind.guard.when}" if kind.guard else "")
    yield Step("guard_times", guard)
    yield Step("held_back", ("*", "struck", ("*", ("*", "resist_times", "against"), "guard_times")))
    if kind.block is None:
        yield Step("blocked", "held_back")
        yield Step("guarded", "on_guard")
        return
    chance = expression(kind.block.chance.tree, "taker")
    yield Step("blocks", ("and", ("<", 0.0, chance), ("<", "block", chance)), f"block: {kind.block.chance}")
    times = ("greatest", 0.0, expression(kind.block.times.tree, "taker"))
    yield Step("blocked", ("choose", "blocks", ("*", "held_back", times), "held_back"))
    yield Step("guarded", ("or", "on_guard", "blocks"))
