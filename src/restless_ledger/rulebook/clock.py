"""The clock: how time is cut into ticks, when a fight is called off, when a down takes effect."""

from typing import Annotated, Literal

from ..formula import parse
from .entries import Entry, field
from .field_types import Bounds
from .meaning import Lasting, Timed, UserFormula
from .measures import Rate
from .quantities import Duration
from .rolls import Roll
from .words import Turns


class Clock(Entry):
    """`[clock]`: time in ticks, a number of them a second; or in rounds, where a tick is a round.

    `actions` is how many things a character may do in one round; effects of reactions to reactions go as deep as
    `reaction_depth`.
    """

    ticks_per_second: Annotated[int, Bounds(ge=1, le=1000)] = 60
    """How many ticks a second has. All times are whole numbers of ticks."""
    rounds: bool = False
    """Whether time goes by in rounds, so that a tick is a round."""
    time_limit: Lasting | None = None
    """When a fight is called off. Without it, after 180 s or 100 rounds."""
    down_at: Literal["end_of_tick", "at_once"] = "end_of_tick"
    """When a character at zero goes down: at the end of the tick, or at once."""
    invulnerable_from: Literal["at_once", "next_tick"] = "at_once"
    """Whether invulnerability after a hit begins at once or on the next tick."""
    reaction_depth: Annotated[int, Bounds(ge=0, le=16)] = 4
    """How deep reactions to reactions go."""
    initiative: UserFormula = field(default_factory=lambda: parse("0"))
    """Who comes first within a phase: the highest value. Ties fall by a draw."""
    initiative_roll: Roll | None = None
    """What is rolled and added to the initiative."""
    initiative_drawn: Literal["each_fight", "each_round"] = "each_fight"
    """How often it is rolled: once a fight, or anew each round."""
    actions: UserFormula | None = None
    """How many things a character may do in one round. Without it, one."""
    turns: Turns = Turns.TOGETHER
    """In rounds: whether all choose before anything lands, each acts before the next one chooses, or one side after the
    other."""
    walks: Literal["last", "first"] = "last"
    """Where turns follow on each other: whether units walk after everybody has acted, or each in its turn before it
    acts, where it can do nothing from where it stands."""

    def ticks(self, duration: Duration | Timed) -> int:
        """Return a duration in whole ticks (or rounds), by itself, whatever makes it longer or shorter."""
        return (duration.time if isinstance(duration, Timed) else duration).ticks(
            1 if self.rounds else self.ticks_per_second
        )

    def per_unit(self, rate: Rate) -> float:
        """Return how much a rate is a second, or a round where the clock counts rounds."""
        return rate.amount / self.seconds(self.ticks(rate.every))

    def limit_ticks(self) -> int:
        """Return the tick on which a fight is called off: 180 s, or 100 rounds, where nothing is written."""
        if self.time_limit is not None:
            return self.ticks(self.time_limit)
        return 100 if self.rounds else 180 * self.ticks_per_second

    def seconds(self, ticks: float) -> float:
        """Return ticks as seconds, or as rounds where the clock counts rounds."""
        return ticks if self.rounds else ticks / self.ticks_per_second

    @property
    def unit(self) -> str:
        """The unit people read: `s` or `rounds`."""
        return "rounds" if self.rounds else "s"
