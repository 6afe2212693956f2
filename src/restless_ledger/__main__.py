"""`python -m restless_ledger` is the command `restless-ledger`."""

from __future__ import annotations

import atexit
import contextlib
import os
import sys
import threading

from .cli.main import run


def main() -> None:
    """Run the command line, and end the process with its code at once.

    What was asked for at exit is done, and what was written is flushed. Only what lies in memory is not taken apart,
    object by object, before the process ends: that takes a twentieth of a short command. While a thread is still at
    work the process ends as usual, which waits for it.
    """
    try:
        run()
    except SystemExit as end:
        if threading.active_count() > 1 or not isinstance(end.code, int):
            raise
        atexit._run_exitfuncs()
        for stream in (sys.stdout, sys.stderr):
            with contextlib.suppress(OSError, ValueError):  # whether it could be written is in the code already
                stream.flush()
        os._exit(end.code)


if __name__ == "__main__":
    main()
