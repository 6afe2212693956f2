"""Lua: one module without dependencies, and a program that runs the vectors."""

from __future__ import annotations

from .writer import STEP_NAMES, Function, Writer

HEAD = """-- {title}: the rules of combat, made by restless-ledger. Don't change this file: change the rulebook.
--
-- Every function is pure. A page is a table with a number for each name.
local nan = 0 / 0

local function least(a, b) if a < b or a ~= a then return a end return b end
local function greatest(a, b) if a > b or a ~= a then return a end return b end
local function slack(x) return least(1e-10 + 1e-14 * math.abs(x), 0.01) end
local function floor(x) if x ~= x or x == math.huge or x == -math.huge then return x end return x - x % 1.0 end
local function whole_below(x) return floor(x + slack(x)) end
local function whole_above(x) return -floor(-(x - slack(x))) end
local function nearest_whole(x) return floor(x + 0.5 + slack(x)) end
local function clamp(x, low, high) return least(greatest(x, low), high) end
local function truth(holds) if holds then return 1.0 end return 0.0 end
local function less(a, b) return truth(a < b) end
local function at_most(a, b) return truth(a <= b) end
local function equal(a, b) return truth(a == b) end
local function not_equal(a, b) return truth(a ~= b) end
local function both(a, b) return truth(a ~= 0 and b ~= 0) end
local function either(a, b) return truth(a ~= 0 or b ~= 0) end
local function negated(a) return truth(a == 0) end
local function minus(a) return -a end
local function choose(condition, yes, no) if condition ~= 0 then return yes end return no end
local function divide(a, b) if b == 0 then return nan end return a / b end
local function floor_divide(a, b) return whole_below(divide(a, b)) end
local function remainder(a, b)
  local left = a - b * floor_divide(a, b)
  if (left > 0) == (b > 0) then return left end
  return 0.0
end
local function raised(a, b)
  if (a < 0 and b ~= floor(b)) or (a == 0 and b < 0) then return nan end
  return a ^ b
end
local function root(a) if a >= 0 then return math.sqrt(a) end return nan end
local function exponential(a) return math.exp(a) end
local function logarithm(a) if a > 0 then return math.log(a) end return nan end
local function size(a) return math.abs(a) end

local rules = {{}}

"""
RUNNER = """-- Runs the test vectors: vectors.txt, or the file that is named. Exits with 1 where one is missed.
local folder = arg[0]:match("^(.*)[/\\\\]") or "."
package.path = folder .. "/?.lua;" .. package.path
local rules = require("rules")

local calls = {{}}
{calls}
local done, missed = 0, 0
for line in io.lines(arg[1] or (folder .. "/vectors.txt")) do
  local v = {{}}
  for word in line:gmatch("%S+") do v[#v + 1] = tonumber(word) + 0.0 end
  if #v > 0 then
    local number, wanted = math.floor(v[1]), v[2]
    local got = calls[number](table.move(v, 4, #v, 1, {{}}))
    done = done + 1
    if not (math.abs(got - wanted) <= 0.0005 or math.abs(got - wanted) <= 1e-9 * math.abs(wanted)) then
      if missed < 10 then print(string.format("function %d: %.17g is wanted, got %.17g", number, wanted, got)) end
      missed = missed + 1
    end
  end
end
print(string.format("%d vectors, %d missed", done, missed))
os.exit(missed == 0 and done > 0)
"""


class LuaWriter(Writer):
    """Writes Lua."""

    language = "lua"
    comment = "--"
    first_input = 1

    def entry(self, name: str, at: int) -> str:
        """Return one entry of a page as a literal, from an input."""
        return f"{name} = v[{at}]"

    def table(self, at: str) -> str:
        """Return the value at a level, held at the ends."""
        return f"values[math.floor(clamp({at} - {self.first_level}, 0, #values - 1)) + 1]"

    def source(self) -> dict[str, str]:
        """Return the rules and the runner."""
        bodies = "\n".join(self._function(each) for each in self.functions)
        calls = "".join(
            f"calls[{number}] = function(v) return rules.{self.call(each)} end\n"
            for number, each in enumerate(self.functions)
        )
        rules = f"{HEAD.format(title=self.title)}{bodies}\nreturn rules\n"
        return {"rules.lua": rules, "run_vectors.lua": RUNNER.format(calls=calls)}

    def _function(self, function: Function) -> str:
        given = [page for page, _ in function.pages] + list(function.numbers)
        own, lines = self.writes_pages(function), list[str]()
        for page, _ in function.pages:
            if page in own:
                lines += [f"  local given = {page}", f"  {page} = setmetatable({{}}, {{ __index = given }})"]
        lines += ["  local meet = {}"] if "meet" in own else []
        if function.values:
            lines.append(f"  local values = {{ {', '.join(map(repr, function.values))} }}")
        for step in function.steps:
            remark = f" -- {step.remark}" if step.remark else ""
            target = step.name if "." in step.name else f"local {step.name}"
            lines.append(f"  {target} = {self.expression(step.value)}{remark}")
        if self.is_hit(function):
            lines.append(f"  return {{ {', '.join(f'{name} = {name}' for name in STEP_NAMES)} }}")
        else:
            lines.append(f"  return {self.expression(function.gives or 0.0)}")
        head = f"{self.remarks(function)}function rules.{function.name}({', '.join(given)})\n"
        return head + "\n".join(lines) + "\nend\n"
