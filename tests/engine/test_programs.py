"""How the compiled rules are found, loaded and made: without the compiler, in an empty cache, and where nothing can be made."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.engine.layout.books_layout import RESULT
from restless_ledger.engine.making.build import linked
from restless_ledger.engine.native import loading as native
from restless_ledger.keeping import folder as keeping

from ..support import ROOT

MARK = "0123456789abcdef01234567"
STAND_IN = f"""
@rl_fingerprint = constant [25 x i8] c"{MARK}\\00"
define double @rl_enter(ptr %tables, ptr %opening, ptr %state, ptr %results, i64 %count) {{
  %number = sitofp i64 %count to double
  ret double %number
}}
"""
"""A program that gives back for how many results there is room."""


class Blockish:
    address = 0


class Loaded(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def files(self) -> list[Path]:
        """Write the stand-in as an object, and as a library where there is a linker."""
        from llvmlite import binding

        binding.initialize_native_target()
        binding.initialize_native_asmprinter()
        machine = binding.Target.from_default_triple().create_target_machine(reloc="pic", codemodel="small")
        code = machine.emit_object(binding.parse_assembly(STAND_IN))
        found = []
        for content, ending in ((code, native.OBJECT_ENDING), linked(code)):
            found.append(self.folder / f"{len(list(self.folder.iterdir()))}{ending}")  # what is loaded stays as it is
            found[-1].write_bytes(content)
        return found

    def test_a_library_and_an_object_do_the_same(self) -> None:
        for file in self.files():
            program = native.load(file, "enter", MARK)
            blocks = (Blockish(), Blockish(), Blockish())
            self.assertEqual(program(*blocks, np.recarray(7, RESULT)), 7.0)  # type: ignore[arg-type]
            self.assertEqual(program(*blocks, np.recarray(0, RESULT)), 0.0)  # type: ignore[arg-type]
            with self.assertRaisesRegex(TypeError, "in one piece"):
                program(*blocks, np.recarray(8, RESULT)[::2])  # type: ignore[arg-type]

    def test_what_is_of_other_sources_damaged_or_no_program_is_not_run(self) -> None:
        for file in self.files():
            with self.assertRaisesRegex(native.WrongProgram, "other sources"):
                native.load(file, "enter", MARK[::-1])
        for name, content in (("a.so", b""), ("b.so", MARK.encode()), ("c.o", b"no code")):
            (self.folder / name).write_bytes(content)
            with self.assertRaises(native.WrongProgram):
                native.load(self.folder / name, "enter", MARK)
        for file in self.files():
            with self.assertRaises(native.WrongProgram):
                native.load(file, "enter_plain", MARK)


class Fresh(unittest.TestCase):
    """Commands with an empty cache."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.cache = Path(folder.name)
        self.addCleanup(self.stop)

    def stop(self) -> None:
        """Stop what is still being compiled into the cache."""
        for place in Path("/proc").glob("[0-9]*/cmdline"):
            with contextlib.suppress(OSError):
                if str(self.cache).encode() in place.read_bytes():
                    os.killpg(int(place.parent.name), signal.SIGKILL)  # it leads a session of its own

    def run_python(self, code: str, **more: str) -> subprocess.CompletedProcess[str]:
        environment = {**os.environ, keeping.VARIABLE: str(self.cache), **more}
        words = [sys.executable, "-c", code]
        return subprocess.run(words, capture_output=True, text=True, check=True, env=environment, cwd=ROOT)

    def test_the_first_fight_does_not_wait_and_is_the_same(self) -> None:
        """It is interpreted while a process of its own compiles, and says so once."""
        code = "import restless_ledger as rl; print(rl.fight(rl.demo(), 'stair_duel', seed=3).records())"
        done = self.run_python(code)
        self.assertEqual(done.stdout.strip(), str(rl.fight(rl.demo(), "stair_duel", seed=3).records()))
        self.assertEqual(done.stderr.count("compiled beside this"), 1)
        self.assertEqual(list(self.cache.rglob("*.so")), [])

    def test_without_a_compiler_it_is_said_once_and_all_is_interpreted(self) -> None:
        code = (
            "import importlib.util as u, sys\nfind = u.find_spec\n"
            "u.find_spec = lambda name, *more: None if name == 'numba' else find(name, *more)\n"
            "import restless_ledger as rl\nprint(rl.trials(rl.demo(), 'stair_duel', fights=3, seed=1).finding())\n"
            "from restless_ledger.engine import is_compiled\nprint('numba' in sys.modules, is_compiled())"
        )
        done = self.run_python(code)
        said = [rl.trials(rl.demo(), "stair_duel", fights=3, seed=1).finding(), "False False"]
        self.assertEqual(done.stdout.splitlines(), said)
        self.assertEqual(done.stderr.count('pip install "restless-ledger[compiler]"'), 1)

    def test_a_compile_that_fails_is_said_once(self) -> None:
        (self.cache / "numba.py").write_text("raise SystemExit('no compiler today')", encoding="utf-8")
        code = "import restless_ledger as rl; print(rl.trials(rl.demo(), 'stair_duel', fights=3, seed=1).fights)"
        done = self.run_python(code, PYTHONPATH=str(self.cache))
        self.assertEqual(done.stdout.strip(), "3")
        self.assertEqual(done.stderr.count("could not be compiled, so fights take longer: no compiler today"), 1)
        self.assertEqual(done.stderr.count("could not be compiled"), 1)

    def test_nothing_of_the_compiler_is_imported_for_a_fight(self) -> None:
        code = "import restless_ledger as rl, sys; rl.fight(rl.demo(), 'stair_duel'); print([name for name in ('numba', 'llvmlite') if name in sys.modules])"
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        self.assertEqual((done.stdout.strip(), done.stderr), ("[]", ""))
