"""Compile the kernel as one program.

The compiler's own way is to make each function ready to run by itself: it links all that the function calls into it,
optimises the whole, and makes machine code of it, again for every function on the way up. For some two hundred
functions of which only one is ever called from outside, nearly all of that is thrown away. Here the functions within
stay as they are lowered, and only the outermost one is linked, optimised and made into machine code: measured, a
quarter of the time (see docs/background/engine.md).
"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from llvmlite import binding
from llvmlite.binding import Linkage
from numba.core.codegen import JITCodeLibrary
from numba.core.registry import cpu_target

PARTS: set[str] = set()
"""The names of the functions within."""
SELDOM: set[str] = set()
"""The names of those that most fights never call."""
PROGRAMS: set[str] = set()
"""The names of the outermost functions."""


class ProgramLibrary(JITCodeLibrary):
    """The code of one function: of one within it is kept as lowered, the outermost gathers all the others."""

    @property
    def is_part(self) -> bool:
        """Whether it is a part of a program, linked into it and never called by itself."""
        return self.name in PARTS

    def finalize(self) -> None:
        """Optimise and link a program; a part stays as it is."""
        if not self.is_part:
            if self.name in PROGRAMS:
                self._linking_libraries = self._gathered()
            super().finalize()
            return
        for library in self._linking_libraries:
            self._reload_init.update(library._reload_init)
        for function in self._final_module.functions:
            if not function.is_declaration and not any(b"alwaysinline" in words for words in function.attributes):
                function.add_function_attribute("noinline")  # the optimiser would inline what has one caller
                if self.name in SELDOM:
                    function.add_function_attribute("cold")
        self._finalize_dynamic_globals()
        self._finalized = True

    def _gathered(self) -> list[Any]:
        """Return every library that this one needs, those within those within too, each after all that use it.

        The linker leaves out what nothing that is there already refers to, so the order matters.
        """
        done: list[Any] = []
        seen: set[int] = set()

        def visit(library: Any) -> None:
            if id(library) not in seen:
                seen.add(id(library))
                if isinstance(library, ProgramLibrary):
                    for other in library._linking_libraries:
                        visit(other)
                done.append(library)

        for library in self._linking_libraries:
            visit(library)
        return done[::-1]

    def _optimize_final_module(self) -> None:
        """Optimise the whole. Nobody calls the functions within from outside, and the optimiser may know it.

        Loops stay as they are: they run over a handful of units, gauges or buffs, and are done before a loop made
        for many would have begun. A second run would take as long again, and gain nothing that can be measured.
        """
        for function in self._final_module.functions if self.name in PROGRAMS else ():
            if not function.is_declaration and function.linkage == Linkage.linkonce_odr:
                function.linkage = "internal"
        options = binding.create_pipeline_tuning_options(speed_level=3)
        options.loop_vectorization = options.slp_vectorization = options.loop_unrolling = False
        builder = binding.create_pass_builder(self._codegen._tm, options)
        builder.getModulePassManager().run(self._final_module, builder)

    def get_pointer_to_function(self, name: str) -> int:
        """Return the address of a compiled function."""
        if self.is_part:
            self._ensure_finalized()
            return 0  # nobody calls it from outside
        return super().get_pointer_to_function(name)


@contextmanager
def _as_one_program() -> Iterator[None]:
    """Let the compiler put what it compiles meanwhile into libraries of our kind."""
    codegen = cpu_target.target_context.codegen()
    before, set_env = codegen._library_class, codegen.set_env

    def set_env_if_there(name: str, env: Any) -> None:
        if codegen._engine.is_symbol_defined(name):  # functions within have no code of their own
            set_env(name, env)

    codegen._library_class, codegen.set_env = ProgramLibrary, set_env_if_there
    try:
        yield
    finally:
        codegen._library_class, codegen.set_env = before, set_env


def compile_program(dispatcher: Any) -> None:
    """Make a dispatcher compile, with all that it calls, as one program; the cache keeps it as any other."""
    PROGRAMS.add(dispatcher.py_func.__qualname__)
    compile_alone = dispatcher.compile

    def compile_together(signature: Any) -> Any:
        collects = gc.isenabled()
        gc.disable()  # next to nothing of what the compiler makes is garbage before it ends
        try:
            with _as_one_program():
                return compile_alone(signature)
        finally:
            if collects:
                gc.enable()

    dispatcher.compile = compile_together
