"""All that a game loads, resolved: tables by level, and every chapter as it is declared."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ..formula import Program
from ..rulebook import Rulebook
from ..rulebook.problems import dotted
from ..rulebook.rulebook import GUARDS, SINGLE_CHAPTERS
from ..rulebook.walks import walk_book
from ..sheets import CharacterSpec, build_sheet
from ..sheets.experience import experience_to_next, experience_totals
from .plain import plain, tree

FORMAT = "restless-ledger export"
VERSION = 1
Record = dict[str, Any]


def content(book: Rulebook) -> dict[str, Any]:
    """Return the whole export as one value: what it is, its tables, its chapters."""
    clock, levels = book.clock, book.rulebook.levels
    return {
        "format": FORMAT,
        "version": VERSION,
        "title": book.rulebook.title,
        "levels": list(levels),
        "ticks_per_second": None if clock.rounds else clock.ticks_per_second,
        "counts_rounds": clock.rounds,
        "thousandths": True,
        "tables": tables(book),
        "chapters": {
            name: plain(getattr(book, name), clock)
            for name in type(book).model_fields
            if name not in (*GUARDS, "formulas") and getattr(book, name)
        },
    }


def tables(book: Rulebook) -> dict[str, list[Record]]:
    """Return every table by its name, each with its records; a table that has none is left out."""
    found = {
        "stats": list(_stats(book)),
        "class_stats": list(_class_stats(book)),
        "class_gauges": list(_class_gauges(book)),
        "experience": list(_experience(book)),
        "learns": list(_learns(book)),
        "abilities": list(_abilities(book)),
        "buffs": list(_buffs(book)),
        "damage": list(_kinds(book)),
        "parts": list(_parts(book)),
        "gear": list(_gear(book)),
        "drops": list(_drops(book)),
        "labels": list(_labels(book)),
        "formulas": list(_formulas(book)),
    }
    return {name: rows for name, rows in found.items() if rows}


def _levels(book: Rulebook) -> range:
    first, last = book.rulebook.levels
    return range(first, last + 1)


def _stats(book: Rulebook) -> Iterator[Record]:
    for name, stat in book.stats.items():
        low, high = (str(end) if isinstance(end, Program) else end for end in stat.range)
        yield {
            "stat": name,
            "label": stat.label or name,
            "base": stat.base,
            "is": str(stat.is_) if stat.is_ else None,
            "lowest": low,
            "highest": high,
            "round": stat.round.value,
        }


def _class_stats(book: Rulebook) -> Iterator[Record]:
    for who in book.classes:
        for level in _levels(book):
            sheet = build_sheet(book, CharacterSpec(who, level))
            for name, figure in sheet.stats.items():
                yield {"class": who, "level": level, "stat": name, "value": figure.value}


def _class_gauges(book: Rulebook) -> Iterator[Record]:
    for who in book.classes:
        for level in _levels(book):
            sheet = build_sheet(book, CharacterSpec(who, level))
            for name, figure in sheet.gauges.items():
                yield {"class": who, "level": level, "gauge": name, "top": figure.top, "begins": figure.begins}


def _experience(book: Rulebook) -> Iterator[Record]:
    for who in book.classes:
        if book.experience_of(who) is not None:
            steps, totals = experience_to_next(book, who), experience_totals(book, who)
            for place, level in enumerate(_levels(book)):
                to_next = steps[place] if place < len(steps) else None
                yield {"class": who, "level": level, "to_next": to_next, "total": totals[place]}


def _learns(book: Rulebook) -> Iterator[Record]:
    for who, entry in book.classes.items():
        for level in sorted(entry.learns):
            for ability in entry.learns[level]:
                yield {"class": who, "level": level, "ability": ability}


def _abilities(book: Rulebook) -> Iterator[Record]:
    clock = book.clock
    for name, entry in book.abilities.items():
        times = {key: clock.ticks(getattr(entry, key)) for key in ("windup", "recovery", "cooldown")}
        yield {
            "ability": name,
            "label": entry.label or name,
            "school": entry.school,
            "passive": entry.passive,
            "targets": entry.targets.value,
            "reach": entry.reach,
            **{f"{key}_ticks": ticks for key, ticks in times.items()},
            **{f"{key}_seconds": clock.seconds(ticks) for key, ticks in times.items()},
            "cost": "; ".join(f"{gauge} {cost}" for gauge, cost in entry.cost.items()) or None,
            "effects": len(entry.does),
        }


def _buffs(book: Rulebook) -> Iterator[Record]:
    clock = book.clock
    for name, entry in book.buffs.items():
        ticks = clock.ticks(entry.lasts) if entry.lasts is not None else None
        stats = (f"{stat} {change.way} {change.amount}" for stat, change in entry.stats.items())
        yield {
            "buff": name,
            "label": entry.label or name,
            "kind": entry.kind,
            "lasts_ticks": ticks,
            "lasts_seconds": None if ticks is None else clock.seconds(ticks),
            "again": entry.again.value,
            "most": entry.most,
            "marks": ", ".join(entry.marks) or None,
            "stats": "; ".join(stats) or None,
        }


def _kinds(book: Rulebook) -> Iterator[Record]:
    for heals, chapter in ((False, book.damage), (True, book.healing)):
        for name, kind in chapter.items():
            yield {
                "kind": name,
                "label": kind.label or name,
                "heals": heals,
                "gauge": kind.gauge or book.downing_gauge,
                **{key: str(getattr(kind, key) or "") or None for key in ("aim", "dodge", "lands", "power", "soak")},
                "settle": str(kind.settle),
                "round": kind.round.value,
            }


def _parts(book: Rulebook) -> Iterator[Record]:
    for body, entry in book.bodies.items():
        for name, part in entry.parts.items():
            yield {
                "body": body,
                "part": name,
                "label": part.label or name,
                "share": part.share,
                "times": str(part.times),
                "own": str(part.own) if part.own else None,
                "vital": part.vital,
            }


def _gear(book: Rulebook) -> Iterator[Record]:
    for name, entry in book.gear.items():
        stats = (f"{stat} {change.way} {change.amount}" for stat, change in entry.stats.items())
        yield {
            "gear": name,
            "label": entry.label or name,
            "slot": entry.slot,
            "level": entry.level,
            "classes": ", ".join(entry.classes) if entry.classes is not None else None,
            "stats": "; ".join(stats) or None,
        }


def _drops(book: Rulebook) -> Iterator[Record]:
    for name, entry in book.drops.items():
        whole = sum(piece.weight for piece in entry.pieces) + entry.nothing
        for piece in entry.pieces:
            yield {"drop": name, "gear": piece.gear, "weight": piece.weight, "chance": piece.weight / whole}


def _labels(book: Rulebook) -> Iterator[Record]:
    for chapter in type(book).model_fields:
        if chapter in (*SINGLE_CHAPTERS, *GUARDS, "formulas"):
            continue
        for name, entry in getattr(book, chapter).items():
            if getattr(entry, "label", None):
                yield {"chapter": chapter, "name": name, "label": entry.label}


def _formulas(book: Rulebook) -> Iterator[Record]:
    for found in walk_book(book, (*GUARDS, "formulas")):
        if isinstance(found.value, Program) and (found.value.names or book.place(*found.path)):
            yield {
                "path": dotted(found.path),
                "place": book.place(*found.path),
                "formula": found.value.text,
                "reads": ", ".join(found.value.names) or None,
                "tree": tree(found.value.tree),
            }
