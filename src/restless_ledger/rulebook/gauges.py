"""Gauges: what is spent and refilled. Each has a top, an opening amount and perhaps a refill."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from ..formula import evaluate
from .meaning import BookedFormula, GaugeName, Lasting, SteadyFormula, UserFormula
from .pages import gauge_names
from .problems import Report
from .quantities import Entry, Label, Opening, OpeningField

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Refill(Entry):
    """`refill = { amount, every, after_harm, when }`: so much, so often; first one period after the fight begins.

    A period's refill is left out when its character was harmed less than `after_harm` ago, or where `when` (on its
    own page) does not hold; the rhythm goes on.
    """

    amount: UserFormula
    """How much comes back each time, on the owner's page."""
    every: Lasting
    """The time from one refill to the next."""
    after_harm: Lasting | None = None
    """How long after the last harm nothing comes back."""
    when: UserFormula | None = None
    """Nothing comes back where this does not hold, on the owner's page."""


class Earns(Entry):
    """`earns = { acting, dealing, taking }`: per ability used, per hit dealt, per hit taken; on the owner's page.

    In `dealing` and `taking`, `booked` is what the hit booked.
    """

    acting: UserFormula | None = None
    """What each ability that is used brings."""
    dealing: BookedFormula | None = None
    """What each hit that is dealt brings; booked is what the hit took."""
    taking: BookedFormula | None = None
    """What each hit that is taken brings; booked is what the hit took."""


class Gauge(Entry):
    """`[gauges.health]`. The one gauge with `downs = true` takes its character down at zero.

    A gauge `before` another takes harm in its place, and passes on what it can't hold. When a top falls back, what
    is over is cut, or kept until it is spent, as `over` says.
    """

    label: Label | None = None
    """The name that people read."""
    top: SteadyFormula
    """How much it holds, on the owner's page."""
    opens: OpeningField = Opening(1.0, 0.0)
    """How full it is when a fight begins."""
    refill: Refill | None = None
    """What comes back by itself."""
    earns: Earns = Earns()
    """What deeds bring."""
    before: GaugeName | None = None
    """The gauge in whose place it takes harm. What it can't hold is passed on."""
    over: Literal["cut", "keep"] = "cut"
    """What happens to what is over when its top falls: it is cut, or kept until it is spent."""
    downs: bool = False
    """Whether its character goes down when it is empty. Exactly one gauge does this."""


def _in_front_of(book: Rulebook, name: str) -> list[str]:
    """Return a gauge and those it stands in front of, one after the other; ends at the first that comes twice."""
    chain = [name]
    while (behind := book.gauges[chain[-1]].before) in book.gauges:
        chain.append(behind)
        if behind in chain[:-1]:
            break
    return chain


def fronts(book: Rulebook, name: str) -> list[str]:
    """Return the gauges that take harm in place of one, the foremost first."""
    return [
        front for other, gauge in book.gauges.items() if gauge.before == name for front in (*fronts(book, other), other)
    ]


def check(book: Rulebook, report: Report) -> None:
    """Names are free, refills fill, and exactly one gauge takes its character down."""
    taken = {*book.stats, *report.broken.get("stats", ())}
    for name, gauge in book.gauges.items():
        report.own_name(("gauges", name), name)
        if gauge.refill:
            amount = gauge.refill.amount
            if not amount.names and float(evaluate(amount, {})) < 0:
                report.add(
                    ("gauges", name, "refill", "amount"),
                    "a refill only fills: it can't be below zero",
                    amount.text,
                    "write 0 or more; to lose it, use a buff with a drain",
                )
        if len(chain := _in_front_of(book, name)) > len(set(chain)):
            report.add(
                ("gauges", name, "before"),
                "these gauges stand in front of each other in a ring",
                " → ".join(chain),
                "take one of them out",
            )
        for word in taken.intersection(gauge_names(name)):
            report.add(
                ("gauges", name),
                f"a formula could not tell this gauge's {word} from the stat of that name",
                "",
                "rename one of them",
            )
    downing = [name for name, gauge in book.gauges.items() if gauge.downs]
    if len(downing) > 1:
        report.add(
            ("gauges", downing[1], "downs"),
            "only one gauge can take a character down",
            ", ".join(downing),
            "keep downs = true on one of them",
        )
    if not downing and not report.broken.get("gauges") and (book.classes or book.gauges):
        report.add(("gauges",), "no gauge takes a character down", "", "give one gauge downs = true")
