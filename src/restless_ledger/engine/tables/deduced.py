"""What can happen at all in an encounter, so that the kernel need not look for what can't."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ...rulebook.effects import flat
from ...rulebook.rules.damage import kinds
from ...rulebook.words import Receiver
from ...sheets.build import is_live
from ..codes import GROUP_EFFECT
from ..layout.ability_layout import BUFFS, CHANGES, EFFECTS
from ..layout.table_layout import UNITS

if TYPE_CHECKING:
    from .writer import TableWriter


def deduced(writer: TableWriter, unit_rows: list[tuple]) -> dict[str, int]:
    """Return the rules that say what can happen, each 0 where it can't. Call it once all else is written."""
    book, bench = writer.book, writer.encounter is None
    done, buffs = (np.array(rows, dtype=kind) for rows, kind in _written(writer))
    events = {reaction[0] for reaction in writer.effects.reactions}
    earns = any(gauge.earns.model_fields_set for gauge in book.gauges.values())
    spared = any(book.classes[name].invulnerable for name in writer.classes) or book.lives.invulnerable.amount > 0
    worn = bool(np.array(unit_rows, dtype=UNITS)["worn"].any())
    branches = bool((done["branches"] > 0).any() or (done["what"] >= GROUP_EFFECT).any() or _reads_booked(writer))
    follows = bench or bool(events) or branches or bool(buffs["ends_on"].any()) or earns or spared or worn
    follows = follows or bool((done["steal"] >= 0).any()) or _heeds_hits(writer)
    kept_off = bench or spared or worn or _aims_at_parts(writer, done) or bool(buffs["hides"].any())
    kept_off = kept_off or any(kind.barred_by for _, kind in kinds(book))
    kept_off = kept_off or any(unit.handling.aim < 1 for unit in writer.units)
    return {
        "reacts": sum(1 << event for event in events),
        "branches": int(branches),
        "figures": int(_figures(writer)),
        "controls": int(bool(buffs["controls"].any())),
        "mitigates": int(bool(writer.effects.mitigations.items)),
        "ends_on": int(np.bitwise_or.reduce(buffs["ends_on"], initial=0)),
        "earns": int(earns),
        "follows": int(follows),
        "kept_off": int(kept_off),
    }


def beats_meet(writer: TableWriter, possible: dict[str, int]) -> bool:
    """Say whether a beat can touch another than its bearer."""
    if possible["reacts"] or possible["mitigates"]:
        return True
    given = (writer.book.buffs[name] for name in writer.buff_names if name in writer.book.buffs)
    beats = [effect for buff in given if buff.each for effect in flat(buff.each.does)]
    return any(effect.to is not Receiver.TARGET for effect in beats)


def _written(writer: TableWriter) -> tuple[tuple[list, np.dtype], tuple[list, np.dtype]]:
    return (writer.effects.effects.items, EFFECTS), (writer.buffs.rows, BUFFS)


def _heeds_hits(writer: TableWriter) -> bool:
    """Say whether a hit is remembered: refills wait for it, it breaks something off, or plays ask who dealt it."""
    book = writer.book
    waits = any("after_harm" in (gauge.refill or gauge).model_fields_set for gauge in book.gauges.values())
    aims = {play.pick for unit in writer.units for _, play in unit.plays} & {"most_dangerous", "attacker"}
    return waits or bool(aims) or any(book.abilities[name].interruptible for name in writer.abilities)


def _aims_at_parts(writer: TableWriter, done: np.ndarray) -> bool:
    """Say whether anybody aims at a part."""
    return bool((done["part"] >= 0).any()) or any(play.part for unit in writer.units for _, play in unit.plays)


def _reads_booked(writer: TableWriter) -> bool:
    """Say whether an effect reads what a hit before it booked, gauges' own earnings apart."""
    return any("booked" in line.program.names and line.path[0] != "gauges" for line in writer.lines.lines)


def _figures(writer: TableWriter) -> bool:
    """Say whether a stat hangs on other figures, of itself or by what changes it."""
    book = writer.book
    if any(stat.hangs for stat in book.stats.values()):
        return True
    changes = np.array(writer.buffs.changes.items, dtype=CHANGES)
    live = any(is_live(book, unit.sheet, name) for unit in writer.units for name in book.stats)
    return live or bool((changes["line"] >= 0).any())
