"""Experience: what it takes to go from each level to the next."""

from .entries import Entry
from .growth import Growth


class Experience(Entry):
    """`[experience] to_next = "45 * level ** 1.7"`: from each level to the next, in whole points.

    A class may have a curve of its own, and a factor.
    """

    to_next: Growth | None = None
    """What it takes from each level to the next, in whole points."""
