"""Lower the kernel's functions and link them into one piece of code, from which `emit.py` makes programs.

The compiler's own way is to make each function ready to run by itself: it lowers whatever the function calls first,
links it in, optimises the whole, and makes machine code of it, again for every function on the way up. For some five
hundred functions of which only one is ever called from outside, nearly all of that is thrown away. Here the kernel's
annotations say what a function takes and gives back, so each one is lowered by itself, in any order and in any process
(none calls itself), and stays as it is lowered. Only the whole is optimised and made into machine code (see
docs/background/engine.md).
"""

from __future__ import annotations

import gc
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from types import NoneType
from typing import Any, NamedTuple, get_args, get_origin, get_type_hints

import numpy as np
from llvmlite import binding
from numba import njit, typeof
from numba.core import types
from numba.core.codegen import JITCodeLibrary
from numba.core.compiler import CompilerBase, DefaultPassBuilder, Flags
from numba.core.compiler_machinery import PassManager
from numba.core.errors import TypingError
from numba.core.funcdesc import FunctionDescriptor
from numba.core.registry import cpu_target
from numba.core.targetconfig import ConfigStack
from numba.core.typed_passes import DumpParforDiagnostics, InlineOverloads, NoPythonSupportedFeatureValidation
from numba.core.typing import signature
from numba.core.untyped_passes import (
    FindLiterallyCalls,
    InlineClosureLikes,
    InlineInlinables,
    LiteralPropagationSubPipelinePass,
    LiteralUnroll,
    MakeFunctionToJitFunction,
    RewriteDynamicRaises,
    WithLifting,
)

from ..layout.books_layout import RESULT
from ..layout.layout import State, Tables
from .emit import CORE
from .numba_types import BlockType

TYPES: dict[Any, types.Type] = {
    int: types.int64,
    np.int64: types.int64,
    np.uint64: types.uint64,
    float: types.float64,
    bool: types.boolean,
    bool | np.bool_: types.boolean,
    NoneType: types.none,
    Tables: BlockType("Tables"),
    State: BlockType("State"),
    np.ndarray: typeof(np.recarray(0, RESULT)),
}
"""What the kernel's annotations mean in a program. An array is one of results."""


class Declared(NamedTuple):
    """A function of the kernel whose annotations say how it is called."""

    dispatcher: Any
    symbol: str
    takes: tuple[types.Type, ...]
    gives: types.Type
    seldom: bool

    @property
    def size(self) -> int:
        """How long its source is, in bytes of Python's own code. Lowering takes time in proportion."""
        return len(self.dispatcher.py_func.__code__.co_code)


DECLARED: list[Declared] = []
"""The functions of the kernel, as its modules declare them."""


class LoweredLibrary(JITCodeLibrary):
    """The code of one function, which is kept as it is lowered: it is neither optimised nor run by itself. Optimising
    the whole alone takes a sixth less time, and gives code that is a fifth smaller and no slower (measured)."""

    def finalize(self) -> None:
        """Link in what it calls beside declared functions: what the compiler brings along."""
        for library in dict.fromkeys(self._linking_libraries):
            self._final_module.link_in(library._get_module_for_linking(), preserve=True)
        self._finalized = True

    def lowered(self) -> Any:
        """Return the code."""
        self._ensure_finalized()
        return self._final_module

    def _optimize_functions(self, ll_module: Any) -> None:
        ll_module.data_layout = self._codegen._data_layout


NEEDLESS = (
    DumpParforDiagnostics,
    FindLiterallyCalls,
    InlineClosureLikes,
    InlineInlinables,
    InlineOverloads,
    LiteralPropagationSubPipelinePass,
    LiteralUnroll,
    MakeFunctionToJitFunction,
    NoPythonSupportedFeatureValidation,
    RewriteDynamicRaises,
    WithLifting,
)
"""Passes for what the kernel has not: closures, `with` blocks, loops over several types, errors that are raised, and
functions that ask to be inlined before they are typed."""


class LoweringPipeline(CompilerBase):
    """The compiler's own passes up to lowered code, without those that are `NEEDLESS`: these take nearly a tenth of the
    time (measured), and change nothing."""

    def define_pipelines(self) -> list[Any]:
        """Return the passes."""
        passes = DefaultPassBuilder.define_nopython_pipeline(self.state)
        kept = [each for each in passes.passes if each[0] not in NEEDLESS]
        plain = PassManager(passes.pipeline_name)
        plain.passes = kept
        plain.finalize()
        return [plain]


def dispatcher_of(function: Any, inlined: bool) -> Any:
    """Return a function as one that functions of the kernel can call. Whatever it is called with is what it takes."""
    options: dict[str, Any] = {"nogil": True, "error_model": "numpy", "_nrt": False, "no_rewrites": True}
    options |= {"no_cpython_wrapper": True, "no_cfunc_wrapper": True}
    return njit(**options, forceinline=inlined)(function)


def declare(function: Any, inlined: bool = False, seldom: bool = False, outermost: bool = False) -> Any:
    """Declare a function of the kernel to those that call it: under which symbol, with what and for what. Its code is
    lowered later, by whoever has it in his share.

    What it is called with and what it gives back must be what its annotations say, since nobody would convert it where
    the same source is interpreted; only a whole number may stand for a fraction. Else the program is not made."""
    dispatcher = dispatcher_of(function, inlined)
    hints = get_type_hints(function)
    gives = _type_of(hints.pop("return"))
    takes = tuple(_type_of(hint) for hint in hints.values())
    symbol = CORE if outermost else f"{function.__module__}.{function.__qualname__}"
    described = FunctionDescriptor(
        native=True,
        modname=function.__module__,
        qualname=function.__qualname__,
        unique_name=symbol,
        doc="",
        typemap=None,
        restype=gives,
        calltypes=None,
        args=list(hints),
        kws=(),
        mangler=lambda *_, **__: symbol,
        argtypes=takes,
        inline=inlined,
    )
    entry = object()
    cpu_target.target_context.insert_user_function(entry, described, [])
    dispatcher.overloads[takes] = _Known(entry, signature(gives, *takes))
    dispatcher.disable_compile()
    dispatcher.get_call_template = _checked(dispatcher.get_call_template, symbol, takes)
    DECLARED.append(Declared(dispatcher, symbol, takes, gives, seldom))
    return dispatcher


class _Known(NamedTuple):
    """What the compiler asks about a function that it takes for compiled."""

    entry_point: object
    signature: Any
    objectmode: bool = False


def _checked(resolve: Any, symbol: str, takes: tuple[types.Type, ...]) -> Any:
    """Let what resolves a call pass only what a function takes, and whole numbers for fractions."""

    def checked(args: Any, kws: Any) -> Any:
        found = resolve(args, kws)
        for got, wanted in zip(map(types.unliteral, found[2]), takes, strict=True):
            if got != wanted and (got, wanted) != (types.int64, types.float64):
                raise TypingError(f"{symbol} takes {wanted} and is called with {got}")
        return found

    return checked


def _type_of(hint: Any) -> types.Type:
    """Return what an annotation means in a program."""
    if get_origin(hint) is tuple:
        return types.BaseTuple.from_types([_type_of(each) for each in get_args(hint)])
    if hint not in TYPES:
        raise TypeError(f"no program knows the annotation {hint}; those known are in TYPES of {__name__}")
    return TYPES[hint]


def lowered(numbers: Iterable[int]) -> bytes:
    """Lower a share of the declared functions, and return them as one piece of code (bitcode)."""
    with _no_garbage(), _calls_resolved_once():
        return _linked((_lowered(DECLARED[number]) for number in numbers), {one.symbol for one in DECLARED})


def _lowered(one: Declared) -> Any:
    target = one.dispatcher.targetdescr
    flags: Any = Flags()
    target.options.parse_as_flags(flags, one.dispatcher.targetoptions)
    flags.no_compile = True
    code = LoweredLibrary(target.target_context.codegen(), one.symbol)
    pipeline = LoweringPipeline(target.typing_context, target.target_context, code, one.takes, None, flags, {})
    compiled = pipeline.compile_extra(one.dispatcher.py_func)
    if compiled.signature.return_type != one.gives:
        raise TypeError(f"{one.symbol} gives {compiled.signature.return_type}; its annotation says {one.gives}")
    module = code.lowered()
    function = module.get_function(compiled.fndesc.llvm_func_name)
    function.name = one.symbol
    if one.seldom:
        function.add_function_attribute("cold")
    return module


def linked(pieces: Iterable[bytes]) -> bytes:
    """Link pieces into one that only the outermost function enters, and return it (bitcode).

    Raises: RuntimeError: a function of the kernel is called and is in none of them.
    """
    code = _linked(map(binding.parse_bitcode, pieces), {CORE})
    symbols = {one.symbol for one in DECLARED}
    for function in binding.parse_bitcode(code).functions:
        if function.is_declaration and function.name in symbols:
            raise RuntimeError(f"{function.name} was not lowered")
    return code


def _linked(modules: Iterable[Any], seen: set[str]) -> bytes:
    """Link modules into one of whose functions only those of some names are seen from outside."""
    whole = binding.parse_assembly("")
    for module in modules:
        whole.link_in(module)
    for function in whole.functions:
        if not function.is_declaration and function.name not in seen:
            function.linkage = "internal"
    return bytes(whole.as_bitcode())


@contextmanager
def _calls_resolved_once() -> Iterator[None]:
    """Ask the compiler only once what an operation, or a function of Python such as `max`, gives for operands of some
    types. It looks through all its templates each time, NumPy's too. Lowering takes an eighth less so (measured).

    The code of such a function depends on the options of what calls it: those of the same options share it, and which
    one was asked for last is noted as it would be. What such code calls itself is asked for each time."""
    context: Any = cpu_target.typing_context
    resolve, known = context.resolve_function_type, dict[tuple[Any, ...], tuple[Any, Any]]()

    def resolved(function: Any, args: Any, kws: Any) -> Any:
        of_python = type(function) is types.Function
        if kws or (isinstance(function, types.Type) and not of_python) or len(context.callstack) > 1:
            return resolve(function, args, kws)
        flags: Any = ConfigStack.top_or_none()
        asked = flags.forceinline, function, args
        if asked not in known:
            gives = resolve(function, args, kws)
            known[asked] = gives, function.get_impl_key(gives) if of_python and gives else None
        gives, code = known[asked]
        if code is not None:
            function._impl_keys[gives.args] = code
        return gives

    context.resolve_function_type = resolved
    try:
        yield
    finally:
        del context.resolve_function_type


@contextmanager
def _no_garbage() -> Iterator[None]:
    """Look for no garbage: next to nothing of what the compiler makes is any before it ends."""
    collects = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if collects:
            gc.enable()
