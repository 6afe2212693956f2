"""The pages of the reference that are made from the code are up to date."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from .support import ROOT, docs_pages


class Reference(unittest.TestCase):
    def test_pages_are_as_the_code_makes_them(self) -> None:
        for file, text in docs_pages().pages().items():
            self.assertEqual(file.read_text(encoding="utf-8"), text, f"{file.name}: run make reference")

    def test_every_public_name_is_told(self) -> None:
        text = (ROOT / "docs" / "reference" / "library.md").read_text(encoding="utf-8")
        for name in rl.__all__:
            if not name.startswith("_"):
                self.assertTrue(f"`rl.{name}" in text or f"`{name}`" in text, name)
                self.assertTrue(getattr(rl, name).__doc__, name)
