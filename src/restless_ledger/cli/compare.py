"""`restless-ledger compare`: what changed between two rulebooks, and what came of it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import keeping, options, output
from .books import open_book
from .history import print_history
from .keeping import keep_run
from .names import WHICH, rulebooks
from .output import deliver
from .progress import with_progress
from .tables import console
from .workers import workers

if TYPE_CHECKING:
    from ..auditing.comparison import PromisedComparison
    from ..study.compare import FigureChange, OutcomeChange

MOST_ROWS = 20
PROMISE_HEADS = ("", "promise", "figure", "promised", "now")
OUTCOME_HEADS = ("encounter", "side", "wins", "now", "change", "95% interval", "seconds")
FIGURE_HEADS = ("class", "figure", "levels", "most at", "before", "now", "change")
CHANGE_HEADS = ("place", "path", "before", "now")
FORMATS = ("text", "csv", "json", "markdown")
MARKUP = re.compile(r"([\\`*\[\]<>&|~#]|(?<![^\W_])_|_(?![^\W_]))")


@click.command("compare")
@click.argument("old", metavar="OLD", required=False, shell_complete=rulebooks)
@click.argument("new", metavar="NEW", required=False, shell_complete=rulebooks)
@click.option("--fights", type=int, default=4000, show_default=True, help="How often each encounter is fought by both.")
@click.option("--promises", is_flag=True, help="Also judge the promises of both.")
@click.option("--history", "store", metavar="STORE", help="Show instead what the figures of kept runs did over time.")
@options.seed
@workers
@keeping.option
@output.plot
@output.output(*dict.fromkeys((*table_names.PROMISED_COMPARISON, *table_names.HISTORY)), formats=FORMATS)
def command(old: str | None, new: str | None, fights: int, promises: bool, store: str | None, seed: int) -> None:
    """Compare rulebook OLD with rulebook NEW: numbers, sheets, outcomes with the same luck; Markdown for a review.

    With --history, show the figures of the runs that --keep put into STORE, and the changes that moved them beyond
    chance. OLD is then a figure, or the beginning of several, such as stair_duel; all of them unless it is given.
    """
    if store is not None:
        history = library.history(store, old)
        table = "points" if len(history.points) == 1 else "figures"
        deliver(history, lambda: print_history(history), table=table)
        return
    if old is None or new is None:
        raise click.UsageError(f"{'NEW' if old else 'OLD'} is missing; {WHICH}")
    books = open_book(old), open_book(new)
    comparison = with_progress(
        "encounters",
        None,
        lambda progress: library.compare(*books, fights=fights, seed=seed, promises=promises, progress=progress),
    )
    written = {
        "json": lambda: json.dumps(comparison.report(), indent=1, ensure_ascii=False) + "\n",
        "markdown": lambda: _text(comparison, True),
    }
    deliver(comparison, lambda: console().write(_text(comparison)), written=written)
    keep_run(comparison, new)


def _text(comparison: PromisedComparison, markdown: bool = False) -> str:
    return "\n".join(_lines(comparison, markdown)) + "\n"


def _lines(comparison: PromisedComparison, markdown: bool) -> Iterator[str]:
    """Yield the lines of the whole comparison: what came of it first, what was changed last."""
    from ..auditing.formats.words import said_bounds, said_estimate

    yield f"## {plain(comparison.finding())}" if markdown else f"{comparison.finding()}."
    for names, what in ((comparison.added, "new"), (comparison.removed, "gone")):
        if names:
            said = ", ".join(names)
            yield f"\nEncounters that are {what}: {plain(said) if markdown else said}"
    if comparison.judged:
        turned = [
            (word, judgement.title, judgement.what, said_bounds(judgement), said_estimate(judgement))
            for word, judgement in comparison.turned()
        ]
        yield from _section("Promises that turned", PROMISE_HEADS, turned, markdown, "None has turned.")
    if comparison.outcomes:
        fights = max(change.fights for change in comparison.outcomes)
        title = f"Outcomes, {fights:,} fights each with the same luck, seed {comparison.seed}"
        yield from _section(title, OUTCOME_HEADS, [_outcome(change) for change in comparison.outcomes], markdown, "")
    if comparison.left_out:
        stages = ", ".join(comparison.left_out)
        yield f"\nLeft out, as a journey's party takes a side that never wins as it is written: {stages}"
    figures = [_figure(change) for change in comparison.figures]
    yield from _section("Sheets", FIGURE_HEADS, figures, markdown, "No sheet has changed.")
    changes = [(each.place, each.path, each.old, each.new) for each in comparison.changes]
    yield from _section("Changed values", CHANGE_HEADS, changes, markdown, "None.")


def _outcome(change: OutcomeChange) -> tuple[str, ...]:
    if change.failed:
        return (change.encounter, change.side, "", "", "can't be fought", change.failed[:60], "")
    mark = "" if change.low <= 0 <= change.high else "*"
    interval = f"{_signed(change.low)} to {_signed(change.high)}"
    if change.low == change.high == 0:
        interval = "no fight differs"
    elif change.verdict == "same":
        interval += ", the same"
    difference = f"{_signed(change.difference)}{mark}"
    return (
        change.encounter,
        change.side,
        f"{change.old:.1%}",
        f"{change.new:.1%}",
        difference,
        interval,
        f"{change.seconds_old:.1f} → {change.seconds_new:.1f}",
    )


def _signed(share: float) -> str:
    return f"{share:+.1%}".replace("-", "−") if abs(share) >= 0.0005 else "0.0%"


def _figure(change: FigureChange) -> tuple[str, ...]:
    from ..formula.explain import number

    levels = f"{change.levels[0]} to {change.levels[-1]}" if len(change.levels) > 1 else str(change.levels[0])
    share = f"{change.share:+.1%}".replace("-", "−") if change.old else "from 0"
    return (change.who, change.figure, levels, str(change.level), number(change.old), number(change.new), share)


def plain(text: str) -> str:
    """Return a text that Markdown shows as it is: what would be taken for markup has a backslash before it."""
    return MARKUP.sub(r"\\\1", text)


def _section(
    title: str, heads: tuple[str, ...], rows: Sequence[tuple[str, ...]], markdown: bool, none: str
) -> Iterator[str]:
    """Yield a table under a title: ruled for the terminal, or in Markdown."""
    yield f"\n### {title}\n" if markdown else f"\n{title}"
    if not rows:
        yield none
        return
    shown = rows if markdown else rows[:MOST_ROWS]
    if markdown:
        yield f"| {' | '.join(heads)} |"
        yield f"|{'---|' * len(heads)}"
        for row in shown:
            yield f"| {' | '.join(map(plain, row))} |"
        return
    widths = [min(34, max(len(row[index]) for row in (heads, *shown))) for index in range(len(heads))]
    yield "  ".join(head.ljust(width) for head, width in zip(heads, widths, strict=True)).rstrip()
    yield "─" * min(110, sum(widths) + 2 * (len(widths) - 1))
    for row in shown:
        cells = [
            cell if len(cell) <= width else cell[: width - 1] + "…" for cell, width in zip(row, widths, strict=True)
        ]
        yield "  ".join(cell.ljust(width) for cell, width in zip(cells, widths, strict=True)).rstrip()
    if len(rows) > len(shown):
        yield f"… and {len(rows) - len(shown)} more; --format json lists them all"
