"""Saving a scene as JSON, and restoring it: who is in it, what each holds, and the whole state of the engine."""

from __future__ import annotations

import hashlib
import json
import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from ..engine import Setup, Unit
from ..engine.layout.layout import RECORDS, State
from ..rulebook import InputError, Rulebook
from ..sheets import CharacterSpec, Item
from ..sheets.gear import change_of
from .bench import LEAST_ROOM, SCRATCH, Bench
from .character import LiveCharacter
from .scene import Member, Scene

FORMAT = "restless-ledger scene"
VERSION = 1
VALUES = "values"


def saved(scene: Scene) -> str:
    """Return a scene as JSON."""
    state = scene.bench.state
    content = {
        "format": FORMAT,
        "version": VERSION,
        "rulebook": scene.book.rulebook.title,
        "fingerprint": fingerprint(scene.book),
        "seconds": scene.seconds,
        "arena": scene.arena,
        "seed": scene.seed,
        "drawn": scene.drawn,
        "units": [_shown(LiveCharacter(scene, number)) for number in range(len(scene.bench.setup.units))],
        "chapters": [
            {"from_entry": first, "members": [_member(member) for member in members]}
            for (first, _), members in zip(scene.chapters, scene.casts, strict=True)
        ],
        "state": {name: _packed(getattr(state, name)) for name in _members(state)},
        "records": {name: _packed(getattr(state, name)[: _length(state, name)]) for name in RECORDS},
    }
    content["checksum"] = _checksum(content)
    return json.dumps(content, ensure_ascii=False, indent=1)


def restored(book: Rulebook, text: str, name: str = "scene") -> Scene:
    """Return a scene from JSON. Raises `InputError` where it is none, of another version or rulebook, or changed."""
    content = _content(text, name)
    if content["fingerprint"] != fingerprint(book):
        raise InputError(
            f"{name}: it was saved under another rulebook, or another state of this one\n"
            f"    got: {content['rulebook']}\n    restore it with the rulebook that it was saved under"
        )
    chapters, casts, before = list[tuple[int, Setup]](), list[tuple[Member, ...]](), tuple[Unit, ...]()
    scene = Scene(book, _cast(content["chapters"][0]), content["arena"], content["seed"])
    for chapter in content["chapters"]:
        cast = _cast(chapter)
        setup = scene.set_up(cast, before)
        before = setup.units
        chapters.append((int(chapter["from_entry"]), setup))
        casts.append(cast)
    scene.drawn = content["drawn"]
    scene.chapters, scene.casts, scene.members = chapters, casts, casts[-1]
    scene.bench = Bench.of(setup, _state(setup, content))
    return scene


def fingerprint(book: Rulebook) -> str:
    """Return what tells a rulebook from all others: a hash of all that it declares."""
    found: str = book.kept(
        "fingerprint", lambda: hashlib.sha256(book.model_dump_json(warnings=False).encode()).hexdigest()[:16]
    )
    return found


def _content(text: str, name: str) -> dict[str, Any]:
    try:
        content = json.loads(text)
    except ValueError as error:
        raise InputError(f"{name}: this is no JSON: {error}\n    give a file that was saved by `save`") from None
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise InputError(f"{name}: this is no saved scene\n    give a file that was saved by `save`")
    if content.get("version") != VERSION:
        raise InputError(
            f"{name}: this version of the library reads version {VERSION} of saved scenes\n"
            f"    got: {content.get('version')}"
        )
    if content.pop("checksum", None) != _checksum(content):
        raise InputError(
            f"{name}: it has been changed since it was saved\n    change the scene by its verbs, and save it again"
        )
    return content


def _checksum(content: Mapping[str, Any]) -> str:
    packed = json.dumps({key: content[key] for key in content if key != "checksum"}, sort_keys=True)
    return hashlib.sha256(packed.encode()).hexdigest()


def _shown(unit: LiveCharacter) -> dict[str, Any]:
    """Return what people want to read of a unit."""
    return {
        "name": unit.name,
        "class": unit.spec.who,
        "level": unit.spec.level,
        "down": unit.is_down,
        "gauges": {gauge: [unit[gauge], unit[f"{gauge}_top"]] for gauge in unit.sheet.gauges},
        "buffs": {borne.name: [borne.stacks, borne.strength, borne.left] for borne in unit.buffs},
        "at": unit.at,
    }


def _member(member: Member) -> dict[str, Any]:
    spec = member.spec
    return {
        "who": spec.who,
        "level": spec.level,
        "origin": spec.origin,
        "attributes": dict(spec.attributes),
        "gear": [_item(piece) for piece in spec.gear],
        "taught": list(spec.taught),
        "bought": dict(spec.bought),
        "buffs": list(spec.buffs),
        "grown": dict(spec.grown),
        "difficulty": spec.difficulty,
        "texts": dict(spec.texts),
        "side": member.side,
        "acts": member.acts,
        "experience": member.experience,
    }


def _item(piece: str | Item) -> str | dict[str, Any]:
    if isinstance(piece, str):
        return piece
    rolled = {stat: {change.way.value: float(change.worth({}))} for stat, change in piece.rolled.items()}
    return {"gear": piece.gear, "rarity": piece.rarity, "rolled": rolled}


def _cast(chapter: Mapping[str, Any]) -> tuple[Member, ...]:
    members = []
    for entry in chapter["members"]:
        values = dict(entry)
        side, acts, experience = (values.pop(key) for key in ("side", "acts", "experience"))
        values["gear"] = [_piece(each) for each in values["gear"]]
        members.append(Member(CharacterSpec(**values), side, acts, experience))
    return tuple(members)


def _piece(entry: str | dict[str, Any]) -> str | Item:
    if isinstance(entry, str):
        return entry
    rolled = {stat: change_of(*next(iter(change.items()))) for stat, change in entry["rolled"].items()}
    return Item(entry["gear"], entry["rarity"], rolled)


def _members(state: State) -> list[str]:
    return [name for name in State.LAYOUT if name not in (*SCRATCH, *RECORDS) and getattr(state, name).size]


def _length(state: State, name: str) -> int:
    clock = state.clock[0]
    return int({"paths": clock.steps, "kept": clock.pages}.get(name, clock.entries))


def _packed(array: np.ndarray) -> Any:
    """Return an array as JSON can say it: its shape, and for each field its values, runs of the same as one."""
    fields = array.dtype.names or (VALUES,)
    columns = {name: _runs(_column(array, name).reshape(-1).tolist()) for name in fields}
    return {"shape": list(array.shape), **columns}


def _column(array: np.ndarray, field: str) -> np.ndarray:
    return array[field] if array.dtype.names else array


def _runs(values: list) -> list:
    """Return values with each run of the same as [value, how often]; what is not finite as text."""
    found: list = []
    for value in values:
        said = str(value) if isinstance(value, float) and not math.isfinite(value) else value
        if found and str(found[-1][0]) == str(said):
            found[-1][1] += 1
        else:
            found.append([said, 1])
    return found


def _state(setup: Setup, content: Mapping[str, Any]) -> State:
    """Return the state that was saved, on arrays of the right size."""
    records, slots = content["records"], content["state"]["pages"]["shape"][1]
    room = max(LEAST_ROOM, 2 * records["entries"]["shape"][0], records["kept"]["shape"][0])
    state = setup.new_state(room, slots=slots)
    for part in ("state", "records"):
        for name, packed in content[part].items():
            target = getattr(state, name)
            shape = tuple(packed["shape"])
            for field in target.dtype.names or (VALUES,):
                column = _column(target, field)
                values = [value for value, count in packed[field] for _ in range(count)]
                column[tuple(map(slice, shape))] = np.array(values, dtype=column.dtype).reshape(shape)
    return state
