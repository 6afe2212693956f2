"""Which function draws which result."""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import Any

from matplotlib.axes import Axes
from matplotlib.figure import Figure

from .style import drawing_on, finish


def draw(figure: str, result: Any, file: str | Path | None = None, ax: Axes | None = None) -> Figure:
    """Draw a result: `draw_NAME` of the module NAME of this room does it. Save it where a file is given.

    With `ax` it is drawn on those axes; raises `InputError` where it needs more than one.
    """
    module = importlib.import_module(f".{figure}", __package__)
    with drawing_on(ax):
        return finish(getattr(module, f"draw_{figure}")(result), file)
