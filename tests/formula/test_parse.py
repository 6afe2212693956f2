"""What the formula language lets through, and what it says of the rest."""

import unittest

from restless_ledger.formula import FormulaError, evaluate, parse

VALUES = {"brawn": 25.0, "guard": 18.0, "level": 7.0, "marked(alight)": 1.0, "health_fill": 0.25}

LEGAL = [
    ("8 + 1.6 * brawn", 48.0),
    ("2 ** 3 ** 2", 512.0),
    ("-2 ** 2", -4.0),
    ("+brawn", 25.0),
    ("(brawn - guard) / 2", 3.5),
    ("brawn // 4", 6.0),
    ("-7 // 2", -4.0),
    ("-7 % 3", 2.0),
    ("7 % -3", -2.0),
    ("min(brawn, guard, 3)", 3.0),
    ("max(1, guard - brawn)", 1.0),
    ("clamp(brawn, 0, 20)", 20.0),
    ("clamp(-1, 0, 20)", 0.0),
    ("floor(2.7) + ceil(2.1)", 5.0),
    ("round(2.5)", 3.0),
    ("round(-2.5)", -2.0),
    ("round(2.4999)", 2.0),
    ("sqrt(guard * 2)", 6.0),
    ("exp(0) + log(1)", 1.0),
    ("abs(-3)", 3.0),
    ("2 if marked(alight) else 1", 2.0),
    ("1 if health_fill < 0.3 and not brawn > 30 else 0", 1.0),
    ("10 < guard <= 18", 1.0),
    ("10 < guard < 18", 0.0),
    ("brawn == 25", 1.0),
    ("brawn != 25 or guard >= 18", 1.0),
    ("3 and 5", 1.0),
    ("1_000 + 0x10", 1016.0),
    ("  brawn\n  + guard ", 43.0),
]

REFUSED = [
    ("", 0, "empty"),
    ("   ", 0, "empty"),
    ("8 +", 3, "can't be read"),
    ("brawn.x", 0, "a name with a dot"),
    ("brawn[0]", 0, "an index in brackets"),
    ("sin(brawn)", 0, "there is no function sin"),
    ("mix(1, 2)", 0, "did you mean min"),
    ("__import__('os')", 0, "there is no function __import__"),
    ("(lambda: 1)()", 0, "only a function's own name"),
    ("[x for x in brawn]", 0, "a loop"),
    ("'text'", 0, "text in quotes"),
    ("f'{brawn}'", 0, "text in quotes"),
    ("{1: 2}", 0, "a dictionary"),
    ("1, 2", 0, "a comma"),
    ("(x := 3)", 1, "an assignment"),
    ("True", 0, "True is not a number"),
    ("3j", 0, "3j"),
    ("1e16", 0, "a number beyond"),
    ("1e999", 0, "a number beyond"),
    ("2 ** 101", 5, "an exponent beyond 100"),
    ("2 ** -101", 5, "an exponent beyond 100"),
    ("brawn / 0", 8, "a division by zero"),
    ("brawn % 0.0", 8, "a division by zero"),
    ("brawn is guard", 0, "a comparison that formulas don't have"),
    ("brawn in (1, 2)", 6 + 3, "a comma"),
    ("brawn & 1", 0, "this operator"),
    ("~brawn", 0, "this operator"),
    ("min(1)", 0, "min takes 2 to 16 operands, not 1"),
    ("clamp(1, 2)", 0, "clamp takes 3 operands, not 2"),
    ("max(*brawn)", 0, "plain operands"),
    ("max(a=1, b=2)", 0, "plain operands"),
    ("marked()", 0, "the name of one mark"),
    ("marked('alight')", 0, "the name of one mark"),
    ("max", 0, "is a function and needs its operands"),
    ("8 # brawn", 2, "'#' has no meaning"),
    ("1; 2", 1, "';' has no meaning"),
    ("brawn +* 2", 7, "can't be read"),
    ("1" * 6000, 1000, "characters"),
    ("(" * 300 + "1" + ")" * 300, 0, ""),
    ("1" + " + 1" * 200, 0, "nests deeper"),
    ("\x00", 0, "can't be read"),
]


class LegalFormulas(unittest.TestCase):
    def test_each_has_its_value(self) -> None:
        for text, expected in LEGAL:
            with self.subTest(text):
                self.assertAlmostEqual(float(evaluate(parse(text), VALUES)), expected, places=12)

    def test_the_program_names_what_it_reads_once(self) -> None:
        program = parse("brawn * brawn + marked(alight)")
        self.assertEqual(program.names, ("brawn", "marked(alight)"))
        self.assertLessEqual(program.stack, 3)

    def test_what_has_no_value_is_nan_and_does_not_raise(self) -> None:
        for text in (
            "1 / (brawn - 25)",
            "1 // (brawn - 25)",
            "1 % (brawn - 25)",
            "sqrt(0 - brawn)",
            "log(brawn - 25)",
            "(0 - brawn) ** 0.5",
            "(brawn - 25) ** -1",
        ):
            with self.subTest(text):
                value = float(evaluate(parse(text), VALUES))
                self.assertNotEqual(value, value)


class RefusedFormulas(unittest.TestCase):
    def test_each_says_what_and_where(self) -> None:
        for text, column, words in REFUSED:
            with self.subTest(text[:40]):
                with self.assertRaises(FormulaError) as caught:
                    parse(text)
                self.assertIn(words, caught.exception.what + " " + caught.exception.remedy)
                if words and column:
                    self.assertEqual(caught.exception.column, column)

    def test_the_caret_stands_under_the_place(self) -> None:
        with self.assertRaises(FormulaError) as caught:
            parse("8 + sin(brawn)")
        lines = str(caught.exception).splitlines()
        self.assertEqual(lines[1].index("sin"), lines[2].index("^"))

    def test_a_long_formula_is_shown_around_its_caret(self) -> None:
        text = "1 + " * 10 + "0 * " * 8 + "nothing(3)"
        with self.assertRaises(FormulaError) as caught:
            parse(text)
        lines = str(caught.exception).splitlines()
        self.assertEqual(lines[1].index("nothing"), lines[2].index("^"))
        self.assertLess(len(lines[1]), 90)
