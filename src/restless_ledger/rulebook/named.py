"""Named formulas: the chapter of constants, formulas and curves that every formula may use by their names."""

from typing import Annotated, Any

from .entries import Entry, field
from .field_types import Bounds, OneOf, Tag, named_one_of
from .quantities import Name, Number, TextFormula

MOST_POINTS = 50


class FormulaOf(Entry):
    """`share_held = { of = ["x"], is = "x / (x + armour_constant)" }`: a formula of operands, used as
    `share_held(soak)`."""

    of: Annotated[list[Name], Bounds(min_length=1, max_length=8)]
    """The names of its operands."""
    is_: TextFormula = field(alias="is")
    """The formula. It may read its operands, other named formulas, and whatever the page holds that it is read on."""


class Curve(Entry):
    """`comfort = { points = { 0 = 1, 50 = 1.5, 100 = 1.6 } }`: a curve from point to point, used as `comfort(damp)`.

    Between two points it is straight, and beyond them flat.
    """

    points: Annotated[dict[str, Number], Bounds(min_length=1, max_length=MOST_POINTS)]
    """The values, by the operand. Keys are numbers; those with a point or a sign are written in quotes."""


def _form(value: Any) -> str | None:
    if isinstance(value, int | float) and not isinstance(value, bool):
        return "Number"
    return "Text" if isinstance(value, str) else named_one_of(of="FormulaOf", points="Curve")(value)


Named = Annotated[
    Annotated[Number, Tag("Number")]
    | Annotated[str, Tag("Text")]
    | Annotated[FormulaOf, Tag("FormulaOf")]
    | Annotated[Curve, Tag("Curve")],
    OneOf(
        _form,
        kind="named",
        message='a named formula is a number, text such as "dealt + healed / 2", { of, is } or { points }',
    ),
]
