"""The audit's settings: which checks are asked for and how severe they are, and how promises are judged."""

from typing import TYPE_CHECKING, Annotated, Literal

from .entries import Entry, field
from .field_types import Bounds
from .quantities import Name

if TYPE_CHECKING:
    pass

MOST_FIGHTS, MOST_RUNS = 10_000_000, 100_000


class CheckSetting(Entry):
    """`unread_stat = { severity = "off", reason = "…" }`, or `{ except = ["stats.lore"], reason = "…" }`.

    `severity` takes the place of the check's own; `except` names dotted paths, and all that lies below them, where it
    says nothing. Either needs a reason, for the next reader.
    """

    severity: Literal["error", "warning", "note", "off"] | None = None
    """The severity that takes the place of the check's own; off switches it off."""
    except_: list[Annotated[str, Bounds(min_length=1)]] = field(default_factory=list, alias="except")
    """Dotted paths, with all that lies below them, about which the check says nothing."""
    reason: Annotated[str, Bounds(min_length=3, max_length=400)]
    """Why, for the next reader."""


class Audit(Entry):
    """`[audit]`: `checks` sets single checks; `drift` is by what factor hits to kill may differ between levels.

    `error_rate` is the chance that any of the verdicts on all the promises is wrong; `fights` and `runs` (of a
    journey) are how many are spent at most before a promise stays undecided.
    """

    checks: dict[Name, CheckSetting] = field(default_factory=dict)
    """Settings of single checks, by the code of the check."""
    drift: Annotated[float, Bounds(gt=1, le=1000, allow_inf_nan=False)] = 4.0
    """By what factor the hits to kill may differ between levels."""
    error_rate: Annotated[float, Bounds(gt=0, lt=0.5, allow_inf_nan=False)] = 0.01
    """The chance that any of the verdicts on all promises is wrong."""
    fights: Annotated[int, Bounds(ge=100, le=MOST_FIGHTS)] = 20_000
    """How many fights a promise may take before it stays undecided."""
    runs: Annotated[int, Bounds(ge=10, le=MOST_RUNS)] = 400
    """How many runs a promise about a journey may take before it stays undecided."""
