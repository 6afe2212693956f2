"""Growth: how a stat of a class rises with its level."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Discriminator, Field, Tag

from .quantities import Entry, Number, named_one_of

if TYPE_CHECKING:
    from typing import Any


class Rise(Entry):
    """`{ from, to, bend }`: from the first level to the last; a bend above 0 rises early, below 0 late.

    With t the share of the way from the first level to the last, the curve is
    from + (to − from) · t / (t + (1 − t) / 2**bend): 2**bend times as steep as a straight line at the first
    level, 2**−bend times at the last.
    """

    start: Number = Field(alias="from")
    end: Number = Field(alias="to")
    bend: Annotated[float, Field(ge=-6, le=6, allow_inf_nan=False)] = 0.0


class Cadence(Entry):
    """`{ base, add, every }`: base at the first level, and so much more every so many levels."""

    base: Number
    add: Number
    every: int = Field(1, ge=1)


_form_by_key = named_one_of(**{"from": "Rise", "base": "Cadence"})


def _form(value: Any) -> str | None:
    if isinstance(value, int | float) and not isinstance(value, bool):
        return "Flat"
    if isinstance(value, Rise):
        return "Rise"
    return _form_by_key(value)


Growth = Annotated[
    Annotated[Number, Tag("Flat")] | Annotated[Rise, Tag("Rise")] | Annotated[Cadence, Tag("Cadence")],
    Discriminator(
        _form,
        custom_error_type="growth",
        custom_error_message="growth is a number, { from, to, bend } or { base, add, every }",
    ),
]
