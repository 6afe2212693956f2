"""Mark the kernel's functions for the compiler. Only the process that makes the programs compiles them."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from types import FunctionType
from typing import Any, TypeVar

Function = TypeVar("Function", bound=Callable[..., Any])

COMPILES = False
"""Whether functions that are declared from now on are compiled. `engine/making/lower.py` alone sets it; elsewhere they
stay as they are, so that the kernel can be interpreted where no program is there yet."""


def kernel(function: Function) -> Function:
    """Compile a function of the kernel, to be inlined where it is called: what happens at every hit or tick.

    Two exceptions to the plain decorator. Compiled code divides as NumPy does (x / 0 is infinite) instead of raising:
    rules ask for a zero before they divide, and a value that is not finite is a fault, reported with its formula. It
    counts no references: the front owns every array, a kernel makes none."""
    return _declare(function, inlined=True)


@cache
def kernel_of(function: Any) -> Any:
    """Compile a function of the front for the kernel, with the plain functions that it calls: one description. It is
    inlined, and takes what it is called with."""
    if not COMPILES:
        return function
    from .program import dispatcher_of

    called = {name: function.__globals__.get(name) for name in function.__code__.co_names}
    inner = {name: kernel_of(value) for name, value in called.items() if isinstance(value, FunctionType)}
    plain = FunctionType(function.__code__, {**function.__globals__, **inner}, function.__name__)
    return dispatcher_of(plain, inlined=True)


def kernel_apart(function: Function) -> Function:
    """Compile a function of the kernel that stays a function: what happens seldom, or in many places."""
    return _declare(function)


def kernel_seldom(function: Function) -> Function:
    """Compile a function apart that most fights never call, or only while they are recorded.

    The optimiser then keeps the way to it out of the way of what happens often.
    """
    return _declare(function, seldom=True)


def kernel_program(function: Function) -> Function:
    """Compile the one function that is called from outside."""
    return _declare(function, outermost=True)


def _declare(function: Function, **how: bool) -> Function:
    if not COMPILES:
        return function
    from .program import declare

    return declare(function, **how)
