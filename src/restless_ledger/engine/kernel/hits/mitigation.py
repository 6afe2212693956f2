"""Mitigation: what is done to a hit before it is booked: changed, passed on, kept off the last points."""

from __future__ import annotations

from ...codes import ASKED_FACT, CHANCE, ITS_LIST, MITIGATE, REACTS, THOUSAND, TO_GIVER, TO_MATES
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import thousandths
from ..books.effect_stack import push_frame
from ..books.entries import keep_page, note_chance, record_amount, write_event
from ..buffs.ends import use_up
from ..buffs.reaction import is_so_of_other
from ..formulas.draw import draw
from ..formulas.heights import show_sides
from ..formulas.lines import read_line, read_share
from ..units.sides import are_allies
from .down import go_down_at_once
from .shields import book_harm


@kernel_seldom
def mitigate(tables: Tables, state: State, at: int, kind: int, taker: int, asked: int, part: int, notes: int) -> int:
    """Return what is left of a hit once all has been done to it that its taker bears: first of its buffs, in the order
    of the rulebook, then of its class and all else that it has."""
    left = asked
    state.hit[0].part = part
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[taker, buff].on:
            for index in range(tables.buffs[buff].first_mitigation, tables.buffs[buff].last_mitigation):
                if fits_hit(tables, state, index, kind, part=part, notes=notes):
                    left = apply(tables, state, at, index, kind=kind, taker=taker, asked=left, buff=buff)
    for index in range(tables.units[taker].first_mitigation, tables.units[taker].last_mitigation):
        if fits_hit(tables, state, index, kind, part=part, notes=notes):
            left = apply(tables, state, at, index, kind=kind, taker=taker, asked=left, buff=-1)
    state.hit[0].mitigated = asked - left
    return left


@kernel_seldom
def fits_hit(tables: Tables, state: State, index: int, kind: int, part: int, notes: int) -> bool:
    """Say whether a mitigation is about such a hit at all."""
    row = tables.mitigations[index]
    name = tables.parts[part].name if part >= 0 else -1
    return (
        (row.kind < 0 or row.kind == kind)
        and (row.part < 0 or row.part == name)
        and (notes & row.noted) == row.noted
        and (notes & row.unnoted) == 0
    )


@kernel_seldom
def apply(tables: Tables, state: State, at: int, index: int, kind: int, taker: int, asked: int, buff: int) -> int:
    """Return what one mitigation leaves of a hit; its effects follow the hit. One that changes nothing is not used."""
    row = tables.mitigations[index]
    if not acts(tables, state, at, index, taker=taker, asked=asked):
        return asked
    giver = state.buffs[taker, buff].source if buff >= 0 else -1
    dealer = state.frames[at].user
    left = asked
    if row.times >= 0:
        left = thousandths(
            tables, state, taker, max(0.0, read_line(tables, state, taker, row.times)) * asked / THOUSAND
        )
    if row.less >= 0:
        off = thousandths(tables, state, taker, max(0.0, read_line(tables, state, taker, row.less)))
        left = max(0, left - off)
    passed = 0
    if row.passes >= 0:
        share = read_share(tables, state, taker, row.passes)
        passed = thousandths(tables, state, taker, share * left / THOUSAND)
        if passed > 0 and not can_pass(tables, state, taker, giver=giver, dealer=dealer, to=row.to):
            passed = 0
    left -= passed
    if row.leaves >= 0:
        left = min(left, most_of(tables, state, index, kind, taker=taker))
    if left == asked and passed == 0:
        return asked
    cause = row.cause if row.cause >= 0 else tables.units[taker].class_cause
    parent = state.frames[at].parent
    entry = write_event(state, taker, MITIGATE, cause, source=giver if giver >= 0 else taker, parent=parent)
    record_amount(state, entry, (asked - left) / THOUSAND)
    if row.soaks and 0 <= entry < state.entries.shape[0]:
        state.entries[entry].part = state.hit[0].part
    if row.rests > 0:
        state.mitigated[taker, index].rests_until = state.clock[0].tick + row.rests
    follow_up(tables, state, at, index, taker=taker, held=asked - left, cause=cause, entry=entry)
    if passed > 0:
        pass_on(tables, state, at, index, kind=kind, taker=taker, giver=giver, passed=passed, entry=entry)
    if row.uses_up and buff >= 0:
        use_up(tables, state, taker, buff, parent=entry)
    return left


@kernel_seldom
def acts(tables: Tables, state: State, at: int, index: int, taker: int, asked: int) -> bool:
    """Say whether a mitigation does anything about a hit: its rest, its conditions, its turn, its luck."""
    row = tables.mitigations[index]
    dealer = state.frames[at].user
    if row.rests > 0 and state.mitigated[taker, index].rests_until > state.clock[0].tick:
        return False
    state.pages[taker, tables.rules[0].facts + ASKED_FACT] = asked / THOUSAND
    if tables.rules[0].sided:
        show_sides(tables, state, taker, dealer)
    if row.when >= 0 and read_line(tables, state, taker, row.when) == 0.0:
        return False
    if row.if_ >= 0 and not is_so_of_other(tables, state, row.if_, taker, other=dealer):
        return False
    if row.nth > 1:
        count = state.mitigated[taker, index].count + 1
        state.mitigated[taker, index].count = count
        if count % row.nth != 0:
            return False
    if row.chance < 0:
        return True
    chance = read_share(tables, state, taker, row.chance)
    drawn = draw(state, taker, REACTS)
    page = keep_page(tables, state, taker) if state.run[0].recording else -1
    cause = row.cause if row.cause >= 0 else tables.units[taker].class_cause
    entry = write_event(state, taker, CHANCE, cause, source=taker, parent=state.frames[at].parent)
    note_chance(state, entry, row.chance, page=page, chance=chance, drawn=drawn)
    return drawn < chance


@kernel_seldom
def most_of(tables: Tables, state: State, index: int, kind: int, taker: int) -> int:
    """Return the most that a hit may take where its gauge keeps something: all that stands in front, and the rest."""
    keeps = read_line(tables, state, taker, tables.mitigations[index].leaves)
    gauge = tables.kinds[kind].gauge
    held = state.gauges[taker, gauge].now - thousandths(tables, state, taker, max(0.0, keeps))
    for place in range(tables.gauges[gauge].first_front, tables.gauges[gauge].last_front):
        front = tables.fronts[place]
        if state.gauges[taker, front].held:
            held += state.gauges[taker, front].now
    return max(0, held)


@kernel_seldom
def is_passed_to(tables: Tables, state: State, taker: int, giver: int, dealer: int, to: int, other: int) -> bool:
    """Say whether a unit is one of those to whom a share of a hit on another goes."""
    if other == taker or not state.units[other].up:
        return False
    if to == TO_GIVER:
        return other == giver
    if to == TO_MATES:
        return are_allies(state, taker, other)
    return other == dealer


@kernel_seldom
def can_pass(tables: Tables, state: State, taker: int, giver: int, dealer: int, to: int) -> bool:
    """Say whether there is anybody to whom a share of a hit can go."""
    for other in range(state.units.shape[0]):
        if is_passed_to(tables, state, taker, giver, dealer=dealer, to=to, other=other):
            return True
    return False


@kernel_seldom
def pass_on(
    tables: Tables, state: State, at: int, index: int, kind: int, taker: int, giver: int, passed: int, entry: int
) -> None:
    """Book a share of a hit on those to whom it goes, evenly; what can't be shared out goes to the first ones."""
    frame = state.frames[at]
    dealer, cause, to = frame.user, frame.cause, tables.mitigations[index].to
    count = 0
    for other in range(state.units.shape[0]):
        if is_passed_to(tables, state, taker, giver, dealer=dealer, to=to, other=other):
            count += 1
    rest = passed
    for other in range(state.units.shape[0]):
        if count > 0 and is_passed_to(tables, state, taker, giver, dealer=dealer, to=to, other=other):
            share = (rest + count - 1) // count
            rest -= share
            count -= 1
            gauge = tables.kinds[kind].gauge
            if share > 0 and state.gauges[other, gauge].held:
                in_front = state.hit[0].in_front
                book_harm(tables, state, other, gauge, kind=kind, asked=share, cause=cause, source=dealer, parent=entry)
                state.hit[0].in_front = in_front
                go_down_at_once(tables, state, other)


@kernel_seldom
def follow_up(tables: Tables, state: State, at: int, index: int, taker: int, held: int, cause: int, entry: int) -> None:
    """Put what a mitigation does on the stack, to be carried out once the hit is booked."""
    row = tables.mitigations[index]
    if row.last_effect == row.first_effect:
        return
    dealer, depth = state.frames[at].user, state.frames[at].depth
    if depth >= tables.rules[0].reaction_depth:
        return
    there = push_frame(
        tables,
        state,
        row.first_effect,
        row.last_effect,
        user=taker,
        target=dealer,
        cause=cause,
        parent=entry,
        aimed=1,
        scale=1.0,
    )
    frame = state.frames[there]
    frame.stage = ITS_LIST
    frame.depth = depth + 1
    frame.booked = held / THOUSAND
    frame.stops = 1
