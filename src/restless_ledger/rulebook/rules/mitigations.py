"""Rules of mitigations, wherever one stands."""

from __future__ import annotations

from ...formula import Program
from ..meaning import walk
from ..mitigations import Mitigation
from ..problems import Report
from ..words import Receiver


def check(report: Report, path: tuple, mitigation: Mitigation) -> None:
    """A mitigation does something to a hit; only a buff has a giver and stacks; once the hit is booked, nothing is
    asked any more."""
    does = (mitigation.times, mitigation.less, mitigation.passes, mitigation.leaves)
    if all(each is None for each in does):
        report.add(path, "this does nothing to a hit", "", "write times, less, passes or leaves")
    in_buff = path[0] == "buffs"
    if mitigation.passes is not None and mitigation.to is Receiver.GIVER and not in_buff:
        report.add((*path, "to"), "only a buff has a giver", "giver", 'write to = "mates", or move it into a buff')
    if mitigation.passes is None and "to" in mitigation.model_fields_set:
        report.add((*path, "to"), "nothing is passed to anybody", mitigation.to.value, "write passes, or leave to out")
    if mitigation.uses_up and not in_buff:
        report.add((*path, "uses_up"), "only a buff has stacks to use up", "", "move it into a buff")
    for found in walk(mitigation.does, (*path, "does")):
        if isinstance(found.value, Program) and "asked" in found.value.names:
            report.add(found.path, "the hit is booked by then", "asked", "read booked: what was held back")
