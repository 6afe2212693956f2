"""Lives: a unit that goes down with a life left returns after a while."""

from .entries import Entry, field
from .meaning import GaugeName, Span
from .openings import Opening, OpeningField
from .quantities import NO_TIME


class Lives(Entry):
    """`[lives]`: how long until a return, what the gauges then hold (full unless written), how long it is spared.

    A unit returns at the last checkpoint that it has reached, or where it first stood.
    """

    delay: Span = NO_TIME
    """How long it takes until somebody returns."""
    gauges: dict[GaugeName, OpeningField] = field(default_factory=dict)
    """How full the gauges are at a return. Without it, full."""
    invulnerable: Span = NO_TIME
    """How long nothing hits a unit that has returned."""

    def opening(self, gauge: str) -> Opening:
        """Return how full a gauge is at a return."""
        return self.gauges.get(gauge, Opening(1.0, 0.0))
