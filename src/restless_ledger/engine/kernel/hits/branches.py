"""Effects that do not simply happen: that ask for something, wait, happen several times, or are for several.

Such an effect comes in three steps. First, as its list comes to it: `after`, `later`, and how many times. Then each
time: `when`, and who receives it. Then for each receiver: `if`, and the chance.
"""

from __future__ import annotations

from ...codes import (
    AFTER_CRITICAL,
    AFTER_HIT,
    AFTER_MISS,
    CHANCE,
    CHOICE,
    DAMAGE_EFFECT,
    HAPPENS,
    ITS_LIST,
    ITS_RECEIVER,
    ITS_TIMES,
    MOST_EFFECTS,
    ONE_OF,
    TO_TARGET,
    TO_USER,
)
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched
from ..books.effect_stack import forget_hit, push_like
from ..books.entries import keep_page, note_chance, record_amount, write_event
from ..books.waiting import put_off
from ..buffs.reaction import is_so_of_other, receives
from ..formulas.between import show_between
from ..formulas.draw import draw
from ..formulas.lines import read_line
from ..formulas.roll import even_draw


@kernel_seldom
def begin_effect(tables: Tables, state: State, at: int, index: int) -> None:
    """Begin an effect as its list comes to it: it may not follow, it may be put off, or it happens now."""
    effect = tables.effects[index]
    if not follows(state, at, effect.after, to_user=effect.to_user):
        return
    if effect.later > 0:
        ticks = stretched(tables, state, state.frames[at].user, effect.later, line=effect.later_times)
        put_off(tables, state, at, index, ticks=max(1, ticks), left=-1)
    else:
        begin_times(tables, state, at, index)


@kernel_seldom
def follows(state: State, at: int, after: int, to_user: int) -> bool:
    """Say whether an effect follows what the last hit of its list did. Unless it says otherwise, a missed hit keeps
    what comes after it from its target."""
    frame = state.frames[at]
    if after == AFTER_HIT:
        return frame.landed != 0
    if after == AFTER_MISS:
        return frame.missed != 0
    if after == AFTER_CRITICAL:
        return frame.landed != 0 and frame.critical != 0
    return after >= 0 or to_user != 0 or frame.missed == 0


@kernel_seldom
def begin_times(tables: Tables, state: State, at: int, index: int) -> None:
    """Begin what happens once or several times, at once or one each while; a hit's list hears only of these."""
    effect = tables.effects[index]
    user = state.frames[at].user
    times = 1
    if effect.again >= 0:
        times = int(min(float(MOST_EFFECTS), max(0.0, read_line(tables, state, user, effect.again))))
    if times == 0:
        return
    booked = state.frames[at].booked  # which its formulas may read, while its hits are told to the list
    if effect.what == DAMAGE_EFFECT:
        forget_hit(state, at)
    if times > 1 and effect.every > 0:
        ticks = stretched(tables, state, user, effect.every, line=effect.every_times)
        place = put_off(tables, state, at, index, ticks=max(1, ticks), left=times - 1)
        if place >= 0:
            state.later[place].booked = booked
        times = 1
    there = push_times(tables, state, at, index, times=times)
    state.frames[there].booked = booked


@kernel_seldom
def push_times(tables: Tables, state: State, at: int, index: int, times: int) -> int:
    """Put the times of one effect on the stack; return their place."""
    its_list = state.frames[at].its_list
    there = push_like(tables, state, at, index, last=index + 1)
    frame = state.frames[there]
    frame.stage = ITS_TIMES
    frame.its_list = its_list
    frame.left = times - 1
    frame.missed = 0
    return there


@kernel_seldom
def turn_to_receivers(tables: Tables, state: State, at: int, index: int) -> None:
    """Ask whether an effect happens this time, and put it on the stack once for each receiver."""
    effect = tables.effects[index]
    frame = state.frames[at]
    user, target = frame.user, frame.target
    if effect.when >= 0 and read_line(tables, state, user, effect.when) == 0.0:
        return
    if effect.to == TO_TARGET or effect.to == TO_USER:
        push_receiver(tables, state, at, index, receiver=user if effect.to == TO_USER else target)
        return
    for other in range(state.units.shape[0] - 1, -1, -1):
        if receives(tables, state, user, other, to=effect.to, within=effect.within):
            push_receiver(tables, state, at, index, receiver=other)


@kernel_seldom
def push_receiver(tables: Tables, state: State, at: int, index: int, receiver: int) -> None:
    """Put an effect on one receiver on the stack."""
    its_list = state.frames[at].its_list
    there = push_like(tables, state, at, index, last=index + 1)
    frame = state.frames[there]
    frame.stage = ITS_RECEIVER
    frame.its_list = its_list
    frame.target = receiver
    frame.missed = 0


@kernel_seldom
def ask_receiver(tables: Tables, state: State, at: int, index: int) -> bool:
    """Ask the condition on the receiver's page, and draw against the chance."""
    effect = tables.effects[index]
    frame = state.frames[at]
    if effect.if_ >= 0 and not is_so_of_other(tables, state, effect.if_, frame.user, other=frame.target):
        return False
    if effect.chance < 0:
        return True
    user, receiver = frame.user, frame.target
    page = keep_page(tables, state, user) if state.run[0].recording else -1
    avoid = 0.0
    chance = read_line(tables, state, user, effect.chance)
    if effect.avoid >= 0:
        show_between(tables, state, receiver, user)
        avoid = read_line(tables, state, receiver, effect.avoid)
    chance = min(1.0, max(0.0, chance - avoid))
    drawn = even_draw(state, user, effect.even, chance) if effect.even >= 0 else draw(state, user, HAPPENS)
    entry = write_event(state, receiver, CHANCE, frame.cause, source=user, parent=frame.parent)
    note_chance(state, entry, effect.chance, page=page, chance=chance, drawn=drawn)
    if entry >= 0:
        if entry < state.entries.shape[0] and effect.avoid >= 0:
            state.entries[entry].taker_page = keep_page(tables, state, receiver)
        frame.parent = entry
    return drawn < chance


@kernel_seldom
def begin_group(tables: Tables, state: State, at: int, index: int, receiver: int) -> None:
    """Put the effects of a group on the stack, for the group's receiver."""
    effect = tables.effects[index]
    its_list = state.frames[at].its_list
    landed, critical = state.frames[its_list].landed, state.frames[its_list].critical
    missed, booked = state.frames[its_list].missed, state.frames[its_list].booked
    there = push_like(tables, state, at, effect.first, last=effect.last)
    frame = state.frames[there]
    frame.stage = ITS_LIST
    frame.target = receiver
    frame.landed = landed
    frame.critical = critical
    frame.booked = booked
    frame.missed = missed


@kernel_seldom
def choose_one(tables: Tables, state: State, at: int, index: int, receiver: int) -> None:
    """Draw one of several by weight and put its effects on the stack. Weights below 0 count as 0; without any weight
    nothing happens."""
    effect = tables.effects[index]
    frame = state.frames[at]
    total = 0.0
    for choice in range(effect.first, effect.last):
        total += max(0.0, read_line(tables, state, frame.user, tables.effects[choice].line))
    if total <= 0.0:
        return
    drawn = draw(state, frame.user, ONE_OF)
    left = drawn * total
    chosen = -1
    for choice in range(effect.first, effect.last):
        weight = max(0.0, read_line(tables, state, frame.user, tables.effects[choice].line))
        if weight > 0.0 and (left >= 0.0 or chosen < 0):
            chosen = choice
            left -= weight
            if left < 0.0:
                break
    entry = write_event(state, receiver, CHOICE, frame.cause, source=frame.user, parent=frame.parent)
    record_amount(state, entry, chosen - effect.first + 1.0)
    if entry >= 0:
        frame.parent = entry
    begin_group(tables, state, at, chosen, receiver=receiver)
