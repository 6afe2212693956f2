"""The compiled programs of the kernel: found, made once where there are none, and interpreted until they are there.

A program is looked for beside this package, where a wheel has it, then in the cache. Where neither has it, a process
of its own compiles it into the cache. What can't wait is interpreted meanwhile: the same source as plain Python,
with the same results.
"""

from __future__ import annotations

import atexit
import importlib.util
import logging
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from typing import Any, NamedTuple, cast

import numpy as np

from ...keeping import folder as keeping
from ..compiler.compiled import INTERPRET
from ..layout.fixed import FIXED
from .loading import LIBRARY_ENDING, OBJECT_ENDING, Program, WrongProgram, load

LOG = logging.getLogger(__name__)
LOOK_SECONDS = 0.2
"""How often it is looked whether a program that is being made is there."""
SOON = "Compiling the rules of combat, once for this installation (about a minute) …"
BESIDE = "The rules of combat are compiled beside this, once for this installation; until then fights take longer."
NO_COMPILER = (
    "There is no compiled program of the rules of combat here, and no compiler, so fights take much longer."
    '\n    install it: pip install "restless-ledger[compiler]"'
)


class Best(NamedTuple):
    """A program, and whether it is compiled."""

    program: Program
    compiled: bool


_lock = threading.Lock()
_loaded: dict[str, Program] = {}
_looked: dict[str, float] = {}
_said: set[str] = set()
_making: list[Any] = []
"""The process that makes programs and the folder that it puts them into, once it has begun."""


def ready(name: str) -> Program | None:
    """Return a compiled program if it is there. Where it is not, it is being made from now on."""
    if INTERPRET:
        return None
    found = _loaded.get(name)
    if found is None and time.monotonic() - _looked.get(name, -LOOK_SECONDS) >= LOOK_SECONDS:
        with _lock:
            found = _loaded.get(name) or _found(name)
            _looked[name] = time.monotonic()
            if found is not None:
                _loaded[name] = found
            elif not _making:
                _making.extend(_begun())
    return found


def best_program(*names: str, waits: bool = False, tells: bool = True) -> Best:
    """Return the first of some programs that is there, compiled. Where none is, the one for everything, interpreted;
    or, with `waits`, the first that is made. `tells` says whether people are told that none is there yet."""
    while True:
        for name in names:
            if (found := ready(name)) is not None:
                return Best(found, True)
        if INTERPRET or not _being_made():
            return Best(interpreted(), False)
        if not waits:
            if tells:
                _say(BESIDE)
            return Best(interpreted(), False)
        _say(SOON)
        time.sleep(LOOK_SECONDS)


def forget_makers() -> None:
    """Let a copy of a process that makes programs begin for itself: it can't see how far the other's are."""
    if _making and _making[0] is not None:
        _making.clear()


def make_nothing() -> None:
    """Let this process make no programs: what is not there is interpreted."""
    with _lock:
        _making[:] = [None, None]


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
    for folder in (keeping.folder(), _making[1] if _making else None):
        files += keeping.kept(folder, name) if folder is not None else ()
    for file in files:
        try:
            program = load(file, name, keeping.fingerprint())
            LOG.info("compiled program: %s", file)
            return program
        except WrongProgram:
            continue
    return None


def _begun() -> tuple[Any, Path | None]:
    """Begin to make the programs in a process of their own. It goes on when this one ends, as what it makes is kept;
    where nothing can be kept, it ends with this one."""
    if importlib.util.find_spec("numba") is None or not sys.executable:
        _say(NO_COMPILER)
        return None, None
    kept = keeping.folder()
    folder = kept or Path(tempfile.mkdtemp(prefix=keeping.NAME))
    words = [sys.executable, "-m", "restless_ledger.engine.making.build", str(folder)]
    quiet = {"stdin": subprocess.DEVNULL, "stdout": subprocess.DEVNULL, "stderr": subprocess.PIPE}
    process = subprocess.Popen(words, **cast("Any", quiet), start_new_session=True)

    def leave() -> None:
        if kept is None:
            process.kill()
            shutil.rmtree(folder, ignore_errors=True)
        if process.poll() is None:
            process.returncode = 0  # it is left to itself
        if process.stderr is not None:
            process.stderr.close()

    atexit.register(leave)
    return process, folder


def _being_made() -> bool:
    """Say whether programs are being made, or have just been made: then they are looked for at once. Where that failed,
    it is said once, and nothing is waited for."""
    with _lock:
        process = _making[0] if _making else None
        if process is None:
            return False
        code = process.poll()
        if code is None:
            return True
        _making[0] = None
        _looked.clear()
        if code != 0:
            last = process.stderr.read().decode(errors="replace").strip().splitlines()[-1:]
            _say(f"The rules of combat could not be compiled, so fights take longer: {' '.join(last)}")
        return bool(code == 0)


def _say(what: str) -> None:
    if what not in _said:
        _said.add(what)
        LOG.warning(what)
