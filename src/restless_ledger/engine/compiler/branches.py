"""How often each function of a program is entered and each of its branches taken, told to the compiler: it then lays
out what mostly happens in one piece, keeps in registers what that needs, and works out early only what is often needed.

A program is made twice. The first one counts, while it fights what it practises on; the second has the counts as
weights (profile-guided optimisation). Weights change no result.
"""

from __future__ import annotations

import ctypes
import re
from collections.abc import Callable
from typing import NamedTuple

from llvmlite import binding

BRANCH = re.compile(r"^  br i1 (%[^,]+), label [^,]+, label [^,\n]+", re.MULTILINE)
"""A branch, in a program as text: what it hangs on, where it goes where that is so, and where it goes else."""
SWITCH = re.compile(
    r"^  switch (i\d+) (%[^,]+), label [^\n]+ \[\n((?:    i\d+ -?\d+, label [^\n]+\n)+)  \]", re.MULTILINE
)
"""A branch into many: the type of what it hangs on, that, and the cases besides the usual one."""
CASE = re.compile(r"^    i\d+ (-?\d+),", re.MULTILINE)
ENTRY = re.compile(r"^(define [^\n]*) \{\n((?:[\w.$-]+|\"[^\"\n]*\"):[^\n]*\n)?", re.MULTILINE)
"""The beginning of a function, and the label of what it does first, if that has one."""
COUNTS, ENTRIES = "rl_counts", "rl_entries"
COUNTING = """\
  %rl_so{at} = zext i1 {asked} to i64
  %rl_place{at} = getelementptr [2 x i64], ptr @{counts}, i64 {at}, i64 %rl_so{at}
  %rl_before{at} = load i64, ptr %rl_place{at}
  %rl_after{at} = add i64 %rl_before{at}, 1
  store i64 %rl_after{at}, ptr %rl_place{at}
"""
ASKING = "  %rl_is{at} = icmp eq {kind} {asked}, {value}\n"
ENTERING = """\
{beginning}  %rl_entry{at} = getelementptr i64, ptr @{entries}, i64 {at}
  %rl_earlier{at} = load i64, ptr %rl_entry{at}
  %rl_later{at} = add i64 %rl_earlier{at}, 1
  store i64 %rl_later{at}, ptr %rl_entry{at}
"""
LARGEST = 2**32 - 1


class Counts(NamedTuple):
    """What was counted of a program."""

    entries: list[int]
    """How often each function was entered, in the order of the text."""
    branches: list[tuple[int, int]]
    """How often what each branch hangs on was not so, and was so: those of two ways in the order of the text, then each
    case of those of many."""


def weighed(program: str, counts: Counts) -> str:
    """Return a program with the counts as weights of its functions and its branches."""
    entries, branches = iter(counts.entries), iter(counts.branches)
    notes = list[str]()
    first = 1 + max((int(each) for each in re.findall(r"^!(\d+) = ", program, re.MULTILINE)), default=-1)

    def noted(what: str) -> str:
        notes.append(f"!{first + len(notes)} = !{{{what}}}")
        return f"!prof !{first + len(notes) - 1}"

    def with_entries(beginning: re.Match[str]) -> str:
        times = noted(f'!"function_entry_count", i64 {next(entries)}')
        return f"{beginning[1]} {times} {{\n{beginning[2] or ''}"

    def with_weights(branch: re.Match[str]) -> str:
        not_so, so = next(branches)
        return weighed_by(branch, [so, not_so])

    def with_cases(switch: re.Match[str]) -> str:
        cases = [next(branches) for _ in CASE.findall(switch[3])]
        taken = [so for _, so in cases]
        return weighed_by(switch, [sum(cases[0]) - sum(taken), *taken])

    def weighed_by(match: re.Match[str], counts: list[int]) -> str:
        times = 1 + max(counts) // LARGEST
        weights = "".join(f", i32 {count // times}" for count in counts)
        return f"{match[0]}, " + noted(f'!"branch_weights"{weights}') if any(counts) else match[0]

    program = SWITCH.sub(with_cases, BRANCH.sub(with_weights, ENTRY.sub(with_entries, program)))
    return "\n".join([program, *notes, ""])


def counted(program: str, name: str, practise: Callable[[int], None]) -> Counts:
    """Count what is entered and what is taken in a program while what is at an address practises."""
    branches, entries = 0, 0

    def asked_of(condition: str) -> str:
        nonlocal branches
        branches += 1
        return COUNTING.format(at=branches - 1, asked=condition, counts=COUNTS)

    def with_count(branch: re.Match[str]) -> str:
        return asked_of(branch[1]) + branch[0]

    def with_cases(switch: re.Match[str]) -> str:
        cases = [
            ASKING.format(at=branches, kind=switch[1], asked=switch[2], value=value) + asked_of(f"%rl_is{branches}")
            for value in CASE.findall(switch[3])
        ]
        return "".join([*cases, switch[0]])

    def with_entry(beginning: re.Match[str]) -> str:
        nonlocal entries
        entries += 1
        return ENTERING.format(at=entries - 1, entries=ENTRIES, beginning=beginning[0])

    counting = ENTRY.sub(with_entry, SWITCH.sub(with_cases, BRANCH.sub(with_count, program)))
    counting += f"\n@{COUNTS} = global [{branches} x [2 x i64]] zeroinitializer"
    counting += f"\n@{ENTRIES} = global [{entries} x i64] zeroinitializer\n"
    machine = binding.Target.from_default_triple().create_target_machine(reloc="pic", codemodel="small")
    engine = binding.create_mcjit_compiler(binding.parse_assembly(counting), machine)
    engine.finalize_object()
    practise(engine.get_function_address(f"rl_{name}"))
    entered = (ctypes.c_int64 * entries).from_address(engine.get_global_value_address(ENTRIES))
    taken = (ctypes.c_int64 * 2 * branches).from_address(engine.get_global_value_address(COUNTS))
    return Counts(list(entered), [(not_so, so) for not_so, so in taken])
