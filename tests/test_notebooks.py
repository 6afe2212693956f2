"""The example notebooks: stored without output, and run from the first cell to the last."""

from __future__ import annotations

import json
import tempfile
import unittest
from unittest.mock import patch

import nbformat
from nbconvert.preprocessors import ExecutePreprocessor

import restless_ledger as rl
from restless_ledger.results import notebook

from .support import OX_AND_POST, ROOT, TINY, book_of

NOTEBOOKS = sorted((ROOT / "examples" / "notebooks").glob("*.ipynb"))


class Notebooks(unittest.TestCase):
    def test_they_are_stored_without_output(self) -> None:
        self.assertGreaterEqual(len(NOTEBOOKS), 3)
        for file in NOTEBOOKS:
            for cell in json.loads(file.read_text(encoding="utf-8"))["cells"]:
                if cell["cell_type"] == "code":
                    self.assertEqual((cell["outputs"], cell["execution_count"]), ([], None), file.name)

    def test_they_run_and_show_tables_and_figures(self) -> None:
        for file in NOTEBOOKS:
            with self.subTest(file.name), tempfile.TemporaryDirectory() as folder:
                book = nbformat.read(file, as_version=4)
                ExecutePreprocessor(timeout=300).preprocess(book, {"metadata": {"path": folder}})
                shown = [
                    output["data"]["text/html"]
                    for cell in book.cells
                    for output in cell.get("outputs", ())
                    if "text/html" in output.get("data", {})
                ]
                self.assertGreaterEqual(sum("<table" in html for html in shown), 3)
                self.assertGreaterEqual(sum("data:image/svg+xml" in html for html in shown), 1)


class Progress(unittest.TestCase):
    def test_a_bar_shows_how_far_it_is_only_in_a_notebook_and_only_if_nobody_asks_to_hear(self) -> None:
        book, heard = book_of(TINY + OX_AND_POST), []

        class Bar:
            def __init__(self, **named: object) -> None:
                self.n, self.total = 0, None
                heard.append(self)

            def __enter__(self) -> Bar:
                return self

            def __exit__(self, *_: object) -> None: ...

            def refresh(self) -> None: ...

        with patch("tqdm.auto.tqdm", Bar):
            rl.trials(book, "meet", fights=50)
            self.assertEqual(heard, [])
            with patch("restless_ledger.asking.in_notebook", return_value=True):
                rl.trials(book, "meet", fights=50, progress=lambda done, asked: None)
                self.assertEqual(heard, [])
                trials = rl.trials(book, "meet", fights=50)
        self.assertEqual([(bar.n, bar.total) for bar in heard], [(50, 50)])
        self.assertEqual(trials.finding(), rl.trials(book, "meet", fights=50).finding())
        self.assertFalse(notebook.in_notebook())


if __name__ == "__main__":
    unittest.main()
