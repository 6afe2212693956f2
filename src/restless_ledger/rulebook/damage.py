"""Damage kinds: what the dealer brings, what the taker holds against it, what is booked."""

from collections.abc import Iterator
from typing import Annotated, ClassVar

from ..formula import Program, parse
from .entries import Entry, field
from .field_types import Bounds
from .meaning import (
    ClassName,
    DealerFormula,
    GaugeName,
    LandsFormula,
    MarkName,
    ReadOn,
    SettleFormula,
    UserFormula,
    walk,
)
from .quantities import Label, Name, Number
from .rolls import Roll
from .words import Rounding


class Critical(Entry):
    """`critical = { chance, times, avoid, tiers }`: chance and times are read on the dealer's page, avoid on the
    taker's.

    With `tiers = 2` a chance of 1.3 is sure of the first tier and has 0.3 for the second; each tier adds as much as the
    first one did.
    """

    chance: UserFormula
    """The chance of a critical hit, on the dealer's page."""
    times: UserFormula
    """What a critical hit is multiplied by, on the dealer's page."""
    avoid: UserFormula | None = None
    """What the taker takes off the chance, on the taker's page."""
    tiers: Annotated[int, Bounds(ge=1, le=100)] = 1
    """How often a hit can be critical at once, for chances above 1."""
    evens_out: bool = False
    """Whether luck evens out, so that neither long streaks of critical hits come nor long ones without."""


class Guard(Entry):
    """`guard = { when, times }`: a stance, both read on the taker's page; what is guarded is multiplied."""

    when: UserFormula
    """Whether the taker is guarded, on the taker's page."""
    times: UserFormula
    """What a guarded hit is multiplied by, on the taker's page."""


class Block(Entry):
    """`block = { chance, times }`, both read on the taker's page: what is blocked is multiplied, and counts as
    guarded."""

    chance: UserFormula
    """The chance that the taker blocks, on the taker's page."""
    times: UserFormula
    """What a blocked hit is multiplied by, on the taker's page."""


class Graze(Entry):
    """`grazes = { within = 0.1, times = 0.5 }`, both read on the dealer's page: a miss by less than this grazes."""

    within: UserFormula
    """How much the chance to land may be missed by, on the dealer's page."""
    times: UserFormula
    """What a grazing hit is multiplied by, on the dealer's page."""


class DamageKind(Entry):
    """`[damage.crush]`. Aim, power and critical are read on the dealer's page, dodge and soak on the taker's.

    `lands` and `settle` see only the results of those lines, `level_gap` (the dealer's level less the taker's)
    and the kind's own extra lines. A kind without aim and lands never misses. `resist` (taker's page) is the share
    that is held back, below zero a weakness; `against` multiplies by the taker's class; a bearer of a mark in
    `barred_by` can't be hit by it at all. `[healing.balm]` takes the same lines, and what settles heals.
    """

    LINES: ClassVar[str] = "rolled"

    label: Label | None = None
    """The name that people read."""
    gauge: GaugeName | None = None
    """The gauge that it harms. Without it, the one that takes its character down."""
    aim: DealerFormula | None = None
    """The chance to land before the taker dodges, on the dealer's page. Without it and lands, it never misses."""
    dodge: UserFormula = field(default_factory=lambda: parse("0"))
    """What the taker takes off the chance to land, on the taker's page."""
    lands: LandsFormula | None = None
    """The chance to land where aim and dodge meet; aim less dodge unless it is written."""
    power: DealerFormula
    """How hard it hits, on the dealer's page."""
    soak: UserFormula = field(default_factory=lambda: parse("0"))
    """What the taker holds against it, on the taker's page."""
    settle: SettleFormula = field(default_factory=lambda: parse("max(0, power - soak)"))
    """The amount where power and soak meet. Below zero it counts as zero."""
    dealer_lines: dict[Name, DealerFormula] = field(default_factory=dict)
    """More lines on the dealer's page that lands and settle may read."""
    rolled: dict[Name, Roll] = field(default_factory=dict)
    """Lines that are drawn for each hit, on the dealer's page. Aim, power, dealer_lines, lands and settle may read
    them."""
    taker_lines: dict[Name, UserFormula] = field(default_factory=dict)
    """More lines on the taker's page that lands and settle may read."""
    spread: UserFormula | None = None
    """By what share the amount varies, up and down, evenly, on the dealer's page: from 0 to 1."""
    critical: Critical | None = None
    """Critical hits. Without it there are none."""
    round: Rounding = Rounding.NONE
    """How the amount is rounded to whole points."""
    resist: UserFormula | None = None
    """The share that the taker holds back, on the taker's page; below zero it is a weakness."""
    against: dict[ClassName, Annotated[Number, Bounds(ge=0)]] = field(default_factory=dict)
    """What a hit on some classes is multiplied by."""
    guard: Guard | None = None
    """A stance in which the taker takes less."""
    block: Block | None = None
    """Blocks by chance. Without it there are none."""
    grazes: Graze | None = None
    """Misses by so little that they graze. Without it there are none."""
    limits: Annotated[list[Annotated[Number, Bounds(ge=0)]], Bounds(min_length=2, max_length=2)] | None = None
    """The least and the most that a hit that lands may take, once it is rounded."""
    barred_by: list[MarkName] = field(default_factory=list)
    """Marks whose bearers it can't hit."""
    past: list[GaugeName] = field(default_factory=list)
    """Gauges in front that it goes past."""

    @property
    def never_misses(self) -> bool:
        """Whether every hit lands: nothing says how it could miss."""
        return self.aim is None and self.lands is None

    @property
    def landing(self) -> Program:
        """The chance to land: as written, or what aim leaves over dodge."""
        return self.lands or parse("aim - dodge")

    def page_formulas(self) -> Iterator[tuple[tuple, Program]]:
        """Yield each formula that is read on a character's page, with its path within the kind."""
        for found in walk(self):
            if any(isinstance(meaning, ReadOn) and meaning.page == "character" for meaning in found.meanings):
                yield found.path, found.value
