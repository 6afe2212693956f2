"""What the public functions are asked: every argument is checked before anything is done with it."""

from __future__ import annotations

import inspect
import math
from collections.abc import Callable, Mapping, Sequence
from functools import cache, wraps
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

import numpy as np

from .results import Result
from .results.notebook import bar, in_notebook
from .rulebook import InputError, Rulebook

Given = ParamSpec("Given")
Answer = TypeVar("Answer")


def _whole(value: Any) -> bool:
    return isinstance(value, int | np.integer) and not isinstance(value, bool)


def _number(value: Any) -> bool:
    return isinstance(value, int | float | np.number) and not isinstance(value, bool) and math.isfinite(value)


def _several(value: Any, fits: Callable[[Any], bool]) -> bool:
    return isinstance(value, Sequence) and not isinstance(value, str | bytes) and all(map(fits, value))


def _text(value: Any) -> bool:
    return isinstance(value, str)


PROGRESS = "progress"


def _is_executor(value: Any) -> bool:
    from concurrent.futures import Executor

    return isinstance(value, Executor)


KINDS: dict[str, tuple[Callable[[Any], bool], str]] = {
    "Rulebook": (lambda value: isinstance(value, Rulebook), "a rulebook, as rl.load returns it"),
    "str": (_text, "text"),
    "int": (_whole, "a whole number"),
    "float": (_number, "a number"),
    "bool": (lambda value: isinstance(value, bool | np.bool_), "True or False"),
    "None": (lambda value: value is None, "None"),
    "str | Path": (lambda value: isinstance(value, str | Path), "a path"),
    "str | Path | None": (lambda value: value is None or isinstance(value, str | Path), "a path"),
    "Sequence[str]": (lambda value: _several(value, _text), "a list of names"),
    "Sequence[int]": (lambda value: _several(value, _whole), "a list of whole numbers"),
    "Sequence[str | int]": (
        lambda value: _several(value, lambda each: _text(each) or _whole(each)),
        "a list of names and numbers",
    ),
    "Mapping[str, int]": (
        lambda value: isinstance(value, Mapping) and all(_text(key) and _whole(each) for key, each in value.items()),
        "whole numbers by name",
    ),
    "Result": (lambda value: isinstance(value, Result), "a result, such as rl.trials returns"),
    "Executor": (_is_executor, "a concurrent.futures.Executor"),
    "Progress": (callable, "a function of two numbers"),
}
"""What may be asked for: by its annotation, whether a value is that, and what to say is wanted."""


@cache
def _wanted(annotation: str) -> tuple[tuple[Callable[[Any], bool], ...], str] | None:
    """Return the checks of which one must hold, and what is wanted; None for what is checked elsewhere."""
    parts = [annotation] if annotation in KINDS else annotation.split(" | ")
    if any(part not in KINDS for part in parts):
        return None
    said = " or ".join(KINDS[part][1] for part in parts if part != "None")
    return tuple(KINDS[part][0] for part in parts), said


def asked(function: Callable[Given, Answer]) -> Callable[Given, Answer]:
    """Check the arguments of a function by their annotations; `InputError` says which is wrong and what was got."""
    signature = inspect.signature(function)

    @wraps(function)
    def checked(*args: Given.args, **named: Given.kwargs) -> Answer:
        for name, value in signature.bind(*args, **named).arguments.items():
            wanted = _wanted(str(signature.parameters[name].annotation))
            if wanted and not any(fits(value) for fits in wanted[0]):
                raise InputError(f"{function.__name__}: {name}: {wanted[1]} is wanted\n    got: {_shown(value)}")
        if PROGRESS in signature.parameters and PROGRESS not in named and in_notebook():
            with bar(function.__name__) as progress:
                return function(*args, **(named | {PROGRESS: progress}))  # type: ignore[arg-type]
        return function(*args, **named)

    return checked


def _shown(value: Any) -> str:
    text = repr(value)
    return text if len(text) <= 80 else f"{text[:77]}…"
