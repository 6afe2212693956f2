"""Words: the closed vocabularies of a rulebook, each one enumeration that every other place reads."""

from __future__ import annotations

from .vocabulary import Word


class Receiver(Word):
    """Who receives an effect."""

    TARGET = "target"
    """Whom the ability is used on."""
    USER = "user"
    """Who uses it: of a reaction, the one that reacts."""
    OTHER = "other"
    """The other of the two in a hit: the dealer for the taker, and the taker for the dealer."""
    MATES = "mates"
    """All others of the user's side."""
    ALLIES = "allies"
    """All of the user's side, the user included."""
    FOES = "foes"
    """All of the other sides."""
    ALL = "all"
    """Everybody."""
    GIVER = "giver"
    """Who gave the buff."""


class Shape(Word):
    """The shape of an area."""

    ROUND = "round"
    CONE = "cone"
    LINE = "line"
    RING = "ring"
    CHAIN = "chain"


class Middle(Word):
    """Where the middle of an area is."""

    TARGET = "target"
    USER = "user"


class Step(Word):
    """Where a step ends."""

    BESIDE = "beside"
    """Before the target, on the way to it."""
    BEHIND = "behind"
    """Behind the target, on the same line."""
    SWAP = "swap"
    """Where the target stood, and the target where the user stood."""
    AWAY = "away"
    """So many metres away from the target."""


class Turns(Word):
    """How the turns of a round follow on each other."""

    TOGETHER = "together"
    """All choose, and then what they chose lands."""
    ONE_BY_ONE = "one_by_one"
    """Each chooses and acts before the next one chooses."""
    SIDE_BY_SIDE = "side_by_side"
    """As one by one, and all of one side before any of the next."""


class Targets(Word):
    """Whom an ability can be used on."""

    FOES = "foes"
    ALLIES = "allies"
    USER = "user"
    FALLEN_ALLIES = "fallen_allies"


class Cancels(Word):
    """In what of its user's own an ability may be used, which ends it."""

    RECOVERY = "recovery"
    WINDUP = "windup"
    EITHER = "either"


class After(Word):
    """What the last hit before an effect in its list must have done."""

    HIT = "hit"
    MISS = "miss"
    CRITICAL = "critical"
    ALWAYS = "always"


class Event(Word):
    """What a reaction reacts to."""

    DEALING = "dealing"
    """A hit of its own."""
    TAKING = "taking"
    """A hit that it takes."""
    BREAKING = "breaking"
    """A part of its body breaks."""
    GOING_DOWN = "going_down"
    """It goes down."""
    MARKED = "marked"
    """It comes to bear a mark."""
    MISSING = "missing"
    """A hit of its own misses."""
    DODGING = "dodging"
    """A hit at it misses."""
    FELLING = "felling"
    """It takes another one down."""
    MATE_DOWN = "mate_down"
    """A mate goes down."""
    FOE_DOWN = "foe_down"
    """A foe goes down."""
    USING = "using"
    """It uses an ability."""
    MATE_USING = "mate_using"
    """A mate uses an ability."""
    FOE_USING = "foe_using"
    """A foe uses an ability."""
    HEALING = "healing"
    """It heals somebody."""
    HEALED = "healed"
    """It is healed."""
    GIVING = "giving"
    """It gives somebody a buff."""
    BEGINNING = "beginning"
    """A buff begins on it."""
    ENDING = "ending"
    """A buff on it ends by itself."""
    STRIPPED = "stripped"
    """A buff on it is taken off."""
    EMPTIED = "emptied"
    """A gauge of its own comes to nothing."""
    FILLED = "filled"
    """A gauge of its own comes to its top."""
    FALLING = "falling"
    """A gauge of its own falls to a share of its top, or past it."""
    RISING = "rising"
    """A gauge of its own rises to a share of its top, or past it."""
    OPENING = "opening"
    """The fight begins."""
    ROUND = "round"
    """A round begins."""
    ENTERING = "entering"
    """It enters a zone."""
    LEAVING = "leaving"
    """It leaves a zone."""
    MOVING = "moving"
    """It has walked or slid on this tick."""
    FOE_MOVING = "foe_moving"
    """A foe has walked or slid on this tick."""


class Again(Word):
    """What a second application of a buff does."""

    REFRESH = "refresh"
    EXTEND = "extend"
    STACK = "stack"
    KEEP_STRONGEST = "keep_strongest"
    IGNORE = "ignore"


class Of(Word):
    """Whose a buff is, where several give it."""

    ALL = "all"
    """One for all givers: each application by anyone re-applies the same one."""
    EACH_GIVER = "each_giver"
    """One of each giver."""
    ONE_TARGET = "one_target"
    """Of each giver on one bearer only: given to another, it ends on the one before."""


class Ends(Word):
    """How the stacks of a buff end."""

    TOGETHER = "together"
    ONE_BY_ONE = "one_by_one"
    """Each time that its time is over, one stack goes, and the time begins anew."""
    EACH = "each"
    """Each stack has a time of its own."""


class Bar(Word):
    """What a buff can keep its bearer from."""

    ACTING = "acting"
    """It uses nothing. What it winds up goes on."""
    WALKING = "walking"
    """It does not walk. What pushes it moves it all the same."""
    DASHING = "dashing"
    """It uses nothing that dashes or lunges."""
    REACTING = "reacting"
    """It does not react. Buffs on it do."""
    HEALED = "healed"
    """Nothing heals it, and nothing but a refill fills the gauge that takes it down."""


class AimsAt(Word):
    """Whom a buff makes its bearer aim at."""

    GIVER = "giver"
    """The giver of the buff, where a foe can be aimed at."""
    ANYBODY = "anybody"
    """Friend and foe alike."""


class Feet(Word):
    """Where a buff makes its bearer walk."""

    AWAY = "away"
    """Away from the giver of the buff."""
    TOWARDS = "towards"
    """To the giver of the buff."""


class Hides(Word):
    """What a buff hides its bearer from."""

    AIMING = "aiming"
    """No foe can aim at it. What is under way arrives."""
    HITS = "hits"
    """No hit does anything to it."""


class EndsOn(Word):
    """What of its bearer ends a buff."""

    ACTING = "acting"
    """Something that it used has landed, or flies."""
    MOVING = "moving"
    """It walks or slides."""
    DEALING = "dealing"
    """A hit of its own lands."""
    TAKING = "taking"
    """A hit lands on it."""


class Pick(Word):
    """Whom a play goes for, of several."""

    RANDOM = "random"
    WEAKEST = "weakest"
    STRONGEST = "strongest"
    NEAREST = "nearest"
    MOST_DANGEROUS = "most_dangerous"
    ATTACKER = "attacker"


class Deed(Word):
    """What a play does."""

    USE = "use"
    WAIT = "wait"
    FLEE = "flee"
    FETCH = "fetch"
    LATER = "later"


class Rounding(Word):
    """How a figure is rounded."""

    NONE = "none"
    DOWN = "down"
    NEAREST = "nearest"
    UP = "up"


class Way(Word):
    """A way in which a stat is changed."""

    SET = "set"
    ADD = "add"
    SCALE = "scale"
    TIMES = "times"


class Edge(Word):
    """What is at an edge of an arena."""

    WALL = "wall"
    PIT = "pit"
    EXIT = "exit"


class NoWinner(Word):
    """How a fight ends that no side wins. No side can have such a name."""

    MUTUAL_DOWN = "mutual down"
    TIME_OUT = "time-out"
    DRAW = "draw"
    RUNNING = "running"
