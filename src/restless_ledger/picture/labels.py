"""Labels that stand beside their points and do not cover each other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from ..frozen_classes import frozen

if TYPE_CHECKING:
    from matplotlib.axes import Axes

WIDTH_OF_LETTER, HEIGHT_OF_LINE = 0.58, 1.25
"""In sizes of the font: about how much room a label takes."""
PLACES = (
    (7, 5),
    (7, -5),
    (-7, 5),
    (-7, -5),
    (7, 16),
    (7, -16),
    (-7, 16),
    (-7, -16),
    (7, 27),
    (-7, 27),
    (7, -27),
    (-7, -27),
)
"""Where a label may stand, in points from its point; the first that is free is taken."""


@frozen
class Label:
    """A text beside a point, in data coordinates."""

    text: str
    at: tuple[float, float]
    colour: str


def place_labels(panel: Axes, labels: Sequence[Label], size: float = 8.5) -> None:
    """Write labels beside their points, each at the first place that no label before it takes; where all are taken, at
    the one that is least covered. The limits of the axes must be set before."""
    figure = panel.get_figure()
    assert figure is not None
    taken: list[tuple[float, float, float, float]] = []
    for label in labels:
        x, y = panel.transData.transform(label.at) * 72 / figure.dpi
        best = min(
            PLACES, key=lambda place: (_covered(_box(label.text, x, y, place, size), taken), PLACES.index(place))
        )
        taken.append(_box(label.text, x, y, best, size))
        panel.annotate(
            label.text,
            label.at,
            xytext=best,
            textcoords="offset points",
            ha="left" if best[0] > 0 else "right",
            va="center",
            fontsize=size,
            color=label.colour,
            zorder=6,
        )


def _box(text: str, x: float, y: float, place: tuple[int, int], size: float) -> tuple[float, float, float, float]:
    """Return the left, right, lower and upper edge that a text takes, in points."""
    wide, high = len(text) * size * WIDTH_OF_LETTER, size * HEIGHT_OF_LINE
    left = x + place[0] - (wide if place[0] < 0 else 0)
    return left, left + wide, y + place[1] - high / 2, y + place[1] + high / 2


def _covered(box: tuple[float, ...], taken: Sequence[tuple[float, ...]]) -> float:
    """Return how much of a box others cover, in square points."""
    wide = (min(box[1], other[1]) - max(box[0], other[0]) for other in taken)
    high = (min(box[3], other[3]) - max(box[2], other[2]) for other in taken)
    return sum(max(0.0, w) * max(0.0, h) for w, h in zip(wide, high, strict=True))
