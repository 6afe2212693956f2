"""Compile the kernel as one piece of code, from which `emit.py` makes programs.

The compiler's own way is to make each function ready to run by itself: it links all that the function calls into it,
optimises the whole, and makes machine code of it, again for every function on the way up. For some five hundred
functions of which only one is ever called from outside, nearly all of that is thrown away. Here the functions within
stay as they are lowered, and only the outermost one is linked, optimised and made into machine code: measured, a
quarter of the time (see docs/background/engine.md).
"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import numpy as np
from numba import typeof
from numba.core.codegen import JITCodeLibrary
from numba.core.compiler import CompilerBase, DefaultPassBuilder
from numba.core.compiler_machinery import PassManager
from numba.core.registry import cpu_target
from numba.core.untyped_passes import InlineClosureLikes, WithLifting

from ..layout.books_layout import RESULT
from .emit import apart
from .numba_types import BlockType

PARTS: set[str] = set()
"""The names of the functions within."""
SELDOM: set[str] = set()
"""The names of those that most fights never call."""
PROGRAMS: set[str] = set()
"""The names of the outermost functions."""


class Linked(BaseException):
    """A program whose parts are all linked: from here on the compiler's own way is left. No error, and so passed over
    by everything that catches errors."""

    def __init__(self, module: Any) -> None:
        super().__init__()
        self.module = module


class PlainPipeline(CompilerBase):
    """The compiler's own passes, without those for what the kernel has not: closures and `with` blocks. Measured, they
    take a twentieth of the time and change nothing."""

    def define_pipelines(self) -> list[Any]:
        """Return the passes."""
        passes = DefaultPassBuilder.define_nopython_pipeline(self.state)
        kept = [each for each in passes.passes if each[0] not in (WithLifting, InlineClosureLikes)]
        plain = PassManager(passes.pipeline_name)
        plain.passes = kept
        plain.finalize()
        return [plain]


class ProgramLibrary(JITCodeLibrary):
    """The code of one function: of one within it is kept as lowered, the outermost gathers all the others."""

    @property
    def is_part(self) -> bool:
        """Whether it is a part of a program, linked into it and never called by itself."""
        return self.name in PARTS

    def finalize(self) -> None:
        """Link a program; a part stays as it is."""
        if not self.is_part:
            if self.name in PROGRAMS:
                self._linking_libraries = self._gathered()
            super().finalize()
            return
        for library in self._linking_libraries:
            self._reload_init.update(library._reload_init)
        if self.name in SELDOM:
            for function in apart(self._final_module):
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

    def _optimize_functions(self, ll_module: Any) -> None:
        """Leave a part as it is, since the whole is optimised: a sixth less time, and code that is a fifth smaller and
        no slower (measured)."""
        if self.is_part:
            ll_module.data_layout = self._codegen._data_layout
        else:
            super()._optimize_functions(ll_module)

    def _optimize_final_module(self) -> None:
        if self.name in PROGRAMS:
            raise Linked(self._final_module)
        super()._optimize_final_module()

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
    before, set_env, collects = codegen._library_class, codegen.set_env, gc.isenabled()

    def set_env_if_there(name: str, env: Any) -> None:
        if codegen._engine.is_symbol_defined(name):  # functions within have no code of their own
            set_env(name, env)

    codegen._library_class, codegen.set_env = ProgramLibrary, set_env_if_there
    gc.disable()  # next to nothing of what the compiler makes is garbage before it ends
    try:
        yield
    finally:
        codegen._library_class, codegen.set_env = before, set_env
        if collects:
            gc.enable()


def linked_code(dispatcher: Any) -> bytes:
    """Return an outermost function and all that it calls as one piece of bitcode, from which programs are emitted."""
    signature = (BlockType("Tables"), BlockType("State"), BlockType("State"), typeof(np.recarray(0, RESULT)))
    try:
        with _as_one_program():
            dispatcher.compile(signature)
    except Linked as linked:
        return bytes(linked.module.as_bitcode())
    raise RuntimeError(f"{dispatcher.py_func.__name__} is no program")
