"""The JSON Schema accepts what the loader accepts and refuses a misspelling."""

import tomllib
import unittest
from pathlib import Path

import jsonschema

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, changed


class Schema(unittest.TestCase):
    def setUp(self) -> None:
        self.schema = rl.json_schema()
        self.validator = jsonschema.Draft202012Validator(self.schema)

    def test_it_is_a_schema(self) -> None:
        jsonschema.Draft202012Validator.check_schema(self.schema)

    def test_every_shipped_file_satisfies_it(self) -> None:
        for file in sorted(
            file for folder in ("demo", "cli/starter") for file in (Path(rl.__file__).parent / folder).rglob("*.toml")
        ):
            with self.subTest(file.name):
                self.validator.validate(tomllib.loads(file.read_text(encoding="utf-8")))

    def test_it_refuses_what_the_loader_refuses(self) -> None:
        for old, new in (
            ('cooldown = "1 s"', "cooldown = 1"),
            ('cooldown = "1 s"', 'coldown = "1 s"'),
            ("top = 100", "top = true"),
            ('{ damage = "blow" }', '{ damge = "blow" }'),
            ("range = [0, 500]", "range = [0]"),
        ):
            data = tomllib.loads(changed(TINY + OX_AND_POST, (old, new)))
            with self.subTest(new):
                self.assertFalse(self.validator.is_valid(data))
