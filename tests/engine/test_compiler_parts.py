"""The private parts of the compiler that the engine leans on: where they stand, and which of them is missing."""

from __future__ import annotations

import ast
import importlib
import unittest

from ..support import ROOT

SOURCE = ROOT / "src" / "restless_ledger"
ALLOWED = {
    "engine/compiler/numba_types.py": "tables and states are passed as one address, whose fields are read and written in place",
    "engine/compiler/program.py": "the kernel is one program, optimised as a whole, that needs nothing of the compiler to run",
}
"""The only files that may name the compiler, and why each does."""


def parts(file: str) -> list[tuple[str, str]]:
    """Return what a file takes of the compiler: module and name, which is empty for a module by itself."""
    found = []
    for node in ast.walk(ast.parse((SOURCE / file).read_text(encoding="utf-8"))):
        if isinstance(node, ast.ImportFrom) and (node.module or "").split(".")[0] == "numba":
            found += [(node.module or "", alias.name) for alias in node.names]
        elif isinstance(node, ast.Import):
            found += [(alias.name, "") for alias in node.names if alias.name.split(".")[0] == "numba"]
    return found


class Parts(unittest.TestCase):
    def test_each_is_there(self) -> None:
        missing = []
        for file in ALLOWED:
            self.assertTrue(parts(file), file)
            for module, name in parts(file):
                try:
                    found = importlib.import_module(module)
                except ImportError:
                    missing.append(f"{file}: {module}")
                    continue
                if name and not hasattr(found, name):
                    missing.append(f"{file}: {module}.{name}")
        self.assertEqual(missing, [], "the versions of Numba in pyproject.toml do not fit any more")

    def test_no_other_file_leans_on_the_compiler(self) -> None:
        files = [str(file.relative_to(SOURCE)) for file in SOURCE.rglob("*.py")]
        self.assertEqual([file for file in files if parts(file) and file not in ALLOWED], [])
