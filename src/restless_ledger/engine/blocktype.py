"""Teach the compiler what a block is: a pointer to its directory, whose attributes are arrays.

Two tuples of arrays would do, but a compiled call passes a tuple item by item: some 250 words for these two,
at each call. One pointer a block makes the compile three times as short and the fights ten times as fast
(measured; see docs/background/engine.md).
"""

from __future__ import annotations

from typing import Any

from llvmlite import ir
from numba.core import cgutils, types
from numba.core.datamodel import models
from numba.core.extending import NativeValue, register_model, typeof_impl, unbox
from numba.core.imputils import lower_getattr_generic
from numba.core.typing.templates import AttributeTemplate, infer_getattr
from numba.np.arrayobj import make_array, populate_array
from numba.np.numpy_support import from_dtype

from .block import Block
from .layout import State, Tables

BLOCKS: dict[str, type[Block]] = {"Tables": Tables, "State": State}
WORD = 8


class BlockType(types.Type):
    """The compiler's type of a block."""

    def __init__(self, block: str) -> None:
        self.block = block
        super().__init__(name=f"Block({block})")

    def member(self, name: str) -> types.Array | None:
        """Return the array type of a member."""
        if name not in BLOCKS[self.block].LAYOUT:
            return None
        kind, axes = BLOCKS[self.block].LAYOUT[name]
        return types.Array(from_dtype(kind), len(axes.split()), "C")


register_model(BlockType)(models.OpaqueModel)


@typeof_impl.register(Block)
def type_of_block(value: Block, _context: Any) -> BlockType:
    return BlockType(type(value).__name__)


@unbox(BlockType)
def unbox_block(_type: BlockType, value: Any, context: Any) -> NativeValue:
    number = context.pyapi.object_getattr_string(value, "address")
    address = context.pyapi.long_as_longlong(number)
    context.pyapi.decref(number)
    pointer = context.builder.inttoptr(address, cgutils.voidptr_t)
    return NativeValue(pointer, is_error=cgutils.is_not_null(context.builder, context.pyapi.err_occurred()))


@infer_getattr
class BlockAttribute(AttributeTemplate):
    key = BlockType

    def generic_resolve(self, block: BlockType, name: str) -> types.Array | None:
        return block.member(name)


@lower_getattr_generic(BlockType)
def load_member(context: Any, builder: Any, block: BlockType, value: Any, name: str) -> Any:
    """Build a member's array from the address and the lengths in the directory; it owns nothing."""
    kind = block.member(name)
    place = BLOCKS[block.block].directory_places()[name]
    word = ir.IntType(64)
    directory = builder.bitcast(value, word.as_pointer())

    def load(offset: int) -> Any:
        return builder.load(builder.gep(directory, [ir.Constant(ir.IntType(32), place + offset)]))

    array = make_array(kind)(context, builder)
    lengths = [load(1 + axis) for axis in range(kind.ndim)]
    itemsize = ir.Constant(word, context.get_abi_sizeof(context.get_data_type(kind.dtype)))
    strides = [itemsize]
    for length in reversed(lengths[1:]):
        strides.insert(0, builder.mul(strides[0], length))
    data = builder.inttoptr(load(0), context.get_data_type(kind.dtype).as_pointer())
    populate_array(array, data=data, shape=lengths, strides=strides, itemsize=itemsize, meminfo=None)
    return array._getvalue()
