"""Start a command quickly: import what it needs, and not what its imports would like to have."""

from __future__ import annotations

import os
import sys

LINEAR_ALGEBRA = "scipy.linalg.cython_blas"


def start_simulation() -> None:
    """Import the compiler without linear algebra, for which it would load SciPy: a fifth of the time to start.

    The kernel has no use for it, and nothing else in a command's process compiles. The library leaves the compiler
    as it is, since its process is somebody else's.
    """
    if os.environ.get("RESTLESS_LEDGER_INTERPRET") == "1" or LINEAR_ALGEBRA in sys.modules:
        return
    sys.modules[LINEAR_ALGEBRA] = None  # type: ignore[assignment]
    try:
        import numba.np.arraymath  # noqa: F401  (looks for it once, when it is imported)
    finally:
        del sys.modules[LINEAR_ALGEBRA]
