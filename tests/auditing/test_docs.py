"""The page of findings is what the catalogue says."""

from __future__ import annotations

import unittest

from restless_ledger.auditing.entries import as_page

from ..support import ROOT


class PageCases(unittest.TestCase):
    def test_the_page_of_findings_is_up_to_date(self) -> None:
        page = (ROOT / "docs" / "reference" / "findings.md").read_text(encoding="utf-8")
        self.assertEqual(page, as_page(), "make reference writes it anew")


if __name__ == "__main__":
    unittest.main()
