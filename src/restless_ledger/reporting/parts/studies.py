"""Studies: everyone against everyone, journeys, creation, checks, falls, and what changed."""

from __future__ import annotations

from ...analysis.builds import Builds
from ...analysis.falls import Falls
from ...analysis.odds import OddsTable
from ...auditing.comparison import PromisedComparison
from ...engine import FightFault
from ...picture.readable import label_of
from ...progress import Journeys
from ...results import Result
from ...rulebook import InputError, Rulebook
from ...study.matchups import Matchups
from ..blocks import Part, Section, Table, Text, table_of
from ..inline import figure_of

MOST_CHANGES = 300


def matchups(book: Rulebook, seed: int) -> Part | None:
    """Return everyone against everyone; None where fewer than two can meet."""
    try:
        found = Matchups(book, seed=seed)
    except (InputError, FightFault):
        return None
    standings = [{**row, "who": label_of(book, "classes", row["who"])} for row in found.records("standings")]
    table = table_of(
        "Standings",
        standings,
        ("level", "level", "whole"),
        ("who", "who"),
        ("mean_share", "wins against all", "percent"),
        ("weight", "share in the rational mix", "percent"),
        ("against_mix", "wins against the mix", "percent"),
        ("short_of_mix", "short of a part in it", "percent"),
        ("dominated_by", "fares worse everywhere than"),
    )
    return Part("Matchups", f"{found.finding()}.", [figure_of(found), table], found.complete)


def journeys(book: Rulebook, runs: int, seed: int) -> Part | None:
    """Return what becomes of each journey; None where there is none."""
    if not book.journeys:
        return None
    part = Part("Journeys", "")
    leads = []
    for name in book.journeys:
        section = Section(label_of(book, "journeys", name), name=f"journey-{name}")
        part.blocks.append(section)
        try:
            found = Journeys(book, name, runs, seed)
        except (InputError, FightFault) as error:
            section.blocks.append(Text(str(error).split("\n"), "bad"))
            continue
        if not found.runs:
            raise KeyboardInterrupt
        section.lead = f"{found.finding()}. {len(found.runs):,} runs."
        leads.append(f"{section.title}: {found.finding()}")
        section.blocks += [figure_of(found), _stages(book, found)]
        part.complete = part.complete and found.complete
        if not part.complete:
            break
    part.lead = f"{'; '.join(leads)}." if leads else "No journey can be walked."
    return part


def _stages(book: Rulebook, found: Journeys) -> Table:
    rows = [{**row, "stage": label_of(book, "stages", row["stage"])} for row in found.records("stages")]
    return table_of(
        f"Stages of {label_of(book, 'journeys', found.name)}",
        rows,
        ("stage", "stage"),
        ("reached", "runs that reach it", "whole"),
        ("level", "level on arrival", "number"),
        ("attempts", "attempts", "number"),
        ("minutes", "minutes", "number"),
        ("stop_share", "stop here", "percent"),
    )


def creation(book: Rulebook) -> Part | None:
    """Return what character creation allows, what the stat checks demand, and from where falls kill."""
    part = Part("Creation, checks and falls", "")
    made: list[tuple[str, type, bool]] = [
        ("Origins", Builds, bool(book.origins)),
        ("Stat checks", OddsTable, bool(book.checks)),
        ("Falls", Falls, book.falls is not None and bool(book.classes)),
    ]
    for title, study, there in made:
        if there:
            section = Section(title)
            part.blocks.append(section)
            try:
                result: Result = study(book)
                section.lead = f"{result.finding()}."
                section.blocks.append(figure_of(result))
            except InputError as error:
                section.blocks.append(Text(str(error).split("\n"), "bad"))
    part.lead = " ".join(section.lead for section in part.sections)
    return part if part.blocks else None


def changes(old: Rulebook, new: Rulebook, fights: int, seed: int) -> Part:
    """Return what changed since another rulebook, and what came of it."""
    found = PromisedComparison(old, new, fights, seed)
    part = Part("Changes", f"{found.finding()}.", complete=found.complete)
    if found.outcomes:
        part.blocks.append(figure_of(found))
    outcomes = [
        {
            **vars(each),
            "difference": each.difference,
            "interval": f"{each.low:+.1%} to {each.high:+.1%}".replace("-", "−"),
        }
        for each in found.outcomes
        if not each.failed
    ]
    part.blocks.append(
        table_of(
            "Outcomes, with the same luck",
            outcomes,
            ("encounter", "encounter"),
            ("side", "side"),
            ("old", "won before", "percent"),
            ("new", "won now", "percent"),
            ("difference", "difference", "signed"),
            ("interval", "95% interval"),
            ("seconds_old", "length before", "number"),
            ("seconds_new", "length now", "number"),
        )
    )
    rows = [vars(each) for each in found.changes[:MOST_CHANGES]]
    columns = (("place", "place"), ("path", "path"), ("old", "before"), ("new", "now"))
    part.blocks.append(table_of("Values that changed", rows, *columns))
    return part
