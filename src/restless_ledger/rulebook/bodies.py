"""Bodies: plans of parts, each with its share of the hits and what a hit there is multiplied by."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .problems import Report
from .quantities import Entry, Label, Name, Number

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Part(Entry):
    """`crown = { share = 0.12, times = 1.9 }`."""

    label: Label | None = None
    share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    times: Annotated[Number, Field(ge=0)] = 1.0


class Body(Entry):
    """`[bodies.person.parts]`: the shares add up to one."""

    label: Label | None = None
    parts: Annotated[dict[Name, Part], Field(min_length=1)]


def check(book: Rulebook, report: Report) -> None:
    """The shares of a body add up to one."""
    for name, body in book.bodies.items():
        total = sum(part.share for part in body.parts.values())
        if abs(total - 1.0) > 1e-9:
            shares = " + ".join(f"{part.share:g}" for part in body.parts.values())
            report.add(("bodies", name, "parts"), "the shares of a body add up to 1", f"{shares} = {total:g}",
                       "change a share so that they do")  # fmt: skip
