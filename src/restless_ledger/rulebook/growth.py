"""Growth: how a figure rises with the level. Stats of a class and experience take the same forms."""

from typing import Annotated, Any

from ..formula import Program
from .entries import Entry, checked, field
from .field_types import Bounds, Hidden, OneOf, Tag, named_one_of, refusal
from .meaning import LevelFormula
from .quantities import Count, Number, WholeKeys
from .rolls import Roll


class Rise(Entry):
    """`{ from, to, bend }`: from the first level to the last; a bend above 0 rises early, below 0 late.

    With t the share of the way from the first level to the last, the curve is
    from + (to − from) · t / (t + (1 − t) / 2**bend): 2**bend times as steep as a straight line at the first
    level, 2**−bend times at the last.
    """

    start: Number = field(alias="from")
    """The value at the first level."""
    end: Number = field(alias="to")
    """The value at the last level."""
    bend: Annotated[float, Bounds(ge=-6, le=6, allow_inf_nan=False)] = 0.0
    """Above 0 the curve rises early, below 0 late; 0 is a straight line."""


def number_or_roll(value: Any) -> str:
    """Tell a number from a roll."""
    return "number" if isinstance(value, int | float) else "roll"


Step = Annotated[
    Annotated[Number, Tag("number")] | Annotated[Roll, Tag("roll")],
    OneOf(number_or_roll, kind="step", message="this is a number or a roll such as { between = [1, 3] }"),
]


class Cadence(Entry):
    """`{ base, add, every }`: `base` at the first level, and `add` more after each `every` levels.

    `add` may be a roll: `{ base = 8, add = { between = [1, 3] } }`.
    """

    base: Number
    """The value at the first level."""
    add: Step
    """How much more it becomes each time: a number, or a roll. A sheet shows a roll as it is on average; each run of a
    journey rolls anew for each member and level."""
    every: Count = 1
    """After how many levels it becomes more."""


class Through(Entry):
    """`{ points = { 1 = 12, 20 = 40 } }`: a smooth curve through the points, which rises and falls only where they do.

    Below the first point and beyond the last it is flat.
    """

    points: Annotated[dict[int, Number], WholeKeys, Bounds(min_length=1)]
    """Values by level. The curve goes through them smoothly, and is flat beyond them."""


class Tabled(Entry):
    """`{ table = "guard.csv", column = "rigger" }`: a column of a CSV file that lies beside the rulebook's files.

    The file has a column `level`, with a row for each level of the rulebook. `values` is read from it.
    """

    table: Annotated[str, Bounds(min_length=1)]
    """A CSV file beside the rulebook's files, with a column level and a row for each level."""
    column: Annotated[str, Bounds(min_length=1)]
    """The column that holds the values."""
    values: Annotated[dict[int, Number], WholeKeys, Hidden()] = field(default_factory=dict)

    @checked
    def _named(self) -> "Tabled":
        if self.column == "level":
            raise refusal("column", "the column level holds the levels; name another column")
        return self


_form_by_key = named_one_of(**{"from": "Rise", "base": "Cadence", "points": "Through", "table": "Tabled"})


def _form(value: Any) -> str | None:
    if isinstance(value, int | float) and not isinstance(value, bool):
        return "Flat"
    if isinstance(value, str | Program):
        return "ByFormula"
    if isinstance(value, Rise):
        return "Rise"
    return _form_by_key(value)


Growth = Annotated[
    Annotated[Number, Tag("Flat")]
    | Annotated[Rise, Tag("Rise")]
    | Annotated[Cadence, Tag("Cadence")]
    | Annotated[Through, Tag("Through")]
    | Annotated[LevelFormula, Tag("ByFormula")]
    | Annotated[Tabled, Tag("Tabled")],
    OneOf(
        _form,
        kind="growth",
        message="growth is a number, { from, to, bend }, { base, add, every }, { points }, "
        "{ table, column } or a formula that reads level",
    ),
]
