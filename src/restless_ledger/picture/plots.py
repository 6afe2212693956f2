"""Fights and trials that can draw themselves."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from ..ledger import Fight
from ..progress.journeys import Journeys
from ..study import Builds, Curves, Falls, OddsTable, Trials
from ..study.levers import Levers
from ..study.matchups import Matchups

if TYPE_CHECKING:
    from matplotlib.figure import Figure


class PlottedFight(Fight):
    """A fight with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the fight over time; save it where a file is given. Returns the Matplotlib figure."""
        from .fight import draw_fight
        from .style import finish

        return finish(draw_fight(self), file)

    def plot_paths(self, file: str | Path | None = None) -> Figure:
        """Draw the paths of all units on the arena; save it where a file is given.

        Raises `InputError` for a fight that has no place.
        """
        from .paths import draw_paths
        from .style import finish

        return finish(draw_paths(self), file)


class PlottedJourneys(Journeys):
    """Journeys with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw how far the runs come; save it where a file is given. Returns the Matplotlib figure."""
        from .journey import draw_journey
        from .style import finish

        return finish(draw_journey(self), file)


class PlottedMatchups(Matchups):
    """Matchups with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw who beats whom, and the mix by level; save it where a file is given. Returns the Matplotlib figure."""
        from .matchups import draw_matchups
        from .style import finish

        return finish(draw_matchups(self), file)


class PlottedLevers(Levers):
    """Levers with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the strongest, ranked; save it where a file is given. Returns the Matplotlib figure."""
        from .levers import draw_levers
        from .style import finish

        return finish(draw_levers(self), file)


class PlottedBuilds(Builds):
    """Builds with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw builds by origin and overlaps; save it where a file is given. Returns the Matplotlib figure."""
        from .builds import draw_builds
        from .style import finish

        return finish(draw_builds(self), file)


class PlottedOdds(OddsTable):
    """Odds with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the chance by level; save it where a file is given. Returns the Matplotlib figure."""
        from .odds import draw_odds
        from .style import finish

        return finish(draw_odds(self), file)


class PlottedCurves(Curves):
    """Curves with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the curves side by side; save it where a file is given. Returns the Matplotlib figure."""
        from .curves import draw_curves
        from .style import finish

        return finish(draw_curves(self), file)


class PlottedFalls(Falls):
    """Falls with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw safe, hurting and killing heights; save it where a file is given. Returns the Matplotlib figure."""
        from .falls import draw_falls
        from .style import finish

        return finish(draw_falls(self), file)


class PlottedTrials(Trials):
    """Trials with `plot`."""

    def plot(self, file: str | Path | None = None) -> Figure:
        """Draw the time to kill by winner; save it where a file is given. Returns the Matplotlib figure."""
        from .style import finish
        from .trials import draw_trials

        return finish(draw_trials(self), file)
