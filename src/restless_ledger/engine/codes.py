"""The engine's numbered words: what the kernel calls the words of a rulebook, and its own."""

from __future__ import annotations

from ..rulebook.pages import FACTS
from ..rulebook.words import Again, Deed, Edge, Event, Pick, Receiver, Targets, Way, Word
from ..sheets.resolve import THOUSAND as THOUSAND


class Phase(Word):
    """A part of a tick."""

    PULSE = "pulse"
    END_PHASE = "end"
    ARRIVE = "arrive"
    CHOOSE = "choose"
    LAND = "land"
    MOVE = "move"
    SETTLE = "settle"


class Verb(Word):
    """What an entry of the ledger does. From `USE` on nothing is booked: those say what happened."""

    HARM = "harm"
    HEAL = "heal"
    REFILL = "refill"
    COST = "cost"
    CUT = "cut"
    EARN = "earn"
    DRAIN = "drain"
    REVIVE = "revive"
    WEAR = "wear"
    USE = "use"
    BEGIN = "begin"
    REFRESH = "refresh"
    END = "end"
    DOWN = "down"
    LOST = "lost"
    BREAK = "break"
    BARRED = "barred"
    BUILDUP = "buildup"
    INTERRUPT = "interrupt"
    STOPPED = "stopped"
    LAUNCH = "launch"
    PUSH = "push"
    OVER_EDGE = "over the edge"
    LANDED = "landed"
    SUPPLY = "supply"
    TAKE = "take"
    CHECKPOINT = "checkpoint"
    RETURN = "return"
    FLED = "fled"
    MISTAKE = "mistake"


class Note(Word):
    """What is noted of an entry, as a bit of its notes."""

    MISSED = "missed"
    CRITICAL = "critical"
    GUARDED = "guarded"
    INVULNERABLE = "invulnerable"
    IMMUNE = "immune"
    IN_FRONT = "in_front"

    @property
    def bit(self) -> int:
        """The bit that stands for the note."""
        return 1 << self.code


PULSE = Phase.PULSE.code
END_PHASE = Phase.END_PHASE.code
ARRIVE = Phase.ARRIVE.code
CHOOSE = Phase.CHOOSE.code
LAND = Phase.LAND.code
MOVE = Phase.MOVE.code
SETTLE = Phase.SETTLE.code

HARM = Verb.HARM.code
HEAL = Verb.HEAL.code
REFILL = Verb.REFILL.code
COST = Verb.COST.code
CUT = Verb.CUT.code
EARN = Verb.EARN.code
DRAIN = Verb.DRAIN.code
REVIVE = Verb.REVIVE.code
WEAR = Verb.WEAR.code
USE = Verb.USE.code
BEGIN = Verb.BEGIN.code
REFRESH = Verb.REFRESH.code
END = Verb.END.code
DOWN = Verb.DOWN.code
LOST = Verb.LOST.code
BREAK = Verb.BREAK.code
BARRED = Verb.BARRED.code
BUILDUP = Verb.BUILDUP.code
INTERRUPT = Verb.INTERRUPT.code
STOPPED = Verb.STOPPED.code
LAUNCH = Verb.LAUNCH.code
PUSH = Verb.PUSH.code
OVER_EDGE = Verb.OVER_EDGE.code
LANDED = Verb.LANDED.code
SUPPLY = Verb.SUPPLY.code
TAKE = Verb.TAKE.code
CHECKPOINT = Verb.CHECKPOINT.code
RETURN = Verb.RETURN.code
FLED = Verb.FLED.code
MISTAKE = Verb.MISTAKE.code
FIRST_EVENT = USE
"""The verbs from here on book nothing: they say what happened."""

MISSED = Note.MISSED.bit
CRITICAL = Note.CRITICAL.bit
GUARDED = Note.GUARDED.bit
INVULNERABLE = Note.INVULNERABLE.bit
IMMUNE = Note.IMMUNE.bit
IN_FRONT = Note.IN_FRONT.bit

SCRIPT, TOP, FALL, PIT, RETURNING, FIRST_REFILL = range(6)
FIXED_CAUSES = ("script", "top", "fall", "pit", "return")
"""Causes. After these come the gauges' refills, the encounter's abilities, its buffs, then its classes' reactions and
its supplies."""

RUNNING, TIME_OUT, MUTUAL = -1, -2, -3
"""Outcomes of a fight that no side has won. A side that wins is its own outcome from 0, and its way to win times the
number of sides on top: `outcome.py` reads them."""
WIPED_OUT, HELD, FLED_ALL = range(3)
"""How a side won."""

SOUND, NOT_FINITE, TOO_LARGE, OUT_OF_BALANCE, TOO_LONG, TOO_FAST, TOO_MANY_ACTIONS, NO_END, NO_ROOM = range(9)
"""Faults that stop a fight."""

NOBODY, SEVERAL = -1, -2
"""Who went down first, where it is no one unit."""
SLICES, BANDS = 33, 101
"""How many times a watched fight's course is looked at, and the shares, in hundredths, that are kept apart."""

LANDS, PART, CRIT, SPREAD, TARGET, INITIATIVE, OPENING, SLIP = range(8)
PURPOSES = 8
"""What a draw is for; a part of its address."""

(
    DAMAGE_EFFECT,
    FILL_EFFECT,
    GIVE_EFFECT,
    COST_EFFECT,
    DRAIN_EFFECT,
    BUILDUP_EFFECT,
    STRIP_EFFECT,
    PUSH_EFFECT,
    REVIVE_EFFECT,
) = range(9)
FOE = Targets.FOES.code
USER_ONLY = Targets.USER.code
FALLEN_ALLY = Targets.FALLEN_ALLIES.code
RANDOM = Pick.RANDOM.code
WEAKEST = Pick.WEAKEST.code
STRONGEST = Pick.STRONGEST.code
NEAREST = Pick.NEAREST.code
MOST_DANGEROUS = Pick.MOST_DANGEROUS.code
ATTACKER = Pick.ATTACKER.code
PLAY_USE = Deed.USE.code
PLAY_WAIT = Deed.WAIT.code
PLAY_FLEE = Deed.FLEE.code
PLAY_FETCH = Deed.FETCH.code
SET = Way.SET.code
ADD = Way.ADD.code
SCALE = Way.SCALE.code
TIMES = Way.TIMES.code
MARK = len(Way)
"""A change that gives a mark, besides those of stats."""
AGAIN_EXTEND = Again.EXTEND.code
AGAIN_STACK = Again.STACK.code
AGAIN_STRONGEST = Again.KEEP_STRONGEST.code
AGAIN_IGNORE = Again.IGNORE.code
ON_DEALING = Event.DEALING.code
ON_TAKING = Event.TAKING.code
ON_BREAKING = Event.BREAKING.code
ON_GOING_DOWN = Event.GOING_DOWN.code
ON_MARKED = Event.MARKED.code
TO_USER = Receiver.USER.code
TO_OTHER = Receiver.OTHER.code
TO_MATES = Receiver.MATES.code
TO_ALLIES = Receiver.ALLIES.code
TO_FOES = Receiver.FOES.code
TO_ALL = Receiver.ALL.code
WALL = Edge.WALL.code
PIT_EDGE = Edge.PIT.code
EXIT = Edge.EXIT.code
LEDGE = len(Edge)
"""An edge with a depth, besides those that are words."""
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
"""What the chance of a hit to land is multiplied by, besides what its kind says."""
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
