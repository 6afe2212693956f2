"""The rules as source code: compiled, run, and held to the engine on random rulebooks and the demo."""

from __future__ import annotations

import runpy
import shutil
import subprocess
import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl
from restless_ledger.engine.setup import FightFault

from ..engine.test_random import random_book
from ..support import PROVING, TINY, book_of, many

COMMANDS = {
    "c": (
        ("gcc", "-O1", "-ffp-contract=off", "-Wall", "-Wextra", "-Werror", "-orun", "rules.c", "run_vectors.c", "-lm"),
        ("./run",),
    ),
    "csharp": (("mcs", "-warnaserror", "-out:run.exe", "Rules.cs", "RunVectors.cs"), ("mono", "run.exe")),
    "javascript": (("node", "run_vectors.js"),),
    "lua": (("lua5.4", "run_vectors.lua"),),
    "python": (("python3", "run_vectors.py"),),
}
LANGUAGES = [
    name
    for name, commands in COMMANDS.items()
    if all(command[0] == "./run" or shutil.which(command[0]) for command in commands)
]


class Code(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def run_in(self, language: str, folder: Path) -> str:
        """Compile and run the vectors of one language; return what it said last."""
        said = ""
        for command in COMMANDS[language]:
            done = subprocess.run(command, cwd=folder / language, capture_output=True, text=True, timeout=600)
            self.assertEqual(done.returncode, 0, (language, command, done.stdout[-800:], done.stderr[-800:]))
            said = done.stdout
        return said

    def held(self, book: rl.Rulebook, name: str, vectors: int, fights: int) -> int:
        folder = self.folder / name
        made = rl.export(book, folder, formats=["json"], languages=LANGUAGES, vectors=vectors, fights=fights)
        for language in LANGUAGES:
            self.assertIn(f"{len(made.vectors)} vectors, 0 missed", self.run_in(language, folder), (name, language))
        return len(made.vectors)

    def test_every_language_agrees_with_the_engine_to_the_thousandth(self) -> None:
        """`make prove` runs many times as many rulebooks."""
        held = self.held(rl.demo(), "demo", 200 if PROVING else 80, 2)
        for seed in range(many(80, 27)):
            try:
                held += self.held(random_book(seed), str(seed), 200, 4)
            except FightFault:
                continue
        self.assertGreater(held, 500_000 if PROVING else 10_000)

    def test_languages_that_are_not_installed(self) -> None:
        if missing := [name for name in COMMANDS if name not in LANGUAGES]:
            self.skipTest(f"not installed here: {', '.join(missing)}")

    def test_a_rule_that_is_changed_by_hand_is_found(self) -> None:
        """The vectors are no mere formality: one sign, one rounding, one constant too few, and they fail."""
        rl.export(rl.demo(), self.folder, formats=["json"], languages=["python"])
        rules, text = self.folder / "python" / "rules.py", (self.folder / "python" / "rules.py").read_text()
        for before, after in (
            ("x + 0.5 + slack(x)", "x + slack(x)"),
            ("(1.0 + scaled)) * times", "(1.0 + scaled)) + times"),
            ("settled = greatest(0.0,", "settled = least(0.0,"),
            ("missed = over", "missed = 0.0"),
            ("after - now", "after + now"),
        ):
            self.assertIn(before, text)
            rules.write_text(text.replace(before, after))
            done = subprocess.run(("python3", "run_vectors.py"), cwd=rules.parent, capture_output=True, text=True)
            self.assertEqual(done.returncode, 1, before)

    def test_names_that_a_language_has_for_itself(self) -> None:
        book = book_of(
            TINY + '[stats.double]\n[stats.int]\n[stats.local]\n[gauges.end]\ntop = "double + int * local + 1"\n'
        )
        self.held(book, "words", 20, 1)

    def test_what_is_held_back_of_a_hit(self) -> None:
        """Each mitigation, and the soak of a part, is a function; what a vector wants of it is what the rules say."""
        book = book_of(
            TINY + '[bodies.person.parts]\nhead = { share = 1, soak = "2 + might / 10" }\n'
            '[buffs.link]\nmitigates = [{ times = 0.5, less = "asked / 4", passes = 0.25, leaves = 3 }]\n'
        )
        made = rl.export(book, self.folder, formats=["json"], languages=["python"], vectors=1)
        code = runpy.run_path(str(self.folder / "python" / "rules.py"))
        self.assertEqual(
            [name for name in code if name.startswith(("left_", "passed_"))],
            ["left_buffs_link_mitigates_0", "passed_buffs_link_mitigates_0", "left_bodies_person_parts_head_soak"],
        )
        # 10 points: halved 5, less a quarter of the 10 asked 2.5, of which a quarter goes to somebody else
        self.assertEqual(code["passed_buffs_link_mitigates_0"]({}, 10_000, 1), 625)
        self.assertEqual(code["left_buffs_link_mitigates_0"]({}, 10_000, 1, 9000), 1875)
        self.assertEqual(code["left_buffs_link_mitigates_0"]({}, 10_000, 0, 9000), 2500)  # nobody takes a share
        self.assertEqual(code["left_buffs_link_mitigates_0"]({}, 10_000, 0, 4000), 1000)  # 3 of 4 points stay
        self.assertEqual(code["left_bodies_person_parts_head_soak"]({"might": 15}, 10_000), 6500)
        self.assertGreater(len(made.functions.mitigations), 2)
        self.held(book, "held_back", 50, 1)
