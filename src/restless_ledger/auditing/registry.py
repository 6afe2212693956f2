"""The registry: a check is a function whose name is its code. The catalogue says all else about it."""

from __future__ import annotations

import importlib
from collections.abc import Callable, Iterator

from .audit_context import AuditContext
from .entries import GROUPS
from .finding import Fault

Check = Callable[[AuditContext], Iterator[Fault]]
_CHECKS: dict[str, Check] = {}


def check(function: Check) -> Check:
    """Register a check under its name."""
    _CHECKS[function.__name__] = function
    return function


def checks() -> dict[str, Check]:
    """Return every check by its code."""
    for group in GROUPS:
        importlib.import_module(f"{__package__}.checks.{group}")
    return _CHECKS
