"""What is printed: folded between words, with its marks kept, in tables that fit the page."""

from __future__ import annotations

import io
import random
import unittest
from contextlib import redirect_stdout
from unittest import mock

from restless_ledger.cli.page import BOLD, END, GAP, RED, Page, folded, plain, width_of
from restless_ledger.cli.tables import ruled

LETTERS = ("a", "b", "c", "-", "é", "ｗ", "漢", "e\u0301", " ")


def some_text(chance: random.Random) -> str:
    words = ["".join(chance.choices(LETTERS, k=chance.randrange(1, 14))).strip() or "x" for _ in range(9)]
    marked = [f"{RED}{word}{END}" if chance.random() < 0.2 else word for word in words]
    return " ".join(" ".join(marked).split())


class Folded(unittest.TestCase):
    def test_no_word_is_lost_no_line_is_too_wide_and_none_has_room_for_the_next_word(self) -> None:
        chance = random.Random(1)
        for _ in range(400):
            text, width = some_text(chance), chance.randrange(4, 40)
            lines = folded(text, width)
            self.assertEqual("".join(plain("".join(lines)).split()), "".join(plain(text).split()))
            for line, following in zip(lines, [*lines[1:], ""], strict=True):
                self.assertLessEqual(width_of(line), width)
                word = plain(following).split(" ")[0]
                if following and width_of(word) < width // 2:
                    self.assertGreater(width_of(line) + 1 + width_of(word), width, (text, width, lines))

    def test_marks_end_with_each_line_and_go_on_on_the_next(self) -> None:
        self.assertEqual(folded(f"a {RED}red word{END} b", 6), [f"a {RED}red{END}", f"{RED}word{END} b"])

    def test_long_words_break_or_stand_out(self) -> None:
        self.assertEqual(folded("a bcdefgh i", 4), ["a", "bcde", "fgh", "i"])
        self.assertEqual(
            folded("go to rules/of/combat.toml now", 8, breaks=False), ["go to", "rules/of/combat.toml", "now"]
        )
        self.assertEqual(folded("one two three", 9, indent=2, hang=2), ["  one two", "    three"])
        self.assertEqual(folded("", 10), [""])


class Tables(unittest.TestCase):
    def test_a_table_stands_in_its_columns(self) -> None:
        table = ruled("name", ">sum", "what", wide="what")
        table.add_row("Ana", f"{RED}−9{END}", "falls a long way down")
        table.add_row("漢", "10", "")
        self.assertEqual(
            [plain(line).rstrip() for line in table.lines(26)],
            ["name   sum   what", "─" * 26, "Ana     −9   falls a long", "             way down", "漢      10"],
        )

    def test_every_table_fits_its_page_and_keeps_every_letter(self) -> None:
        chance = random.Random(2)
        for _ in range(200):
            table = ruled("a", ">b", "c", wide="c")
            rows = [[plain(some_text(chance))[:n] for n in (6, 4, 60)] for _ in range(5)]
            for row in rows:
                table.add_row(*row)
            width = chance.randrange(3 + 2 * GAP + 8, 80)
            lines = list(table.lines(width))
            self.assertLessEqual(max(map(width_of, lines)), width)
            inside = sorted(plain("".join(lines[2:])).replace(" ", ""))
            self.assertEqual(inside, sorted(plain("".join("".join(row) for row in rows)).replace(" ", "")))

    def test_colour_is_for_terminals_that_want_it(self) -> None:
        for environment, terminal, coloured in (
            ({"TERM": "xterm"}, True, True),
            ({"TERM": "xterm", "NO_COLOR": "1"}, True, False),
            ({"TERM": "dumb"}, True, False),
            ({"TERM": "xterm"}, False, False),
        ):
            out = io.StringIO()
            out.isatty = lambda terminal=terminal: terminal  # type: ignore[method-assign]
            with mock.patch.dict("os.environ", environment, clear=True), redirect_stdout(out):
                Page().print(f"{BOLD}fair{END}")
            self.assertEqual(out.getvalue(), "\x1b[1mfair\x1b[0m\n" if coloured else "fair\n")
        out = io.StringIO()
        with redirect_stdout(out):
            Page().rule("1 · a title")
        self.assertEqual(len(out.getvalue()), Page().width + 1)
