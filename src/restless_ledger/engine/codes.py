"""The engine's numbered words: what the kernel calls the words of a rulebook, and its own."""

from __future__ import annotations

from ..formula import SEEN
from ..rulebook.pages import FACTS
from ..rulebook.place import Counting
from ..rulebook.speeds import Heading
from ..rulebook.verbs import Note as Note
from ..rulebook.verbs import Phase as Phase
from ..rulebook.verbs import Verb as Verb
from ..rulebook.words import (
    After,
    Again,
    AimsAt,
    Bar,
    Deed,
    Edge,
    Ends,
    EndsOn,
    Event,
    Feet,
    Hides,
    Of,
    Pick,
    Receiver,
    Shape,
    Step,
    Targets,
    Turns,
    Way,
)
from ..sheets.resolve import THOUSAND as THOUSAND

PULSE, END_PHASE, ARRIVE, CHOOSE, LAND, MOVE, SETTLE = (phase.code for phase in Phase)

HARM, HEAL = Verb.HARM.code, Verb.HEAL.code
REFILL = Verb.REFILL.code
COST = Verb.COST.code
CUT = Verb.CUT.code
EARN = Verb.EARN.code
DRAIN = Verb.DRAIN.code
REVIVE = Verb.REVIVE.code
WEAR, MEND = Verb.WEAR.code, Verb.MEND.code
WANE = Verb.WANE.code
RISE = Verb.RISE.code
STAYS, KEEPS_SHARE, FILLS = range(3)
"""What a top that changes does to the amount."""
USE = Verb.USE.code
BEGIN = Verb.BEGIN.code
REFRESH = Verb.REFRESH.code
END = Verb.END.code
DOWN = Verb.DOWN.code
LOST = Verb.LOST.code
BREAK, WHOLE_AGAIN = Verb.BREAK.code, Verb.WHOLE_AGAIN.code
BARRED = Verb.BARRED.code
BUILDUP = Verb.BUILDUP.code
INTERRUPT = Verb.INTERRUPT.code
STOPPED = Verb.STOPPED.code
LAUNCH = Verb.LAUNCH.code
PUSH = Verb.PUSH.code
STEP = Verb.STEP.code
OVER_EDGE = Verb.OVER_EDGE.code
LANDED = Verb.LANDED.code
SUPPLY, TAKE = Verb.SUPPLY.code, Verb.TAKE.code
CHECKPOINT, RETURN = Verb.CHECKPOINT.code, Verb.RETURN.code
FLED = Verb.FLED.code
MISTAKE, MITIGATE = Verb.MISTAKE.code, Verb.MITIGATE.code
READY, HOLD_OFF = Verb.READY.code, Verb.HOLD_OFF.code
PROLONG = Verb.PROLONG.code
CHANCE, CHOICE = Verb.CHANCE.code, Verb.CHOICE.code
PUT_OFF = Verb.PUT_OFF.code
LAY, LIFT, ENTER, LEAVE = Verb.LAY.code, Verb.LIFT.code, Verb.ENTER.code, Verb.LEAVE.code
SUMMON, ARRIVAL, DEPART = Verb.SUMMON.code, Verb.ARRIVAL.code, Verb.DEPART.code
STRUCK, TOSSED = Verb.STRUCK.code, Verb.TOSSED.code
JUMPED, SLID, POSTPONE = Verb.JUMPED.code, Verb.SLID.code, Verb.POSTPONE.code
FIRST_EVENT = USE
"""The verbs from here on book nothing: they say what happened."""

MISSED = Note.MISSED.bit
CRITICAL = Note.CRITICAL.bit
GUARDED = Note.GUARDED.bit
INVULNERABLE = Note.INVULNERABLE.bit
IMMUNE = Note.IMMUNE.bit
IN_FRONT = Note.IN_FRONT.bit
GRAZED = Note.GRAZED.bit

SCRIPT, TOP, FALL, PIT, RETURNING, CRASH, FIRST_FLOW = range(7)
FIXED_CAUSES = ("script", "top", "fall", "pit", "return", "wall")
"""Causes. After these come what flows into gauges and out of them, the encounter's abilities, its buffs, then its
classes' reactions, its supplies and its zones."""

RUNNING, TIME_OUT, MUTUAL, DRAW = -1, -2, -3, -4
"""Outcomes of a fight that no side has won. A side that wins is its own outcome from 0, and its way to win times the
number of sides on top: `outcome.py` reads them."""
WIPED_OUT, HELD, FLED_ALL, GOAL = range(4)
"""How a side won."""

SOUND, NOT_FINITE, TOO_LARGE, TOO_MUCH, OUT_OF_BALANCE = range(5)
TOO_LONG, TOO_FAST, TOO_MANY_ACTIONS, NO_END, NO_ROOM = range(5, 10)
"""Faults that stop a fight."""

NOBODY, SEVERAL = -1, -2
"""Who went down first, where it is no one unit."""
SLICES, BANDS = 33, 101
"""How many times a watched fight's course is looked at, and the shares, in hundredths, that are kept apart."""

LANDS, PART, CRIT, SPREAD, TARGET, INITIATIVE, OPENING, SLIP, HAPPENS, ONE_OF, REACTS, WEIGHS, ROLLED, BLOCKS, EVENS = (
    range(15)
)
PURPOSES = 15
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
    READY_EFFECT,
    PROLONG_EFFECT,
    TAKE_EFFECT,
    STEP_EFFECT,
    LAY_EFFECT,
    SUMMON_EFFECT,
    MEND_EFFECT,
    GROUP_EFFECT,
    CHOICE_EFFECT,
) = range(18)
IN_RECOVERY, IN_WINDUP = 1, 2
"""What a unit is busy with, a bit each."""
AFTER_HIT, AFTER_MISS, AFTER_CRITICAL = After.HIT.code, After.MISS.code, After.CRITICAL.code
HEADS_TO_TARGET, HEADS_AWAY, HEADS_WHERE_FACING, HEADS_WHERE_MOVING = (word.code for word in Heading)
STEP_BEHIND, STEP_SWAP, STEP_AWAY = Step.BEHIND.code, Step.SWAP.code, Step.AWAY.code
ITS_LIST, ITS_TIMES, ITS_RECEIVER = range(3)
"""What a frame is: a list of effects; one effect, each of its times; one effect on one of its receivers."""
FOE, ALLY, USER_ONLY, FALLEN_ALLY = (word.code for word in Targets)
RANDOM = Pick.RANDOM.code
WEAKEST = Pick.WEAKEST.code
STRONGEST = Pick.STRONGEST.code
NEAREST = Pick.NEAREST.code
MOST_DANGEROUS = Pick.MOST_DANGEROUS.code
ATTACKER = Pick.ATTACKER.code
BEST = len(Pick)
"""A pick by a formula, besides those that are words."""
(
    SEES_SINCE_START,
    SEES_FOES_LEFT,
    SEES_MATES_LEFT,
    SEES_FOES_NEAR,
    SEES_MATES_NEAR,
    SEES_READY,
    SEES_STACKS,
    SEES_WINDING_UP,
    SEES_AIMED_AT,
    SEES_DEALT,
    SEES_TAKEN,
    SEES_HEALED,
) = range(len(SEEN))
PLAY_USE = Deed.USE.code
PLAY_WAIT = Deed.WAIT.code
PLAY_FLEE = Deed.FLEE.code
PLAY_FETCH, PLAY_LATER = Deed.FETCH.code, Deed.LATER.code
BARS_ACTING = 1 << Bar.ACTING.code
BARS_WALKING = 1 << Bar.WALKING.code
BARS_DASHING = 1 << Bar.DASHING.code
BARS_REACTING = 1 << Bar.REACTING.code
BARS_HEALED = 1 << Bar.HEALED.code
AT_GIVER = AimsAt.GIVER.code
AT_ANYBODY = AimsAt.ANYBODY.code
FEET_AWAY = Feet.AWAY.code
HIDES_AIMING = 1 << Hides.AIMING.code
HIDES_HITS = 1 << Hides.HITS.code
ENDS_ON_ACTING = 1 << EndsOn.ACTING.code
ENDS_ON_MOVING = 1 << EndsOn.MOVING.code
ENDS_ON_DEALING = 1 << EndsOn.DEALING.code
ENDS_ON_TAKING = 1 << EndsOn.TAKING.code
BREAKS = 1 << len(EndsOn)
"""What buffs bar, hide from and end on, a bit each; `BREAKS`: an amount of harm ends one."""
SET = Way.SET.code
ADD = Way.ADD.code
SCALE = Way.SCALE.code
TIMES = Way.TIMES.code
MARK = len(Way)
"""A change that gives a mark, besides those of stats."""
OF_ONE_TARGET = Of.ONE_TARGET.code
ONE_BY_ONE = Ends.ONE_BY_ONE.code
ENDS_EACH = Ends.EACH.code
AGAIN_EXTEND = Again.EXTEND.code
AGAIN_STACK = Again.STACK.code
AGAIN_STRONGEST = Again.KEEP_STRONGEST.code
AGAIN_IGNORE = Again.IGNORE.code
ON_DEALING = Event.DEALING.code
ON_TAKING = Event.TAKING.code
ON_BREAKING = Event.BREAKING.code
ON_GOING_DOWN = Event.GOING_DOWN.code
ON_MARKED = Event.MARKED.code
ON_MISSING = Event.MISSING.code
ON_DODGING = Event.DODGING.code
ON_FELLING = Event.FELLING.code
ON_MATE_DOWN = Event.MATE_DOWN.code
ON_FOE_DOWN = Event.FOE_DOWN.code
ON_USING = Event.USING.code
ON_MATE_USING = Event.MATE_USING.code
ON_FOE_USING = Event.FOE_USING.code
ON_HEALING = Event.HEALING.code
ON_HEALED = Event.HEALED.code
ON_GIVING = Event.GIVING.code
ON_BEGINNING = Event.BEGINNING.code
ON_ENDING = Event.ENDING.code
ON_STRIPPED = Event.STRIPPED.code
ON_EMPTIED = Event.EMPTIED.code
ON_FILLED = Event.FILLED.code
ON_FALLING = Event.FALLING.code
ON_RISING = Event.RISING.code
ON_OPENING = Event.OPENING.code
ON_ROUND = Event.ROUND.code
ON_ENTERING, ON_LEAVING = Event.ENTERING.code, Event.LEAVING.code
ON_MOVING, ON_FOE_MOVING = Event.MOVING.code, Event.FOE_MOVING.code
HIT_EVENTS = sum(
    1 << word.code for word in (Event.DEALING, Event.TAKING, Event.MISSING, Event.DODGING, Event.HEALING, Event.HEALED)
)
GAUGE_EVENTS = sum(1 << word.code for word in (Event.EMPTIED, Event.FILLED, Event.FALLING, Event.RISING))
DOWN_EVENTS = sum(1 << word.code for word in (Event.FELLING, Event.MATE_DOWN, Event.FOE_DOWN))
ZONE_EVENTS = 1 << ON_ENTERING | 1 << ON_LEAVING
MOVE_EVENTS = 1 << ON_MOVING | 1 << ON_FOE_MOVING
USE_EVENTS = sum(1 << word.code for word in (Event.USING, Event.MATE_USING, Event.FOE_USING))
ANNOUNCED = sum(1 << word.code for word in (Event.OPENING, Event.ROUND))
"""Sets of events, a bit each."""
CONE, LINE, RING, CHAIN = (shape.code for shape in (Shape.CONE, Shape.LINE, Shape.RING, Shape.CHAIN))
SIDE_BY_SIDE, OVER_SIDES = Turns.SIDE_BY_SIDE.code, Counting.SIDES.code
TO_TARGET, TO_USER, TO_OTHER, TO_MATES, TO_ALLIES, TO_FOES, TO_ALL, TO_GIVER = (word.code for word in Receiver)
WALL = Edge.WALL.code
PIT_EDGE = Edge.PIT.code
EXIT = Edge.EXIT.code
LEDGE = len(Edge)
"""An edge with a depth, besides those that are words."""
ON_THE_FLOOR, FALLING, CLIMBING, AWAY = range(4)
"""Where a unit is: in the arena, on its way down, on its way back up, or gone from the fight."""
TOSSED_UP, JUMPING = 1, 2
"""Why it is in the air without having gone over an edge."""

POWER_SLOT, SOAK_SLOT, GAP_SLOT, AIM_SLOT, DODGE_SLOT, DISTANCE_SLOT, BEHIND_SLOT, ABOVE_SLOT, EXTRA_SLOT = range(9)
"""Places of the names on the line where two characters meet."""
BOOKED_FACT, DISTANCE_FACT, SPEED_FACT, HEIGHT_FACT, ASKED_FACT, AT_USER_FACT, BEHIND_FACT, ABOVE_FACT = range(8)
CRASH_FACT, NOW_FACT, SAFE_FACT = 8, 9, 10
FACT_NAMES = (*FACTS, "safe_speed")
"""Places, after all others on a page, of what is true only for a moment."""

MEETING_ROW, FAULT_ROW = range(2)
"""Rows of the pages after those of the units: the line where two characters meet, and the page of a fault."""
MORE_ROWS = 2

NEVER, ANYWHERE = 1 << 60, 1e300
USUAL = 1e9
"""The largest amount, in points, of which no number of them in a fight can outgrow its books."""
USUAL_ASKED = 10**12
"""The same in thousandths."""
MOST_BOOKED = 8e15
"""How many points all larger amounts may come to in one fight: with one more, the totals still fit in 64 bits."""
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
AMOUNT_FACTORS = ("times", "part", "resist", "against", "critical", "spread", "scale", "guard", "block", "graze")
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
    BLOCK_FACTOR,
    GRAZE_FACTOR,
) = range(len(FACTORS))

ASK_OPEN, ASK_FIGHTS, ASK_UNTIL, ASK_POKE, ASK_RECONCILE, ASK_EVALUATE, ASK_DRAW, ASK_BEGIN = range(8)
"""What the front can ask of the kernel."""
