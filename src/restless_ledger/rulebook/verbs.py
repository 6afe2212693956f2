"""The words of the ledger: the parts of a tick, what an entry does, and what is noted of it."""

from __future__ import annotations

from .vocabulary import Word


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
    MEND = "mend"
    WANE = "wane"
    RISE = "rise"
    USE = "use"
    BEGIN = "begin"
    REFRESH = "refresh"
    END = "end"
    DOWN = "down"
    LOST = "lost"
    BREAK = "break"
    WHOLE_AGAIN = "whole again"
    BARRED = "barred"
    BUILDUP = "buildup"
    INTERRUPT = "interrupt"
    STOPPED = "stopped"
    LAUNCH = "launch"
    PUSH = "push"
    STEP = "step"
    OVER_EDGE = "over the edge"
    LANDED = "landed"
    SUPPLY = "supply"
    TAKE = "take"
    CHECKPOINT = "checkpoint"
    RETURN = "return"
    FLED = "fled"
    MISTAKE = "mistake"
    CHANCE = "chance"
    CHOICE = "choice"
    PUT_OFF = "put off"
    MITIGATE = "mitigate"
    READY = "ready"
    HOLD_OFF = "hold off"
    PROLONG = "prolong"
    LAY = "lay"
    LIFT = "lift"
    ENTER = "enter"
    LEAVE = "leave"
    SUMMON = "summon"
    ARRIVAL = "arrive"
    DEPART = "depart"
    STRUCK = "against a wall"
    TOSSED = "tossed"
    JUMPED = "jumped"
    SLID = "slid"
    POSTPONE = "postpone"


class Note(Word):
    """What is noted of an entry, as a bit of its notes."""

    MISSED = "missed"
    CRITICAL = "critical"
    GUARDED = "guarded"
    INVULNERABLE = "invulnerable"
    IMMUNE = "immune"
    IN_FRONT = "in_front"
    GRAZED = "grazed"

    @property
    def bit(self) -> int:
        """The bit that stands for the note."""
        return 1 << self.code
