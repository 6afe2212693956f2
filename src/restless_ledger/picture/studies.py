"""Studies that can draw themselves. They stand apart, so that a fight does not wait for them."""

from __future__ import annotations

from ..auditing.comparison import PromisedComparison
from ..progress.journeys import Journeys
from ..study import Builds, Curves, Falls, OddsTable
from ..study.duels import Duel
from ..study.levers import Levers
from ..study.matchups import Matchups
from ..study.observed import Observed
from ..study.tune import Tuning
from .plots import Plotted


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
