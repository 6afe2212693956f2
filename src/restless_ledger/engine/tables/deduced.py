"""What can happen at all in an encounter, so that the kernel need not look for what can't."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...frozen_classes import frozen
from ...rulebook import Rulebook
from ...rulebook.effect_lists import flat
from ...rulebook.effects import DamageEffect, Effect
from ...rulebook.rules.damage import kinds
from ...rulebook.words import Receiver
from ...sheets.build import is_live
from ..codes import DAMAGE_EFFECT, GROUP_EFFECT
from ..layout.ability_layout import ABILITIES, BUFFS, CHANGES, EFFECTS
from ..layout.table_layout import KNOWN, UNITS
from ..unit import Unit
from .write_buffs import BuffWriter
from .write_gauges import flows
from .write_reactions import ReactionWriter


@frozen
class Written:
    """What is written of an encounter, or of a bench."""

    book: Rulebook
    units: Sequence[Unit]
    bench: bool
    classes: Sequence[str]
    buff_names: Sequence[str]
    effects: ReactionWriter
    buffs: BuffWriter
    ability_rows: Sequence[tuple]
    """The rows of abilities, as they are and as they are altered."""
    known: Sequence[tuple]
    """The rows of the abilities that units know, or that a buff may let them use."""


def deduced(written: Written, unit_rows: list[tuple]) -> dict[str, int]:
    """Return the rules that say what can happen, each 0 where it can't. Call it once all else is written."""
    book, bench = written.book, written.bench
    done, buffs = (np.array(rows, dtype=kind) for rows, kind in _rows(written))
    mitigations, known = written.effects.mitigations.items, np.array(written.known, dtype=KNOWN)
    events = {reaction[0] for reaction in written.effects.reactions.items}
    earns = any(gauge.earns.model_fields_set for gauge in book.gauges.values())
    spared = any(book.classes[name].invulnerable for name in written.classes) or book.lives.invulnerable.amount > 0
    worn = bool(np.array(unit_rows, dtype=UNITS)["worn"].any())
    branches = bool((done["branches"] > 0).any() or (done["what"] >= GROUP_EFFECT).any() or _reads_booked(written))
    follows = bench or bool(events) or branches or bool(buffs["ends_on"].any()) or earns or spared or worn
    follows = follows or bool((done["steal"] >= 0).any()) or _heeds_hits(written) or bool(written.effects.lines.seen)
    kept_off = bench or spared or worn or _aims_at_parts(written, done) or bool(buffs["hides"].any())
    kept_off = kept_off or any(kind.barred_by for _, kind in kinds(book))
    kept_off = kept_off or any(unit.handling.aim < 1 for unit in written.units)
    return {
        "reacts": sum(1 << event for event in events),
        "branches": int(branches),
        "lists": int(
            branches
            or bool(events)
            or bool(written.effects.zones)
            or book.clock.down_at == "at_once"
            or bool(mitigations)
        ),
        "figures": int(_figures(written)),
        "controls": int(bool(buffs["controls"].any() or known["by_buff"].any())),
        "mitigates": int(bool(mitigations)),
        "ends_on": int(np.bitwise_or.reduce(buffs["ends_on"], initial=0)),
        "earns": int(earns),
        "follows": int(follows),
        "kept_off": int(kept_off),
        "line_times": int(bool(((done["what"] == DAMAGE_EFFECT) & (done["times"] < 0)).any())),
    }


def beat_rules(written: Written, possible: dict[str, int], moving: bool) -> dict[str, int]:
    """Return the rules that say what beats can bring about; `moving` says that some line reads gauges."""
    meet = moving or _beats_meet(written, possible)
    return {"beats_meet": int(meet), "beats_matter": int(meet or _beats_matter(written, possible))}


def _beats_meet(written: Written, possible: dict[str, int]) -> bool:
    """Say whether a beat can touch another than its bearer."""
    if possible["reacts"] or possible["mitigates"]:
        return True
    return any(effect.to is not Receiver.TARGET for effect in _beats(written))


def _beats_matter(written: Written, possible: dict[str, int]) -> bool:
    """Say whether the order of beats, or what else anybody does on their tick, can hang on them: one does more than to
    hit its bearer, or draws, or something follows. Call it where no beat touches another than its bearer."""
    if any(possible[name] for name in ("lists", "figures", "controls", "follows")):
        return True
    return any(not isinstance(each, DamageEffect) or _draws(written.book, each) for each in _beats(written))


def _draws(book: Rulebook, effect: DamageEffect) -> bool:
    """Say whether a hit draws even if it is not aimed."""
    kind = book.damage[effect.damage]
    return kind.spread is not None or bool(kind.rolled)


def _beats(written: Written) -> list[Effect]:
    given = (written.book.buffs[name] for name in written.buff_names if name in written.book.buffs)
    return [effect for buff in given if buff.each for effect in flat(buff.each.does)]


def _rows(written: Written) -> tuple[tuple[list, np.dtype], tuple[list, np.dtype]]:
    return (written.effects.effects.items, EFFECTS), (written.buffs.rows, BUFFS)


def _heeds_hits(written: Written) -> bool:
    """Say whether a hit is remembered: refills wait for it, it breaks something off, or plays ask who dealt it."""
    book = written.book
    waits = any(flow.after_harm for _, _, flow in flows(book))
    abilities = np.array(written.ability_rows, dtype=ABILITIES)
    aims = {play.pick for unit in written.units for _, play in unit.plays} & {"most_dangerous", "attacker"}
    return waits or bool(aims) or bool(abilities["interruptible"].any())


def _aims_at_parts(written: Written, done: np.ndarray) -> bool:
    """Say whether anybody aims at a part."""
    return bool((done["part"] >= 0).any()) or any(play.part for unit in written.units for _, play in unit.plays)


def _reads_booked(written: Written) -> bool:
    """Say whether an effect reads what a hit before it booked, gauges' own earnings apart."""
    return any("booked" in line.program.names and line.path[0] != "gauges" for line in written.effects.lines.lines)


def _figures(written: Written) -> bool:
    """Say whether a stat hangs on other figures, of itself or by what changes it."""
    book = written.book
    if any(stat.hangs for stat in book.stats.values()):
        return True
    changes = np.array(written.buffs.changes.items, dtype=CHANGES)
    live = any(is_live(book, unit.sheet, name) for unit in written.units for name in book.stats)
    return live or bool((changes["line"] >= 0).any())
