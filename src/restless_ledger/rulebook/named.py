"""Named formulas: the chapter of constants, formulas and curves that every formula may use by their names."""

from typing import Annotated, Any

from pydantic import Discriminator, Field, Tag

from .quantities import Entry, Name, Number, TextFormula, named_one_of

MOST_POINTS = 50


class FormulaOf(Entry):
    """`share_held = { of = ["x"], is = "x / (x + armour_constant)" }`: a formula of operands, used as
    `share_held(soak)`."""

    of: Annotated[list[Name], Field(min_length=1, max_length=8)]
    """The names of its operands."""
    is_: TextFormula = Field(alias="is")
    """The formula. It may read its operands, other named formulas, and whatever the page holds that it is read on."""


class Curve(Entry):
    """`comfort = { points = { 0 = 1, 50 = 1.5, 100 = 1.6 } }`: a curve from point to point, used as `comfort(damp)`.

    Between two points it is straight, and beyond them flat.
    """

    points: Annotated[dict[str, Number], Field(min_length=1, max_length=MOST_POINTS)]
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
    Discriminator(
        _form,
        custom_error_type="named",
        custom_error_message='a named formula is a number, text such as "dealt + healed / 2", { of, is } or { points }',
    ),
]
