"""The three ways to evaluate a program agree with each other and with a plain re-statement in Python."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from restless_ledger.engine.layout.layout import Tables, allocate
from restless_ledger.formula import FormulaError, evaluate, evaluate_one, explain, link, parse

NAMES = ("brawn", "guard", "wits")


def number_text() -> st.SearchStrategy[str]:
    return st.one_of(st.integers(0, 50).map(str), st.floats(0, 20).map(lambda x: f"{x:.3f}"))


def grow(inner: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    binary = st.sampled_from(["+", "-", "*", "/", "//", "%", "<", "<=", ">", ">=", "==", "!=", "and", "or"])
    unary = st.sampled_from(["floor", "ceil", "round", "sqrt", "abs", "log"])
    return st.one_of(
        st.tuples(inner, binary, inner).map(lambda t: f"({t[0]} {t[1]} {t[2]})"),
        st.tuples(unary, inner).map(lambda t: f"{t[0]}({t[1]})"),
        st.tuples(inner, inner, inner).map(lambda t: f"clamp({t[0]}, {t[1]}, {t[2]})"),
        st.tuples(inner, inner, inner).map(lambda t: f"({t[0]} if {t[1]} else {t[2]})"),
        st.tuples(inner, st.integers(0, 3)).map(lambda t: f"({t[0]} ** {t[1]})"),
        st.tuples(st.sampled_from(["min", "max"]), inner, inner, inner).map(
            lambda t: f"{t[0]}({t[1]}, {t[2]}, {t[3]})"
        ),
        inner.map(lambda t: f"(-{t})"),
        inner.map(lambda t: f"(not {t})"),
    )


def is_read(text: str) -> bool:
    try:
        parse(text)
    except FormulaError:
        return False  # a division by a constant zero
    return True


FORMULAS = st.recursive(st.one_of(number_text(), st.sampled_from(NAMES)), grow, max_leaves=8).filter(is_read)
VALUES = st.fixed_dictionaries({name: st.floats(-100, 100).map(lambda x: round(x, 3)) for name in NAMES})
EDGES = st.sampled_from([0.0, -0.0, math.inf, -math.inf, math.nan, 1e308, 1e-308, 2**53, 1.15])
ANYTHING = st.fixed_dictionaries({name: st.one_of(st.floats(-100, 100), EDGES) for name in NAMES})


def in_the_engine(text: str, values: dict[str, float]) -> float:
    """Run one formula on the engine's stack machine."""
    from restless_ledger.engine.machine import evaluate as run

    program = parse(text)
    slots = {name: slot for slot, name in enumerate(NAMES)}
    empty = {name: np.zeros([0] * len(axes.split()), kind) for name, (kind, axes) in Tables.LAYOUT.items()}
    code = np.array(link(program, slots, 0), dtype=Tables.LAYOUT["code"][0])
    lines = np.array([(0, len(code), 1, 0, 0, 0)], dtype=Tables.LAYOUT["lines"][0])
    tables = Tables({**empty, "code": code, "lines": lines, "constants": np.array(program.constants, dtype=np.float64)})
    state = allocate(
        unit=1,
        slot=len(NAMES),
        gauge=1,
        flow=0,
        roll=0,
        known=1,
        buff=1,
        line=1,
        kind=1,
        cause=1,
        depth=program.stack,
        part=0,
        spot=0,
        side=1,
        shot=1,
        entry=0,
        page=0,
        step=0,
    )
    state.pages[0, :] = [values[name] for name in NAMES]
    return float(run(tables, state, 0, 0))


def half_up(x: float) -> float:
    return math.floor(x) + (1.0 if x - math.floor(x) >= 0.5 else 0.0)


class Undefined(Exception):
    """Python has no value here; ours is NaN or infinite."""


def in_python(text: str, values: dict[str, float]) -> float:
    """Evaluate by Python itself, where Python and the language mean the same."""
    words = {
        "min": min,
        "max": max,
        "clamp": lambda x, low, high: min(max(x, low), high),
        "floor": math.floor,
        "ceil": math.ceil,
        "round": half_up,
        "sqrt": math.sqrt,
        "abs": abs,
        "log": math.log,
    }
    try:
        value = eval(text, {"__builtins__": {}, **words, **values})
    except (ZeroDivisionError, ValueError, OverflowError):
        raise Undefined from None
    if isinstance(value, complex) or not math.isfinite(value):
        raise Undefined
    return float(value)


def close(a: float, b: float) -> bool:
    if a != a or b != b:
        return a != a and b != b
    return a == b or abs(a - b) <= 1e-9 * max(1.0, abs(a), abs(b))


class Agreement(unittest.TestCase):
    @settings(max_examples=400, deadline=None)
    @given(FORMULAS, VALUES)
    def test_arrays_engine_and_explanation_agree(self, text: str, values: dict[str, float]) -> None:
        program = parse(text)
        by_arrays = float(evaluate(program, values))
        self.assertTrue(close(by_arrays, in_the_engine(text, values)), (by_arrays, in_the_engine(text, values)))
        self.assertTrue(close(by_arrays, explain(program, values).value))
        broadcast = evaluate(program, {name: np.array([value, value, 3.0]) for name, value in values.items()})
        self.assertTrue(close(by_arrays, float(np.broadcast_to(broadcast, (3,))[1])))

    @settings(max_examples=400, deadline=None)
    @given(FORMULAS, ANYTHING)
    def test_single_numbers_give_the_bits_that_arrays_give(self, text: str, values: dict[str, float]) -> None:
        program = parse(text)
        single = evaluate_one(program, values)
        for more in (values, {name: np.array([value, 1.0, value]) for name, value in values.items()}):
            by_arrays = float(np.ravel(evaluate(program, more))[-1])
            both_undefined = single != single and by_arrays != by_arrays
            self.assertTrue(both_undefined or single.hex() == by_arrays.hex(), (single, by_arrays))

    @settings(max_examples=300, deadline=None)
    @given(
        FORMULAS.filter(
            lambda text: " and " not in text and " or " not in text and "//" not in text and "%" not in text
        ),
        VALUES,
    )
    def test_python_means_the_same(self, text: str, values: dict[str, float]) -> None:
        try:
            expected = in_python(text, values)
        except Undefined:
            return  # choices work out both branches here, only one in Python, so nothing follows from an error there
        self.assertTrue(close(float(evaluate(parse(text), values)), expected))

    def test_large_powers_are_infinite_not_an_error(self) -> None:
        for text in ("(brawn * 1000000) ** 90", "exp(brawn * 1000)"):
            self.assertEqual(float(evaluate(parse(text), {"brawn": 50.0})), math.inf)
            self.assertEqual(in_the_engine(text, {"brawn": 50.0, "guard": 0.0, "wits": 0.0}), math.inf)


class Explanations(unittest.TestCase):
    def test_figures_stand_beside_their_names(self) -> None:
        cases = [
            ("8 + 1.6 * brawn", "8 + 1.6 × brawn 25 = 48"),
            ("max(1, brawn - guard)", "max(1, brawn 25 − guard 18) = 7"),
            ("brawn - (guard - 3)", "brawn 25 − (guard 18 − 3) = 10"),
            ("(brawn + guard) * 2", "(brawn 25 + guard 18) × 2 = 86"),
            ("brawn / (guard / 2)", "brawn 25 / (guard 18 / 2) = 2.778"),
            ("2 if brawn > 3 else 1", "2, as 3 < brawn 25 is true = 2"),
            ("-brawn ** 2", "−brawn 25 ** 2 = −625"),
            ("(-brawn) ** 2", "(−brawn 25) ** 2 = 625"),
            ("not brawn", "not brawn 25 = 0"),
            ("5", "5"),
        ]
        for text, expected in cases:
            with self.subTest(text):
                self.assertEqual(str(explain(parse(text), {"brawn": 25.0, "guard": 18.0})), expected)
