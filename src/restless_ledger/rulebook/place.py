"""Place: how fast characters walk, how heavy they are; arenas with their edges, supplies and checkpoints; falls."""

import math
from typing import Annotated, Any, Literal

from ..formula import parse
from .effects import Effect
from .entries import Entry, field
from .field_types import Before, Bounds, refusal
from .meaning import CrashFormula, FallFormula, Stretching, SupplyName, UserFormula, ZoneName
from .measures import AccelerationField, DragField, LengthField, SpeedField
from .quantities import Label
from .speeds import Paced, PacedField
from .vocabulary import Word
from .words import Edge


def cell_middle(at: float, grid: float, size: float) -> float:
    """Return the middle of the cell of a point, in one direction: of cells so wide, on an arena of a size."""
    last = max(1.0, math.floor(size / grid + 0.5)) - 1.0
    return (min(math.floor(at / grid), last) + 0.5) * grid


class Counting(Word):
    """How distances are counted."""

    STRAIGHT = "straight"
    """As the crow flies."""
    SIDES = "sides"
    """From cell to cell over sides: east or west, and then north or south."""
    CORNERS = "corners"
    """From cell to cell over sides and corners."""


SIDES = ("north", "south", "east", "west")
LONGEST = 10_000.0
MOST_WALLS = 100
MOST_CHECKPOINTS = 60
Point = Annotated[list[LengthField], Bounds(min_length=2, max_length=2)]


class Movement(Entry):
    """`[movement]`: pace (metres per second) and weight, each on its own page; what is lost of a push per second.

    A push of this many metres per second sets one of weight 1 moving at that speed, a heavier one slower.
    """

    pace: UserFormula = field(default_factory=lambda: parse("3"))
    """How fast a character walks, in metres per second, on its own page."""
    weight: UserFormula = field(default_factory=lambda: parse("1"))
    """What the speed of a push is divided by, on the page of the unit that is pushed."""
    radius: UserFormula | None = None
    """How much room it takes, in metres, on its own page: nobody walks or slides into the room of another. Without it,
    all pass one another."""
    flies: UserFormula | None = None
    """How many metres above the ground it flies, on its own page. Who flies is not stopped by walls, and does not fall
    at open edges. Without it, nobody flies."""
    friction: AccelerationField = 8.0
    """How fast a slide gets slower."""
    air_friction: DragField = 0.0
    """How fast a slide gets slower in the air, during a jump."""
    crash: CrashFormula | None = None
    """What it takes to be stopped by a wall while one slides, on the page of who is; crash_speed is that into the
    wall, in metres per second. Without it, nothing."""


class Falls(Entry):
    """`[falls]`: from height h one lands at sqrt(2 g h), at most at `terminal`; what is over `safe_speed` may hurt.

    `damage` is read on the faller's page, where `fall_speed`, `fall_height` and `safe_speed` are this fall's.
    Afterwards the faller climbs back at `climb` to where it fell from.
    """

    gravity: AccelerationField = 9.81
    """How fast a fall gets faster."""
    safe_speed: SpeedField = 8.0
    """The speed up to which a landing hurts nobody."""
    terminal: PacedField = Paced.model_construct({"speed"}, speed=55.0)
    """The highest speed of a fall. Its times are read as a fall begins."""
    damage: FallFormula = field(default_factory=lambda: parse("0"))
    """What a landing takes, on the page of the unit that falls; fall_speed, fall_height and safe_speed are those of
    this fall."""
    climb: SpeedField = 1.5
    """How fast somebody climbs back up."""


class Ledge(Entry):
    """`south = { ledge = "9 m" }`: an open edge, and how deep it goes down there."""

    ledge: LengthField
    """How deep it goes down there."""


def _edge(value: Any) -> Any:
    if value in tuple(Edge):
        return Edge(value)
    if isinstance(value, Ledge):
        return value
    if isinstance(value, dict) and set(value) == {"ledge"}:
        return Ledge.model_validate(value)
    raise refusal("edge", 'an edge is "wall", "pit", "exit" or { ledge = "9 m" }')


AnyEdge = Annotated[Edge | Ledge, Before(_edge)]


class Supply(Entry):
    """`[supplies.oil_can]`: lies there first after `every`, and again this long after it was taken.

    What it `does` is done by the unit that takes it, to itself.
    """

    label: Label | None = None
    """The name that people read."""
    every: Stretching
    """The time until it appears, and until it is there again after it was taken. The mean of its times over all who
    are up multiplies the second."""
    does: Annotated[list[Effect], Bounds(min_length=1)]
    """What it does to the unit that takes it, in order."""


class Spot(Entry):
    """`{ supply = "oil_can", at = ["3 m", "2 m"] }`: where one appears."""

    supply: SupplyName
    """What appears there."""
    at: Point
    """Where, east and north from the south-west corner."""


class Laid(Entry):
    """`{ zone = "bog", at = ["10 m", "5 m"] }`: a zone that is there from the beginning, around a point."""

    zone: ZoneName
    """The zone."""
    at: Point
    """Where its middle is, east and north from the south-west corner."""


class Checkpoint(Entry):
    """`{ at = ["6 m", "6 m"], returns_at = ["2 m", "6 m"] }`: who has reached it returns there, with a life left."""

    at: Point
    """Where it is, east and north from the south-west corner."""
    radius: LengthField = 0.6
    """From how far away it is reached."""
    returns_at: Point | None = None
    """Where those return who reached it. Without it, right there."""
    once: bool = False
    """Whether each unit reaches it once only, so that coming by again changes nothing."""


class Wall(Entry):
    """`{ from = ["4 m", "2 m"], to = ["4 m", "8 m"] }`: a wall within an arena, straight from one point to another."""

    from_: Point = field(alias="from")
    """Where it begins, east and north from the south-west corner."""
    to: Point
    """Where it ends."""


class Height(Entry):
    """`{ at = ["12 m", "6 m"], size = ["4 m", "4 m"], up = "2 m" }`: raised ground, around a point."""

    at: Point
    """Where its middle is, east and north from the south-west corner."""
    size: Annotated[list[LengthField], Bounds(min_length=2, max_length=2)]
    """How far it goes east and north."""
    up: LengthField
    """How high it is."""


class Arena(Entry):
    """`[arenas.landing]`: a rectangle; x goes east and y goes north from its south-west corner, in metres."""

    label: Label | None = None
    """The name that people read."""
    size: Annotated[list[LengthField], Bounds(min_length=2, max_length=2)]
    """How far it goes east and north."""
    grid: Annotated[LengthField, Bounds(gt=0)] | None = None
    """How wide its cells are. Everybody stands in the middle of a cell. Without it, one may stand anywhere."""
    counts: Counting = Counting.STRAIGHT
    """How distances are counted here: straight, over sides of cells, or over sides and corners."""
    edges: dict[Literal["north", "south", "east", "west"], AnyEdge] = field(default_factory=dict)
    """What is at its edges: a wall, a pit, an exit, or a ledge of some depth."""
    supplies: list[Spot] = field(default_factory=list)
    """Where supplies appear."""
    zones: list[Laid] = field(default_factory=list)
    """Zones that are there from the beginning, and belong to nobody."""
    walls: Annotated[list[Wall], Bounds(max_length=MOST_WALLS)] = field(default_factory=list)
    """Walls within it. Nobody walks or slides through one, and nobody acts through one on whom it can't see."""
    heights: list[Height] = field(default_factory=list)
    """Raised ground. Walking up and down costs nothing; formulas may read above."""
    checkpoints: Annotated[list[Checkpoint], Bounds(max_length=MOST_CHECKPOINTS)] = field(default_factory=list)
    """Places where those who reached them return."""
    checkpoints_in_order: bool = False
    """Whether only a later checkpoint of the list takes the place of one that was reached."""

    @property
    def has_exit(self) -> bool:
        """Whether units can leave the fight here."""
        return Edge.EXIT in self.edges.values()

    def settled(self, x: float, y: float) -> tuple[float, float]:
        """Return where somebody stands who comes to a point: with a grid in the middle of the cell there."""
        if self.grid is None:
            return x, y
        return cell_middle(x, self.grid, self.size[0]), cell_middle(y, self.grid, self.size[1])

    def holds(self, point: list[float]) -> bool:
        """Say whether a point lies within."""
        return 0 <= point[0] <= self.size[0] and 0 <= point[1] <= self.size[1]
