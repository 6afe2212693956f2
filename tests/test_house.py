"""The house rules that no linter holds: how long files and functions may be, and that one formatter does for all."""

from __future__ import annotations

import ast
import unittest

import restless_ledger as rl

from .support import ROOT

LONGEST_FILE, LONGEST, LONGEST_OF_THE_KERNEL = 300, 40, 60
KERNEL = ROOT / "src" / "restless_ledger" / "engine" / "kernel"
FILES = [file for room in ("src", "tests", "examples", "benchmarks") for file in sorted((ROOT / room).rglob("*.py"))]


class House(unittest.TestCase):
    def test_no_file_is_too_long(self) -> None:
        lengths = {str(file.relative_to(ROOT)): len(file.read_text("utf-8").splitlines()) for file in FILES}
        self.assertGreater(len(lengths), 300)
        self.assertEqual({name: lines for name, lines in lengths.items() if lines > LONGEST_FILE}, {})

    def test_no_function_is_too_long(self) -> None:
        long = {}
        for file in FILES:
            if (ROOT / "src") not in file.parents:
                continue
            most = LONGEST_OF_THE_KERNEL if KERNEL in file.parents else LONGEST
            for node in ast.walk(ast.parse(file.read_text("utf-8"))):
                if isinstance(node, ast.FunctionDef):
                    lines = (node.end_lineno or 0) - node.lineno + 1
                    if lines > most:
                        long[f"{file.relative_to(ROOT)}: {node.name}"] = lines
        self.assertEqual(long, {})

    def test_calls_within_the_kernel_name_their_arguments_from_the_fifth_on(self) -> None:
        files = {file: ast.parse(file.read_text("utf-8")) for file in KERNEL.rglob("*.py")}
        known = {node.name for tree in files.values() for node in tree.body if isinstance(node, ast.FunctionDef)}
        found = [
            f"{file.relative_to(ROOT)}:{node.lineno}"
            for file, tree in files.items()
            for node in ast.walk(tree)
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in known
            if len(node.args) > 4
        ]
        self.assertGreater(len(known), 150)
        self.assertEqual(found, [])

    def test_no_room_is_named_like_a_public_function(self) -> None:
        """A room that is imported becomes an attribute of the package, in the place of the function."""
        rooms = {folder.name for folder in (ROOT / "src" / "restless_ledger").iterdir() if folder.is_dir()}
        self.assertEqual(rooms & set(rl.__all__), {"demo"})  # which holds rulebooks only and is never imported

    def test_nothing_is_kept_from_the_formatter(self) -> None:
        words = ("fmt: " + "skip", "fmt: " + "off")
        found = [str(file) for file in FILES if any(word in file.read_text("utf-8") for word in words)]
        self.assertEqual(found, [])
