"""The process that makes the compiled programs, where there are none: begun once, and then left to itself."""

from __future__ import annotations

import importlib.util
import logging
import os
import sys
import threading
from enum import Enum
from pathlib import Path
from typing import Any, cast

from . import folder as keeping

LOG = logging.getLogger(__name__)
INTERPRET = os.environ.get("RESTLESS_LEDGER_INTERPRET") == "1"
"""Run the kernel's source as plain Python, for the debugger and for the test that both give the same."""
EVERYTHING = "enter"
"""The program that every fight fits. Where it is, the others are, or will soon be."""
NO_COMPILER = (
    "There is no compiled program of the rules of combat here, and no compiler, so fights take much longer."
    '\n    install it: pip install "restless-ledger[compiler]"'
)


class Making(Enum):
    """How far it is with the programs that this process lets others make."""

    NOT = "none are made"
    NOW = "they are being made"
    ENDED = "they have just been made"


_lock = threading.Lock()
_making: list[Any] = []
"""The process that makes programs and the folder that it puts them into, once it has begun."""
_said: set[str] = set()


def begin_early() -> None:
    """Let the programs be made from now on if none is there. For whoever will want them, but has much to import before
    it asks for one."""
    places = [keeping.PACKAGED, *filter(None, [keeping.folder()])]
    if not INTERPRET and not any(file for place in places for file in place.glob(f"{EVERYTHING}[.-]*")):
        begin()


def begin() -> None:
    """Let the programs be made from now on, if that has not begun."""
    with _lock:
        if not _making:
            _making.extend(_begun())


def how_far() -> Making:
    """Say whether programs are being made, or have just been made. Where that failed, it is said once."""
    with _lock:
        process = _making[0] if _making else None
        if process is None:
            return Making.NOT
        code = process.poll()
        if code is None:
            return Making.NOW
        _making[0] = None
        if code != 0:
            last = process.stderr.read().decode(errors="replace").strip().splitlines()[-1:]
            say(f"The rules of combat could not be compiled, so fights take longer: {' '.join(last)}")
        return Making.NOT if code else Making.ENDED


def made_into() -> Path | None:
    """Return the folder that programs are being made into, if they are."""
    return _making[1] if _making else None


def forget_makers() -> None:
    """Let a copy of a process that makes programs begin for itself: it can't see how far the other's are."""
    if _making and _making[0] is not None:
        _making.clear()


def make_nothing() -> None:
    """Let this process make no programs: what is not there is interpreted."""
    with _lock:
        _making[:] = [None, None]


def say(what: str) -> None:
    """Say something about the programs, once."""
    if what not in _said:
        _said.add(what)
        LOG.warning(what)


def _begun() -> tuple[Any, Path | None]:
    """Begin to make the programs in a process of their own. It goes on when this one ends, as what it makes is kept;
    where nothing can be kept, it ends with this one."""
    if importlib.util.find_spec("numba") is None or not sys.executable:
        say(NO_COMPILER)
        return None, None
    import atexit
    import shutil
    import subprocess
    import tempfile

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
