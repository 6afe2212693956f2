"""Encounters: who wins how often, a typical fight as figure, story and replay."""

from __future__ import annotations

from ...engine import FightFault, set_up
from ...ledger import Fight
from ...monte_carlo import Trials
from ...picture.film import film
from ...picture.readable import label_of
from ...rulebook import InputError, Rulebook
from ..blocks import Figure, Replay, Section, Table, Text, table_of
from ..inline import figure_of, svg_of

MOST_LINES = 400
LARGEST_FILM = 1_000_000
"""Letters: a longer replay would make the page slow; the command `fight --film` writes it."""


def encounter(book: Rulebook, name: str, fights: int, seed: int, rulebook: str) -> tuple[Section, bool]:
    """Return what is to be said of an encounter, and whether all fights were fought that were asked for."""
    section = Section(label_of(book, "encounters", name), name=f"encounter-{name}")
    try:
        trials = Trials.play(set_up(book, name), fights, seed)
    except (InputError, FightFault) as error:
        section.lead = "This encounter can’t be fought."
        section.blocks.append(Text(str(error).split("\n"), "bad"))
        return section, True
    if not trials.fights:
        raise KeyboardInterrupt
    if side := _side_of_a_party(trials):
        section.lead = (
            f"A journey’s party takes the side {side} here: see Journeys. As it is written, that side never wins."
        )
        return section, trials.complete
    section.lead = f"{trials.finding()}. {trials.fights:,} fights."
    section.blocks += [_outcomes(trials), figure_of(trials), _deeds(trials)]
    section.blocks.append(_typical(trials, rulebook))
    return section, trials.complete


def _side_of_a_party(trials: Trials) -> str:
    """Return the side that a journey's party takes, where it never wins as the encounter is written."""
    stages = trials.setup.book.stages.values()
    sides = {stage.side for stage in stages if stage.encounter == trials.setup.name and stage.side}
    won = {row["outcome"]: row["fights"] for row in trials.records("outcomes")}
    return next((side for side in sides if won.get(side) == 0), "")


def _outcomes(trials: Trials) -> Table:
    unit = trials.setup.book.clock.unit
    rows = [{**row, "interval": f"{row['low']:.1%} to {row['high']:.1%}"} for row in trials.records("outcomes")]
    return table_of(
        f"Outcomes of {trials.setup.title}",
        rows,
        ("outcome", "outcome"),
        ("fights", "fights", "whole"),
        ("share", "share", "percent"),
        ("interval", "95% interval"),
        ("median_seconds", f"median {unit}", "number"),
        ("seconds_10", f"10% of them under, {unit}", "number"),
        ("seconds_90", f"90% of them under, {unit}", "number"),
    )


def _deeds(trials: Trials) -> Section:
    rows = [row for row in trials.records("deeds") if row["is"] != "gauge" or row["downs"]]
    table = table_of(
        f"Who did what in {trials.setup.title}, on average in a fight",
        rows,
        ("unit", "unit"),
        ("cause", "by"),
        ("uses", "uses", "number"),
        ("accuracy", "accuracy", "percent"),
        ("harm", "harm", "number"),
        ("heal", "healing", "number"),
        ("waste", "waste", "number"),
        ("downs", "downs", "number"),
    )
    return Section("Who did what", blocks=[table], folded=True, name=f"deeds-{trials.setup.name}")


def _typical(trials: Trials, rulebook: str) -> Section:
    """Return the most typical fight of the trials: how it ended, its figure, its story and, on an arena, its replay."""
    chosen = next(iter(trials.records("notable")), {"number": 0})
    number, name = int(chosen["number"]), trials.setup.name
    fight = Fight.play(trials.setup, trials.seed, number)
    section = Section("A typical fight", folded=True, name=f"fight-{name}")
    section.blocks.append(Text(_sentences(fight)))
    says = f"{trials.setup.title}, fight {number}: {fight.finding()}"
    section.blocks.append(Figure(svg_of(fight.plot(), says), says))
    if fight.setup.arena:
        page = film(fight)
        if len(page) <= LARGEST_FILM:
            section.blocks.append(Replay(f"film-{name}", trials.setup.title, page))
    lines = fight.records("story")
    columns = (
        ("entry", "entry", "whole"),
        ("seconds", fight.setup.book.clock.unit, "number"),
        ("what", "what", "wide"),
        ("change", "change", "amount"),
        ("balance", "balance", "amount"),
    )
    section.blocks.append(table_of(f"The ledger of fight {number}", lines[:MOST_LINES], *columns))
    if len(lines) > MOST_LINES:
        section.blocks.append(Text([f"and {len(lines) - MOST_LINES:,} lines more."]))
    section.blocks.append(
        Text([f"restless-ledger fight {rulebook} {name} --seed {fight.seed} --number {number}"], "command")
    )
    return section


def _sentences(fight: Fight) -> list[str]:
    ending, *entries = fight.summary()
    did = "These entries did most for the winner:" if fight.winner else "These entries did most:"
    return [ending, *([f"{did} {'; '.join(entries)}."] if entries else [])]
