"""Reading a rulebook, and what is said of one that can't be read."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, book_of, changed, problems_of

GOOD = TINY + OX_AND_POST

FAULTS = [
    # what is changed, into what, and what must be said: the place and the remedy
    ("a misspelt key", 'cooldown = "1 s"', 'coldown = "1 s"', ["abilities.hit.coldown", "did you mean cooldown?"]),
    ("a misspelt chapter", "[classes.ox]", "[clases.ox]", ["a.toml:17: clases", "did you mean classes?"]),
    (
        "an unknown stat in growth",
        "growth.might = 10",
        "growth.migth = 10",
        ["classes.ox.growth.migth", "did you mean might?"],
    ),
    (
        "an unknown ability",
        'learns = { 1 = ["hit"] }',
        'learns = { 1 = ["hti"] }',
        ["classes.ox.learns.1[0]", "did you mean hit?"],
    ),
    ("an unknown kind", 'damage = "blow"', 'damage = "bolw"', ["abilities.hit.does[0].damage", "did you mean blow?"]),
    (
        "an unknown name in a formula",
        'power = "might"',
        'power = "migth + 1"',
        ["damage.blow.power", "^", "did you mean might?"],
    ),
    ("an unknown class", 'class = "post"', 'class = "pots"', ["sides[1].units[0].class", "did you mean post?"]),
    ("level 0", 'class = "post", level = 1', 'class = "post", level = 0', ["levels go from 1 to 10", "got: 0"]),
    (
        "a level beyond the last",
        'class = "post", level = 1',
        'class = "post", level = 11',
        ["levels go from 1 to 10", "got: 11"],
    ),
    (
        "learned beyond the last",
        "learns = { 1 =",
        "learns = { 11 =",
        ["classes.ox.learns.11", "levels go from 1 to 10"],
    ),
    ("learned twice", 'learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "hit"] }', ["learns it twice"]),
    ("a range upside down", "range = [0, 500]", "range = [500, 0]", ["upside down", "write [0, 500]"]),
    ("a text for a number", "ticks_per_second = 10", 'ticks_per_second = "10"', ["number is wanted here"]),
    ("a truth for a range", "range = [0, 500]", "range = [true, 500]", ["stats.might.range[0]"]),
    ("not a number", "growth.might = 10", "growth.might = nan", ["finite number", "classes.ox.growth.might"]),
    ("infinite", "range = [0, 500]", "range = [0, inf]", ["stats.might.range[1]", "finite number"]),
    ("huge", "growth.might = 10", "growth.might = 1e12", ["at most 1e+09"]),
    ("a bare duration", 'cooldown = "1 s"', "cooldown = 1", ["a duration is written with its unit"]),
    ("a strange unit", 'cooldown = "1 s"', 'cooldown = "1 h"', ["a duration is written with its unit"]),
    ("rounds on a clock of seconds", 'cooldown = "1 s"', 'cooldown = "1 rounds"', ["counts seconds, not rounds"]),
    ("an endless duration", 'cooldown = "1 s"', 'cooldown = "99999999999 s"', ["goes up to 10 000 000"]),
    ("no length at all", 'time_limit = "30 s"', 'time_limit = "0 s"', ["clock.time_limit", "longer than nothing"]),
    ("two effects in one", '{ damage = "blow" }', '{ damage = "blow", give = "x" }', ["exactly one of damage, heal"]),
    (
        "no effect at all",
        'does = [{ damage = "blow" }]',
        "does = []",
        ["abilities.hit.does", "this ability does nothing"],
    ),
    (
        "a word out of place",
        "range = [0, 500] }",
        'range = [0, 500], round = "sideways" }',
        ["stats.might.round", "'nearest'"],
    ),
    ("nothing takes down", "downs = true", "downs = false", ["no gauge takes a character down"]),
    ("a formula without end", 'power = "might"', 'power = "might +"', ["damage.blow.power", "can't be read", "^"]),
    ("a formula that divides by zero", 'power = "might"', 'power = "might / 0"', ["a division by zero"]),
    ("a top that reads a gauge", "top = 100", 'top = "health * 2"', ["gauges.health.top", "gauges apart"]),
    ("a reserved name", "might = {", "level = {", ["level is a word of the formula language"]),
    ("a name in capitals", "[classes.post]", "[classes.Post]", ["lower-case letters"]),
    ("a missing part", 'power = "might"', 'label = "x"', ["damage.blow.power", "this is missing"]),
    (
        "one side only",
        '[[encounters.meet.sides]]\nname = "right"\nunits = [{ class = "post", level = 1 }]\n',
        "",
        ["at least 2"],
    ),
    ("nobody on a side", 'units = [{ class = "post", level = 1 }]', "units = []", ["at least 1"]),
    ("two sides of one name", 'name = "right"', 'name = "left"', ["two sides have the same name"]),
    ("too many units", 'class = "post", level = 1', 'class = "post", level = 1, count = 400', ["at most 400 units"]),
    ("lands without aim", 'power = "might"', 'power = "might"\nlands = "0.5"', ["lands is written but aim is not"]),
    (
        "a chapter that is no table",
        "[rulebook]",
        "bodies = 3\n[rulebook]",
        ["this chapter is a table of named entries"],
    ),
    ("levels upside down", "levels = [1, 10]", "levels = [10, 1]", ["rulebook", "a first to a last"]),
]


class Reading(unittest.TestCase):
    def test_a_good_rulebook_is_frozen(self) -> None:
        book = book_of(GOOD)
        self.assertEqual(list(book.classes), ["ox", "post"])
        with self.assertRaisesRegex(TypeError, "frozen"):
            book.rulebook.title = "another"  # type: ignore[misc]

    def test_its_short_text_counts_what_it_holds(self) -> None:
        self.assertIn("2 classes, 1 ability, 1 encounter", repr(book_of(GOOD)))
        self.assertLess(len(repr(rl.demo())), 200)

    def test_files_and_folders_are_merged(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "deep").mkdir()
            (Path(folder) / "deep" / "b.toml").write_text(OX_AND_POST, encoding="utf-8")
            (Path(folder) / "a.toml").write_text("\ufeff" + TINY, encoding="utf-8")
            book = rl.load(folder)
        self.assertEqual(list(book.encounters), ["meet"])
        self.assertEqual(book.place("encounters", "meet", "sides", 1, "name"), "deep/b.toml:8")

    def test_one_file_is_a_rulebook_too(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "only.toml"
            file.write_text(GOOD, encoding="utf-8")
            self.assertIn("ox", rl.load(file).classes)

    def test_the_shipped_rulebooks_are_read(self) -> None:
        self.assertGreaterEqual(len(rl.demo().classes), 7)
        starter = Path(rl.__file__).parent / "cli" / "starter"
        self.assertIn("ford", rl.load(starter).encounters)


class Faults(unittest.TestCase):
    def test_each_fault_says_where_what_and_the_remedy(self) -> None:
        for name, old, new, expected in FAULTS:
            with self.subTest(name):
                said = problems_of(changed(GOOD, (old, new)))
                for words in expected:
                    self.assertIn(words, said)
                self.assertRegex(said, r"^a\.toml(:\d+)?: ")

    def test_all_of_them_at_once_in_the_order_of_the_file(self) -> None:
        said = problems_of(
            changed(
                GOOD,
                ('power = "might"', 'power = "migth"'),
                ('cooldown = "1 s"', "cooldown = 1"),
                ('class = "post", level', 'class = "pots", level'),
                ("growth.might = 10", "growth.migth = 10"),
            )
        )
        self.assertIn("4 problems in the rulebook", said)
        lines = [int(line.split(":")[1]) for line in said.splitlines() if line.startswith("a.toml:")]
        self.assertEqual(lines, sorted(lines))

    def test_one_fault_is_told_once(self) -> None:
        said = problems_of(changed(GOOD, ("top = 100\ndowns = true", "top = 100\ndowns = true\nlid = 3")))
        self.assertNotIn("problems in the rulebook", said)

    def test_the_line_is_the_line(self) -> None:
        text = changed(GOOD, ('cooldown = "1 s"', 'cooldown = "soon"'))
        line = text[: text.index('"soon"')].count("\n") + 1
        self.assertIn(f"a.toml:{line}: abilities.hit.cooldown", problems_of(text))

    def test_declared_twice_names_both_places(self) -> None:
        said = problems_of(GOOD, "[classes.ox]\nlabel = 'Another'\n")
        self.assertIn("b.toml:1: classes.ox: declared twice", said)
        self.assertIn(f"a.toml:{GOOD[: GOOD.index('[classes.ox]')].count(chr(10)) + 1}", said)

    def test_not_toml(self) -> None:
        said = problems_of(GOOD, "[classes.elk\n")
        self.assertIn("b.toml:1: this is not TOML", said)

    def test_not_utf8(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "a.toml").write_bytes(b"[rulebook]\ntitle = '\xff'\n")
            with self.assertRaises(rl.RulebookError) as caught:
                rl.load(folder)
        self.assertIn("a.toml:2: the file is not UTF-8 text", str(caught.exception))
        self.assertIn("byte 0xff", str(caught.exception))

    def test_nothing_there(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for path, words in ((f"{folder}/none", "no such file or directory"), (folder, "no .toml file")):
                with self.assertRaises(rl.InputError) as caught:
                    rl.load(path)
                self.assertIn(words, str(caught.exception))
