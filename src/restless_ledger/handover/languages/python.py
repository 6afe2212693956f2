"""Python: one module without dependencies, and a program that runs the vectors."""

from __future__ import annotations

from .writer import STEP_NAMES, Function, Writer

HEAD = """# {title}: the rules of combat, made by restless-ledger. Don't change this file: change the rulebook.
#
# Every function is pure. A page is a dictionary with a number for each name.
import math

nan = float("nan")


def least(a, b):
    return a if a < b or a != a else b


def greatest(a, b):
    return a if a > b or a != a else b


def slack(x):
    return min(1e-10 + 1e-14 * abs(x), 0.01)


def whole_below(x):
    return float(math.floor(x + slack(x))) if math.isfinite(x) else x


def whole_above(x):
    return float(math.ceil(x - slack(x))) if math.isfinite(x) else x


def nearest_whole(x):
    return float(math.floor(x + 0.5 + slack(x))) if math.isfinite(x) else x


def clamp(x, low, high):
    return least(greatest(x, low), high)


def less(a, b):
    return 1.0 if a < b else 0.0


def at_most(a, b):
    return 1.0 if a <= b else 0.0


def equal(a, b):
    return 1.0 if a == b else 0.0


def not_equal(a, b):
    return 1.0 if a != b else 0.0


def both(a, b):
    return 1.0 if a != 0.0 and b != 0.0 else 0.0


def either(a, b):
    return 1.0 if a != 0.0 or b != 0.0 else 0.0


def negated(a):
    return 1.0 if a == 0.0 else 0.0


def minus(a):
    return -a


def choose(condition, yes, no):
    return yes if condition != 0.0 else no


def divide(a, b):
    return nan if b == 0.0 else a / b


def floor_divide(a, b):
    return whole_below(divide(a, b))


def remainder(a, b):
    left = a - b * floor_divide(a, b)
    return left if (left > 0.0) == (b > 0.0) else 0.0


def raised(a, b):
    if (a < 0.0 and b != math.floor(b)) or (a == 0.0 and b < 0.0):
        return nan
    try:
        return math.pow(a, b)
    except OverflowError:
        return math.inf


def root(a):
    return math.sqrt(a) if a >= 0.0 else nan


def exponential(a):
    try:
        return math.exp(a)
    except OverflowError:
        return math.inf


def logarithm(a):
    return math.log(a) if a > 0.0 else nan


def size(a):
    return abs(a)


"""
RUNNER = """# Runs the test vectors: vectors.txt, or the file that is named. Exits with 1 where one is missed.
import os
import sys

sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
import rules  # noqa: E402

CALLS = [
{calls}]


def main():
    file = sys.argv[1] if len(sys.argv) > 1 else os.path.join(os.path.dirname(os.path.abspath(__file__)), "vectors.txt")
    done = missed = 0
    with open(file) as lines:
        for line in lines:
            number, wanted, _, *v = map(float, line.split())
            got = CALLS[int(number)](v)
            done += 1
            if not (abs(got - wanted) <= 0.0005 or abs(got - wanted) <= 1e-9 * abs(wanted)):
                if missed < 10:
                    print(f"function {{int(number)}}: {{wanted!r}} is wanted, got {{got!r}}")
                missed += 1
    print(f"{{done}} vectors, {{missed}} missed")
    return 1 if missed or not done else 0


if __name__ == "__main__":
    sys.exit(main())
"""


class PythonWriter(Writer):
    """Writes Python."""

    language = "python"
    comment = "#"
    thousandths = '["thousandths"]'

    def field(self, page: str, name: str) -> str:
        """Return a field of a page as source."""
        return f'{page}["{name}"]'

    def entry(self, name: str, at: int) -> str:
        """Return one entry of a page as a literal, from an input."""
        return f'"{name}": v[{at}]'

    def table(self, at: str) -> str:
        """Return the value at a level, held at the ends."""
        return f"values[int(clamp({at} - {self.first_level}, 0, len(values) - 1))]"

    def source(self) -> dict[str, str]:
        """Return the rules and the runner."""
        bodies = "\n\n".join(self._function(each) for each in self.functions)
        calls = "".join(f"    lambda v: rules.{self.call(each)},\n" for each in self.functions)
        return {"rules.py": f"{HEAD.format(title=self.title)}{bodies}", "run_vectors.py": RUNNER.format(calls=calls)}

    def _function(self, function: Function) -> str:
        given = [page for page, _ in function.pages] + list(function.numbers)
        own = self.writes_pages(function)
        lines = [f"    {page} = dict({page})" for page, _ in function.pages if page in own]
        lines += ["    meet = {}"] if "meet" in own else []
        if function.values:
            lines.append(f"    values = [{', '.join(map(repr, function.values))}]")
        for step in function.steps:
            remark = f"  # {step.remark}" if step.remark else ""
            lines.append(f"    {self.variable(step.name)} = {self.expression(step.value)}{remark}")
        if self.is_hit(function):
            lines.append(f"    return {{{', '.join(f'{name!r}: {name}' for name in STEP_NAMES)}}}")
        else:
            lines.append(f"    return {self.expression(function.gives or 0.0)}")
        return f"{self.remarks(function)}def {function.name}({', '.join(given)}):\n" + "\n".join(lines) + "\n"
