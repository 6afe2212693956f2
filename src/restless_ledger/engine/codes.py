"""The engine's numbered words. Each tuple of words is indexed by the constants beneath it."""

from __future__ import annotations

from ..rulebook.pages import FACTS
from ..rulebook.reactions import EVENTS, RECEIVERS
from ..sheets.resolve import THOUSAND as THOUSAND

PHASES = ("pulse", "end", "arrive", "choose", "land", "move", "settle")
PULSE, END_PHASE, ARRIVE, CHOOSE, LAND, MOVE, SETTLE = range(7)

VERBS = (
    "harm",
    "heal",
    "refill",
    "cost",
    "cut",
    "earn",
    "drain",
    "revive",
    "wear",
    "use",
    "begin",
    "refresh",
    "end",
    "down",
    "lost",
    "break",
    "barred",
    "buildup",
    "interrupt",
    "stopped",
    "launch",
    "push",
    "over the edge",
    "landed",
    "supply",
    "take",
    "checkpoint",
    "return",
    "fled",
    "mistake",
)
(
    HARM,
    HEAL,
    REFILL,
    COST,
    CUT,
    EARN,
    DRAIN,
    REVIVE,
    WEAR,
    USE,
    BEGIN,
    REFRESH,
    END,
    DOWN,
    LOST,
    BREAK,
    BARRED,
    BUILDUP,
    INTERRUPT,
    STOPPED,
    LAUNCH,
    PUSH,
    OVER_EDGE,
    LANDED,
    SUPPLY,
    TAKE,
    CHECKPOINT,
    RETURN,
    FLED,
    MISTAKE,
) = range(30)
FIRST_EVENT = USE
"""The verbs from here on book nothing: they say what happened."""

MISSED, CRITICAL, GUARDED, INVULNERABLE, IMMUNE, IN_FRONT = 1, 2, 4, 8, 16, 32
"""Notes of an entry, added together."""
NOTES = ("missed", "critical", "guarded", "invulnerable", "immune", "in_front")

SCRIPT, TOP, FALL, PIT, RETURNING, FIRST_REFILL = range(6)
FIXED_CAUSES = ("script", "top", "fall", "pit", "return")
"""Causes. After these come the gauges' refills, the encounter's abilities, its buffs, then its classes' reactions and
its supplies."""

RUNNING, TIME_OUT, MUTUAL = -1, -2, -3
"""Outcomes of a fight that no side has won; a side that wins is its own outcome, from 0."""
WIPED_OUT, HELD, FLED_ALL = range(3)
WAYS_TO_WIN = ("wiped out", "held", "fled")
"""How a side won: everybody else was down, it held the objective, or whoever else was up had fled. An outcome is the
side and this, times the number of sides."""

SOUND, NOT_FINITE, TOO_LARGE, OUT_OF_BALANCE, TOO_LONG, TOO_FAST, TOO_MANY_ACTIONS, NO_END, NO_ROOM = range(9)
"""Faults that stop a fight."""

NOBODY, SEVERAL = -1, -2
"""Who went down first, where it is no one unit."""
SLICES, BANDS = 33, 101
"""How many times a watched fight's course is looked at, and the shares, in hundredths, that are told apart."""

LANDS, PART, CRIT, SPREAD, TARGET, INITIATIVE, OPENING, SLIP = range(8)
PURPOSES = 8
"""What a draw is for; a part of its address."""

(
    DAMAGE_EFFECT,
    HEAL_EFFECT,
    GIVE_EFFECT,
    COST_EFFECT,
    DRAIN_EFFECT,
    BUILDUP_EFFECT,
    STRIP_EFFECT,
    PUSH_EFFECT,
    REVIVE_EFFECT,
) = range(9)
ON = ("foe", "ally", "self", "fallen_ally")
FOE, ALLY, SELF, FALLEN_ALLY = range(4)
AIMS = ("random", "weakest", "strongest", "nearest", "most_dangerous", "attacker")
RANDOM, WEAKEST, STRONGEST, NEAREST, MOST_DANGEROUS, ATTACKER = range(6)
PLAYS = ("use", "hold", "flee", "fetch")
PLAY_USE, PLAY_HOLD, PLAY_FLEE, PLAY_FETCH = range(4)
WAYS = ("set", "add", "scale", "times", "mark")
SET, ADD, SCALE, TIMES, MARK = range(5)
AGAIN_REFRESH, AGAIN_EXTEND, AGAIN_STACK, AGAIN_STRONGEST, AGAIN_IGNORE = range(5)
ON_DEALING, ON_TAKING, ON_BREAKING, ON_GOING_DOWN, ON_MARKED = range(len(EVENTS))
TO_SELF, TO_SOURCE, TO_ALLIES, TO_FOES = range(len(RECEIVERS))
WALL, PIT_EDGE, EXIT, LEDGE = range(4)
EDGES = ("wall", "pit", "exit")
ON_THE_FLOOR, FALLING, CLIMBING, AWAY = range(4)
"""Where a unit is: in the arena, on its way down, on its way back up, or gone from the fight."""

POWER_SLOT, SOAK_SLOT, GAP_SLOT, AIM_SLOT, DODGE_SLOT, DISTANCE_SLOT, EXTRA_SLOT = range(7)
"""Places of the names on the line where two characters meet."""
BOOKED_FACT, DISTANCE_FACT, SPEED_FACT, HEIGHT_FACT, SAFE_FACT = range(5)
FACT_NAMES = (*FACTS, "safe_speed")
"""Places, after all others on a page, of what is true only for a moment."""

MEETING_ROW, FAULT_ROW = range(2)
"""Rows of the pages after those of the units: the line where two characters meet, and the page of a fault."""
MORE_ROWS = 2

NEVER = 1 << 60
LARGEST = 1e9
"""The largest amount, in points."""
LONGEST = 1e15
"""The longest time, in ticks."""
FASTEST = 1e6
"""The highest speed, in metres per second."""
MOST_EFFECTS = 1_000_000
"""How many effects can be carried out on one tick; beyond that a chain of reactions has no end."""
MOST_ACTIONS = 100
"""How often at most anybody acts in one round."""

CHANCE_FACTORS = ("handling", "aimed_part", "segments")
"""What the chance of a hit to land is multiplied by, beside what its kind says."""
AMOUNT_FACTORS = ("times", "part", "resist", "against", "critical", "spread", "scale", "guard")
"""What the amount of a hit is multiplied by once power and soak have settled, in this order."""
FACTORS = (*CHANCE_FACTORS, *AMOUNT_FACTORS)
"""Every factor of a hit. An entry keeps them all; its explanation and the exact solver go over this list."""
(
    HANDLING_FACTOR,
    AIMED_PART_FACTOR,
    SEGMENTS_FACTOR,
    TIMES_FACTOR,
    PART_FACTOR,
    RESIST_FACTOR,
    AGAINST_FACTOR,
    CRITICAL_FACTOR,
    SPREAD_FACTOR,
    SCALE_FACTOR,
    GUARD_FACTOR,
) = range(len(FACTORS))

NOTHING_AGAINST, IS_DOWN, IS_BUSY, IS_COOLING_DOWN, IS_TOO_DEAR, IS_SLIDING = range(6)
"""What stands against what a script asks a unit to do."""

ASK_OPEN, ASK_FIGHTS, ASK_UNTIL, ASK_POKE, ASK_RECONCILE, ASK_EVALUATE, ASK_DRAW = range(7)
"""What the front can ask of the kernel."""
