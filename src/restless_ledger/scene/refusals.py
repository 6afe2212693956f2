"""Why a unit can't do what is asked of it, with the figures."""

from __future__ import annotations

from collections.abc import Iterator

from ..engine import codes, refusals
from ..engine.machine import evaluate
from ..formula.explain import number
from ..ledger.points import points
from ..sheets.tries import in_words
from .bench import Bench


def why_not(bench: Bench, unit: int, refusal: int, play: int = -1, target: int = -1) -> str:
    """Say what stands against something, by its number: how long still, which gauge, how far. Empty: nothing does."""
    if refusal == refusals.NOTHING_AGAINST:
        return ""
    if refusal in OF_TARGETS:
        return _of_target(bench, unit, refusal, play, target)
    if play >= 0:
        known = bench.state.known[bench.setup.tables.plays[play].known]
        ability = int(known.ability)
    match refusal:
        case refusals.IS_DOWN:
            return "it is not here" if bench.state.units[unit].absent else "it is down"
        case refusals.IS_UP:
            return "it is up"
        case refusals.IS_BUSY:
            return f"it is busy for another {still(bench, int(bench.state.units[unit].free_at))}"
        case refusals.IS_COOLING_DOWN if known.uses == 0:
            return "it has no uses left in this fight"
        case refusals.IS_COOLING_DOWN:
            return f"it is cooling down for another {still(bench, int(known.ready_at))}"
        case refusals.IS_TOO_DEAR:
            return "it can’t be paid: " + ", ".join(_lacking(bench, unit, ability))
        case refusals.IS_SLIDING:
            return "it still slides"
        case refusals.IS_NOT_MET:
            return f"it requires {_required(bench, unit, ability)}"
        case refusals.IS_BARRED:
            return f"it is kept from it by {', '.join(_barring(bench, unit, ability)) or 'what no longer grants it'}"
        case refusals.IS_ELSEWHERE:
            return "it is in the air or on its way back"
    raise AssertionError(f"nobody has written what refusal {refusal} is")


OF_TARGETS = (
    refusals.IS_NO_TARGET,
    refusals.IS_TARGET_DOWN,
    refusals.IS_TARGET_UP,
    refusals.IS_HIDDEN,
    refusals.IS_TARGET_ELSEWHERE,
    refusals.IS_OUT_OF_REACH,
    refusals.IS_TOO_NEAR,
    refusals.IS_OUT_OF_SIGHT,
)


FOR_WHOM = {
    codes.FOE: "it is for foes",
    codes.ALLY: "it is for allies",
    codes.USER_ONLY: "it is for its user alone",
    codes.FALLEN_ALLY: "it is for allies who are down",
}


def _of_target(bench: Bench, unit: int, refusal: int, play: int, target: int) -> str:
    """Say what stands against a target."""
    ability = int(bench.state.known[bench.setup.tables.plays[play].known].ability)
    other = bench.setup.names.units[target]
    match refusal:
        case refusals.IS_NO_TARGET:
            return f"it can’t be used on {other}: {FOR_WHOM[bench.setup.tables.abilities[ability].targets]}"
        case refusals.IS_TARGET_DOWN:
            return f"{other} is {'not here' if bench.state.units[target].absent else 'down'}"
        case refusals.IS_TARGET_UP:
            return f"{other} is not down"
        case refusals.IS_HIDDEN:
            return f"{other} is hidden"
        case refusals.IS_TARGET_ELSEWHERE:
            return f"{other} is in the air or on its way back"
    return _where(bench, unit, refusal, ability, target)


def still(bench: Bench, until: int) -> str:
    """Say how long it is until a tick."""
    clock = bench.setup.book.clock
    return f"{number(clock.seconds(until - bench.ticks))} {clock.unit}"


def _written(bench: Bench, ability: int) -> str:
    """Return the name of an ability in the rulebook, however it is altered."""
    return bench.setup.names.abilities[ability]


def _required(bench: Bench, unit: int, ability: int) -> str:
    """Say what an ability requires, with labels and the figures of now."""
    requires = bench.setup.lines[bench.setup.tables.abilities[ability].requires].program
    page = dict(zip(bench.setup.names.slots, bench.state.pages[unit].tolist(), strict=False))
    return in_words(bench.setup.book, requires, page)


def _where(bench: Bench, unit: int, refusal: int, ability: int, target: int) -> str:
    row, other = bench.setup.tables.abilities[ability], bench.setup.names.units[target]
    me, you = bench.state.units[unit], bench.state.units[target]
    away = distance(bench, float(me.x - you.x), float(me.y - you.y))
    if refusal == refusals.IS_OUT_OF_SIGHT:
        return f"{other} is behind a wall"
    if refusal == refusals.IS_TOO_NEAR:
        return (
            f"{other} is too near by {number(row.least - away)} m: {number(away)} m away, from {number(row.least)} m on"
        )
    return (
        f"{other} is out of reach by {number(away - row.reach)} m: {number(away)} m away, reach {number(row.reach)} m"
    )


def distance(bench: Bench, east: float, north: float) -> float:
    """Return how far it is so far east and so far north, in metres, as the arena counts."""
    counts = int(bench.setup.tables.place[0].counts)
    if counts == 0:
        return float((east * east + north * north) ** 0.5)
    return abs(east) + abs(north) if counts == codes.OVER_SIDES else max(abs(east), abs(north))


def _barring(bench: Bench, unit: int, ability: int) -> Iterator[str]:
    """Yield the buffs that keep a unit from an ability."""
    tables, book = bench.setup.tables, bench.setup.book
    entry = book.abilities[_written(bench, ability)]
    basic = bench.setup.names.abilities.index(_written(bench, ability))
    for place, buff in enumerate(bench.setup.names.buffs):
        row = tables.buffs[place]
        barred = basic in tables.barred[row.first_barred : row.last_barred]
        leaps = bool(entry.dash or entry.lunge or entry.jumps) and row.bars & codes.BARS_DASHING
        if bench.state.buffs[unit, place].on and (barred or leaps or row.bars & codes.BARS_ACTING):
            yield (book.buffs[buff].label or buff) if buff in book.buffs else buff


def _lacking(bench: Bench, unit: int, ability: int) -> Iterator[str]:
    """Yield each gauge that does not hold what an ability costs, and how much of how much it holds."""
    tables, book = bench.setup.tables, bench.setup.book
    row = tables.abilities[ability]
    for cost in tables.effects[row.first_cost : row.first_effect]:
        wanted = max(0.0, evaluate(tables, bench.state, int(cost.line), unit))
        held = points(bench.state.gauges[unit, cost.index].now)
        if held - points(tables.gauges[cost.index].bottom) < wanted:
            name = bench.setup.names.gauges[cost.index]
            yield f"{number(held)} of {number(wanted)} {book.gauges[name].label or name}"
