"""Linked code → the object code of one program, which needs nothing of the compiler.

The outermost function gets a plain C signature, and everything else is hidden. What the object leaves open is then in
the C library: exp, log, pow, memcpy and their like. What is fixed in the program gets its value here, so all programs
are emitted from the same code: lowering it takes one processor three times as long as emitting it (measured).
"""

from __future__ import annotations

import platform
from collections.abc import Callable, Iterator

from llvmlite import binding

from ..layout.fixed import Fixed
from .branches import counted, weighed

CORE = "rl_core"
"""The name of the outermost function of linked code."""
IS_FIXED, FIXED_TO = "rl_is_fixed.", "rl_fixed_to."
"""How the two constants begin that a field which may be fixed is read through; its member and its name come behind."""
PLAIN_PROCESSORS = {"x86_64": "x86-64-v2", "amd64": "x86-64-v2"}
"""The oldest processors that are any good: these round by one instruction, as all have done since 2008, and NumPy asks
for them too. Duels take a fiftieth less than on older ones; the code for newer ones is no faster (measured)."""
NAME = "restless-ledger"
CODE_OPTIONS = ("-disable-machine-licm",)
"""How the machine code is made: nothing more is worked out ahead of loops, as that takes up registers, and most loops
here run once or twice. Duels take a fiftieth less (measured)."""
OUTSIDE = """
declare i32 @"{core}"(ptr, ptr, ptr, ptr, ptr, ptr, ptr, i64, i64, ptr, i64, i64)
@rl_fingerprint = constant [{length} x i8] c"{fingerprint}\\00"
define double @rl_{name}(ptr %tables, ptr %opening, ptr %state, ptr %results, i64 %count) {{
  %answer = alloca double
  %status = call i32 @"{core}"(ptr %answer, ptr null, ptr %tables, ptr %opening, ptr %state, ptr null, ptr null,
                               i64 %count, i64 {size}, ptr %results, i64 %count, i64 {size})
  %value = load double, ptr %answer
  ret double %value
}}
"""


def emitted(
    code: bytes, name: str, fingerprint: str, fixed: Fixed, size: int, practise: Callable[[int], None] | None = None
) -> bytes:
    """Make a program of linked code: give it its plain C signature and what is fixed in it, hide all else, optimise it
    and make machine code of it. `size` is how many bytes one result has; `practise` lets the program that lies at an
    address fight what mostly happens in it (see `branches.py`).

    The second of three levels of the optimiser: the third takes as long, and battles are a twenty-fifth slower then
    (measured). A program that has practised is optimised once more by what was counted.
    """
    binding.initialize_native_target()
    binding.initialize_native_asmprinter()
    for option in CODE_OPTIONS:
        binding.set_option(NAME, option)
    machine = binding.Target.from_triple(binding.get_process_triple()).create_target_machine(
        cpu=PLAIN_PROCESSORS.get(platform.machine().lower(), ""), opt=2, reloc="pic", codemodel="small"
    )
    module = _optimised(_program(binding.parse_bitcode(code), name, fingerprint, fixed, size), machine)
    if practise is not None:
        program = str(module)
        module = _optimised(binding.parse_assembly(weighed(program, counted(program, name, practise))), machine)
    return bytes(machine.emit_object(module))


def _optimised(module: binding.ModuleRef, machine: binding.TargetMachine) -> binding.ModuleRef:
    """Optimise a module. Loops stay as they are: they run over a handful of units, gauges or buffs, and are done before
    a loop made for many would have begun. Modifies the module and returns it."""
    options = binding.create_pipeline_tuning_options(speed_level=2)
    options.loop_vectorization = options.slp_vectorization = options.loop_unrolling = False
    builder = binding.create_pass_builder(machine, options)
    builder.getModulePassManager().run(module, builder)
    return module


def _program(module: binding.ModuleRef, name: str, fingerprint: str, fixed: Fixed, size: int) -> binding.ModuleRef:
    """Make a program of a module of linked code that can be called by its plain name, and nothing else of it. Modifies
    the module and returns it."""
    if not fixed:  # the optimiser would inline what has one caller, and lengthen what happens often by what seldom does
        for function in _apart(module):
            function.add_function_attribute("noinline")
    sizes = {"length": len(fingerprint) + 1, "size": size}
    constants = "\n".join(_constants(module, fixed))
    outside = binding.parse_assembly(OUTSIDE.format(core=CORE, name=name, fingerprint=fingerprint, **sizes) + constants)
    outside.triple, outside.data_layout = module.triple, module.data_layout
    module.link_in(outside)
    for each in (*module.functions, *module.global_variables):
        if not each.is_declaration and each.name not in (f"rl_{name}", "rl_fingerprint"):
            each.linkage = "internal"
    return module


def _apart(module: binding.ModuleRef) -> Iterator[binding.ValueRef]:
    """Yield the functions of a module that need not be inlined."""
    for function in module.functions:
        if not function.is_declaration and not any(b"alwaysinline" in words for words in function.attributes):
            yield function


def _constants(module: binding.ModuleRef, fixed: Fixed) -> Iterator[str]:
    """Yield what a program's constants are, as text."""
    for each in module.global_variables:
        if each.name.startswith((IS_FIXED, FIXED_TO)):
            member, field = each.name.split(".")[1:]
            value = fixed.get(member, {}).get(field)
            if each.name.startswith(IS_FIXED):
                yield f"@{each.name} = constant i1 {int(value is not None)}"
            else:
                kind = each.global_value_type
                yield f"@{each.name} = constant {kind} {value or 0}{'' if str(kind) == 'i64' else '.0'}"
