"""Which function draws which result."""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import Any

from matplotlib.figure import Figure

from .style import finish


def draw(figure: str, result: Any, file: str | Path | None = None) -> Figure:
    """Draw a result: `draw_NAME` of the module NAME of this room does it. Save it where a file is given."""
    module = importlib.import_module(f".{figure}", __package__)
    return finish(getattr(module, f"draw_{figure}")(result), file)
