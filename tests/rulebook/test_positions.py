"""The positions of a text are those of the data that the TOML reader finds in it."""

import tomllib
import unittest
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

import restless_ledger
from restless_ledger.rulebook.positions import line_positions

HARD = r'''
# a comment with [brackets] and "quotes"
title = "a # in a text, and a \" too" # behind
"quoted key".'other key' = 1
empty = {}
list = [ # comment inside
  1, [2, 3],
  { a = 1, b = { c = "}" } },
]
text = """
[not.a.table]
x = 1
"""
raw = \'\'\'
a = "]"
\'\'\'
when = 1979-05-27T07:32:00Z

[a.b]
c.d = 0x1F

[[things]]
name = "first"
[things.inside]
deep = true
[[things]]
name = 'second'
[[things.more]]
x = -1.5e3
'''.replace("\\'", "'")


def paths(data: object, base: tuple = ()) -> set[tuple]:
    """Return the path of everything in the data."""
    items = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    return {path for key, value in items for path in ({(*base, key)} | paths(value, (*base, key)))}


class Positions(unittest.TestCase):
    def check(self, text: str) -> None:
        self.assertEqual(set(line_positions(text)), paths(tomllib.loads(text)))

    def test_a_hard_text(self) -> None:
        self.check(HARD)
        lines = line_positions(HARD)
        for path, words in (
            (("list", 2, "b", "c"), "{ a = 1"),
            (("a", "b", "c", "d"), "c.d"),
            (("things", 1, "more", 0, "x"), "x = -1.5e3"),
            (("quoted key", "other key"), '"quoted key"'),
            (("things", 0, "inside", "deep"), "deep"),
        ):
            self.assertIn(words, HARD.splitlines()[lines[path] - 1])

    def test_the_shipped_files(self) -> None:
        files = list(Path(restless_ledger.__file__).parent.rglob("*.toml"))
        self.assertGreaterEqual(len(files), 7)
        for file in files:
            with self.subTest(file.name):
                self.check(file.read_text(encoding="utf-8"))

    @settings(max_examples=150, deadline=None)
    @given(
        st.recursive(
            st.one_of(st.integers(-9, 9), st.booleans(), st.text(max_size=8)),
            lambda inner: st.one_of(
                st.lists(inner, max_size=3),
                st.dictionaries(st.text("ab_é \"'.", min_size=1, max_size=4), inner, max_size=3),
            ),
            max_leaves=12,
        ).filter(lambda data: isinstance(data, dict))
    )
    def test_any_data_written_as_toml(self, data: dict) -> None:
        import tomlkit

        text = tomlkit.dumps(data)
        if tomllib.loads(text) == data:
            self.check(text)
