"""Entries behave as records that pydantic's models would be, and need no pydantic where nothing is read anew."""

from __future__ import annotations

import copy
import pickle
import random
import subprocess
import sys
import unittest
import warnings
from pathlib import Path
from typing import Annotated, Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator
from pydantic_core import PydanticCustomError

import restless_ledger as rl
from restless_ledger.keeping import folder as keeping
from restless_ledger.rulebook.entries import Entry
from restless_ledger.rulebook.frozen import freeze
from restless_ledger.rulebook.growth import Rise
from restless_ledger.rulebook.problems import Report
from restless_ledger.rulebook.read_named import read_named
from restless_ledger.rulebook.reading import read_source
from restless_ledger.rulebook.rulebook import Rulebook
from restless_ledger.rulebook.schema import entries
from restless_ledger.rulebook.validate import validate, validate_entry
from restless_ledger.rulebook.walks import walk_book

from ..support import ROOT

ODD = (None, True, -1, 2.5, 1e30, "", "Bad Name", "1 +", "12 ticks", [], ["x", "y"], {}, {"a": 1}, {"set": 1, "add": 2})
STRICT = ConfigDict(frozen=True, extra="forbid", strict=True)


class HandRise(BaseModel):
    """`Rise`, said once more by hand."""

    model_config = STRICT
    start: Annotated[float, Field(allow_inf_nan=False, ge=-1e15, le=1e15)] = Field(alias="from")
    end: Annotated[float, Field(allow_inf_nan=False, ge=-1e15, le=1e15)] = Field(alias="to")
    bend: float = Field(0.0, ge=-6, le=6, allow_inf_nan=False)


class HandDice(BaseModel):
    """`Dice`, said once more by hand."""

    model_config = STRICT
    rolls: int = Field(1, ge=1, le=100)
    keep: str = Field("best", pattern="^(best|worst)$")
    dice: int = Field(ge=1, le=200)
    sides: int = Field(ge=1, le=1000)
    drop_lowest: int = Field(0, ge=0)
    drop_highest: int = Field(0, ge=0)
    add: int = Field(0, ge=-100_000, le=100_000)
    reroll: list[int] = Field(default_factory=list)
    reroll_until_gone: bool = False

    @model_validator(mode="after")
    def _fits(self) -> HandDice:
        dropped = self.drop_lowest + self.drop_highest
        faces = {face for face in self.reroll if 1 <= face <= self.sides}
        if (
            dropped >= self.dice
            or (dropped and (self.dice > 20 or self.sides > 100))
            or len(faces) < len(set(self.reroll))
            or (self.reroll_until_gone and len(faces) == self.sides)
        ):
            raise PydanticCustomError("dice", "no")
        return self


NUMBERS = st.one_of(st.integers(-2, 30), st.floats(-8, 8), st.sampled_from([10**6, 1e16, float("nan"), True, "7"]))
RISES = st.dictionaries(st.sampled_from(["from", "to", "bend", "start", "blend"]), NUMBERS, max_size=4)
DICE = st.fixed_dictionaries(
    {"dice": st.integers(0, 25), "sides": st.integers(0, 120)},
    optional={
        "rolls": st.integers(0, 101),
        "keep": st.sampled_from(["best", "worst", "both"]),
        "drop_lowest": st.integers(-1, 4),
        "drop_highest": st.integers(-1, 4),
        "add": NUMBERS,
        "reroll": st.lists(st.integers(0, 7), max_size=7),
        "reroll_until_gone": st.sampled_from([True, False, 1]),
        "luck": NUMBERS,
    },
)


def outcome(model: Any, data: dict[str, Any]) -> Any:
    """Return what is read, and which fields were written; or where something is wrong, and how."""
    try:
        made = model.model_validate(data)
    except ValidationError as error:
        return [
            (each["loc"], each["type"].replace("string_pattern_mismatch", "literal_error")) for each in error.errors()
        ]
    return made.model_dump(by_alias=True), made.model_fields_set


def spoiled(value: Any, luck: random.Random) -> Any:
    """Return data with something odd in a place drawn at random, more seldom the deeper it lies."""
    if isinstance(value, dict | list) and value and luck.random() < 0.8:
        at = luck.choice(list(value) if isinstance(value, dict) else range(len(value)))
        value[at] = spoiled(value[at], luck)
        return value
    return luck.choice(ODD)


class Entries(unittest.TestCase):
    @settings(deadline=None, max_examples=300, suppress_health_check=list(HealthCheck))
    @given(RISES, DICE)
    def test_they_are_read_as_models_written_by_hand(self, rise: dict[str, Any], dice: dict[str, Any]) -> None:
        self.assertEqual(outcome(Rise, rise), outcome(HandRise, rise))
        self.assertEqual(outcome(rl.rulebook.rolls.Dice, dice), outcome(HandDice, dice))

    def test_each_of_a_rulebook_is_a_frozen_record(self) -> None:
        book = rl.demo()
        found = [each.value for each in walk_book(book) if isinstance(each.value, Entry)]
        self.assertGreater(len(found), 400)
        for entry in (book, *found):
            self.assertNotIsInstance(entry, BaseModel)
            for same in (
                pickle.loads(pickle.dumps(entry)),
                copy.copy(entry),
                entry.model_copy(),
                freeze(copy.deepcopy(entry)),
            ):
                self.assertIs(type(same), type(entry))
                self.assertEqual(
                    (same, same.model_fields_set, repr(same)), (entry, entry.model_fields_set, repr(entry))
                )
                self.assertEqual(hash(same), hash(entry))
            self.assertEqual(set(entry.__dict__), set(type(entry).model_fields))
            name = next(iter(entry.__dict__))
            with self.assertRaisesRegex(TypeError, "frozen"):
                setattr(entry, name, None)
            with self.assertRaisesRegex(TypeError, "frozen"):
                delattr(entry, name)
        gauge = book.gauges["health"]
        self.assertNotEqual(gauge, gauge.model_copy(update={"label": "Wax"}))
        self.assertNotEqual(gauge, book.clock)
        self.assertIn("label", gauge.model_copy(update={"label": "Wax"}).model_fields_set)

    def test_an_entry_that_is_read_with_all_others_is_read_as_by_itself(self) -> None:
        """In all chapters of the demo, with something odd in a place drawn at random."""
        source, luck, wrong = read_source(Path(rl.__file__).parent / "demo" / "gullwick"), random.Random(3), 0
        named = read_named(None, Report(source))
        for _ in range(3):
            for chapter, content in source.data.items():
                single = isinstance(Rulebook.model_fields[chapter].annotation, type)
                for name, value in {chapter: content}.items() if single else content.items():
                    odd = spoiled(copy.deepcopy(value), luck)
                    alone, together = Report(source), Report(source)
                    one = validate_entry(chapter, odd, alone, named, *([] if single else [name]))
                    read = validate({chapter: odd if single else {name: odd}}, together)
                    self.assertEqual(alone.problems, together.problems)
                    self.assertEqual(one, read.get(chapter) if single else read[chapter].get(name))
                    wrong += bool(alone.problems)
        self.assertGreater(wrong, 100)

    def test_whatever_is_written_out_is_known_to_what_writes(self) -> None:
        book = rl.demo()
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            for each in walk_book(book):
                if isinstance(each.value, Entry):
                    self.assertEqual(set(each.value.model_dump()), set(type(each.value).model_fields))
                    each.value.model_dump_json()

    def test_a_copy_of_a_book_knows_its_files_and_nothing_that_was_worked_out(self) -> None:
        book = rl.demo()
        book.kept("told", lambda: 1)
        for same in (book.model_copy(), pickle.loads(pickle.dumps(book))):
            self.assertEqual(same.kept("told", lambda: 2), 2)
            self.assertEqual(same.place("gauges", "health"), book.place("gauges", "health"))
        self.assertEqual(book.kept("told", lambda: 3), 1)

    def test_defaults_are_those_that_reading_gives(self) -> None:
        """What is made without reading, of the fields that must be written alone, is what reading makes of them."""
        asked = 0
        for kind in entries():
            if not any(each.is_required for each in kind.model_fields.values()) and not kind.model_checks:
                self.assertEqual(kind.model_construct(), kind.model_validate({}), kind)
                asked += 1
        self.assertGreater(asked, 30)

    @unittest.skipIf(keeping.folder() is None, "there is no private folder to keep a rulebook in")
    def test_a_rulebook_that_was_read_before_needs_no_pydantic(self) -> None:
        vary = ["--target", "stair_duel:riggers=0.1..0.9", "--vary", "abilities.stave_blow.does[0].times=0.9..1.2"]
        for arguments in (
            ["sheet", "demo", "rigger"],
            ["fight", "demo", "stair_duel"],
            ["audit", "demo", "--quick"],
            ["tune", "demo", *vary, "--fights", "400"],
        ):
            command = [sys.executable, "-X", "importtime", "-m", "restless_ledger", *arguments]
            for _ in range(2):
                done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=True)
            imported = {line.rpartition("|")[2].strip() for line in done.stderr.splitlines()}
            self.assertIn("restless_ledger.rulebook.entries", imported)
            self.assertFalse({each for each in imported if each.startswith("pydantic")}, arguments)
