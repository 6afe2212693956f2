"""The public face: what it lists is there, and nothing heavy is loaded before it is needed."""

import subprocess
import sys
import unittest

import restless_ledger as rl


class Public(unittest.TestCase):
    def test_everything_listed_is_there_and_described(self) -> None:
        for name in rl.__all__:
            self.assertTrue(getattr(rl, name))
            if name != "__version__":
                self.assertTrue(getattr(rl, name).__doc__, name)
        with self.assertRaises(AttributeError):
            rl.nothing  # noqa: B018

    def test_help_and_sheets_load_no_heavy_library(self) -> None:
        for words in (["--help"], ["sheet", "demo", "rigger"]):
            code = (
                f"import sys\nfrom restless_ledger.cli.main import main\nmain.main({words!r}, standalone_mode=False)\n"
                "print([name for name in ('numba', 'scipy', 'pandas', 'matplotlib') if name in sys.modules])"
            )
            done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
            self.assertEqual(done.stdout.splitlines()[-1], "[]")
