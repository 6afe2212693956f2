"""Bodies: plans of parts, each with its share of the hits and what a hit there is multiplied by."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .pages import steady_page
from .problems import Report
from .quantities import Entry, Formula, Label, Name, Number
from .stats import StatChange

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Break(Entry):
    """`breaks = { stats, drops, lost }`: what goes with a part: stats, abilities, and with `lost` the part itself."""

    stats: dict[Name, StatChange] = Field(default_factory=dict)
    drops: list[Name] = Field(default_factory=list)
    lost: bool = False


class Part(Entry):
    """`crown = { share = 0.12, times = 1.9 }`. `own` is the top of the part's own gauge, on the owner's page.

    A part with a gauge of its own breaks when that is empty; a vital one then takes its character down. `aim`
    multiplies the chance to land of a hit that is aimed at the part.
    """

    label: Label | None = None
    share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    times: Annotated[Number, Field(ge=0)] = 1.0
    aim: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 1.0
    own: Formula | None = None
    vital: bool = False
    breaks: Break = Break()


class Joint(Entry):
    """`{ from = "trunk", to = "crown", low = -40, high = 55, bounce = 0.2 }`: for the game to pose a fall by."""

    start: Name = Field(alias="from")
    end: Name = Field(alias="to")
    low: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    high: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    bounce: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0


class Body(Entry):
    """`[bodies.person.parts]`: the shares add up to one.

    With `loses = "last_first"` the body is a chain of segments: a hit takes the last part that is left (breaks it,
    where it has a gauge of its own; takes it off at once where it has none) and what is left is harder to hit by
    `harder` for each part that is gone. The first part goes only with its owner.
    """

    label: Label | None = None
    parts: Annotated[dict[Name, Part], Field(min_length=1)]
    loses: Literal["as_broken", "last_first"] = "as_broken"
    harder: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    joints: list[Joint] = Field(default_factory=list)

    @property
    def segmented(self) -> bool:
        return self.loses == "last_first"


def check(book: Rulebook, report: Report) -> None:
    """The shares of a body add up to one, and what a part names exists."""
    for name, body in book.bodies.items():
        total = sum(part.share for part in body.parts.values())
        if abs(total - 1.0) > 1e-9:
            shares = " + ".join(f"{part.share:g}" for part in body.parts.values())
            report.add(
                ("bodies", name, "parts"),
                "the shares of a body add up to 1",
                f"{shares} = {total:g}",
                "change a share so that they do",
            )
        for part_name, part in body.parts.items():
            here = ("bodies", name, "parts", part_name)
            report.formula((*here, "own"), part.own, steady_page(book))
            for stat in part.breaks.stats:
                report.reference((*here, "breaks", "stats", stat), "stat", stat, "stats", book.stats)
            for index, ability in enumerate(part.breaks.drops):
                path = (*here, "breaks", "drops", index)
                report.reference(path, "ability", ability, "abilities", book.abilities)
            if "breaks" in part.model_fields_set and part.own is None and not body.segmented:
                report.add(
                    (*here, "breaks"),
                    "a part breaks when its own gauge is empty, and this one has none",
                    "",
                    'give it one, such as own = "30 + grit"',
                )
        _check_joints(name, body, report)


def _check_joints(name: str, body: Body, report: Report) -> None:
    """Joints join parts there are, low is not above high, and all of them together make one figure."""
    reached: set[str] = set()
    for index, joint in enumerate(body.joints):
        here = ("bodies", name, "joints", index)
        for key, part in (("from", joint.start), ("to", joint.end)):
            report.reference((*here, key), "part", part, "", body.parts)
        if joint.start == joint.end:
            report.add(here, "a joint joins two parts", joint.start, "name another part")
        if joint.low > joint.high:
            report.add((*here, "low"), "low is above high", f"{joint.low:g} to {joint.high:g}", "change them round")
    if body.joints:
        reached = {next(iter(body.parts))}
        for _ in body.joints:
            for joint in body.joints:
                if reached & {joint.start, joint.end}:
                    reached |= {joint.start, joint.end}
        if loose := [part for part in body.parts if part not in reached]:
            report.add(
                ("bodies", name, "joints"),
                "the joints don't make one figure",
                ", ".join(loose),
                "join them to the rest",
            )
