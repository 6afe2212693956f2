"""Compiled rules that are kept: in a private folder, named by their sources, and never trusted where they are damaged."""

from __future__ import annotations

import ast
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from restless_ledger.keeping import folder as keeping


def imports(file: Path) -> set[Path]:
    """Return the files of the package that a file imports."""
    found = set[Path]()
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.level:
            base = file.parents[node.level - 1] / (node.module or "").replace(".", "/")
            places = [base.with_suffix(".py"), base / "__init__.py", *(base / f"{each.name}.py" for each in node.names)]
            found |= {place for place in places if place.exists()}
    return found


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.base = Path(folder.name)

    def use(self, *names: str) -> Path | None:
        return keeping.usable(iter([self.base / "cache" / name for name in names]))

    def test_files_are_kept_while_they_are_whole_and_removed_where_they_are_not(self) -> None:
        folder = self.use("one")
        assert folder
        whole = keeping.keep(folder, "enter", ".so", b"code")
        self.assertEqual(list(keeping.kept(folder, "enter")), [whole])
        self.assertEqual(list(keeping.kept(folder, "ente")), [])
        whole.write_bytes(b"damaged")
        (folder / "enter-0123.so").write_bytes(b"from elsewhere")
        (folder / "enter-77.part").write_bytes(b"half a program, which another process is writing")
        (folder / "enter-link.so").symlink_to(whole)
        self.assertEqual(list(keeping.kept(folder, "enter")), [])
        self.assertEqual([file.name for file in folder.iterdir()], ["enter-77.part"])

    def test_a_folder_that_others_may_write_to_is_not_used(self) -> None:
        folder = self.use("one")
        assert folder
        folder.chmod(0o777)
        self.assertEqual(self.use("one", "two"), self.base / "cache" / "two")
        (self.base / "cache" / "link").symlink_to(self.base)
        self.assertIsNone(self.use("link"))

    def test_where_nothing_can_be_written_nothing_is_kept(self) -> None:
        (self.base / "cache").write_text("a file in the way", encoding="utf-8")
        self.assertIsNone(self.use("one"))

    def test_another_source_is_another_folder_and_old_ones_go(self) -> None:
        source = self.base / "engine"
        source.mkdir()
        names = set()
        for text in ("a = 1", "a = 2", "a = 2"):
            (source / "x.py").write_text(text, encoding="utf-8")
            with mock.patch.object(keeping, "PACKAGE", self.base):
                names.add(keeping.fingerprint.__wrapped__(("engine",)))
        self.assertEqual(len(names), 2)
        for number in range(8):
            folder = self.use(f"n{number}")
            assert folder
            keeping.keep(folder, "enter", ".so", b"code")
        self.assertLessEqual(len(list((self.base / "cache").iterdir())), keeping.KEPT + 1)

    def test_every_source_that_the_kernel_is_made_from_is_looked_at(self) -> None:
        """What the kernel's files import, and what its codes are taken from."""

        def covered(file: Path) -> bool:
            name = file.relative_to(keeping.PACKAGE).as_posix()
            return any(name == source or name.startswith(f"{source}/") for source in keeping.RULES_OF_COMBAT)

        files = [
            file
            for name in ("kernel", "layout", "compiler")
            for file in (keeping.PACKAGE / "engine" / name).rglob("*.py")
        ]
        files.append(keeping.PACKAGE / "engine" / "codes.py")
        left_out = {imported for file in files for imported in imports(file) if not covered(imported)}
        self.assertEqual({file.name for file in left_out}, {"__init__.py"} & {file.name for file in left_out})
        self.assertGreater(len(files), 40)
        for source in (*keeping.RULES_OF_COMBAT, *keeping.RULEBOOKS):
            self.assertTrue((keeping.PACKAGE / source).exists(), source)

    def test_without_a_home_it_lies_among_temporary_files(self) -> None:
        with mock.patch.dict("os.environ", {"HOME": "/nonexistent", "XDG_CACHE_HOME": "", keeping.VARIABLE: ""}):
            folders = list(keeping.candidates("x"))
        self.assertEqual(folders[-1].parent.parent, Path(tempfile.gettempdir()))
