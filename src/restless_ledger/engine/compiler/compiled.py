"""Mark the kernel's functions for the compiler. Only the process that makes the programs compiles them."""

from __future__ import annotations

import os
from collections.abc import Callable
from functools import cache
from types import FunctionType
from typing import Any, TypeVar

Function = TypeVar("Function", bound=Callable[..., Any])

INTERPRET = os.environ.get("RESTLESS_LEDGER_INTERPRET") == "1"
"""Run the kernel's source as plain Python, for the debugger and for the test that both give the same."""
COMPILES = False
"""Whether functions that are declared from now on are compiled. `engine/making/build.py` alone sets it; elsewhere they
stay as they are, so that the kernel can be interpreted where no program is there yet."""


def kernel(function: Function) -> Function:
    """Compile a function of the kernel, to be inlined where it is called: what happens at every hit or tick.

    Two exceptions to the plain decorator. Compiled code divides as NumPy does (x / 0 is infinite) instead of raising:
    rules ask for a zero before they divide, and a value that is not finite is a fault, reported with its formula. It
    counts no references: the front owns every array, a kernel makes none."""
    return _compile(function, forceinline=True)


@cache
def kernel_of(function: Any) -> Any:
    """Compile a function of the front for the kernel, with the plain functions that it calls: one description."""
    if not COMPILES:
        return function
    called = {name: function.__globals__.get(name) for name in function.__code__.co_names}
    inner = {name: kernel_of(value) for name, value in called.items() if isinstance(value, FunctionType)}
    return kernel(FunctionType(function.__code__, {**function.__globals__, **inner}, function.__name__))


def kernel_apart(function: Function) -> Function:
    """Compile a function of the kernel that stays a function: what happens seldom, or in many places."""
    return _compile(function, forceinline=False)


def kernel_seldom(function: Function) -> Function:
    """Compile a function apart that most fights never call, or only while they are recorded.

    The optimiser then keeps the way to it out of the way of what happens often.
    """
    if COMPILES:
        from .program import SELDOM

        SELDOM.add(function.__qualname__)
    return kernel_apart(function)


def kernel_program(function: Function) -> Function:
    """Compile the one function that is called from outside, and all that it calls, as one program."""
    if COMPILES:
        from .program import PROGRAMS

        PROGRAMS.add(function.__qualname__)
    return _compile(function, forceinline=False)


def _compile(function: Function, forceinline: bool) -> Function:
    if not COMPILES:
        return function
    from numba import njit, types

    from .program import PARTS, PROGRAMS, PlainPipeline

    options: dict[str, Any] = {"nogil": True, "error_model": "numpy", "_nrt": False, "no_rewrites": True}
    options |= {
        "pipeline_class": PlainPipeline,
        "no_cpython_wrapper": True,
        "no_cfunc_wrapper": True,
        "forceinline": forceinline,
    }
    dispatcher: Any = njit(**options)(function)
    resolve = dispatcher.get_call_template
    # one signature each: a constant among the operands would make the compiler write a version for its value
    dispatcher.get_call_template = lambda args, kws: resolve(
        tuple(types.unliteral(arg) for arg in args), {name: types.unliteral(arg) for name, arg in kws.items()}
    )
    if function.__qualname__ not in PROGRAMS:
        PARTS.add(function.__qualname__)
    return dispatcher
