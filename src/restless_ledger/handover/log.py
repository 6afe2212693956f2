"""The log of a game: what happened, line by line, as JSON Lines."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import field
from pathlib import Path
from typing import Annotated, Any, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.files import read_regular
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, build_sheet

FORMAT, VERSION = "restless-ledger log", 1
Said = TypeVar("Said", bound=BaseModel)
CHAPTERS = {"ability": "abilities", "buff": "buffs", "gauge": "gauges", "kind": "damage"}


Number = Annotated[float, Field(allow_inf_nan=False)]
Draw = Annotated[float, Field(ge=0, le=1)]


class Line(BaseModel):
    """What every line says: what happened, to whom, and when."""

    model_config = ConfigDict(strict=True, extra="allow")
    unit: str
    tick: int | None = None
    seconds: Number | None = None


class Hit(Line):
    """A hit: an amount, or that it missed; what was drawn, and what else decides it."""

    source: str
    kind: str
    ability: str | None = None
    part: str | None = None
    amount: Number | None = None
    missed: bool = False
    critical: bool | None = None
    draws: dict[str, Draw] | None = None
    rolled: dict[str, Number] = {}
    distance: Number | None = None
    behind: Number | None = None
    above: Number | None = None
    times: Number | None = None
    part_times: Number | None = None
    handling: Number | None = None
    aimed_part: Number | None = None
    segments: Number | None = None
    against: Number | None = None
    scale: Number | None = None


class Use(Line):
    """The use of an ability."""

    ability: str


class Change(Line):
    """A change of a gauge."""

    gauge: str
    amount: Number
    before: Number
    after: Number


class BuffState(Line):
    """A buff that begins or ends."""

    buff: str
    state: Literal["begins", "ends"]


class Fighter(BaseModel):
    """Somebody in a fight, as the head of a log says it."""

    model_config = ConfigDict(strict=True, extra="forbid")
    who: str = Field(alias="class")
    level: int | None = None
    origin: str | None = None
    attributes: dict[str, int] = {}
    gear: list[str] = []
    taught: list[str] = []
    bought: dict[str, int] = {}


EVENTS: dict[str, type[Line]] = {"hit": Hit, "use": Use, "gauge": Change, "buff": BuffState}


@frozen
class Event:
    """One line of a log: its number in the file, the tick, what happened, and all that it says."""

    line: int
    tick: int
    event: str
    says: Mapping[str, Any]

    def __getitem__(self, name: str) -> Any:
        return self.says[name]

    def get(self, name: str, otherwise: Any = None) -> Any:
        """Return what the line says of something, or else what is given."""
        return self.says.get(name, otherwise)


@frozen
class Log:
    """A log: who was in it, and every event in order."""

    name: str
    units: Mapping[str, CharacterSpec]
    events: tuple[Event, ...] = field(default=())


def read_log(book: Rulebook, file: str | Path) -> Log:
    """Read a log. Raises `InputError` with the line where it can't be read, or names what the rulebook has not."""
    try:
        text = read_regular(Path(file)).decode("utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise InputError(f"{file}: the log can't be read: {getattr(error, 'strerror', None) or error}") from None
    lines = [(number, line) for number, line in enumerate(text.splitlines(), 1) if line.strip()]
    if not lines:
        raise InputError(f"{file}: this log is empty\n    write a head, and a line for each event")
    head = _object(str(file), *lines[0])
    if head.get("format") != FORMAT or head.get("version") != VERSION:
        remedy = f'begin it with {{"format": "{FORMAT}", "version": {VERSION}, "units": …}}'
        raise InputError(f"{file}:1: this is no log of version {VERSION}\n    {remedy}")
    units = _units(book, f"{file}:1", head.get("units"))
    events = [_event(book, str(file), number, _object(str(file), number, line), units) for number, line in lines[1:]]
    return Log(str(file), units, tuple(events))


def _object(name: str, number: int, line: str) -> dict[str, Any]:
    try:
        found = json.loads(line)
    except ValueError as error:
        raise InputError(f"{name}:{number}: this line is no JSON: {error}") from None
    if not isinstance(found, dict):
        raise InputError(f"{name}:{number}: a line is an object\n    got: {line[:60]}")
    return found


def _units(book: Rulebook, place: str, given: Any) -> dict[str, CharacterSpec]:
    if not isinstance(given, dict) or not given:
        raise InputError(
            f'{place}: the head names who is in it\n    write "units": {{"Ana": {{"class": "rigger", "level": 8}}}}'
        )
    found = {}
    for name, entry in given.items():
        fighter = _read(Fighter, entry, f"{place}: units.{name}")
        try:
            found[name] = build_sheet(book, CharacterSpec(**fighter.model_dump())).spec
        except InputError as error:
            raise InputError(f"{place}: units.{name}: {error}") from None
    return found


def _read(kind: type[Said], entry: Any, place: str) -> Said:
    """Return what an object says. Raises `InputError` with the place of what is wrong first."""
    try:
        return kind.model_validate(entry)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        where, got = ".".join(map(str, first["loc"])), first["input"]
        got = "nothing" if first["type"] == "missing" else repr(got)
        raise InputError(f"{place}: {where}: {first['msg'][:1].lower()}{first['msg'][1:]}\n    got: {got}") from None


def _event(book: Rulebook, name: str, number: int, said: dict[str, Any], units: Mapping[str, CharacterSpec]) -> Event:
    place, what = f"{name}:{number}", said.get("event")
    if not isinstance(what, str) or what not in EVENTS:
        raise InputError(f"{place}: there is no event {what}\n    there are: {', '.join(EVENTS)}")
    line = _read(EVENTS[what], {key: value for key, value in said.items() if key != "event"}, place)
    if isinstance(line, Hit) and line.amount is None and not line.missed:
        raise InputError(f'{place}: a hit has an amount, or missed\n    write "amount": …, or "missed": true')
    said = line.model_dump(exclude_none=True)
    for key in ("unit", "source"):
        if key in said and said[key] not in units:
            raise InputError(f"{place}: there is nobody called {said[key]}\n    {nearest(str(said[key]), units)}")
    for key, chapter in CHAPTERS.items():
        if said.get(key) is not None and said[key] not in getattr(book, chapter):
            raise InputError(
                f"{place}: there is no {key} {said[key]}\n    {nearest(str(said[key]), getattr(book, chapter))}"
            )
    if line.tick is None and line.seconds is None:
        raise InputError(f'{place}: a line says when\n    write "tick": … or "seconds": …')
    tick = round((line.seconds or 0.0) / book.clock.seconds(1)) if line.tick is None else line.tick
    return Event(number, tick, what, said)
