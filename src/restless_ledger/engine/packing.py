"""What workers of an executor work on, packed once by who hands it out, and unpacked once by each worker."""

from __future__ import annotations

import pickle
import zlib
from functools import lru_cache
from typing import Any

from ..keeping.folder import fingerprint
from .fault import EngineFault


def packed(value: Any) -> bytes:
    """Return a value pickled and deflated (openings are mostly zeros), with the fingerprint of the rules of combat."""
    return zlib.compress(pickle.dumps((fingerprint(), value)), 1)


@lru_cache(maxsize=16)
def unpacked(data: bytes) -> Any:
    """Return what was packed: the same object for the same bytes. Raises `EngineFault` where other rules of combat are
    installed here."""
    rules, value = pickle.loads(zlib.decompress(data))
    if rules != fingerprint():
        raise EngineFault(
            "a worker has another version of Restless Ledger, or is another kind of machine: its fights could differ"
        )
    return value
