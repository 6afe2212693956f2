"""Characters: how they grow, and where each figure of each class comes from."""

from __future__ import annotations

from ...analysis.curves import Curves
from ...analysis.time_to_kill import times_to_kill
from ...formula.explain import number
from ...monte_carlo.contestants import levels_asked
from ...picture.readable import label_of
from ...rulebook import InputError, Rulebook
from ...sheets import CharacterSpec, Sheet, build_sheet
from ..blocks import Cell, Part, Section, Table, Text, table_of
from ..blocks import Column as Title
from ..inline import figure_of


def characters(book: Rulebook) -> Part | None:
    """Return growth side by side, and a sheet of every class; None where there is no class."""
    if not book.classes:
        return None
    part = Part("Characters", "")
    try:
        curves = Curves(book)
        part.lead, part.blocks = f"{curves.finding()}.", [figure_of(curves)]
    except InputError as error:  # of one class, at some level
        part.lead = "Growth can’t be drawn, as there is a class that can’t be built."
        part.blocks.append(Text(str(error).split("\n"), "bad"))
    part.blocks += [_class(book, name) for name in book.classes]
    return part


def _class(book: Rulebook, name: str) -> Section:
    """Return the sheets of a class at its first, its middle and its last level, with where each figure comes from."""
    label = label_of(book, "classes", name)
    section = Section(label, name=f"class-{name}")
    levels = levels_asked(book, ())
    try:
        sheets = [build_sheet(book, CharacterSpec(name, level)) for level in levels]
    except InputError as error:
        section.blocks.append(Text([str(error)], "bad"))
        return section
    middle = sheets[len(sheets) // 2]
    known = [label_of(book, "abilities", each) for each in middle.abilities]
    section.lead = f"Knows at level {middle.level}: {', '.join(known) or 'nothing'}."
    section.blocks.append(_figures(label, sheets, middle))
    if kills := times_to_kill(book, middle, middle):
        columns = (
            ("ability", "ability"),
            ("lands", "lands", "percent"),
            ("amount", "takes", "number"),
            ("hits", "hits to kill", "whole"),
            ("seconds", f"{book.clock.unit} to kill", "number"),
        )
        rows = [{**kill.record(), "ability": label_of(book, "abilities", kill.record()["ability"])} for kill in kills]
        caption = f"{label} of level {middle.level} against its like, with one ability"
        section.blocks.append(table_of(caption, rows, *columns))
    for ability, reason in middle.barred.items():
        section.blocks.append(Text([f"Can’t use {label_of(book, 'abilities', ability)}: {reason}."]))
    return section


def _figures(label: str, sheets: list[Sheet], middle: Sheet) -> Table:
    """Return a row for each stat and gauge: its value at each level, and where it comes from at the middle one."""
    titles = [Title("figure", "figure")]
    titles += [Title(str(sheet.level), f"level {sheet.level}", "exact") for sheet in sheets]
    titles.append(Title("from", f"where it comes from, at level {middle.level}", "wide"))
    rows = []
    for name, stat in middle.stats.items():
        values = [sheet.stats[name].value for sheet in sheets]
        said = "; ".join(line.what for line in stat.lines)
        rows.append([Cell(stat.label), *(Cell(number(value), float(value)) for value in values), Cell(said)])
    for name, gauge in middle.gauges.items():
        tops = [sheet.gauges[name].top for sheet in sheets]
        said = f"{gauge.explanation.text}; refill: {gauge.refill or 'none'}"
        rows.append([Cell(gauge.label), *(Cell(number(top), float(top)) for top in tops), Cell(said)])
    return Table(f"Figures of {label}", titles, rows)
