"""Results that can draw themselves: fights and trials; `studies.py` holds the others."""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import TYPE_CHECKING, ClassVar

from ..ledger import Fight
from ..study import Trials
from .style import finish

if TYPE_CHECKING:
    from matplotlib.figure import Figure


class Plotted:
    """What can draw itself: `FIGURE` is the module of this room that does it, and its function `draw_FIGURE`."""

    FIGURE: ClassVar[str]

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the figure; save it where a file is given (.png, .svg or .pdf). Returns the Matplotlib figure."""
        module = importlib.import_module(f".{self.FIGURE}", __package__)
        return finish(getattr(module, f"draw_{self.FIGURE}")(self), file)


class PlottedFight(Plotted, Fight):
    """A fight over time, with `plot_paths` beside it."""

    FIGURE = "fight"

    def plot_paths(self, file: str | Path | None = None) -> Figure:
        """Draw the paths of all units on the arena; save it where a file is given.

        Raises `InputError` for a fight that has no place.
        """
        from .paths import draw_paths

        return finish(draw_paths(self), file)


class PlottedTrials(Plotted, Trials):
    """How long fights take, how they go on, and who wins."""

    FIGURE = "trials"
