"""Frozen classes behave as the standard library's frozen dataclasses do."""

from __future__ import annotations

import copy
import math
import pickle
import unittest
from collections.abc import Callable
from dataclasses import FrozenInstanceError, asdict, dataclass, field, fields, is_dataclass, replace
from functools import cached_property
from inspect import signature
from itertools import product
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as some

from restless_ledger.frozen_classes import frozen


def made(decorator: Callable[[type], type]) -> tuple[type, type, type]:
    """Return a class of many fields, one of one field, and one of its own words, as a decorator makes them."""

    class Many:
        """Many fields."""

        name: str
        value: float = 1.0
        lines: tuple[int, ...] = ()
        told: Any = field(default=None, compare=False)
        hidden: Any = field(default=None, repr=False)

        @cached_property
        def doubled(self) -> float:
            """Twice the value."""
            return 2 * self.value

    class One:
        """One field."""

        value: Any

    class Own:
        """One field, and words of its own."""

        value: Any

        def __repr__(self) -> str:
            return "own"

        def __eq__(self, other: object) -> bool:
            return True

    for kind in (Many, One, Own):
        kind.__qualname__ = kind.__name__
    return decorator(Many), decorator(One), decorator(Own)


OURS, THEIRS = made(frozen), made(dataclass(frozen=True))


@frozen
class Kept:
    """One that can be pickled, as it lies in a module."""

    name: str
    count: int = 0


class FrozenClasses(unittest.TestCase):
    @settings(deadline=None, suppress_health_check=list(HealthCheck))
    @given(
        some.lists(some.tuples(some.text(), some.floats(), some.integers(), some.integers()), min_size=2, max_size=2)
    )
    def test_they_are_shown_compared_and_hashed_as_those_of_the_standard_library(self, rows: list[tuple]) -> None:
        for ours, theirs in ((OURS[0], THEIRS[0]), (OURS[1], THEIRS[1])):
            pairs = [[kind(*row[: len(fields(kind))]) for row in rows] for kind in (ours, theirs)]
            self.assertEqual(*(repr(pair) for pair in pairs))
            for one, other in product((0, 1), repeat=2):
                self.assertEqual(*(pair[one] == pair[other] for pair in pairs))
                self.assertEqual(*(hash(pair[one]) == hash(pair[other]) for pair in pairs))
                self.assertEqual(*(copy.deepcopy(pair[one]) == pair[other] for pair in pairs))
            self.assertNotEqual(pairs[0][0], pairs[1][0])

    def test_what_is_not_a_number_equals_itself_alone(self) -> None:
        for kinds in (OURS, THEIRS):
            held = kinds[1](math.nan)
            self.assertEqual(held, copy.copy(held))
            self.assertNotEqual(held, kinds[1](float("nan")))

    def test_nothing_can_be_changed_added_or_taken_away(self) -> None:
        for kinds in (OURS, THEIRS):
            one = kinds[0]("a")
            for change in (
                lambda one: setattr(one, "name", "b"),
                lambda one: setattr(one, "other", "b"),
                lambda one: delattr(one, "name"),
            ):
                with self.assertRaises(FrozenInstanceError):
                    change(one)
            self.assertEqual((one.name, one.doubled, one.doubled), ("a", 2.0, 2.0))

    def test_the_tools_of_the_standard_library_take_them(self) -> None:
        one = Kept("a", 2)
        self.assertTrue(is_dataclass(one))
        self.assertEqual(asdict(one), {"name": "a", "count": 2})
        self.assertEqual(replace(one, count=3), Kept("a", 3))
        self.assertEqual(pickle.loads(pickle.dumps(one)), one)
        kind: Any = Kept
        with self.assertRaises(TypeError):
            kind()
        match one:
            case Kept(name, count):
                self.assertEqual((name, count), ("a", 2))

    def test_they_are_made_as_those_of_the_standard_library(self) -> None:
        def made_by(decorator: Callable[[type], type]) -> tuple[Any, Any]:
            class Plan:
                """Fields of every kind, and a step after them."""

                who: str
                level: int = 1
                parts: list[int] = field(default_factory=list)
                held: int = field(default=0, compare=False)

                def __post_init__(self) -> None:
                    object.__setattr__(self, "level", self.level + 1)

            class Given(Plan):
                """One that says itself how it is made."""

                def __init__(self) -> None:
                    object.__setattr__(self, "who", "given")

            return decorator(Plan), decorator(Given)

        (ours, our_own), (theirs, their_own) = made_by(frozen), made_by(dataclass(frozen=True))
        whole: list[tuple[tuple, dict]] = [(("a",), {}), (("a", 3), {"held": 2}), ((), {"parts": [1], "who": "b"})]
        wrong: list[tuple[tuple, dict]] = [((), {}), (("a", 1, [], 0, 5), {}), (("a",), {"who": "b"})]
        for places, named in whole:
            one, other = (kind(*places, **named) for kind in (ours, theirs))
            self.assertEqual(vars(one), vars(other))
        for places, named in wrong:
            for kind in (ours, theirs):
                self.assertRaises(TypeError, kind, *places, **named)
        self.assertEqual(*(list(signature(kind).parameters) for kind in (ours, theirs)))
        self.assertIsNot(ours("a").parts, ours("a").parts)
        self.assertEqual(*(vars(kind()) for kind in (our_own, their_own)))

    def test_words_of_their_own_are_kept(self) -> None:
        for kinds in (OURS, THEIRS):
            self.assertEqual(repr(kinds[2](1)), "own")
            self.assertEqual(kinds[2](1), kinds[2](2))
            self.assertNotEqual(hash(kinds[2](1)), hash(kinds[2](2)))
