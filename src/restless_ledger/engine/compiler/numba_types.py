"""Teach the compiler what a block is: a pointer to its directory, whose attributes index straight into memory.

A row of a structured member is a pointer too, whose attributes are its fields. Reads and writes are kept apart
by block, member and field (type-based alias analysis), and what is fixed during a fight is loaded as invariant, so
that a value once read is not read again after something else was written. A field that some program fixes is read
through two constants, which each program gives values of its own (see `emit.py`): whether it is fixed, and to what.

Passing two tuples of arrays would copy about 250 machine words at each call. One pointer a block makes the compile
seven times as short and the fights fifty times as fast (measured; see docs/background/engine.md). The directory is
fixed while code runs, so it is loaded as invariant.
"""

from __future__ import annotations

import operator
from functools import cache, cached_property
from typing import Any

from llvmlite import ir
from numba.core import cgutils, types
from numba.core.datamodel import models
from numba.core.extending import lower_builtin, register_model
from numba.core.imputils import lower_getattr, lower_getattr_generic, lower_setattr_generic
from numba.core.typing.templates import AbstractTemplate, AttributeTemplate, infer_getattr, infer_global, signature
from numba.np.numpy_support import from_dtype

from ..layout.fixed import FIXED
from ..layout.layout import State, Tables
from ..layout.memory import Block, copy_words
from .emit import FIXED_TO, IS_FIXED

BLOCKS: dict[str, type[Block]] = {kind.__name__: kind for kind in (Tables, State)}
FIXABLE = {(member, field) for fixed in FIXED.values() for member, fields in fixed.items() for field in fields}
WORD = ir.IntType(64)


class BlockType(types.Type):
    """The compiler's type of a block."""

    def __init__(self, block: str) -> None:
        self.block = block
        super().__init__(name=f"Block({block})")

    def member(self, name: str) -> MemberType | None:
        """Return the type of a member, or None where there is none of this name."""
        return _member_type(self.block, name)


@cache
def _member_type(block: str, name: str) -> MemberType | None:
    """Work out the type of a member once: the kernel names its members some 8,000 times."""
    if name not in BLOCKS[block].LAYOUT:
        return None
    kind, axes = BLOCKS[block].LAYOUT[name]
    return MemberType(block, name, from_dtype(kind), len(axes.split()))


class RowType(types.Type):
    """The compiler's type of one row of a structured member."""

    def __init__(self, block: str, member: str, record: types.Record) -> None:
        self.block = block
        self.member = member
        self.record = record
        super().__init__(name=f"Row({block}.{member})")


class MemberType(types.Type):
    """The compiler's type of one array of a block: the place in the directory that holds its address and lengths."""

    def __init__(self, block: str, member: str, item: types.Type, axes: int) -> None:
        self.block = block
        self.member = member
        self.item = item
        self.axes = axes
        super().__init__(name=f"Member({block}.{member})")

    @cached_property
    def read_as(self) -> types.Type:
        """What an item of it is when it is read: a row, or a plain value."""
        return RowType(self.block, self.member, self.item) if isinstance(self.item, types.Record) else self.item


register_model(BlockType)(models.OpaqueModel)
register_model(RowType)(models.OpaqueModel)
register_model(MemberType)(models.OpaqueModel)


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
            return signature(args[0].read_as, args[0], _index_type(args[0]))
        return None


@infer_global(operator.setitem)
class MemberSet(AbstractTemplate):
    def generic(self, args: tuple, _kws: dict) -> Any:
        if isinstance(args[0], MemberType):
            return signature(types.none, args[0], _index_type(args[0]), args[0].read_as)
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


def _item_address(builder: Any, member: MemberType, value: Any, index: Any, size: int) -> Any:
    """Return where an item lies. Indices count from 0 and are not checked: the front made them."""
    indices = [index] if member.axes == 1 else cgutils.unpack_tuple(builder, index, member.axes)
    offset = indices[0]
    for axis in range(1, member.axes):
        offset = builder.add(builder.mul(offset, _load_word(builder, value, 1 + axis)), indices[axis])
    data = builder.inttoptr(_load_word(builder, value, 0), cgutils.voidptr_t)
    return builder.gep(data, [builder.mul(offset, ir.Constant(WORD, size))])


def _mark(builder: Any, access: Any, block: str, member: str, field: str = "") -> Any:
    """Tell an access apart from all others than those of the same field of the same member.

    A state's `memory` is the same piece as its opened members, so what is read and written there is not told apart.
    """
    if member == "memory":
        return access
    module = builder.module
    root = module.add_metadata([ir.MetaDataString(module, "restless_ledger")])
    kind = module.add_metadata([ir.MetaDataString(module, f"{block}.{member}.{field}"), root, ir.Constant(WORD, 0)])
    access.set_metadata("tbaa", module.add_metadata([kind, kind, ir.Constant(WORD, 0)]))
    if issubclass(BLOCKS[block], Tables) and access.opname == "load":
        access.set_metadata("invariant.load", module.add_metadata([]))
    return access


def _plain(context: Any, kind: types.Type) -> Any:
    """Return how a whole number or a fraction of eight bytes lies in memory."""
    return context.get_data_type(kind)


@lower_builtin(operator.getitem, MemberType, types.Any)
def lower_get(context: Any, builder: Any, call: Any, args: tuple) -> Any:
    member = call.args[0]
    if isinstance(member.item, types.Record):
        return _item_address(builder, member, args[0], args[1], member.item.size)
    address = _item_address(builder, member, args[0], args[1], 8)
    pointer = builder.bitcast(address, _plain(context, member.item).as_pointer())
    return _mark(builder, builder.load(pointer), member.block, member.member)


@lower_builtin(operator.setitem, MemberType, types.Any, types.Any)
def lower_set(context: Any, builder: Any, call: Any, args: tuple) -> Any:
    member = call.args[0]
    if isinstance(member.item, types.Record):  # a row in the place of another
        target = _item_address(builder, member, args[0], args[1], member.item.size)
        cgutils.raw_memcpy(builder, target, args[2], ir.Constant(WORD, member.item.size), 1)
        return context.get_dummy_value()
    address = _item_address(builder, member, args[0], args[1], 8)
    pointer = builder.bitcast(address, _plain(context, member.item).as_pointer())
    _mark(builder, builder.store(args[2], pointer), member.block, member.member)
    return context.get_dummy_value()


@infer_getattr
class RowAttribute(AttributeTemplate):
    key = RowType

    def generic_resolve(self, row: RowType, name: str) -> Any:  # type: ignore[override]
        return row.record.typeof(name) if name in row.record.fields else None


def _field_pointer(context: Any, builder: Any, row: RowType, value: Any, name: str) -> Any:
    address = builder.gep(value, [ir.Constant(WORD, row.record.offset(name))])
    return builder.bitcast(address, _plain(context, row.record.typeof(name)).as_pointer())


@lower_getattr_generic(RowType)
def lower_field(context: Any, builder: Any, row: RowType, value: Any, name: str) -> Any:
    load = builder.load(_field_pointer(context, builder, row, value, name))
    _mark(builder, load, row.block, row.member, name)
    if (row.member, name) not in FIXABLE:
        return load
    is_fixed = _constant(builder, f"{IS_FIXED}{row.member}.{name}", ir.IntType(1))
    return builder.select(is_fixed, _constant(builder, f"{FIXED_TO}{row.member}.{name}", load.type), load)


def _constant(builder: Any, name: str, kind: Any) -> Any:
    """Read a constant that is not known before a program is emitted."""
    found = builder.module.globals.get(name)
    if found is None:
        found = ir.GlobalVariable(builder.module, kind, name)
        found.global_constant = True
    return builder.load(found)


@lower_setattr_generic(RowType)
def lower_set_field(context: Any, builder: Any, call: Any, args: tuple, name: str) -> None:
    row = call.args[0]
    store = builder.store(args[1], _field_pointer(context, builder, row, args[0], name))
    _mark(builder, store, row.block, row.member, name)


@infer_global(copy_words)
class CopyWords(AbstractTemplate):
    def generic(self, args: tuple, _kws: dict) -> Any:
        return signature(types.none, *args)


@lower_builtin(copy_words, MemberType, MemberType)
def lower_copy(context: Any, builder: Any, call: Any, args: tuple) -> Any:
    target, source = (builder.inttoptr(_load_word(builder, member, 0), cgutils.voidptr_t) for member in args)
    cgutils.raw_memcpy(builder, target, source, _load_word(builder, args[0], 1), 8, align=8)
    return context.get_dummy_value()
