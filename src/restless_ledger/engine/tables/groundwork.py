"""What is written of a rulebook before any unit is: abilities, buffs, and what they do. A bench has all of them."""

from __future__ import annotations

from collections.abc import Sequence
from copy import deepcopy
from typing import NamedTuple

from ...rulebook import Rulebook
from ...rulebook.rules.damage import kinds
from ..codes import FIXED_CAUSES
from ..unit import Unit, sorts_of
from .compiled_formulas import CompiledFormulas
from .table_rows import Numbered, Pool, Rows
from .write_abilities import AbilityWriter
from .write_buffs import BuffWriter, with_copies
from .write_gauges import flow_rows, flows, gauge_row
from .write_kinds import kind_row
from .write_reactions import ReactionWriter
from .write_stats import stat_row


class Declared(NamedTuple):
    """What there is in an encounter of what a rulebook declares, by name, and its units."""

    abilities: Sequence[str]
    buffs: Sequence[str]
    zones: Sequence[str]
    units: Sequence[Unit]


class Groundwork(NamedTuple):
    """The writers that the units of an encounter share, with its abilities and its buffs written, and perhaps the rows
    of `common_rows`."""

    lines: CompiledFormulas
    effects: ReactionWriter
    buffs: BuffWriter
    abilities: AbilityWriter
    common: dict[str, list] | None = None


def lay(book: Rulebook, declared: Declared) -> Groundwork:
    """Write the abilities and the buffs of an encounter."""
    first_cause = len(FIXED_CAUSES) + len(flows(book))
    causes = Numbered((name, first_cause + number) for number, name in enumerate(declared.abilities))
    lines, buff_names = CompiledFormulas(book), with_copies(book, declared.buffs, len(declared.units))
    effects = ReactionWriter(book, lines, buff_names, causes, declared.zones, sorts_of(declared.units))
    abilities = AbilityWriter(book, effects, declared.abilities, first_cause)
    buffs = BuffWriter(book, effects, first_cause + len(causes))
    abilities.write()
    for name in list(buff_names):
        buffs.add(name)
    return Groundwork(lines, effects, buffs, abilities)


def common_rows(effects: ReactionWriter, buffs: BuffWriter) -> dict[str, list]:
    """Write stats, gauges, and damage and healing kinds; return their rows by the names of the tables."""
    book, fronts, extras = effects.book, Pool(), Pool()
    stats = [stat_row(effects.lines, name, stat) for name, stat in book.stats.items()]
    gauges = [gauge_row(effects, name, fronts) for name in effects.gauges]
    rows = [kind_row(effects, buffs, path, kind, extras) for path, kind in kinds(book)]
    found = {"stats": stats, "gauges": gauges, "flows": flow_rows(effects), "kinds": rows}
    return {**{name: Rows(each) for name, each in found.items()}, "fronts": fronts.items, "extras": extras.items}


def lay_for_bench(book: Rulebook, units: Sequence[Unit]) -> Groundwork:
    """Return the same with all that a rulebook declares: a copy of what is written once, as each step of a worked
    example and each change of a scene asks for it.

    The common rows are among it, but not where a unit's stats vary: what is rolled for them has the first numbers, and
    a deck's cards hang on its number.
    """
    varies = any(book.classes[unit.sheet.who].varies for unit in units)

    def written() -> Groundwork:
        ground = lay(book, Declared(list(book.abilities), list(book.buffs), list(book.zones), units))
        return ground if varies else ground._replace(common=common_rows(ground.effects, ground.buffs))

    return deepcopy(book.kept(("groundwork", len(units), tuple(sorts_of(units)), varies), written), {id(book): book})
