"""JavaScript: one module without dependencies, and a program that runs the vectors."""

from __future__ import annotations

from .writer import STEP_NAMES, Function, Writer

HEAD = """// {title}: the rules of combat, made by restless-ledger. Don't change this file: change the rulebook.
//
// Every function is pure. A page is an object with a number for each name.
"use strict";

const slack = (x) => Math.min(1e-10 + 1e-14 * Math.abs(x), 0.01);
const whole_below = (x) => Math.floor(x + slack(x));
const whole_above = (x) => Math.ceil(x - slack(x));
const nearest_whole = (x) => Math.floor(x + 0.5 + slack(x));
const least = (a, b) => (a < b || a !== a ? a : b);
const greatest = (a, b) => (a > b || a !== a ? a : b);
const clamp = (x, low, high) => least(greatest(x, low), high);
const less = (a, b) => (a < b ? 1 : 0);
const at_most = (a, b) => (a <= b ? 1 : 0);
const equal = (a, b) => (a === b ? 1 : 0);
const not_equal = (a, b) => (a !== b ? 1 : 0);
const both = (a, b) => (a !== 0 && b !== 0 ? 1 : 0);
const either = (a, b) => (a !== 0 || b !== 0 ? 1 : 0);
const negated = (a) => (a === 0 ? 1 : 0);
const minus = (a) => -a;
const choose = (condition, yes, no) => (condition !== 0 ? yes : no);
const divide = (a, b) => (b === 0 ? NaN : a / b);
const floor_divide = (a, b) => whole_below(divide(a, b));
const remainder = (a, b) => {{
  const left = a - b * floor_divide(a, b);
  return (left > 0) === (b > 0) ? left : 0;
}};
const raised = (a, b) => ((a < 0 && b !== Math.floor(b)) || (a === 0 && b < 0) ? NaN : Math.pow(a, b));
const root = (a) => (a >= 0 ? Math.sqrt(a) : NaN);
const exponential = (a) => Math.exp(a);
const logarithm = (a) => (a > 0 ? Math.log(a) : NaN);
const size = (a) => Math.abs(a);

"""
RUNNER = """// Runs the test vectors: vectors.txt, or the file that is named. Exits with 1 where one is missed.
"use strict";
const fs = require("fs");
const path = require("path");
const rules = require("./rules.js");

const calls = [
{calls}];

const file = process.argv[2] || path.join(__dirname, "vectors.txt");
let done = 0, missed = 0;
for (const line of fs.readFileSync(file, "utf8").split("\\n")) {{
  if (line === "") continue;
  const [number, wanted, , ...v] = line.split(" ").map(Number);
  const got = calls[number](v);
  done++;
  if (!(Math.abs(got - wanted) <= 0.0005 || Math.abs(got - wanted) <= 1e-9 * Math.abs(wanted))) {{
    if (missed++ < 10) console.log(`function ${{number}}: ${{wanted}} is wanted, got ${{got}}`);
  }}
}}
console.log(`${{done}} vectors, ${{missed}} missed`);
process.exit(missed > 0 || done === 0 ? 1 : 0);
"""


class JavaScriptWriter(Writer):
    """Writes JavaScript."""

    language = "javascript"

    def table(self, at: str) -> str:
        """Return the value at a level, held at the ends."""
        return f"values[clamp({at} - {self.first_level}, 0, values.length - 1)]"

    def source(self) -> dict[str, str]:
        """Return the rules and the runner."""
        bodies = "\n".join(self._function(each) for each in self.functions)
        names = "".join(f"  {each.name},\n" for each in self.functions)
        rules = f"{HEAD.format(title=self.title)}{bodies}\nmodule.exports = {{\n{names}}};\n"
        calls = "".join(f"  (v) => rules.{self.call(each)},\n" for each in self.functions)
        return {"rules.js": rules, "run_vectors.js": RUNNER.format(calls=calls)}

    def _function(self, function: Function) -> str:
        given = [page for page, _ in function.pages] + list(function.numbers)
        own = self.writes_pages(function)
        lines = [f"  {page} = {{ ...{page} }};" for page, _ in function.pages if page in own]
        lines += ["  const meet = {};"] if "meet" in own else []
        if function.values:
            lines.append(f"  const values = [{', '.join(map(repr, function.values))}];")
        for step in function.steps:
            remark = f" // {step.remark}" if step.remark else ""
            target = step.name if "." in step.name else f"const {step.name}"
            lines.append(f"  {target} = {self.expression(step.value)};{remark}")
        if self.is_hit(function):
            lines.append(f"  return {{ {', '.join(STEP_NAMES)} }};")
        else:
            lines.append(f"  return {self.expression(function.gives or 0.0)};")
        return f"{self.remarks(function)}function {function.name}({', '.join(given)}) {{\n" + "\n".join(lines) + "\n}\n"
