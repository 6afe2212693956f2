"""`restless-ledger compare`: what changed between two rulebooks, and what came of it."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from pathlib import Path

import click

from .. import api as library
from ..auditing.comparison import PromisedComparison
from ..auditing.formats.words import said_bounds, said_estimate
from ..formula.explain import number
from ..study.compare import FigureChange, OutcomeChange
from . import keeping, options
from .keeping import keep_run
from .options import open_book
from .progress import with_progress
from .tables import console, told, write_text
from .workers import workers

MOST_ROWS = 20
PROMISE_HEADS = ("", "promise", "figure", "promised", "now")
OUTCOME_HEADS = ("encounter", "side", "wins", "now", "change", "95% interval", "seconds")
FIGURE_HEADS = ("class", "figure", "levels", "most at", "before", "now", "change")
CHANGE_HEADS = ("place", "path", "before", "now")
FORMATS = ("text", "json", "markdown")
MARKUP = re.compile(r"([\\`*\[\]<>&|~#]|(?<![^\W_])_|_(?![^\W_]))")


@click.command("compare")
@click.argument("old", metavar="OLD")
@click.argument("new", metavar="NEW")
@click.option("--fights", type=int, default=4000, show_default=True, help="How often each encounter is fought by both.")
@click.option("--promises", is_flag=True, help="Also judge the promises of both.")
@click.option(
    "--format", "form", type=click.Choice(FORMATS), default="text", show_default=True, help="How it is written."
)
@click.option("--out", type=click.Path(path_type=Path), help="Write it to this file instead of the terminal.")
@options.seed
@workers
@keeping.option
@options.plot
def command(
    old: str, new: str, fights: int, promises: bool, form: str, out: Path | None, seed: int, plot: Path | None
) -> None:
    """Compare rulebook OLD with rulebook NEW: numbers, sheets, outcomes with the same luck; Markdown for a review."""
    books = open_book(old), open_book(new)
    comparison = with_progress(
        "encounters",
        None,
        lambda progress: library.compare(*books, fights=fights, seed=seed, promises=promises, progress=progress),
    )
    if form == "json":
        text = json.dumps(comparison.report(), indent=1, ensure_ascii=False) + "\n"
    else:
        text = "\n".join(_lines(comparison, form == "markdown")) + "\n"
    write_text(text, out)
    if plot:
        comparison.plot(plot)
    if out:
        console().print(f"{comparison.finding()}. Written to {out}")
    keep_run(comparison, new)
    if form == "text":
        for line in told("Figure", [plot]):
            console().print(line)


def _lines(comparison: PromisedComparison, markdown: bool) -> Iterator[str]:
    """Yield the lines of the whole comparison: what came of it first, what was changed last."""
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
