"""The compiled programs of the kernel: found, made once where there are none, and interpreted until they are there.

A program is looked for beside this package, where a wheel has it, then in the cache. Where neither has it, a process
of its own compiles it into the cache. What can't wait is interpreted meanwhile: the same source as plain Python,
with the same results.
"""

from __future__ import annotations

import logging
import threading
import time
from typing import Any, NamedTuple

import numpy as np

from ...keeping import folder as keeping
from ...keeping import makers
from ..layout.fixed import FIXED
from .loading import LIBRARY_ENDING, OBJECT_ENDING, Program, WrongProgram, load

LOG = logging.getLogger(__name__)
LOOK_SECONDS = 0.2
"""How often it is looked whether a program that is being made is there."""
SOON = "Compiling the rules of combat, once for this installation (about a minute) …"
BESIDE = "The rules of combat are compiled beside this, once for this installation; until then fights take longer."


class Best(NamedTuple):
    """A program, and whether it is compiled."""

    program: Program
    compiled: bool


_lock = threading.Lock()
_loaded: dict[str, Program] = {}
_looked: dict[str, float] = {}


def ready(name: str) -> Program | None:
    """Return a compiled program if it is there. Where it is not, it is being made from now on."""
    if makers.INTERPRET:
        return None
    found = _loaded.get(name)
    if found is None and time.monotonic() - _looked.get(name, -LOOK_SECONDS) >= LOOK_SECONDS:
        with _lock:
            found = _loaded.get(name) or _found(name)
            _looked[name] = time.monotonic()
            if found is not None:
                _loaded[name] = found
            else:
                makers.begin()
    return found


def best_program(*names: str, waits: bool = False, tells: bool = True) -> Best:
    """Return the first of some programs that is there, compiled. Where none is, the one for everything, interpreted;
    or, with `waits`, the first that is made. `tells` says whether people are told that none is there yet."""
    while True:
        for name in names:
            if (found := ready(name)) is not None:
                return Best(found, True)
        if makers.INTERPRET or not _being_made():
            return Best(interpreted(), False)
        if not waits:
            if tells:
                makers.say(BESIDE)
            return Best(interpreted(), False)
        makers.say(SOON)
        time.sleep(LOOK_SECONDS)


def is_compiled() -> bool:
    """Say whether every program is there, compiled, once those that can be made are made."""
    return all(best_program(name, waits=True).compiled for name in FIXED)


def interpreted() -> Program:
    """Return the program for everything as plain Python."""
    from ..kernel.entry_point import enter

    def program(tables: Any, opening: Any, state: Any, results: np.ndarray) -> float:
        with np.errstate(all="ignore"):
            return float(enter(tables, opening, state, results.view(np.recarray)))

    return program


def _found(name: str) -> Program | None:
    """Load a program from beside the package or from the cache."""
    places = [keeping.PACKAGED / f"{name}{ending}" for ending in (LIBRARY_ENDING, OBJECT_ENDING)]
    files = [place for place in places if place.exists()]
    for folder in (keeping.folder(), makers.made_into()):
        files += keeping.kept(folder, name) if folder is not None else ()
    for file in files:
        try:
            program = load(file, name, keeping.fingerprint())
            LOG.info("compiled program: %s", file)
            return program
        except WrongProgram:
            continue
    return None


def _being_made() -> bool:
    """Say whether programs are being made, or have just been made: then they are looked for at once."""
    far = makers.how_far()
    if far is makers.Making.ENDED:
        with _lock:
            _looked.clear()
    return far is not makers.Making.NOT
