"""Read a formula's text. Python's own parser does the reading; only the grammar below is let through."""

from __future__ import annotations

import ast
from collections.abc import Mapping
from functools import lru_cache

from .asking import ALONE, TAKES, asked
from .errors import FormulaError, closest
from .named import NONE, NamedFormula, NamedFormulas, filled
from .program import FUNCTIONS, Program, compile_tree
from .tree import Call, Choice, Name, Node, Number, Use

LONGEST_TEXT = 1000
DEEPEST_NESTING = 24
LARGEST_NUMBER = 1e15
LARGEST_EXPONENT = 100

_OPERATORS: dict[type, str] = {
    ast.Add: "+",
    ast.Sub: "-",
    ast.Mult: "*",
    ast.Div: "/",
    ast.FloorDiv: "//",
    ast.Mod: "%",
    ast.Pow: "**",
    ast.Lt: "<",
    ast.LtE: "<=",
    ast.Eq: "==",
    ast.NotEq: "!=",
    ast.And: "and",
    ast.Or: "or",
    ast.Not: "not",
    ast.USub: "negate",
}
_GRAMMAR = (
    "a formula is made of numbers, names, + - * / // % **, comparisons, and/or/not, 'A if C else B' and functions"
)
_CALLABLE = "functions: " + ", ".join([*FUNCTIONS, *TAKES])


@lru_cache(maxsize=65536)
def parse(text: str, named: NamedFormulas = NONE) -> Program:
    """Parse a formula into a `Program`. `named` formulas may stand in it by their names.

    Raises `FormulaError`, with the column, on anything outside the grammar, on more than 1000 characters,
    on nesting deeper than 24, on a number beyond 1e15 and on a constant exponent beyond 100.
    """
    if len(text) > LONGEST_TEXT:
        raise FormulaError(
            text,
            LONGEST_TEXT,
            f"the formula has {len(text)} characters; the most is {LONGEST_TEXT}",
            "split it: give a part of it a name of its own",
        )
    flat = " ".join(text.split()) if "\n" in text or "\t" in text else text
    if not flat.strip():
        raise FormulaError(text, 0, "the formula is empty", "write a number or an expression, such as 8 + 1.6 * brawn")
    return compile_tree(flat, _Reader(flat, named.formulas).read_all())


class _Reader:
    """Turns Python's tree into ours and refuses what a formula may not say."""

    def __init__(self, text: str, named: Mapping[str, NamedFormula]) -> None:
        self.text = text
        self.named = named
        self.indent = len(text) - len(text.lstrip())

    def read_all(self) -> Node:
        for sign in "#;":
            if sign in self.text:
                raise self.error_at(self.text.index(sign), f"{sign!r} has no meaning in a formula", _GRAMMAR)
        try:
            tree = ast.parse(self.text.strip(), mode="eval")
        except SyntaxError as error:
            width = len(self.text.strip())
            column = self.indent + (min(error.offset - 1, width) if error.offset else width)
            raise self.error_at(column, f"the formula can't be read: {error.msg}", _GRAMMAR) from None
        except (RecursionError, MemoryError):
            raise self.too_deep(0) from None
        except ValueError as error:  # a NUL byte, a digit string beyond all bounds
            raise self.error_at(0, f"the formula can't be read: {error}", _GRAMMAR) from None
        return self.read(tree.body, 1)

    def error_at(self, column: int, what: str, remedy: str) -> FormulaError:
        return FormulaError(self.text, column, what, remedy)

    def too_deep(self, column: int) -> FormulaError:
        return self.error_at(
            column,
            f"the formula nests deeper than {DEEPEST_NESTING} levels",
            "split it: give a part of it a name of its own",
        )

    def column(self, node: ast.expr) -> int:
        head = self.text.strip().encode()[: node.col_offset]
        return self.indent + len(head.decode(errors="replace"))

    def refuse(self, node: ast.expr, what: str, remedy: str = _GRAMMAR) -> FormulaError:
        return self.error_at(self.column(node), what, remedy)

    def read(self, node: ast.expr, depth: int) -> Node:
        if depth > DEEPEST_NESTING:
            raise self.too_deep(self.column(node))
        match node:
            case ast.Constant():
                return self.number(node)
            case ast.Name(id=name):
                if name in FUNCTIONS or (name in TAKES and name not in ALONE):
                    raise self.refuse(node, f"{name} is a function and needs its operands", f"write {name}(…)")
                return self.name(node, name)
            case ast.UnaryOp(op=ast.UAdd(), operand=operand):
                return self.read(operand, depth + 1)
            case ast.UnaryOp(op=ast.USub() | ast.Not() as op, operand=operand):
                return Call(_OPERATORS[type(op)], (self.read(operand, depth + 1),))
            case ast.BinOp(op=op) if type(op) in _OPERATORS:
                return self.arithmetic(node, depth)
            case ast.BoolOp(op=op, values=values):
                return Call(_OPERATORS[type(op)], tuple(self.read(value, depth + 1) for value in values))
            case ast.Compare():
                return self.comparison(node, depth)
            case ast.IfExp(test=test, body=yes, orelse=no):
                return Choice(*(self.read(part, depth + 1) for part in (test, yes, no)))
            case ast.Call():
                return self.call(node, depth)
        raise self.refuse(node, f"a formula may not hold {_describe(node)}")

    def number(self, node: ast.Constant) -> Number:
        if isinstance(node.value, bool):
            raise self.refuse(node, f"{node.value} is not a number", "write 1 for true, 0 for false")
        if not isinstance(node.value, int | float):
            raise self.refuse(node, f"a formula may not hold {_describe(node)}")
        if not abs(node.value) <= LARGEST_NUMBER:
            raise self.refuse(node, f"a number beyond {LARGEST_NUMBER:g}", "use a smaller number")
        return Number(float(node.value))

    def arithmetic(self, node: ast.BinOp, depth: int) -> Node:
        operator = _OPERATORS[type(node.op)]
        left, right = self.read(node.left, depth + 1), self.read(node.right, depth + 1)
        if operator in ("/", "//", "%") and right == Number(0.0):
            raise self.refuse(node.right, "a division by zero", "divide by something that is never zero")
        exponent = right.operands[0] if isinstance(right, Call) and right.function == "negate" else right
        if operator == "**" and isinstance(exponent, Number) and exponent.value > LARGEST_EXPONENT:
            raise self.refuse(node.right, f"an exponent beyond {LARGEST_EXPONENT}", "use a smaller exponent, or exp()")
        return Call(operator, (left, right))

    def comparison(self, node: ast.Compare, depth: int) -> Node:
        operands = [self.read(value, depth + 1) for value in (node.left, *node.comparators)]
        pairs = []
        for op, left, right in zip(node.ops, operands[:-1], operands[1:], strict=True):
            if isinstance(op, ast.Gt | ast.GtE):
                pairs.append(Call("<" if isinstance(op, ast.Gt) else "<=", (right, left)))
            elif type(op) in _OPERATORS:
                pairs.append(Call(_OPERATORS[type(op)], (left, right)))
            else:
                raise self.refuse(node, "a comparison that formulas don't have", "compare with < <= > >= == !=")
        return pairs[0] if len(pairs) == 1 else Call("and", tuple(pairs))

    def call(self, node: ast.Call, depth: int) -> Node:
        if not isinstance(node.func, ast.Name):
            raise self.refuse(node, "only a function's own name can be called", _CALLABLE)
        name = node.func.id
        if node.keywords or any(isinstance(operand, ast.Starred) for operand in node.args):
            raise self.refuse(node, f"{name} takes plain operands only", "write the operands one by one, without names")
        if name in TAKES:
            return self.asking(node, name)
        if name in self.named:
            return self.use(node, name, depth)
        if name not in FUNCTIONS:
            near = closest(name, [*FUNCTIONS, *TAKES, *self.named])
            raise self.refuse(node, f"there is no function {name}", f"did you mean {near}?" if near else _CALLABLE)
        least, most = FUNCTIONS[name]
        if not least <= len(node.args) <= most:
            count = str(least) if least == most else f"{least} to {most}"
            raise self.refuse(
                node,
                f"{name} takes {count} operand{'s' if most > 1 else ''}, not {len(node.args)}",
                "write clamp(x, low, high)" if name == "clamp" else f"give it {count}",
            )
        return Call(name, tuple(self.read(operand, depth + 1) for operand in node.args))

    def name(self, node: ast.expr, name: str) -> Node:
        formula = self.named.get(name)
        if formula is None:
            return Name(name, self.column(node))
        if formula.operands:
            operands = ", ".join(formula.operands)
            raise self.refuse(node, f"{name} takes operands", f"write {name}({operands})")
        if isinstance(formula.tree, Number):
            return Number(formula.tree.value, name)
        return filled(formula.tree, {}, self.column(node))

    def use(self, node: ast.Call, name: str, depth: int) -> Node:
        formula = self.named[name]
        if len(node.args) != len(formula.operands):
            count, asked_for = len(node.args), ", ".join(formula.operands)
            remedy = f"write {name}({asked_for})" if formula.operands else f"write {name}, without brackets"
            raise self.refuse(node, f"{name} takes {len(formula.operands)} operands, not {count}", remedy)
        operands = [self.read(operand, depth + 1) for operand in node.args]
        inside = filled(formula.tree, dict(zip(formula.operands, operands, strict=True)), self.column(node))
        return Use(name, tuple(operands), inside)

    def asking(self, node: ast.Call, name: str) -> Name:
        what, example = TAKES[name]
        operand = node.args[0] if len(node.args) == 1 else None
        if isinstance(operand, ast.Name) and not what.startswith("distance"):
            return Name(asked(name, operand.id), self.column(node))
        if isinstance(operand, ast.Constant) and what.startswith("distance"):
            return Name(asked(name, self.number(operand).value), self.column(node))
        one = f"one {what}" if what.startswith("distance") else f"the name of one {what}"
        raise self.refuse(node, f"{name} takes {one}", f"write {name}({example})")


def _describe(node: ast.expr) -> str:
    if isinstance(node, ast.Constant):
        return "text in quotes" if isinstance(node.value, str | bytes) else f"{node.value!r}"
    words = {
        ast.Attribute: "a name with a dot",
        ast.Subscript: "an index in brackets",
        ast.Lambda: "a function of its own",
        ast.List: "a list",
        ast.Tuple: "a comma outside a function",
        ast.Dict: "a dictionary",
        ast.Set: "a set",
        ast.NamedExpr: "an assignment",
        ast.JoinedStr: "text in quotes",
    }
    if isinstance(node, ast.ListComp | ast.SetComp | ast.DictComp | ast.GeneratorExp):
        return "a loop"
    return words.get(type(node), "this operator")
