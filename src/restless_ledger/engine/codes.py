"""The engine's numbered words. Each tuple of words is indexed by the constants beneath it."""

from __future__ import annotations

PHASES = ("pulse", "end", "arrive", "choose", "land", "move", "settle")
PULSE, END_PHASE, ARRIVE, CHOOSE, LAND, MOVE, SETTLE = range(7)

VERBS = ("harm", "heal", "refill", "cost", "cut", "use", "begin", "refresh", "end", "down", "lost")
HARM, HEAL, REFILL, COST, CUT, USE, BEGIN, REFRESH, END, DOWN, LOST = range(11)
FIRST_EVENT = USE
"""The verbs from here on book nothing: they say what happened."""

MISSED, CRITICAL = 1, 2
"""Notes of an entry, added together."""

SCRIPT, TOP, FIRST_REFILL = 0, 1, 2
FIXED_CAUSES = ("script", "top")
"""Causes. After these come the gauges' refills, the encounter's abilities, then its buffs."""

RUNNING, TIME_OUT, MUTUAL = -1, -2, -3
"""Outcomes of a fight that no side has won; a side that wins is its own outcome, from 0."""

SOUND, NOT_FINITE, TOO_LARGE, OUT_OF_BALANCE = 0, 1, 2, 3
"""Faults that stop a fight."""

LANDS, PART, CRIT, SPREAD, TARGET, INITIATIVE = range(6)
PURPOSES = 6
"""What a draw is for; a part of its address."""

DAMAGE_EFFECT, HEAL_EFFECT, GIVE_EFFECT, COST_EFFECT = range(4)
ON = ("foe", "ally", "self")
FOE, ALLY, SELF = range(3)
AIMS = ("random", "weakest", "strongest")
RANDOM, WEAKEST, STRONGEST = range(3)
WAYS = ("set", "add", "scale", "times", "mark")
SET, ADD, SCALE, TIMES, MARK = range(5)

POWER_SLOT, SOAK_SLOT, GAP_SLOT, AIM_SLOT, DODGE_SLOT, EXTRA_SLOT = range(6)
"""Places of the names on the line where two characters meet."""

MEETING_ROW, FAULT_ROW = range(2)
"""Rows of the pages after those of the units: the line where two characters meet, and the page of a fault."""
MORE_ROWS = 2

NEVER = 1 << 60
THOUSAND = 1000
"""Gauges are counted in thousandths of a point."""
LARGEST = 1e9
"""The largest amount, in points."""
