"""Load a compiled program and call it. Nothing of the compiler is needed for a shared library."""

from __future__ import annotations

import ctypes
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from ..layout.books_layout import RESULT
from ..layout.memory import Block

LIBRARY_ENDING, OBJECT_ENDING = ".so", ".o"
Program = Callable[[Block, Block, Block, np.ndarray], float]
"""Takes tables, an opening, a state and room for results (RESULT, in one piece); carries out the state's request."""
_ENGINES: list[Any] = []
"""What holds the code of loaded objects."""


class WrongProgram(Exception):
    """A file that is no program of these rules on this machine."""


def load(path: Path, name: str, fingerprint: str) -> Program:
    """Return a program that lies in a file. Raises `WrongProgram` where the file can't be loaded, or was made from
    sources without this fingerprint: compiled code reads memory by its layout, so it must be the right one."""
    try:
        if fingerprint.encode() not in path.read_bytes():
            raise WrongProgram(f"{path} was made from other sources")
        address = (_library if path.suffix == LIBRARY_ENDING else _object)(path, f"rl_{name}")
    except (OSError, AttributeError, ImportError, RuntimeError) as error:
        raise WrongProgram(f"{path} can't be loaded: {error}") from error
    return program_at(address)


def program_at(address: int) -> Program:
    """Return the program whose code lies at an address."""
    pointer, whole = ctypes.c_void_p, ctypes.c_int64
    function = ctypes.CFUNCTYPE(ctypes.c_double, pointer, pointer, pointer, pointer, whole)(address)

    def program(tables: Block, opening: Block, state: Block, results: np.ndarray) -> float:
        count, place = len(results), 0
        if count:
            if results.dtype != RESULT or not results.flags.c_contiguous:
                raise TypeError(f"results must be {RESULT}, in one piece")
            place = results.ctypes.data
        return float(function(tables.address, opening.address, state.address, place, count))

    return program


def _library(path: Path, name: str) -> int:
    return ctypes.cast(getattr(ctypes.CDLL(str(path)), name), ctypes.c_void_p).value or 0


def _object(path: Path, name: str) -> int:
    from llvmlite import binding

    binding.initialize_native_target()
    binding.initialize_native_asmprinter()
    machine = binding.Target.from_default_triple().create_target_machine(reloc="pic", codemodel="small")
    engine = binding.create_mcjit_compiler(binding.parse_assembly(""), machine)
    engine.add_object_file(binding.ObjectFileRef.from_data(path.read_bytes()))
    engine.finalize_object()
    _ENGINES.append(engine)
    if not (address := engine.get_function_address(name)):
        raise AttributeError(f"there is no {name} in it")
    return int(address)
