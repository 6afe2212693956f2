"""Compile the kernel, and keep its cache honest."""

from __future__ import annotations

import os
import sys
import threading
from collections.abc import Callable
from functools import cache
from types import FunctionType
from typing import Any, TypeVar

from . import cache_folder

Function = TypeVar("Function", bound=Callable[..., Any])

INTERPRET = os.environ.get("RESTLESS_LEDGER_INTERPRET") == "1"
"""Run the kernel's source as plain Python, for the debugger and for the test that both give the same."""


def kernel(function: Function) -> Function:
    """Compile a function of the kernel, to be inlined where it is called: what happens at every hit or tick.

    Three exceptions to the plain decorator. Compiled code divides as NumPy does (x / 0 is infinite) instead of raising:
    rules ask for a zero before they divide, and a value that is not finite is a fault, reported with its formula. It
    counts no references: the front owns every array, a kernel makes none. And it is not cached by itself, but as a part
    of the program that it belongs to."""
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
    """Compile a function apart that most fights never call, or only while they are recorded.

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

    from . import numba_types as blocktype  # noqa: F401  (registers the type of the arguments)
    from .program import PARTS, compile_program

    kept = cache and cache_folder.FOLDER is not None
    options |= {"cache": kept, "nogil": True, "error_model": "numpy", "_nrt": False, "no_rewrites": True}
    with cache_folder.in_use():
        dispatcher: Any = njit(**options)(function)
    resolve = dispatcher.get_call_template
    # one signature each: a constant among the operands would make the compiler write a version for its value
    dispatcher.get_call_template = lambda args, kws: resolve(
        tuple(types.unliteral(arg) for arg in args), {name: types.unliteral(arg) for name, arg in kws.items()}
    )
    if cache:
        compile_program(dispatcher)
        after = dispatcher.compile

        def compile_and_seal(signature: Any) -> Any:
            found = after(signature)
            cache_folder.seal()
            return found

        dispatcher.compile = compile_and_seal
    else:
        PARTS.add(function.__qualname__)
    return dispatcher


ANNOUNCING = threading.Lock()


def announce_compile(program: str) -> None:
    """Announce a compilation once per process, also where several threads need it at the same time."""
    with ANNOUNCING:
        _announce(program)


@cache
def _announce(program: str) -> None:
    if not INTERPRET and not cache_folder.is_kept(program) and sys.stderr is not None:
        what = "the rules of combat" if program == "enter" else "the rules for plain fights, which are faster then"
        print(f"Compiling {what}, once for this installation (about half a minute) …", file=sys.stderr, flush=True)


if not INTERPRET:
    cache_folder.FOLDER = cache_folder.usable(cache_folder.candidates(cache_folder.fingerprint()))
