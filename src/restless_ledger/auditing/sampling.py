"""Pages drawn from the declared ranges: where a formula goes wrong anywhere a character could ever stand."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from ..formula import Program, evaluate, explain, taken_apart
from ..formula.arrays import Array
from ..formula.program import compile_tree
from ..formula.tree import Call, Choice, Node, Use
from ..rulebook import Rulebook
from ..rulebook.damage import DamageKind
from ..rulebook.pages import FACTS, gauge_names, marks
from ..sheets.by_level import page_by_level
from ..sheets.hits import dealer_lines, drawn_lines, meeting_page, taker_lines

SAMPLES = 2048
SEED = 20_11
FARTHEST_M, MOST_BOOKED, HIGHEST_M, MOST_COUNTED = 50.0, 1000.0, 100.0, 12
DIVIDING = ("/", "//", "%")
Pages = dict[str, Array]


def sample_pages(book: Rulebook, turn: int = 0, seen: Iterable[str] = ()) -> Pages:
    """Return pages spread over the declared ranges, each name an array of shape (SAMPLES,).

    Half of them are corners (each name at its least or its most), the others lie anywhere between. A stat whose range
    is not written ranges over what the classes have. `turn` gives other pages: those of a second character. `seen` are
    the names that ask something of a fight.
    """
    generator = np.random.default_rng([SEED, turn])

    def spread(low: float, high: float) -> Array:
        corners = np.where(generator.random(SAMPLES // 2) < 0.5, low, high)
        return np.concatenate([corners, low + (high - low) * generator.random(SAMPLES // 2)])

    pages: Pages = {"level": np.round(spread(*map(float, book.rulebook.levels)))}
    for mark in marks(book):
        pages[f"marked({mark})"] = np.round(spread(0.0, 1.0))
    for name in book.stats:
        pages[name] = spread(*stat_range(book, name))
    with np.errstate(all="ignore"):
        for name, gauge in book.gauges.items():
            top, fill = np.broadcast_to(evaluate(gauge.top, pages), (SAMPLES,)), spread(0.0, 1.0)
            top = np.maximum(top, 0.0)
            pages.update(zip(gauge_names(name), (fill * top, top, np.where(top > 0, fill, 0.0)), strict=True))
    bounds = fact_bounds(book)
    pages.update({fact: spread(*bounds[fact]) for fact in FACTS})
    pages["at_user"] = np.round(pages["at_user"])
    for name in seen:
        pages[name] = _seen(name, spread(0.0, 1.0), book)
    _add_lines(book, pages, generator)
    return {**pages, "safe_speed": np.full(SAMPLES, book.falls.safe_speed)}


def _seen(name: str, drawn: Array, book: Rulebook) -> Array:
    """Return what a name asks of a fight, on every page."""
    match taken_apart(name)[0]:
        case "ready" | "winding_up":
            return np.round(drawn)
        case "since_start":
            return drawn * book.clock.seconds(book.clock.limit_ticks())
        case "dealt" | "taken" | "healed":
            return drawn * MOST_BOOKED
    return np.round(drawn * MOST_COUNTED)


def _add_lines(book: Rulebook, pages: Pages, generator: np.random.Generator) -> None:
    """Add the lines that kinds roll for each hit, and those that plays write on the pages of others."""
    with np.errstate(all="ignore"):
        for chapter in (book.damage, book.healing):
            for kind in chapter.values():
                pages.update(drawn_lines(kind, pages, generator.random(SAMPLES)))
        for playbook in book.playbooks.values():
            for play in playbook.plays:
                for name, program in play.mine.items():
                    pages[name] = np.broadcast_to(evaluate(program, pages), (SAMPLES,))


def fact_bounds(book: Rulebook) -> dict[str, tuple[float, float]]:
    """Return the least and the most that each fact of the moment is sampled at."""
    falls, fastest = book.falls, max(book.falls.terminal.speed, book.falls.safe_speed)
    highest = max((height.up for arena in book.arenas.values() for height in arena.heights), default=0.0)
    return {
        "booked": (0.0, MOST_BOOKED),
        "distance": (0.0, FARTHEST_M),
        "fall_speed": (falls.safe_speed, fastest),
        "fall_height": (0.0, HIGHEST_M),
        "asked": (0.001, MOST_BOOKED),
        "at_user": (0.0, 1.0),
        "behind": (0.0, 1.0),
        "above": (-highest, highest),
        "crash_speed": (0.0, fastest),
        "speed_now": (0.0, fastest),
    }


def stat_range(book: Rulebook, name: str) -> tuple[float, float]:
    """Return the least and the most that a stat can be: its range, or without one what the classes have."""
    stat = book.stats[name]
    if "range" in stat.model_fields_set or not book.classes:
        return stat.floor, stat.ceiling
    values = [page_by_level(book, who)[name] for who in book.classes]
    return float(min(row.min() for row in values)), float(max(row.max() for row in values))


def meeting(kind: DamageKind, dealer: Pages, taker: Pages) -> Pages:
    """Return what `lands` and `settle` of a kind can see where dealers meet takers, pair by pair."""
    gap = dealer["level"] - taker["level"]
    rolled = {name: dealer[name] for name in kind.rolled}
    seen = meeting_page(dealer_lines(kind, dealer, rolled), taker_lines(kind, taker, ""), gap, dealer["distance"])
    seen |= {name: dealer[name] for name in ("behind", "above")}
    return {name: np.broadcast_to(values, (SAMPLES,)) for name, values in seen.items()}


def witness(program: Program, pages: Pages, at: int) -> str:
    """Return a formula explained on one of the sampled pages."""
    return str(explain(program, {name: float(pages[name][at]) for name in program.names}))


def undefined(program: Program, pages: Pages) -> str:
    """Say where a formula has no finite value on some page, or an empty text."""
    with np.errstate(all="ignore"):
        values = np.broadcast_to(evaluate(program, pages), (SAMPLES,))
        bad = np.flatnonzero(~np.isfinite(values))
        if len(bad):
            return witness(program, pages, int(bad[0]))
        for divisor in divisors(program.tree):
            below = np.broadcast_to(evaluate(divisor, pages), (SAMPLES,))
            if below.min() <= 0 <= below.max() and not (below == 0).any():
                at = int(np.abs(below).argmin())
                return f"the divisor of {program} goes through 0; near it, {witness(divisor, pages, at)}"
    return ""


def divisors(node: Node) -> Iterator[Program]:
    """Yield what a formula divides by, as formulas."""
    if isinstance(node, Call):
        if node.function in DIVIDING:
            yield compile_tree(node.function, node.operands[1])
        for operand in node.operands:
            yield from divisors(operand)
    elif isinstance(node, Use):
        yield from divisors(node.inside)
    elif isinstance(node, Choice):
        for part in (node.condition, node.yes, node.no):
            yield from divisors(part)
