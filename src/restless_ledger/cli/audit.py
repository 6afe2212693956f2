"""`restless-ledger audit`: what is wrong with a rulebook, whether its worked examples hold and its promises are
kept."""

from __future__ import annotations

import json
import textwrap
from functools import partial
from itertools import groupby
from typing import TYPE_CHECKING

import click

from .. import api as library
from .. import table_names
from . import keeping, options, output, watching
from .books import open_book, path_of
from .keeping import keep_run
from .names import WHICH, rulebooks
from .output import deliver, wish
from .page import BOLD, DIM, END, PAGE_WIDTH, STRONG, Page, folded
from .progress import with_progress
from .tables import console, write_text
from .workers import workers

if TYPE_CHECKING:
    from ..auditing import Audit, CheckEntry, Finding, Judgement
    from ..rulebook import Rulebook
    from ..rulebook.problems import Problem

WRITTEN = ("json", "sarif", "junit")
"""Formats that hold everything, in place of one table."""
FORMATS = ("text", "csv", *WRITTEN)
PLACES_SHOWN = 6
LOOKS = {"error": STRONG, "warning": BOLD, "note": DIM, "broken": STRONG, "undecided": BOLD, "kept": ""}
UNREADABLE = 2


@click.command("audit")
@click.argument("rulebook", metavar="RULEBOOK", required=False, shell_complete=rulebooks)
@click.option("--quick", is_flag=True, help="Leave out what must be simulated.")
@click.option("--all", "every", is_flag=True, help="Show every figure of promises that are kept.")
@watching.option
@output.output(*table_names.AUDIT, formats=FORMATS)
@options.seed
@workers
@keeping.option
@click.option("--explain", metavar="CODE", help="Say what one check looks for, with an example.")
def command(rulebook: str | None, quick: bool, every: bool, watch: bool, seed: int, explain: str | None) -> int:
    """Audit RULEBOOK: findings, worked examples, promises.

    Exit 0: clean; 1: an error, a worked example that does not hold or a broken promise; 2: it can't be read.
    """
    from ..rulebook import RulebookError

    if explain:
        print_check(explain)
        return 0
    if rulebook is None:
        raise click.UsageError(f"RULEBOOK is missing; {WHICH}")
    if watch:
        from .moved import moved_audit

        show = partial(print_audit, every=every)
        watching.watch(rulebook, lambda book: audit_with_progress(book, quick, seed), show, moved_audit)
        return 0
    try:
        book = open_book(rulebook)
    except RulebookError as error:
        if (form := wish().form) not in WRITTEN:
            raise
        write_text(written_problems(error.problems, form, rulebook), wish().file)
        return UNREADABLE
    audit = audit_with_progress(book, quick, seed)
    forms = {form: partial(written, audit, form, rulebook) for form in WRITTEN}
    deliver(audit, lambda: print_audit(audit, every=every), written=forms)
    keep_run(audit, rulebook)
    return int(audit.failed)


def audit_with_progress(book: Rulebook, quick: bool = False, seed: int = 1) -> Audit:
    """Audit with a progress bar over the promises."""
    total = sum(not hasattr(promise, "hits") and not hasattr(promise, "check") for promise in book.promises.values())
    return with_progress(
        "promises", total, lambda progress: library.audit(book, quick=quick, seed=seed, progress=progress)
    )


def written(audit: Audit, form: str, rulebook: str) -> str:
    """Return an audit in one of the formats for other tools."""
    root = path_of(rulebook)
    if form == "junit":
        return audit.junit(root)
    record = audit.sarif(root) if form == "sarif" else audit.report()
    return json.dumps(record, indent=1, ensure_ascii=False) + "\n"


def written_problems(problems: list[Problem], form: str, rulebook: str) -> str:
    """Return what is wrong with a rulebook that can't be read, in one of the formats for other tools."""
    from ..auditing.formats.junit import junit_of_problems
    from ..auditing.formats.sarif import sarif_of_problems

    if form == "junit":
        return junit_of_problems(problems, path_of(rulebook))
    if form == "sarif":
        return json.dumps(sarif_of_problems(problems, path_of(rulebook)), indent=1, ensure_ascii=False) + "\n"
    record = {"failed": True, "unreadable": [vars(problem) for problem in problems]}
    return json.dumps(record, indent=1, ensure_ascii=False) + "\n"


def print_audit(audit: Audit, brief: bool = False, every: bool = False) -> None:
    """Print everything, worst first: what a reader must do something about comes before what is as it should be. Of
    promises that are kept, the figures that are close to their bounds, or with `every` all; with `brief`, promises that
    are kept are only counted."""
    from ..auditing import catalogue

    page = console()
    title = audit.book.rulebook.title
    _line(page, f"{BOLD}{title}{END}" + (": a quick audit, without what must be simulated" if audit.quick else ""))
    for (_, code), found in groupby(audit.findings, key=lambda finding: (finding.severity, finding.code)):
        _line(page, "")
        _print_findings(page, catalogue()[code], list(found))
    if audit.examples:
        _print_examples(page, audit)
    if audit.promises:
        _print_promises(page, audit, brief, every)
    _line(page, "")
    if audit.quick and (audit.book.examples or audit.left_out):
        examples = f"{len(audit.book.examples)} worked examples"
        _line(page, f"Left out: {examples} and {len(audit.left_out)} promises that must be simulated.")
    shown = "" if every or brief or not audit.counts["kept"] else " Every figure: add --all."
    _line(page, f"{audit.finding()}.{shown}")


def _line(page: Page, text: str, indent: int = 0, hang: int = 0) -> None:
    """Print one paragraph, folded to the page, its first line less indented than the others by `hang`."""
    for row in folded(text, min(page.width, PAGE_WIDTH), indent, hang, breaks=False):
        page.print(row, soft_wrap=True)


def _print_findings(page: Page, entry: CheckEntry, found: list[Finding]) -> None:
    """Print the findings of one check: what it is, where, why it matters and what to do."""
    severity = found[0].severity
    _line(page, f"{LOOKS[severity]}{severity.upper()}{END} {BOLD}{entry.code}{END}: {entry.title}", hang=2)
    for finding in found[:PLACES_SHOWN]:
        _line(page, f"{finding.place}  {finding.path}".strip(), indent=2)
        _line(page, finding.what, indent=4)
    if len(found) > PLACES_SHOWN:
        _line(page, f"… and {len(found) - PLACES_SHOWN} more; --format json lists them all", indent=2)
    _line(page, f"Why: {entry.why}", indent=2, hang=2)
    _line(page, f"Remedy: {found[0].remedy}", indent=2, hang=2)


def _print_examples(page: Page, audit: Audit) -> None:
    """Print the worked examples that don't hold, each with the entries that led there."""
    from ..auditing.formats.words import said_miss

    failed = [example for example in audit.examples if not example.holds]
    _line(page, "")
    _line(page, f"{BOLD}Worked examples{END}: {len(audit.examples) - len(failed)} of {len(audit.examples)} hold")
    for example in failed:
        _line(page, f"{LOOKS['error']}FAILS{END} {example.title}")
        for miss in example.misses:
            _line(page, f"{miss.place}  {miss.path}", indent=2)
            _line(page, said_miss(miss), indent=4)
            for entry in miss.entries:
                _line(page, entry, indent=6, hang=4)


def _print_promises(page: Page, audit: Audit, brief: bool, every: bool) -> None:
    """Print a line for each promise with its figures beside their bounds, and all about those that are not kept."""
    _line(page, "")
    fights = sum({(each.where, each.fights): each.fights for each in audit.promises}.values())
    error = f"the chance of any wrong verdict below {audit.book.audit.error_rate:g}"
    spent = f"; {fights:,} fights and runs of seed {audit.seed}, {error}"
    _line(
        page,
        f"{BOLD}Promises{END}: {audit.counts['kept']} of {len(audit.promises)} figures kept{spent if fights else ''}",
    )
    for verdict, judgements in groupby(audit.promises, key=lambda judgement: judgement.verdict):
        if brief and verdict == "kept":
            continue
        for _, figures in groupby(judgements, key=lambda judgement: judgement.promise):
            _print_promise(page, verdict, list(figures), every)


def _print_promise(page: Page, verdict: str, figures: list[Judgement], every: bool) -> None:
    from ..auditing.formats.words import said_figures, said_kept

    look = LOOKS[verdict]
    word = f"{look}{verdict.upper():<9}{END}" if look else f"{verdict:<9}"
    _line(page, f"{word} {figures[0].title}", hang=10)
    if verdict == "kept":
        for each in figures:
            if every or each.close:
                _line(page, ("" if every else "close to its bounds: ") + said_kept(each), indent=10, hang=2)
        return
    for judgement in figures:
        _line(page, f"{judgement.place}  {judgement.path}", indent=2)
        _line(page, f"{judgement.what}: {said_figures(judgement)}", indent=4, hang=2)
        if judgement.telling is not None and judgement.where in audit_encounters(judgement):
            _line(
                page, f"fight RULEBOOK {judgement.where} --seed {judgement.seed} --number {judgement.telling}", indent=4
            )


def audit_encounters(judgement: Judgement) -> tuple[str, ...]:
    """Return the names under which a judgement's fights can be read again by the command `fight`."""
    return (
        ()
        if " " in judgement.where or ".hours" in judgement.path or ".finish" in judgement.path
        else (judgement.where,)
    )


def print_check(code: str) -> None:
    """Print what one check looks for, why, the remedy, and an example with its near twin."""
    from ..auditing import catalogue
    from ..rulebook import InputError
    from ..rulebook.problems import nearest

    entries = catalogue()
    if code not in entries:
        raise InputError(f"--explain: there is no check {code}\n    {nearest(code, entries)}")
    entry, page = entries[code], console()
    _line(page, f"{BOLD}{entry.code}{END} ({entry.severity}): {entry.title}")
    _line(page, f"Why: {entry.why}", indent=2, hang=2)
    _line(page, f"Remedy: {entry.remedy}", indent=2, hang=2)
    for word, text in (("Found here", entry.wrong), ("And not here", entry.right)):
        _line(page, f"{word}:", indent=2)
        page.print(textwrap.indent(text.strip(), "    "), soft_wrap=True)
