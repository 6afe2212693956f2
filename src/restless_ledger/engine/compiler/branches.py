"""How often each branch of a program is taken, told to the compiler: it then lays out what mostly happens in one piece,
and keeps in registers what that needs.

A program is made twice. The first one counts, while it fights what it practises on; the second has the counts as
weights of its branches (profile-guided optimisation). Weights change no result.
"""

from __future__ import annotations

import ctypes
import re
from collections.abc import Callable, Sequence

from llvmlite import binding

BRANCH = re.compile(r"^  br i1 (%[^,]+), label [^,]+, label [^,\n]+", re.MULTILINE)
"""A branch, in a program as text: what it hangs on, where it goes where that is so, and where it goes else."""
COUNTS = "rl_counts"
COUNTING = """\
  %rl_so{at} = zext i1 {asked} to i64
  %rl_place{at} = getelementptr [2 x i64], ptr @{counts}, i64 {at}, i64 %rl_so{at}
  %rl_before{at} = load i64, ptr %rl_place{at}
  %rl_after{at} = add i64 %rl_before{at}, 1
  store i64 %rl_after{at}, ptr %rl_place{at}
{branch}"""
LARGEST = 2**32 - 1


def weighed(program: str, counts: Sequence[tuple[int, int]]) -> str:
    """Return a program with the weights of its branches: how often each was not so, and was so."""
    weights = iter(counts)
    notes = list[str]()
    first = 1 + max((int(each) for each in re.findall(r"^!(\d+) = ", program, re.MULTILINE)), default=-1)

    def with_weights(branch: re.Match[str]) -> str:
        not_so, so = next(weights)
        if so == not_so == 0:
            return branch[0]
        times = 1 + max(so, not_so) // LARGEST
        notes.append(f'!{first + len(notes)} = !{{!"branch_weights", i32 {so // times}, i32 {not_so // times}}}')
        return f"{branch[0]}, !prof !{first + len(notes) - 1}"

    return "\n".join([BRANCH.sub(with_weights, program), *notes, ""])


def counted(program: str, name: str, practise: Callable[[int], None]) -> list[tuple[int, int]]:
    """Count, for each branch of a program, how often it is not so and so, while what is at an address practises."""
    found = 0

    def with_count(branch: re.Match[str]) -> str:
        nonlocal found
        found += 1
        return COUNTING.format(at=found - 1, asked=branch[1], counts=COUNTS, branch=branch[0])

    counting = BRANCH.sub(with_count, program)
    counting += f"\n@{COUNTS} = global [{found} x [2 x i64]] zeroinitializer\n"
    machine = binding.Target.from_default_triple().create_target_machine(reloc="pic", codemodel="small")
    engine = binding.create_mcjit_compiler(binding.parse_assembly(counting), machine)
    engine.finalize_object()
    practise(engine.get_function_address(f"rl_{name}"))
    counts = (ctypes.c_int64 * (2 * found)).from_address(engine.get_global_value_address(COUNTS))
    return [(counts[2 * at], counts[2 * at + 1]) for at in range(found)]
