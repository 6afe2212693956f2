"""Files and texts that mean no good, or come from elsewhere: one clear error each, and nothing is lost."""

from __future__ import annotations

import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock
from xml.etree import ElementTree

import restless_ledger as rl
from restless_ledger.rulebook.edit import write_values
from restless_ledger.rulebook.files import put_all, put_by
from restless_ledger.rulebook.levers import levers_of

from ..support import OX_AND_POST, TINY, CommandCase, book_of, changed, problems_of

STRANGE = ("[/]", "[bold]x", "$x^2$", "a & b < c", "_{", "=1+1", "|x|", "\\\\frac{1}{2}", "<b>", "'", "ox 🐂", "牛")


class Texts(CommandCase):
    def test_labels_are_never_taken_for_markup_mathematics_or_xml(self) -> None:
        """All the strange labels at once, each in a place of its own, through everything that prints or draws them."""
        title, ox, post, hit, health, might, blow, left = STRANGE[:8]
        text = changed(
            TINY,
            ("[rulebook]", f'[rulebook]\ntitle = "{title}"'),
            ("[classes.ox]", f'[classes.ox]\nlabel = "{ox}"'),
            ("[classes.post]", f'[classes.post]\nlabel = "{post}"'),
            ("[abilities.hit]", f'[abilities.hit]\nlabel = "{hit}"'),
            ("top = 100", f'top = 100\nlabel = "{health}"'),
            ("range = [0, 500]", f'range = [0, 500], label = "{might}"'),
            ("[damage.blow]", f'[damage.blow]\nlabel = "{blow}"'),
        )
        text += changed(
            OX_AND_POST,
            ('name = "left"', f'name = "{left}"'),
            ("[encounters.meet]", f'[encounters.meet]\nlabel = "{STRANGE[8]}"'),
        )
        text += (
            f'[promises.a]\ntitle = "{STRANGE[9]}"\nencounter = "meet"\nexpect = {{ wins = {{ "{left}" = [1, 1] }} }}\n'
        )
        text += f'[buffs.glow]\nlabel = "{STRANGE[10]}"\nlasts = "1 s"\n[gear.bell]\nlabel = "{STRANGE[11]}"\nslot = "neck"\n[slots.neck]\n'
        (self.folder / "book.toml").write_text(text, encoding="utf-8")
        book = rl.load(self.folder)
        shown = "".join(self.ok("fight", "book.toml", "meet").split("\n"))
        for label in (title, ox, post, hit, left):
            self.assertIn(label.replace("\\\\", "\\"), shown)
        for words in (
            ("sheet", "book.toml", "ox"),
            ("trials", "book.toml", "meet", "--fights", "50"),
            ("curves", "book.toml"),
            ("curves", "book.toml", "--falls"),
            ("list", "book.toml", "classes"),
            ("report", "book.toml", "--quick", "--out", "r.html"),
        ):
            self.ok(*words)
        self.ok("audit", "book.toml", code=None)
        rl.fight(book, "meet").plot(self.folder / "fight.svg")
        ElementTree.parse(self.folder / "fight.svg")
        ElementTree.fromstring(rl.audit(book).junit())
        for number, result in enumerate(
            (
                rl.trials(book, "meet", fights=50),
                rl.curves(book),
                rl.falls(book),
                rl.duel(book, "ox", "post", fights=50),
            )
        ):
            result.plot(self.folder / f"{number}.png")

    def test_control_characters_are_refused(self) -> None:
        for letter in ("\\u0007", "\\u001b", "\\u202e", "\\ue000", "\\u0085"):
            self.assertIn(
                "letters that can be printed",
                problems_of(changed(TINY, ("[classes.ox]", f'[classes.ox]\nlabel = "a{letter}b"'))),
            )

    def test_a_spreadsheet_takes_no_cell_for_a_formula(self) -> None:
        text = changed(TINY, ("[classes.ox]", '[classes.ox]\nlabel = "=SUM(A1)"')) + OX_AND_POST
        (self.folder / "book.toml").write_text(text, encoding="utf-8")
        self.ok("fight", "book.toml", "meet", "--out", "fight.csv")
        cells = (self.folder / "fight.csv").read_text(encoding="utf-8")
        self.assertIn("'=SUM(A1)", cells)
        self.assertNotIn(",=SUM", cells)


class Files(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def said(self, growth: str) -> str:
        (self.folder / "book.toml").write_text(
            changed(TINY, ("growth.might = 10", f"growth.might = {growth}")), encoding="utf-8"
        )
        with self.assertRaises(rl.InputError) as caught:
            rl.load(self.folder)
        return str(caught.exception)

    def test_tables_are_regular_files_inside_the_rulebook(self) -> None:
        outside = self.folder.parent / "outside.csv"
        outside.write_text("level,might\n1,2\n", encoding="utf-8")
        self.addCleanup(outside.unlink)
        (self.folder / "link.csv").symlink_to(outside)
        os.mkfifo(self.folder / "pipe.csv")
        for table, what in (
            ("../outside.csv", "outside"),
            (str(outside), "outside"),
            ("link.csv", "outside"),
            ("/etc/passwd", "outside"),
            ("pipe.csv", "no regular file"),
            ("/dev/zero", "outside"),
        ):
            said = self.said(f'{{ table = "{table}", column = "might" }}')
            self.assertIn(what, said, table)
            self.assertNotIn("root:", said)

    def test_a_fifo_nul_bytes_long_numbers_and_long_keys_are_one_error_each(self) -> None:
        for text, what in (
            ("a = 1\0", "not TOML"),
            (f"[stats]\nmight = {{ base = {'9' * 5000} }}", "more than 400 digits"),
            (".".join("a" * 1 for _ in range(1000)) + " = 1", "more than 60 parts"),
        ):
            self.assertIn(what, problems_of(text))
        os.mkfifo(self.folder / "pipe.toml")
        with self.assertRaisesRegex(rl.InputError, "no regular file"):
            rl.load(self.folder)

    def test_a_file_that_is_too_large_is_not_read(self) -> None:
        with (self.folder / "big.toml").open("wb") as file:
            file.truncate(40 << 20)
        with self.assertRaisesRegex(rl.InputError, "larger than 32 MB"):
            rl.load(self.folder)

    def test_a_failed_write_leaves_the_old_file_whole(self) -> None:
        first, second = self.folder / "a.txt", self.folder / "b.txt"
        first.write_text("old", encoding="utf-8")

        def fail(name: str) -> None:
            Path(name).write_text("half", encoding="utf-8")
            raise OSError(28, "No space left on device")

        with self.assertRaisesRegex(rl.InputError, "No space left"):
            put_by(first, fail)
        with self.assertRaisesRegex(rl.InputError, "can't be written"):
            put_all({first: b"new", self.folder / "none" / "b.txt": b"new"})
        self.assertEqual(([path.name for path in self.folder.iterdir()], first.read_text()), (["a.txt"], "old"))
        put_all({first: b"new", second: b"new"})
        self.assertEqual((first.read_text(), second.read_text()), ("new", "new"))

    def test_values_are_written_to_all_files_or_to_none_and_byte_order_marks_stay(self) -> None:
        (self.folder / "a.toml").write_bytes("\ufeff".encode() + TINY.split("[classes.ox]")[0].encode())
        (self.folder / "b.toml").write_text("[classes.ox]" + TINY.split("[classes.ox]")[1], encoding="utf-8")
        book = rl.load(self.folder)
        values = dict.fromkeys(levers_of(book, ["gauges.health.top", "classes.ox.growth.might"]), 7.0)
        before = {path: path.read_bytes() for path in self.folder.glob("*.toml")}
        with (
            mock.patch.object(Path, "replace", side_effect=OSError(28, "No space left on device")),
            self.assertRaises(rl.InputError),
        ):
            write_values(book, self.folder, values)
        self.assertEqual({path: path.read_bytes() for path in self.folder.iterdir()}, before)
        write_values(book, self.folder, values)
        self.assertTrue((self.folder / "a.toml").read_bytes().startswith("\ufefftop".encode()[:3]))
        self.assertEqual(rl.load(self.folder).classes["ox"].growth["might"], 7)


class Frozen(unittest.TestCase):
    def test_nothing_of_a_rulebook_can_be_changed(self) -> None:
        book = book_of(TINY)
        for change in (
            lambda: book.stats.pop("might"),
            lambda: book.stats.update(x=1),
            lambda: book.classes["ox"].learns[1].append("x"),
            lambda: book.stats.__setitem__("x", 1),
            lambda: book.rulebook.levels.sort(),
        ):
            with self.assertRaisesRegex(TypeError, "frozen"):
                change()

    def test_a_copy_with_other_chapters_shares_nothing_that_was_worked_out(self) -> None:
        book = book_of(TINY)
        self.assertEqual(rl.sheet(book, "ox")["might"].value, 10)
        ox = book.classes["ox"].model_copy(update={"growth": {"might": 30.0}})
        self.assertEqual(rl.sheet(book.model_copy(update={"classes": {"ox": ox}}), "ox")["might"].value, 30)
