"""Fights and trials that can draw themselves."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from ..ledger import Fight
from ..study import Trials

if TYPE_CHECKING:
    from matplotlib.figure import Figure


class PlottedFight(Fight):
    """A fight with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the fight over time; save it where a file is given. Returns the Matplotlib figure."""
        from .fight import draw_fight
        from .style import finish

        return finish(draw_fight(self), file)


class PlottedTrials(Trials):
    """Trials with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the time to kill by winner; save it where a file is given. Returns the Matplotlib figure."""
        from .style import finish
        from .trials import draw_trials

        return finish(draw_trials(self), file)
