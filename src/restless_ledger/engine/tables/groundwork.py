"""What is written of a rulebook before any unit is: abilities, buffs, and what they do. A bench has all of them."""

from __future__ import annotations

from collections.abc import Sequence
from copy import deepcopy
from typing import NamedTuple

from ...rulebook import Rulebook
from ..codes import FIXED_CAUSES
from ..unit import Unit, sorts_of
from .compiled_formulas import CompiledFormulas
from .write_abilities import AbilityWriter
from .write_buffs import BuffWriter, with_copies
from .write_gauges import flows
from .write_reactions import ReactionWriter


class Declared(NamedTuple):
    """What there is in an encounter of what a rulebook declares, by name, and its units."""

    abilities: Sequence[str]
    buffs: Sequence[str]
    zones: Sequence[str]
    units: Sequence[Unit]


class Groundwork(NamedTuple):
    """The writers that the units of an encounter share, with its abilities and its buffs written."""

    lines: CompiledFormulas
    effects: ReactionWriter
    buffs: BuffWriter
    abilities: AbilityWriter


def lay(book: Rulebook, declared: Declared) -> Groundwork:
    """Write the abilities and the buffs of an encounter."""
    first_cause = len(FIXED_CAUSES) + len(flows(book))
    causes = {name: first_cause + number for number, name in enumerate(declared.abilities)}
    lines, buff_names = CompiledFormulas(book), with_copies(book, declared.buffs, len(declared.units))
    effects = ReactionWriter(book, lines, buff_names, causes, declared.zones, sorts_of(declared.units))
    abilities = AbilityWriter(book, effects, declared.abilities, first_cause)
    buffs = BuffWriter(book, effects, first_cause + len(causes))
    abilities.write()
    for name in list(buff_names):
        buffs.add(name)
    return Groundwork(lines, effects, buffs, abilities)


def lay_for_bench(book: Rulebook, units: Sequence[Unit]) -> Groundwork:
    """Return the same with all that a rulebook declares: a copy of what is written once, as each step of a worked
    example and each change of a scene asks for it."""
    written = book.kept(
        ("groundwork", len(units), tuple(sorts_of(units))),
        lambda: lay(book, Declared(list(book.abilities), list(book.buffs), list(book.zones), units)),
    )
    return deepcopy(written, {id(book): book})
