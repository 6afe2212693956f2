"""Compile the kernel, and keep its cache honest."""

from __future__ import annotations

import hashlib
import os
import sys
import threading
from collections.abc import Callable
from functools import cache, lru_cache
from pathlib import Path
from types import FunctionType
from typing import Any, TypeVar

Function = TypeVar("Function", bound=Callable[..., Any])

INTERPRET = os.environ.get("RESTLESS_LEDGER_INTERPRET") == "1"
"""Run the kernel's source as plain Python, for the debugger and for the test that both give the same."""

PACKAGE = Path(__file__).parents[1]
SOURCES = (PACKAGE / "engine", PACKAGE / "formula", PACKAGE / "sheet")


def kernel(function: Function) -> Function:
    """Compile a function of the kernel, to be inlined where it is called: what happens at every hit or tick.

    Three exceptions to the plain decorator. Compiled code divides as NumPy does (x / 0 is infinite) instead of
    raising: rules ask for a zero before they divide, and what is not finite is told as a fault with its formula.
    It counts no references: the front owns every array, a kernel makes none. And it is not cached by itself, but as
    a part of the program that it belongs to.
    """
    return _compile(function, cache=False, forceinline=True, no_cpython_wrapper=True, no_cfunc_wrapper=True)


@cache
def kernel_of(function: Any) -> Any:
    """Compile a function of the front for the kernel, with the plain functions that it calls: one description."""
    if INTERPRET:
        return function
    called = {name: function.__globals__.get(name) for name in function.__code__.co_names}
    inner = {name: kernel_of(value) for name, value in called.items() if isinstance(value, FunctionType)}
    return kernel(FunctionType(function.__code__, {**function.__globals__, **inner}, function.__name__))


def kernel_apart(function: Function) -> Function:
    """Compile a function of the kernel that stays a function: what happens seldom, or in many places."""
    return _compile(function, cache=False, forceinline=False, no_cpython_wrapper=True, no_cfunc_wrapper=True)


def kernel_seldom(function: Function) -> Function:
    """Compile a function apart that most fights never come to, or only while they are recorded.

    The optimiser then keeps the way to it out of the way of what happens often.
    """
    if not INTERPRET:
        from .program import SELDOM

        SELDOM.add(function.__qualname__)
    return kernel_apart(function)


def kernel_program(function: Function) -> Function:
    """Compile the one function that is called from outside, and all that it calls, as one program."""
    return _compile(function, cache=True)


def _compile(function: Function, cache: bool, **options: Any) -> Function:
    if INTERPRET:
        return function
    from numba import njit, types

    from . import blocktype  # noqa: F401  (registers the type of the arguments)
    from .program import PARTS, compile_program

    options |= {"cache": cache, "nogil": True, "error_model": "numpy", "_nrt": False}
    dispatcher: Any = njit(**options)(function)
    resolve = dispatcher.get_call_template
    # one signature each: a constant among the operands would make the compiler write a version for its value
    dispatcher.get_call_template = lambda args, kws: resolve(tuple(types.unliteral(arg) for arg in args), kws)
    if cache:
        compile_program(dispatcher)
    else:
        PARTS.add(function.__qualname__)
    return dispatcher


def is_cached(program: str) -> bool:
    """Say whether a compiled program of the kernel, made from these very sources, lies ready."""
    return INTERPRET or any((PACKAGE / "engine" / "kernel" / "__pycache__").glob(f"enter.{program}-*.nbc"))


ANNOUNCING = threading.Lock()


def announce_compile(program: str) -> None:
    """Say once that the rules are being compiled, where they are; also where several threads come to need them."""
    with ANNOUNCING:
        _announce(program)


@lru_cache
def _announce(program: str) -> None:
    if not is_cached(program) and sys.stderr is not None:
        what = "the rules of combat" if program == "enter" else "the rules for plain fights, which are faster then"
        print(
            f"Compiling {what}, once for this installation (about half a minute) …",
            file=sys.stderr,
            flush=True,
        )


def discard_stale_cache() -> None:
    """Remove compiled code that was made from other sources.

    The compiler's own cache looks only at the file of each function, not at the files of those it calls.
    """
    caches = [folder / "__pycache__" for folder in (*SOURCES, PACKAGE / "engine" / "kernel")]
    mark = PACKAGE / "engine" / "kernel" / "__pycache__" / "sources.sha256"
    try:
        now = _fingerprint()
        if mark.is_file() and mark.read_text() == now:
            return
        for file in (file for cache in caches for file in [*cache.glob("*.nbi"), *cache.glob("*.nbc")]):
            file.unlink(missing_ok=True)
        mark.parent.mkdir(exist_ok=True)
        mark.write_text(now)
    except OSError:
        return  # an installation that can't be written to keeps no cache beside it, and so none that is stale


def _fingerprint() -> str:
    import numba

    digest = hashlib.sha256(numba.__version__.encode())
    for folder in SOURCES:
        for file in sorted(folder.rglob("*.py")):
            digest.update(file.read_bytes())
    return digest.hexdigest()


if not INTERPRET:
    discard_stale_cache()
