"""What fields mean: of which chapter a name is, on whose page a formula is read, what is a duration or a level."""

from collections.abc import Callable
from functools import cache
from types import UnionType
from typing import Annotated, Any, NamedTuple, Union, get_args, get_origin

from ..formula import Program
from ..frozen_classes import frozen
from .entries import Entry
from .field_types import OrShort, under
from .quantities import DURATION_SCHEMA, NO_TIME, DurationField, Formula, Name, TextFormula


@frozen
class Refers:
    """A name that is declared elsewhere: what a message calls it, and the chapter that declares it."""

    noun: str
    chapter: str

    def __get_pydantic_json_schema__(self, schema: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        return {**handler(schema), REFERS: [self.noun, self.chapter]}


REFERS, LEVEL = "x-refers", "x-level"
"""Keys of the JSON Schema under which it stands what a name refers to, and that a number is a level."""


@frozen
class ReadOn:
    """A formula, and the page that it is read on: a `character`'s with these facts of the moment, a `steady` one
    (gauges apart), a `figure`'s (a fight apart), a `level`'s, or where two meet: `lands`, `settle`."""

    page: str
    facts: tuple[str, ...] = ()
    others: bool = False
    """Whether it is the page of another one: facts that the entries around it add do not stand there."""
    lines: bool = False
    """Whether the lines are read too that the entry around it writes on that page."""


@frozen
class Lasts:
    """A duration; `some` says that it must be longer than nothing."""

    some: bool = False


@frozen
class AtLevel:
    """A level: one that the rulebook has."""

    def __get_pydantic_json_schema__(self, schema: Any, handler: Callable[[Any], dict[str, Any]]) -> dict[str, Any]:
        return {**handler(schema), LEVEL: True}


@frozen
class Says:
    """A text with figures: each formula within is read on a character's page, or is the name of a text."""


Meaning = Refers | ReadOn | Lasts | AtLevel | Says

ClassName = Annotated[Name, Refers("class", "classes")]
StatName = Annotated[Name, Refers("stat", "stats")]
GaugeName = Annotated[Name, Refers("gauge", "gauges")]
DamageName = Annotated[Name, Refers("damage kind", "damage")]
HealingName = Annotated[Name, Refers("healing kind", "healing")]
BodyName = Annotated[Name, Refers("body", "bodies")]
PartName = Annotated[Name, Refers("part", "bodies")]
OriginName = Annotated[Name, Refers("origin", "origins")]
CheckName = Annotated[Name, Refers("check", "checks")]
SlotName = Annotated[Name, Refers("slot", "slots")]
GearName = Annotated[Name, Refers("gear", "gear")]
GearSetName = Annotated[Name, Refers("set", "gear_sets")]
RarityName = Annotated[Name, Refers("rarity", "rarities")]
DropName = Annotated[Name, Refers("drop table", "drops")]
UpgradeName = Annotated[Name, Refers("upgrade", "upgrades")]
PlanName = Annotated[Name, Refers("plan", "plans")]
AbilityName = Annotated[Name, Refers("ability", "abilities")]
SchoolName = Annotated[Name, Refers("school", "abilities")]
BuffName = Annotated[Name, Refers("buff", "buffs")]
MarkName = Annotated[Name, Refers("mark", "buffs")]
PlaybookName = Annotated[Name, Refers("playbook", "playbooks")]
HandlingName = Annotated[Name, Refers("handling", "handlings")]
TextName = Annotated[Name, Refers("text", "texts")]
SupplyName = Annotated[Name, Refers("supply", "supplies")]
ZoneName = Annotated[Name, Refers("zone", "zones")]
DifficultyName = Annotated[Name, Refers("difficulty", "difficulties")]
ArenaName = Annotated[Name, Refers("arena", "arenas")]
EncounterName = Annotated[Name, Refers("encounter", "encounters")]
StageName = Annotated[Name, Refers("stage", "stages")]
JourneyName = Annotated[Name, Refers("journey", "journeys")]

UserFormula = Annotated[Formula, ReadOn("character")]
"""On the page of the character whose line it is, with the facts that its entry adds."""
DealerFormula = Annotated[Formula, ReadOn("character", lines=True)]
"""On the page of the dealer, with the lines that its damage kind rolls."""
RolledEnd = Annotated[TextFormula, ReadOn("character")]
"""On the page of who rolls."""
FigureFormula = Annotated[TextFormula, ReadOn("figure", others=True)]
"""On the page of the character whose figure it is."""
ReceiverFormula = Annotated[Formula, ReadOn("character", ("distance", "behind", "above"), others=True)]
"""On the page of who receives an effect."""
TargetFormula = Annotated[
    Formula, ReadOn("character", ("distance", "at_user", "behind", "above"), others=True, lines=True)
]
"""On the page of who may be the target of a play."""
BookedFormula = Annotated[Formula, ReadOn("character", ("booked",))]
FallFormula = Annotated[Formula, ReadOn("character", ("fall_speed", "safe_speed", "fall_height"))]
CrashFormula = Annotated[Formula, ReadOn("character", ("crash_speed",))]
DashFormula = Annotated[Formula, ReadOn("character", ("speed_now",))]
SteadyFormula = Annotated[Formula, ReadOn("steady")]
LevelFormula = Annotated[TextFormula, ReadOn("level")]
OtherLevel = Annotated[Formula, ReadOn("level")]
"""By the level of another."""
LandsFormula = Annotated[Formula, ReadOn("lands")]
SettleFormula = Annotated[Formula, ReadOn("settle")]

Span = Annotated[DurationField, Lasts()]
Lasting = Annotated[DurationField, Lasts(some=True)]


class Timed(Entry):
    """`{ time = "0.7 s", times = "1 / haste" }`: a duration that figures make longer or shorter."""

    time: DurationField
    """The duration itself."""
    times: UserFormula | None = None
    """What it is multiplied by, on the user's page."""

    @property
    def is_plain(self) -> bool:
        """Whether nothing makes it longer or shorter."""
        return self.model_fields_set == {"time"}

    def __str__(self) -> str:
        return str(self.time)


class TimedOnBearer(Timed):
    """`{ time = "3 s", times = "1 + wits / 300", bearer_times = "1 - nerve / 150" }`: how long a buff lasts."""

    times: UserFormula | None = None
    """What it is multiplied by, on the giver's page."""
    bearer_times: ReceiverFormula | None = None
    """What it is multiplied by, on the bearer's page. With 0 the buff does not take on."""


OR_DURATION = OrShort(under("time", Timed), DURATION_SCHEMA)
"""Says of a table with a `time` that a duration such as "0.7 s" may stand in its place."""
Stretch = Annotated[Timed, OR_DURATION, Lasts()]
Stretching = Annotated[Timed, OR_DURATION, Lasts(some=True)]
LastsOnBearer = Annotated[TimedOnBearer, OR_DURATION, Lasts(some=True)]


def at_once() -> Timed:
    """Return no time at all."""
    return Timed.model_construct({"time"}, time=NO_TIME)


Level = Annotated[int, AtLevel()]


class Found(NamedTuple):
    """A value of a rulebook with its dotted path, what it means, the entry that holds it, and the facts of the moment
    that formulas there may read."""

    path: tuple
    value: Any
    meanings: tuple[Meaning, ...]
    owner: Entry | None
    facts: tuple[str, ...]
    lines: tuple[str, ...] = ()
    """The lines that an entry around it writes on the pages of others."""


class Shape(NamedTuple):
    """What the annotation of a field says: of the value itself, of its keys and of what it holds."""

    meanings: tuple[Meaning, ...] = ()
    key: "Shape | None" = None
    item: "Shape | None" = None


NOTHING = Shape()


class Around(NamedTuple):
    """What the entries around a value say of it: which one holds it, which facts and lines formulas there may read."""

    owner: Entry | None = None
    facts: tuple[str, ...] = ()
    lines: tuple[str, ...] = ()

    def within(self, entry: Entry) -> "Around":
        """Return the same within an entry."""
        lines = tuple(getattr(entry, entry.LINES)) if entry.LINES else self.lines
        return Around(entry, (*self.facts, *entry.FACTS), lines)

    def found(self, path: tuple, value: Any, meanings: tuple[Meaning, ...]) -> Found:
        """Return a value with its meanings and what is around it."""
        return Found(path, value, meanings, self.owner, self.facts, self.lines)


BY_ITSELF = Around()
SCALARS = (str, int, float)


def walk(value: Any, path: tuple = (), shape: Shape = NOTHING, around: Around = BY_ITSELF) -> list[Found]:
    """Return every entry, every formula and every value with a meaning within a part of a rulebook, in its order.

    What is not written is passed over, formulas apart.
    """
    found: list[Found] = []
    _gather(found, value, path, shape, around)
    return found


def _gather(found: list[Found], value: Any, path: tuple, shape: Shape, around: Around) -> None:
    if isinstance(value, Program):
        found.append(around.found(path, value, shape.meanings))
    elif isinstance(value, dict):
        of_key, of_item = (shape.key or NOTHING).meanings, shape.item or NOTHING
        for key, held in value.items():
            if of_key:
                found.append(around.found((*path, str(key)), key, of_key))
            _gather(found, held, (*path, str(key)), of_item, around)
    elif isinstance(value, list):
        for index, held in enumerate(value):
            _gather(found, held, (*path, index), shape.item or NOTHING, around)
    elif isinstance(value, SCALARS) or not isinstance(value, Entry):
        if shape.meanings and (meanings := tuple(each for each in shape.meanings if not isinstance(each, ReadOn))):
            found.append(around.found(path, value, meanings))
    elif isinstance(value, Timed):
        lasts = tuple(meaning for meaning in shape.meanings if isinstance(meaning, Lasts))
        found.append(around.found(path if value.is_plain else (*path, "time"), value.time, lasts))
        inside = Around(value, around.facts, around.lines)
        for name, key, inner in fields(type(value))[1:]:
            if (formula := getattr(value, name)) is not None:
                _gather(found, formula, (*path, key), inner, inside)
    else:
        inside, written = around.within(value), value.model_fields_set
        found.append(inside.found(path, value, ()))
        for name, key, inner in fields(type(value)):
            held = getattr(value, name)
            if isinstance(held, Program) or (held is not None and name in written):
                _gather(found, held, (*path, key), inner, inside)


@cache
def fields(kind: type[Entry]) -> tuple[tuple[str, str, Shape], ...]:
    """Return every field of a kind of entry: its name, the key that is written, and what its annotation says."""
    return tuple(
        (name, info.alias or name, _joined(shape_of(info.annotation), tuple(filter(_is_meaning, info.metadata))))
        for name, info in kind.model_fields.items()
    )


def shape_of(annotation: Any) -> Shape:
    """Return what an annotation says."""
    if type(annotation) is type:
        return NOTHING
    origin, arguments = get_origin(annotation), get_args(annotation)
    if origin is Annotated:
        return _joined(shape_of(arguments[0]), tuple(filter(_is_meaning, arguments[1:])))
    if origin in (Union, UnionType):
        shapes = [shape_of(argument) for argument in arguments]
        meanings = tuple(meaning for shape in shapes for meaning in shape.meanings)
        key = next((shape.key for shape in shapes if shape.key), None)
        return Shape(meanings, key, next((shape.item for shape in shapes if shape.item), None))
    if origin is dict:
        return Shape(key=shape_of(arguments[0]), item=shape_of(arguments[1]))
    if origin is list:
        return Shape(item=shape_of(arguments[0]))
    return NOTHING


def _joined(shape: Shape, more: tuple) -> Shape:
    return Shape((*shape.meanings, *more), shape.key, shape.item) if more else shape


def _is_meaning(value: Any) -> bool:
    return isinstance(value, Meaning)
