"""Rules of bodies: shares add up, joints make one figure."""

from __future__ import annotations

from ..bodies import Body
from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """The shares of a body add up to one."""
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
