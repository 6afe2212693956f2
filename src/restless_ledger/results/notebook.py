"""Long work in a notebook: a bar that shows how far it is."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Callable, Iterator


def in_notebook() -> bool:
    """Say whether this is a notebook: a shell whose cells are sent to a kernel."""
    shell = sys.modules.get("IPython")
    here = shell.get_ipython() if shell is not None else None
    return type(here).__name__ == "ZMQInteractiveShell"


@contextlib.contextmanager
def bar(what: str) -> Iterator[Callable[[int, int], None] | None]:
    """Show a bar of tqdm while something is done that calls (done, asked); none where tqdm is not installed."""
    try:
        from tqdm.auto import tqdm
    except ImportError:
        yield None
        return
    with tqdm(desc=what, leave=False) as shown:

        def progress(done: int, asked: int) -> None:
            shown.total = asked or None
            shown.n = done
            shown.refresh()

        yield progress
