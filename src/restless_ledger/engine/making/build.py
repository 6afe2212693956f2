"""Make the compiled programs: `python -m restless_ledger.engine.making.build FOLDER`.

The process that does it is the only one that needs the compiler. Each program becomes a shared library, or, where no
linker is installed, an object file that llvmlite can load.
"""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from pathlib import Path

from ...keeping.folder import PACKAGED, fingerprint, keep, kept
from ...workers import quickest_start
from ..layout.books_layout import RESULT
from ..layout.fixed import ENTER, FIXED
from ..native.loading import LIBRARY_ENDING, OBJECT_ENDING

FIRST = list(dict.fromkeys(("enter_room", "enter_arena", ENTER, "enter_duel", *FIXED)))
"""The programs: first two that nearly every fight fits one of, as each is made sooner than the one for everything, and
that for duels practises besides."""
NICENESS = 5
"""How far the process that makes programs steps back behind what somebody waits for meanwhile."""


def build(folder: Path) -> None:
    """Make every program that a cache does not have, and keep it there. Of several processes that do so at once, one
    works, and the others wait for it."""
    with _alone(folder):
        missing = [name for name in FIRST if not any(kept(folder, name))]
        for name, ending, code in _made(missing):
            keep(folder, name, ending, code)


def package() -> None:
    """Make every program and put it beside the package's own sources, under its own name, as a wheel has it."""
    for name, ending, code in _made(FIRST):
        (PACKAGED / f"{name}{ending}").write_bytes(code)


def _made(programs: list[str]) -> Iterator[tuple[str, str, bytes]]:
    """Yield programs as they are made: name, ending and code. The rules are lowered once, and each program is emitted
    from that in a process of its own."""
    if not programs:
        return
    from .lower import lowered_kernel

    lowered = lowered_kernel()
    with ProcessPoolExecutor(min(len(programs), os.cpu_count() or 1), mp_context=quickest_start()) as pool:
        for future in as_completed([pool.submit(_one, name, lowered) for name in programs]):
            yield future.result()


def _one(name: str, lowered: bytes) -> tuple[str, str, bytes]:
    """Emit one program."""
    from ..compiler.emit import emitted
    from .practice import practice_for

    code, ending = linked(
        emitted(lowered, name, fingerprint(), FIXED[name], RESULT.itemsize, practise=practice_for(name))
    )
    return name, ending, code


@contextlib.contextmanager
def _alone(folder: Path) -> Iterator[None]:
    """Wait until no other process makes programs for a folder, and keep others out."""
    try:
        from fcntl import LOCK_EX, flock
    except ImportError:  # where there are no such locks, each makes its own
        yield
        return
    with (folder / "lock").open("w") as file:
        flock(file, LOCK_EX)
        yield


def linked(code: bytes) -> tuple[bytes, str]:
    """Return object code as a shared library, with its ending; as it is where there is no linker."""
    linker = shutil.which("cc") or shutil.which("gcc") or shutil.which("clang")
    if linker is None or sys.platform == "win32":
        return code, OBJECT_ENDING
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / "program.o", Path(folder) / "program"
        source.write_bytes(code)
        words = [linker, "-shared", "-o", str(target), str(source), "-lm", *(["-s"] if sys.platform == "linux" else [])]
        done = subprocess.run(words, capture_output=True, check=False)
        return (target.read_bytes(), LIBRARY_ENDING) if done.returncode == 0 else (code, OBJECT_ENDING)


if __name__ == "__main__":
    if hasattr(os, "nice"):
        os.nice(NICENESS)
    build(Path(sys.argv[1]))
