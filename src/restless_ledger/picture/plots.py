"""Results that can draw themselves."""

from __future__ import annotations

import importlib
from pathlib import Path
from typing import TYPE_CHECKING, ClassVar

from ..auditing.comparison import PromisedComparison
from ..ledger import Fight
from ..progress.journeys import Journeys
from ..study import Builds, Curves, Falls, OddsTable, Trials
from ..study.duels import Duel
from ..study.levers import Levers
from ..study.matchups import Matchups
from ..study.observed import Observed
from ..study.tune import Tuning
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


class PlottedJourneys(Plotted, Journeys):
    """How far the runs of journeys come."""

    FIGURE = "journey"


class PlottedMatchups(Plotted, Matchups):
    """Who beats whom, and the mix by level."""

    FIGURE = "matchups"


class PlottedLevers(Plotted, Levers):
    """The strongest levers, ranked."""

    FIGURE = "levers"


class PlottedBuilds(Plotted, Builds):
    """Builds by origin, and overlaps."""

    FIGURE = "builds"


class PlottedOdds(Plotted, OddsTable):
    """Chances by level."""

    FIGURE = "odds"


class PlottedCurves(Plotted, Curves):
    """Curves side by side."""

    FIGURE = "curves"


class PlottedFalls(Plotted, Falls):
    """Safe, hurting and killing heights."""

    FIGURE = "falls"


class PlottedTrials(Plotted, Trials):
    """How long fights take, how they go on, and who wins."""

    FIGURE = "trials"


class PlottedDuel(Plotted, Duel):
    """How many hits it takes, and who wins when."""

    FIGURE = "duel"


class PlottedTuning(Plotted, Tuning):
    """What was moved, and what came of it."""

    FIGURE = "tune"


class PlottedComparison(Plotted, PromisedComparison):
    """Which outcomes have changed, worst first."""

    FIGURE = "compare"


class PlottedObserved(Plotted, Observed):
    """What was seen against what was simulated."""

    FIGURE = "observed"
