"""C#: one class without dependencies, and a program that runs the vectors."""

from __future__ import annotations

from ..expressions import identifier
from .writer import STEP_NAMES, Function, Writer

HEAD = """// {title}: the rules of combat, made by restless-ledger. Don't change this file: change the rulebook.
//
// Every function is pure.
using System;

/// <summary>All that a formula may read of a character, or where two meet.</summary>
public struct Page
{{
{fields}}}

/// <summary>A hit, step by step. Thousandths are -1 where it misses.</summary>
public struct Hit
{{
{steps}}}

public static class Rules
{{
    static double Slack(double x) {{ return Math.Min(1e-10 + 1e-14 * Math.Abs(x), 0.01); }}
    static double whole_below(double x) {{ return Math.Floor(x + Slack(x)); }}
    static double whole_above(double x) {{ return Math.Ceiling(x - Slack(x)); }}
    static double nearest_whole(double x) {{ return Math.Floor(x + 0.5 + Slack(x)); }}
    static double least(double a, double b) {{ return a < b || double.IsNaN(a) ? a : b; }}
    static double greatest(double a, double b) {{ return a > b || double.IsNaN(a) ? a : b; }}
    static double clamp(double x, double low, double high) {{ return least(greatest(x, low), high); }}
    static double less(double a, double b) {{ return a < b ? 1.0 : 0.0; }}
    static double at_most(double a, double b) {{ return a <= b ? 1.0 : 0.0; }}
    static double equal(double a, double b) {{ return a == b ? 1.0 : 0.0; }}
    static double not_equal(double a, double b) {{ return a != b ? 1.0 : 0.0; }}
    static double both(double a, double b) {{ return a != 0.0 && b != 0.0 ? 1.0 : 0.0; }}
    static double either(double a, double b) {{ return a != 0.0 || b != 0.0 ? 1.0 : 0.0; }}
    static double negated(double a) {{ return a == 0.0 ? 1.0 : 0.0; }}
    static double minus(double a) {{ return -a; }}
    static double choose(double c, double yes, double no) {{ return c != 0.0 ? yes : no; }}
    static double divide(double a, double b) {{ return b == 0.0 ? double.NaN : a / b; }}
    static double floor_divide(double a, double b) {{ return whole_below(divide(a, b)); }}
    static double remainder(double a, double b)
    {{
        double left = a - b * floor_divide(a, b);
        return (left > 0.0) == (b > 0.0) ? left : 0.0;
    }}
    static double raised(double a, double b)
    {{
        if ((a < 0.0 && b != Math.Floor(b)) || (a == 0.0 && b < 0.0)) return double.NaN;
        return Math.Pow(a, b);
    }}
    static double root(double a) {{ return a >= 0.0 ? Math.Sqrt(a) : double.NaN; }}
    static double exponential(double a) {{ return Math.Exp(a); }}
    static double logarithm(double a) {{ return a > 0.0 ? Math.Log(a) : double.NaN; }}
    static double size(double a) {{ return Math.Abs(a); }}

"""
RUNNER = """// Runs the test vectors: vectors.txt, or the file that is named. Exits with 1 where one is missed.
using System;
using System.Globalization;
using System.IO;

public static class RunVectors
{{
    static double Run(int number, double[] v)
    {{
        Page page = new Page(), dealer = new Page(), taker = new Page();
        switch (number)
        {{
{cases}            default: return double.NaN;
        }}
    }}

    public static int Main(string[] words)
    {{
        long done = 0, missed = 0;
        foreach (string line in File.ReadLines(words.Length > 0 ? words[0] : "vectors.txt"))
        {{
            string[] parts = line.Split(' ');
            if (parts.Length < 3) continue;
            double[] all = Array.ConvertAll(parts, part => double.Parse(part, CultureInfo.InvariantCulture));
            double[] v = new double[all.Length - 3];
            Array.Copy(all, 3, v, 0, v.Length);
            double wanted = all[1], got = Run((int)all[0], v), off = Math.Abs(got - wanted);
            done++;
            if (!(off <= 0.0005 || off <= 1e-9 * Math.Abs(wanted)))
            {{
                if (missed < 10) Console.WriteLine("function " + parts[0] + ": " + parts[1] + " is wanted, got " + got);
                missed++;
            }}
        }}
        Console.WriteLine(done + " vectors, " + missed + " missed");
        return missed > 0 || done == 0 ? 1 : 0;
    }}
}}
"""


class CSharpWriter(Writer):
    """Writes C#."""

    language = "csharp"

    def table(self, at: str) -> str:
        """Return the value at a level, held at the ends."""
        return f"values[(int)clamp({at} - {self.first_level}, 0, values.Length - 1)]"

    def source(self) -> dict[str, str]:
        """Return the rules and the runner."""
        fields = "".join(f"    public double {name};\n" for name in self.page)
        steps = "".join(f"    public double {name};\n" for name in STEP_NAMES)
        bodies = "\n".join(self._function(each) for each in self.functions)
        cases = "".join(self._case(number, each) for number, each in enumerate(self.functions))
        rules = f"{HEAD.format(title=self.title, fields=fields, steps=steps)}{bodies}}}\n"
        return {"Rules.cs": rules, "RunVectors.cs": RUNNER.format(cases=cases)}

    def _function(self, function: Function) -> str:
        given = [f"Page {page}" for page, _ in function.pages] + [f"double {name}" for name in function.numbers]
        kind, lines = "Hit" if self.is_hit(function) else "double", list[str]()
        lines += ["        Page meet = new Page();"] if "meet" in self.writes_pages(function) else []
        if function.values:
            lines.append(f"        double[] values = {{ {', '.join(map(repr, function.values))} }};")
        for step in function.steps:
            remark = f" // {step.remark}" if step.remark else ""
            target = step.name if "." in step.name else f"double {step.name}"
            lines.append(f"        {target} = {self.expression(step.value)};{remark}")
        if self.is_hit(function):
            lines.append(f"        return new Hit {{ {', '.join(f'{name} = {name}' for name in STEP_NAMES)} }};")
        else:
            lines.append(f"        return {self.expression(function.gives or 0.0)};")
        head = f"{self.remarks(function, '    ')}    public static {kind} {function.name}({', '.join(given)})\n    {{\n"
        return head + "\n".join(lines) + "\n    }\n"

    def _case(self, number: int, function: Function) -> str:
        sets, at = list[str](), 0
        for page, names in function.pages:
            sets += [f"{page}.{identifier(name)} = v[{at + place}];" for place, name in enumerate(names)]
            at += len(names)
        given = [page for page, _ in function.pages] + [f"v[{at + place}]" for place in range(len(function.numbers))]
        got = f"Rules.{function.name}({', '.join(given)}){'.thousandths' if self.is_hit(function) else ''}"
        return f"            case {number}: {' '.join([*sets, f'return {got};'])}\n"
