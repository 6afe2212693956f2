"""Carry out lists of effects: of an ability that lands, a beat, a reaction, a supply.

A list under way is a frame. Frames lie on a stack: what a hit causes goes on top, and so is over before the list
that caused it goes on. An effect that asks for something, or happens several times, puts frames of its own there.
"""

from __future__ import annotations

from ...codes import (
    BUILDUP_EFFECT,
    CHOICE_EFFECT,
    DAMAGE_EFFECT,
    DRAIN_EFFECT,
    FILL_EFFECT,
    GIVE_EFFECT,
    GROUP_EFFECT,
    ITS_LIST,
    ITS_RECEIVER,
    LAY_EFFECT,
    MEND_EFFECT,
    MOST_EFFECTS,
    NO_END,
    PROLONG_EFFECT,
    PUSH_EFFECT,
    READY_EFFECT,
    REVIVE_EFFECT,
    SOUND,
    STEP_EFFECT,
    STRIP_EFFECT,
    SUMMON_EFFECT,
    TAKE_EFFECT,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import forget_hit, has_more_lists, hold_list, miss_list
from ..buffs.buff import give_buff
from ..buffs.buildup import build_up
from ..buffs.ends import move_buffs, prolong, strip_buffs
from ..buffs.reaction import react, show_booked
from ..buffs.recompute_stats import follow_gauges
from ..formulas.lines import read_line, report_fault
from ..places.push import push
from ..places.step import step_to
from ..places.zone import lay_or_lift
from .body_part import mend
from .branches import ask_receiver, begin_effect, begin_group, choose_one, turn_to_receivers
from .down import go_down_at_once
from .heal import drain, heal, revive
from .ready import make_ready
from .strike import strike
from .summon import summon


@kernel
def carry_out_list(tables: Tables, state: State, at: int, first: int, last: int, target: int) -> None:
    """Carry out a list for the one frame on the stack. Most are one hit, which then needs no more than to strike."""
    may_cause = has_more_lists(tables) or tables.rules[0].figures != 0
    if last - first == 1 and is_plain_hit(tables, first) and not may_cause:
        strike(tables, state, at, first, taker=target)
        state.clock[0].frames = at
        return
    hold_list(tables, state, at, first, last=last, target=target)
    if may_go_down_meanwhile(tables) and state.frames[at].aimed:
        state.frames[at].stops = 1
    carry_out_all(tables, state, at)


@kernel
def is_plain_hit(tables: Tables, index: int) -> bool:
    """Say whether an effect is a hit on the target of its list."""
    return tables.effects[index].what == DAMAGE_EFFECT and tables.effects[index].to_user == 0


@kernel_apart
def carry_out_all(tables: Tables, state: State, at: int) -> None:
    """Carry out the one list on the stack, and after each of its effects whatever that effect has caused."""
    clock = state.clock[0]
    first, last = state.frames[at].at, state.frames[at].last
    for index in range(first, last):
        if tables.rules[0].branches:
            show_booked(tables, state, at)
        carry_out_one(tables, state, at, index)
        if tables.rules[0].figures and clock.followed:
            follow_gauges(tables, state)
        if has_more_lists(tables) and clock.frames > at + 1:
            carry_out(tables, state, at + 1)
    clock.frames = at


@kernel_seldom
def carry_out(tables: Tables, state: State, lowest: int) -> None:
    """Carry out the lists on the stack, the topmost first, down to and with the lowest that is given."""
    clock = state.clock[0]
    while clock.frames > lowest and clock.fault == SOUND:
        at = clock.frames - 1
        frame = state.frames[at]
        if has_more_lists(tables):
            clock.depth = frame.depth
        clock.origin = frame.origin
        clock.origin_unit = frame.origin_unit
        if tables.rules[0].reacts != 0 and frame.reaction >= 0:
            react(tables, state, at)
            continue
        last = frame.last
        while frame.at < last and clock.frames == at + 1:
            index = frame.at
            frame.at = index + 1
            if (has_more_lists(tables) and frame.depth > 0) or tables.rules[0].branches:
                show_booked(tables, state, at)
            carry_out_one(tables, state, at, index)
            if tables.rules[0].figures and clock.followed:
                follow_gauges(tables, state)
        if clock.frames == at + 1:
            finish_list(tables, state, at)
    clock.frames = min(clock.frames, lowest)
    clock.depth = 0
    clock.origin = -1
    clock.origin_unit = -1


@kernel
def finish_list(tables: Tables, state: State, at: int) -> None:
    """Take a list that is carried out off the stack, or begin it anew where it happens several times."""
    frame = state.frames[at]
    if has_more_lists(tables) and frame.left > 0:
        frame.left -= 1
        frame.at = frame.last - 1
    else:
        state.clock[0].frames = at


@kernel
def carry_out_one(tables: Tables, state: State, at: int, index: int) -> None:
    """Carry out one effect. What follows a missed hit does not reach that target.

    A unit that has gone down does nothing more: the rest of its list and of its reactions is left out.
    """
    frame = state.frames[at]
    effect = tables.effects[index]
    receiver = frame.user if effect.to_user else frame.target
    if may_go_down_meanwhile(tables) and frame.stops and not state.units[frame.user].up:
        return
    if has_more_lists(tables) and not has_an_end(tables, state, frame.user):
        return
    if effect.branches:
        if frame.stage == ITS_LIST:
            begin_effect(tables, state, at, index)
            return
        if frame.stage != ITS_RECEIVER:
            turn_to_receivers(tables, state, at, index)
            return
        receiver = frame.target
        if not ask_receiver(tables, state, at, index):
            return
    if not state.units[receiver].up:
        if effect.what == REVIVE_EFFECT:
            revive(tables, state, at, index, target=receiver)
        elif effect.what == LAY_EFFECT or effect.what == SUMMON_EFFECT:
            carry_out_other(tables, state, at, index, receiver=receiver)
        elif effect.what >= GROUP_EFFECT:
            carry_out_branch(tables, state, at, index, receiver=receiver)
    elif frame.missed and not effect.to_user:
        return
    elif effect.what == DAMAGE_EFFECT:
        if has_more_lists(tables) and effect.branches == 0:
            forget_hit(state, at)
        if not strike(tables, state, at, index, taker=receiver):
            frame.missed = 1
            if has_more_lists(tables):
                miss_list(state, at)
    elif effect.what == GIVE_EFFECT:
        strength = read_line(tables, state, frame.user, effect.line) if effect.line >= 0 else 1.0
        give_buff(tables, state, frame.user, receiver, buff=effect.index, strength=strength, parent=frame.parent)
        go_down_at_once(tables, state, receiver)
    elif effect.what >= GROUP_EFFECT:
        carry_out_branch(tables, state, at, index, receiver=receiver)
    else:
        carry_out_other(tables, state, at, index, receiver=receiver)


@kernel_seldom
def carry_out_branch(tables: Tables, state: State, at: int, index: int, receiver: int) -> None:
    """Put the effects that an effect holds on the stack: all of a group, or one choice of several."""
    if tables.effects[index].what == CHOICE_EFFECT:
        choose_one(tables, state, at, index, receiver=receiver)
    else:
        begin_group(tables, state, at, index, receiver=receiver)


@kernel
def may_go_down_meanwhile(tables: Tables) -> bool:
    """Say whether anybody can go down while a list of effects of its own is under way."""
    return tables.rules[0].downs_at_once != 0 or tables.rules[0].reacts != 0


@kernel
def has_an_end(tables: Tables, state: State, unit: int) -> bool:
    """Count an effect of this tick; beyond all bounds is a fault: reactions that bring each other about, many times."""
    run = state.run[0]
    run.work += 1
    if run.work > MOST_EFFECTS:
        report_fault(tables, state, NO_END, -1, unit=unit)
        return False
    return True


@kernel_seldom
def carry_out_other(tables: Tables, state: State, at: int, index: int, receiver: int) -> None:
    """Carry out an effect that is neither a hit nor a buff."""
    what = tables.effects[index].what
    if what == FILL_EFFECT:
        heal(tables, state, at, index, target=receiver)
    elif what == DRAIN_EFFECT:
        drain(tables, state, at, index, target=receiver)
    elif what == BUILDUP_EFFECT:
        build_up(tables, state, at, index, unit=receiver)
    elif what == STRIP_EFFECT:
        strip_buffs(tables, state, at, index, unit=receiver)
    elif what == PUSH_EFFECT:
        push(tables, state, at, index, unit=receiver)
    elif what == MEND_EFFECT:
        mend(tables, state, at, index, unit=receiver)
    elif what == STEP_EFFECT:
        step_to(tables, state, at, index, goal=receiver)
    elif what == SUMMON_EFFECT:
        summon(tables, state, at, index, goal=receiver)
    elif what == LAY_EFFECT:
        lay_or_lift(tables, state, at, index, unit=receiver)
    elif what == READY_EFFECT:
        make_ready(tables, state, at, index, unit=receiver)
    elif what == TAKE_EFFECT:
        move_buffs(tables, state, at, index, unit=receiver)
    elif what == PROLONG_EFFECT:
        prolong(tables, state, at, index, unit=receiver)
    go_down_at_once(tables, state, receiver)  # drained to nothing, or a top that fell to it
