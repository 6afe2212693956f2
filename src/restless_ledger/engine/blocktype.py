"""Teach the compiler what a block is: a pointer to its directory, whose attributes index straight into memory.

Two tuples of arrays would do, but a compiled call passes a tuple item by item: some 250 words for these two,
at each call. One pointer a block makes the compile seven times as short and the fights fifty times as fast
(measured; see docs/background/engine.md). The directory is fixed while code runs, so it is loaded as invariant.
"""

from __future__ import annotations

import operator
from typing import Any

from llvmlite import ir
from numba.core import cgutils, types
from numba.core.datamodel import models
from numba.core.extending import NativeValue, lower_builtin, register_model, typeof_impl, unbox
from numba.core.imputils import lower_getattr, lower_getattr_generic
from numba.core.typing.templates import (
    AbstractTemplate,
    AttributeTemplate,
    infer_getattr,
    infer_global,
    signature,
)
from numba.np.numpy_support import from_dtype

from .block import Block
from .layout import State, Tables

BLOCKS: dict[str, type[Block]] = {"Tables": Tables, "State": State}
WORD = ir.IntType(64)


class BlockType(types.Type):
    """The compiler's type of a block."""

    def __init__(self, block: str) -> None:
        self.block = block
        super().__init__(name=f"Block({block})")

    def member(self, name: str) -> MemberType | None:
        """Return the type of a member, or None where there is none of this name."""
        if name not in BLOCKS[self.block].LAYOUT:
            return None
        kind, axes = BLOCKS[self.block].LAYOUT[name]
        return MemberType(self.block, name, from_dtype(kind), len(axes.split()))


class MemberType(types.Type):
    """The compiler's type of one array of a block: the place in the directory that holds its address and lengths."""

    def __init__(self, block: str, member: str, item: types.Type, axes: int) -> None:
        self.item = item
        self.axes = axes
        super().__init__(name=f"Member({block}.{member}: {item}, {axes})")


register_model(BlockType)(models.OpaqueModel)
register_model(MemberType)(models.OpaqueModel)


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

    def generic_resolve(self, block: BlockType, name: str) -> Any:  # type: ignore[override]
        return block.member(name)


@infer_getattr
class MemberAttribute(AttributeTemplate):
    key = MemberType

    def resolve_shape(self, member: MemberType) -> types.UniTuple:
        return types.UniTuple(types.int64, member.axes)


def _index_type(member: MemberType) -> types.Type:
    return types.int64 if member.axes == 1 else types.UniTuple(types.int64, member.axes)


@infer_global(operator.getitem)
class MemberGet(AbstractTemplate):
    def generic(self, args: tuple, _kws: dict) -> Any:
        if isinstance(args[0], MemberType):
            return signature(args[0].item, args[0], _index_type(args[0]))
        return None


@infer_global(operator.setitem)
class MemberSet(AbstractTemplate):
    def generic(self, args: tuple, _kws: dict) -> Any:
        if isinstance(args[0], MemberType):
            return signature(types.none, args[0], _index_type(args[0]), args[0].item)
        return None


@lower_getattr_generic(BlockType)
def lower_member(_context: Any, builder: Any, block: BlockType, value: Any, name: str) -> Any:
    place = BLOCKS[block.block].directory_places()[name]
    return builder.gep(value, [ir.Constant(WORD, 8 * place)])


def _load_word(builder: Any, member: Any, place: int) -> Any:
    """Load the address (place 0) or a length (place 1 and on) of a member."""
    words = builder.bitcast(member, WORD.as_pointer())
    word = builder.load(builder.gep(words, [ir.Constant(WORD, place)]))
    word.set_metadata("invariant.load", builder.module.add_metadata([]))
    return word


@lower_getattr(MemberType, "shape")
def lower_shape(context: Any, builder: Any, member: MemberType, value: Any) -> Any:
    lengths = [_load_word(builder, value, 1 + axis) for axis in range(member.axes)]
    return context.make_tuple(builder, types.UniTuple(types.int64, member.axes), lengths)


def _item_pointer(context: Any, builder: Any, member: MemberType, value: Any, index: Any) -> Any:
    """Return where an item lies. Indices count from 0 and are not checked: the front made them."""
    indices = [index] if member.axes == 1 else cgutils.unpack_tuple(builder, index, member.axes)
    offset = indices[0]
    for axis in range(1, member.axes):
        offset = builder.add(builder.mul(offset, _load_word(builder, value, 1 + axis)), indices[axis])
    kind = context.get_data_type(member.item)
    data = builder.inttoptr(_load_word(builder, value, 0), kind.as_pointer())
    return builder.gep(data, [offset])


@lower_builtin(operator.getitem, MemberType, types.Any)
def lower_get(context: Any, builder: Any, call: Any, args: tuple) -> Any:
    member = call.args[0]
    return context.unpack_value(builder, member.item, _item_pointer(context, builder, member, *args))


@lower_builtin(operator.setitem, MemberType, types.Any, types.Any)
def lower_set(context: Any, builder: Any, call: Any, args: tuple) -> Any:
    member = call.args[0]
    pointer = _item_pointer(context, builder, member, *args[:2])
    context.pack_value(builder, member.item, args[2], pointer)
    return context.get_dummy_value()
