"""C: one source file without dependencies, and a program that runs the vectors."""

from __future__ import annotations

from .writer import STEP_NAMES, Function, Writer

HEAD = """/* {title}: the rules of combat, made by restless-ledger. Don't change this file: change the rulebook.

   Every function is pure. Compile with -ffp-contract=off, so that the compiler rounds as it is written. */
#include <math.h>
#include "rules.h"

double rl_slack(double x) {{ return fmin(1e-10 + 1e-14 * fabs(x), 0.01); }}
double rl_whole_below(double x) {{ return floor(x + rl_slack(x)); }}
double rl_whole_above(double x) {{ return ceil(x - rl_slack(x)); }}
double rl_nearest_whole(double x) {{ return floor(x + 0.5 + rl_slack(x)); }}
double rl_least(double a, double b) {{ return (a < b || isnan(a)) ? a : b; }}
double rl_greatest(double a, double b) {{ return (a > b || isnan(a)) ? a : b; }}
double rl_clamp(double x, double low, double high) {{ return rl_least(rl_greatest(x, low), high); }}
double rl_less(double a, double b) {{ return a < b ? 1.0 : 0.0; }}
double rl_at_most(double a, double b) {{ return a <= b ? 1.0 : 0.0; }}
double rl_equal(double a, double b) {{ return (a < b || a > b || isnan(a) || isnan(b)) ? 0.0 : 1.0; }}
double rl_not_equal(double a, double b) {{ return 1.0 - rl_equal(a, b); }}
double rl_negated(double a) {{ return rl_equal(a, 0.0); }}
double rl_both(double a, double b) {{ return rl_negated(rl_negated(a) + rl_negated(b)); }}
double rl_either(double a, double b) {{ return rl_negated(rl_negated(a) * rl_negated(b)); }}
double rl_minus(double a) {{ return -a; }}
double rl_choose(double c, double yes, double no) {{ return rl_equal(c, 0.0) > 0.0 ? no : yes; }}
double rl_divide(double a, double b) {{ return rl_equal(b, 0.0) > 0.0 ? NAN : a / b; }}
double rl_floor_divide(double a, double b) {{ return rl_whole_below(rl_divide(a, b)); }}
double rl_remainder(double a, double b) {{
    double left = a - b * rl_floor_divide(a, b);
    return left * ((left > 0.0) == (b > 0.0) ? 1.0 : 0.0);
}}
double rl_raised(double a, double b) {{
    if ((a < 0.0 && rl_not_equal(b, floor(b)) > 0.0) || (rl_equal(a, 0.0) > 0.0 && b < 0.0)) return NAN;
    return pow(a, b);
}}
double rl_root(double a) {{ return a >= 0.0 ? sqrt(a) : NAN; }}
double rl_exponential(double a) {{ return exp(a); }}
double rl_logarithm(double a) {{ return a > 0.0 ? log(a) : NAN; }}
double rl_size(double a) {{ return fabs(a); }}
"""
RUNNER = """/* Runs the test vectors: vectors.txt, or the file that is named. Exits with 1 where one is missed. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include "rules.h"

static double v[{most}];

static double run(int number) {{
    rl_page page = {{0}}, dealer = {{0}}, taker = {{0}};
    (void)page; (void)dealer; (void)taker;
    switch (number) {{
{cases}    default: return NAN;
    }}
}}

int main(int count, char **words) {{
    FILE *file = fopen(count > 1 ? words[1] : "vectors.txt", "r");
    long done = 0, missed = 0;
    int number, inputs;
    double wanted;
    if (!file) {{ fprintf(stderr, "the vectors can't be read\\n"); return 2; }}
    while (fscanf(file, "%d %lf %d", &number, &wanted, &inputs) == 3) {{
        double got;
        for (int i = 0; i < inputs; i++) if (fscanf(file, "%lf", &v[i]) != 1) return 2;
        got = run(number);
        done++;
        if (!(fabs(got - wanted) <= 0.0005 || fabs(got - wanted) <= 1e-9 * fabs(wanted))) {{
            if (missed++ < 10) printf("function %d: %.17g is wanted, got %.17g\\n", number, wanted, got);
        }}
    }}
    fclose(file);
    printf("%ld vectors, %ld missed\\n", done, missed);
    return missed > 0 || done == 0;
}}
"""


class CWriter(Writer):
    """Writes C."""

    language = "c"
    own: frozenset[str] = frozenset()
    prefix = "rl_"

    def field(self, page: str, name: str) -> str:
        """Return a field of a page: of one that is handed over, or of one of the function's own."""
        if page == "meet":
            return f"meet.{name}"
        return f"own_{page}.{name}" if page in self.own else f"{page}->{name}"

    def table(self, at: str) -> str:
        """Return the value at a level, held at the ends."""
        return f"values[(int)rl_clamp({at} - {self.first_level}.0, 0.0, {self.last}.0)]"

    def remarks(self, function: Function, indent: str = "") -> str:
        """Return what is said above a function."""
        lines = [line.replace("*/", "* /") for line in (function.place, function.says) if line]
        return f"{indent}/* {'; '.join(lines)} */\n" if lines else ""

    def signature(self, function: Function) -> str:
        """Return the head of a function."""
        given = [f"const rl_page *{page}" for page, _ in function.pages] + [
            f"double {name}" for name in function.numbers
        ]
        kind = "rl_hit" if self.is_hit(function) else "double"
        return f"{kind} rl_{function.name}({', '.join(given) or 'void'})"

    def body(self, function: Function) -> str:
        """Return the steps of a function."""
        lines, self.own = list[str](), frozenset(self.writes_pages(function))
        for page, _ in function.pages:
            lines += [f"    rl_page own_{page} = *{page};"] if page in self.own else [f"    (void){page};"]
        lines += ["    rl_page meet = {0};"] if "meet" in self.own else []
        if function.values:
            lines.append(f"    static const double values[] = {{{', '.join(map(repr, function.values))}}};")
            self.last = len(function.values) - 1
        for step in function.steps:
            remark = f"  /* {step.remark.replace('*/', '* /')} */" if step.remark else ""
            target = self.variable(step.name) if "." in step.name else f"double {step.name}"
            lines.append(f"    {target} = {self.expression(step.value)};{remark}")
        lines += [f"    (void){name};" for name in function.numbers]
        if self.is_hit(function):
            lines += ["    rl_hit found;", *(f"    found.{name} = {name};" for name in STEP_NAMES), "    return found;"]
        else:
            lines.append(f"    return {self.expression(function.gives or 0.0)};")
        return "\n".join(lines)

    def source(self) -> dict[str, str]:
        """Return the header, the rules and the runner."""
        fields = "".join(f"    double {name};\n" for name in self.page) or "    double level;\n"
        steps = "".join(f"    double {name};\n" for name in STEP_NAMES)
        heads = "".join(f"{self.remarks(each)}{self.signature(each)};\n" for each in self.functions)
        helpers = "".join(
            line[: line.index(" {")] + ";\n" for line in HEAD.splitlines() if line.startswith("double rl_")
        )
        header = (
            "#ifndef RULES_H\n#define RULES_H\n\n/* All that a formula may read of a character, or where two meet. */\n"
            f"typedef struct {{\n{fields}}} rl_page;\n\n"
            "/* A hit, step by step. Thousandths are -1 where it misses. */\n"
            f"typedef struct {{\n{steps}}} rl_hit;\n\n{helpers}\n{heads}\n#endif\n"
        )
        bodies = "\n".join(
            f"{self.remarks(each)}{self.signature(each)} {{\n{self.body(each)}\n}}\n" for each in self.functions
        )
        rules = HEAD.format(title=self.title) + "\n" + bodies
        most = max(len(each.inputs) for each in self.functions)
        cases = "".join(self._case(number, each) for number, each in enumerate(self.functions))
        return {"rules.h": header, "rules.c": rules, "run_vectors.c": RUNNER.format(most=max(1, most), cases=cases)}

    def _case(self, number: int, function: Function) -> str:
        sets = [f"{name} = v[{at}];" for at, name in enumerate(_targets(function))]
        given = [f"&{page}" for page, _ in function.pages]
        start = len(function.inputs) - len(function.numbers)
        given += [f"v[{start + at}]" for at in range(len(function.numbers))]
        got = f"rl_{function.name}({', '.join(given)}){'.thousandths' if self.is_hit(function) else ''}"
        return f"    case {number}: {' '.join(sets)} return {got};\n"


def _targets(function: Function) -> list[str]:
    from ..expressions import identifier

    return [f"{page}.{identifier(name)}" for page, names in function.pages for name in names]
