"""Rolls: a number from a range, from dice, or from a deck; and chances that even out."""

from __future__ import annotations

from ...codes import EVENS, ROLLED
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from .draw import draw, draw_at
from .lines import read_line
from .stat import whole_above, whole_below

DECK_COUNT = 1 << 41
"""Where the draws of decks begin among those of rolls; each roll has room for 2^18 times through its deck."""
ROLL_SHIFT, CYCLE_SHIFT = 24, 6


@kernel_seldom
def roll(tables: Tables, state: State, unit: int, index: int, drawn: float) -> float:
    """Return what a draw gives: of several rolls, the best or the worst."""
    row = tables.rolls[index]
    if row.rolls > 1:
        power = 1.0 / row.rolls
        drawn = drawn**power if row.best else 1.0 - (1.0 - drawn) ** power
    if row.last_face > row.first_face:
        return find_face(tables, index, drawn)
    low = read_line(tables, state, unit, row.low)
    high = read_line(tables, state, unit, row.high)
    if row.whole == 0:
        return low + drawn * max(0.0, high - low)
    first = whole_above(low)
    return first + whole_below(drawn * max(1.0, whole_below(high) - first + 1.0))


@kernel_seldom
def find_face(tables: Tables, index: int, drawn: float) -> float:
    """Return the number of dice that a draw falls on."""
    low, high = tables.rolls[index].first_face, tables.rolls[index].last_face - 1
    while low < high:
        middle = (low + high) // 2
        if tables.faces[middle].up_to > drawn:
            high = middle
        else:
            low = middle + 1
    return tables.faces[low].value


@kernel_seldom
def draw_card(tables: Tables, state: State, unit: int, index: int) -> float:
    """Return the next card of a unit's deck: in each time through it every card comes once. Modifies their count."""
    row = tables.rolls[index]
    size = row.last_face - row.first_face
    count = state.cards[unit, index]
    state.cards[unit, index] = count + 1
    address = DECK_COUNT + (index << ROLL_SHIFT) + ((count // size) << CYCLE_SHIFT)
    taken, place = 0, 0
    for turn in range(count % size + 1):
        left = int(draw_at(state, unit, ROLLED, address + turn) * (size - turn))
        place = 0
        while (taken >> place) & 1 or left > 0:
            left -= 1 - ((taken >> place) & 1)
            place += 1
        taken |= 1 << place
    return tables.faces[row.first_face + place].value


@kernel_seldom
def roll_lines(tables: Tables, state: State, unit: int, kind: int, page: int) -> None:
    """Draw the lines of a kind that are rolled for each hit; write them on the page of who rolls, and on its kept copy
    (`page`, or -1)."""
    for index in range(tables.kinds[kind].first_roll, tables.kinds[kind].last_roll):
        if tables.rolls[index].deck:
            value = draw_card(tables, state, unit, index)
        else:
            value = roll(tables, state, unit, index, drawn=draw(state, unit, ROLLED))
        state.pages[unit, tables.rolls[index].slot] = value
        if 0 <= page < state.kept.shape[0]:
            state.kept[page, tables.rolls[index].slot] = value


@kernel_seldom
def even_draw(state: State, unit: int, even: int, chance: float) -> float:
    """Return a draw of a chance that evens out.

    What was likely so far adds up. In each whole of that sum lies one mark, drawn uniformly, and it happens where the
    sum passes the next mark. So it happens as often as the chances say, and never is the sum of two tries without it.
    Modifies the sum and the mark.
    """
    row = state.evened[unit, even]
    if row.marks == 0:
        row.marks = 1
        row.mark = draw(state, unit, EVENS)
    drawn = max(0.0, row.mark - row.so_far)
    row.so_far += chance
    if drawn < chance:
        row.mark = row.marks + draw(state, unit, EVENS)
        row.marks += 1
    return drawn
