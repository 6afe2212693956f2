"""The commands, run as a user runs them."""

from __future__ import annotations

import csv
import json
import signal
import subprocess
import sys
import time

from restless_ledger.cli.main import COMMANDS, GROUPS, MOVED

from ..support import OX_AND_POST, ROOT, TINY, CommandCase, changed, command, picture_size


class Commands(CommandCase):
    def test_curves_builds_and_odds(self) -> None:
        said = self.ok("curves", "demo", "rigger", "bellringer", "--stat", "nerve", "--plot", "c.png")
        self.ok("curves", "demo", "rigger", "bellringer", "--stat", "nerve", "--out", "c.csv")
        self.assertIn("Classes pass each other", self.ok("curves", "demo", "--stat", "brawn"))
        self.assertIn("Nerve", said)
        with (self.folder / "c.csv").open() as file:
            rows = list(csv.DictReader(file))
        self.assertEqual((len(rows), rows[0]["class"], rows[-1]["level"]), (120, "rigger", "60"))
        said = self.ok("builds", "demo", "--best", "brawn + wits", "--plot", "b.svg")
        self.ok("builds", "demo", "--out", "b.json")
        self.assertIn("Every build was tried.", said)
        self.assertEqual(len(json.loads((self.folder / "b.json").read_text())), 3)
        self.assertIn(
            "Allowed.", self.ok("builds", "demo", "--origin", "quayfolk", "--set", "grit=4", "--set", "brawn=4")
        )
        done = command("builds", "demo", "--origin", "quayfolk", "--set", "grit=8")
        self.assertEqual((done.returncode, "too many" in done.stdout), (1, True))
        said = self.ok("builds", "demo", "light_in_wind", "--levels", "5,60", "--plot", "o.png")
        self.assertIn("is closed to Warden up to level 5: it requires wits >= 20", " ".join(said.split()))
        self.assertIn(
            "cliffborn",
            self.ok("sheet", "demo", "rigger", "--origin", "cliffborn", "--set", "brawn=4", "--set", "nerve=4"),
        )
        said = self.ok("sheet", "demo", "rigger", "--plan", "hook_first", "--coin", "90")
        self.assertIn("hook_first with 90: keen_hook 2; 26 left, waiting for keen_hook.", said)
        said = self.ok("sheet", "demo", "warden", "--level", "6", "--gear", "cork_coat", "--bought", "keen_hook=2")
        self.assertIn("Yet to learn: sure_foot at level 9", said)
        self.assertIn("it is learned at level 9", self.ok("sheet", "demo", "warden", "--why", "sure_foot"))
        for words, told in (
            (("builds", "demo", "--set", "grit=1"), "name it with --origin"),
            (("sheet", "demo", "rigger", "--origin", "clifborn"), "did you mean cliffborn"),
            (("sheet", "demo", "rigger", "--origin", "cliffborn", "--set", "brawn=x"), "name=number"),
            (("builds", "demo", "nothing"), "there is no check nothing"),
            (("sheet", "demo", "rigger", "--coin", "5"), "give both --plan and --coin"),
            (("sheet", "demo", "rigger", "--gear", "chain_apron"), "it is for warden"),
            (("curves", "demo", "riger"), "did you mean rigger"),
        ):
            self.assertIn(told, self.refused(*words))
        for file in ("c.png", "b.svg", "o.png"):
            self.assertEqual(picture_size(self.folder / file), (1280, 800))

    def test_journey(self) -> None:
        said = self.ok("journey", "demo", "winter", "--runs", "20", "--plot", "j.png")
        self.ok("journey", "demo", "winter", "--runs", "20", "--out", "j.csv")
        self.assertIn("To the end:", said)
        with (self.folder / "j.csv").open() as file:
            self.assertEqual([row["stage"] for row in csv.DictReader(file)][-1], "thaw")
        said = self.ok("journey", "demo", "winter", "--number", "5")
        self.ok("journey", "demo", "winter", "--number", "5", "--out", "books.json")
        books = json.loads((self.folder / "books.json").read_text())
        self.assertIn(f"The books of {len(books)} entries balance", said)
        self.assertIn("did you mean winter", self.refused("journey", "demo", "wintre"))
        self.assertIn("numbered from 0", self.refused("journey", "demo", "winter", "--number", "-1"))
        self.assertEqual(picture_size(self.folder / "j.png"), (1280, 800))

    def test_help_lists_every_command_and_each_has_its_own(self) -> None:
        said = self.ok("--help")
        self.assertLessEqual(len(COMMANDS), 20)
        for name in COMMANDS:
            self.assertIn(f"  {name} ", said)
            self.assertIn(f"Usage: restless-ledger {name} ", self.ok(name, "--help"))
        for title in GROUPS:
            self.assertIn(f"\n{title}:\n", said)
        for name, words in MOVED.items():
            self.assertIn(f"write: restless-ledger {words}", self.refused(name, "demo"))
            self.assertIn(words.split()[0], COMMANDS)

    def test_sheet(self) -> None:
        said = self.ok("sheet", "demo", "rigger", "--level", "12")
        self.ok("sheet", "demo", "rigger", "--level", "12", "--out", "sheet.csv")
        self.assertRegex(said, r"Brawn +27 +from 11 to 84, bend 0\.3")
        self.assertRegex(said, r"Health +\d+ +\d+ +60 \+ 9 × grit")
        rows = list(csv.DictReader((self.folder / "sheet.csv").read_text(encoding="utf-8").splitlines()))
        self.assertEqual(next(row["value"] for row in rows if row["name"] == "brawn"), "27.0")
        why = self.ok("sheet", "demo", "warden", "--buff", "braced", "--why", "guard")
        self.assertIn("+20% by braced", why)
        self.assertIn("watch.toml:", why)
        self.assertIn("top", self.ok("sheet", "demo", "warden", "--why", "health"))

    def test_fight(self) -> None:
        said = self.ok("fight", "demo", "stair_duel", "--seed", "3", "--plot", "fight.png")
        self.ok("fight", "demo", "stair_duel", "--seed", "3", "--out", "ledger.json")
        self.assertIn("The books balance.", said)
        self.assertIn("seed 3, fight 0", said)
        entries = json.loads((self.folder / "ledger.json").read_text(encoding="utf-8"))
        down = next(entry["entry"] for entry in entries if entry["verb"] == "down")
        self.assertRegex(said, rf"{down} .*goes down")
        self.assertEqual(picture_size(self.folder / "fight.png"), (1280, 800))
        self.assertIn("entry 4", self.ok("fight", "demo", "stair_duel", "--seed", "3", "--why", "4"))
        self.assertNotEqual(said, self.ok("fight", "demo", "stair_duel", "--seed", "3", "--number", "1"))

    def test_trials(self) -> None:
        words = ("trials", "demo", "stair_duel", "--fights", "500", "--seed", "3")
        said = self.ok(*words, "--plot", "t.svg")
        self.assertIn("500 fights, seed 3", said)
        self.assertRegex(said, r"riggers +\d+ +[\d.]+% +[\d.]+% to [\d.]+%")
        self.assertEqual(said, self.ok(*words, "--threads", "1", "--plot", "t.svg"))
        self.ok(*words, "--out", "outcomes.csv")
        self.assertTrue((self.folder / "outcomes.csv").read_text(encoding="utf-8").startswith("outcome,fights,share"))

    def test_new_writes_a_rulebook_that_works_and_overwrites_nothing(self) -> None:
        self.ok("new", "mine")
        self.assertIn("The books balance.", self.ok("fight", "mine", "ford"))
        self.ok("trials", "mine", "ford", "--fights", "100")
        before = (self.folder / "mine" / "rulebook.toml").read_text(encoding="utf-8")
        self.assertIn("nothing was written", self.refused("new", "mine"))
        self.assertEqual(before, (self.folder / "mine" / "rulebook.toml").read_text(encoding="utf-8"))

    def test_schema(self) -> None:
        self.assertIn("properties", json.loads(command("list", "--schema").stdout))

    def test_falls_and_paths(self) -> None:
        out = self.ok("curves", "demo", "--falls", "--levels", "8", "--plot", "falls.png")
        self.ok("curves", "demo", "--falls", "--levels", "8", "--out", "falls.csv")
        self.assertIn("Nobody’s own jump hurts", out)
        self.assertIn("class,level,health,hurts_from_m", (self.folder / "falls.csv").read_text())
        self.assertIn("Figure written to paths.png", self.ok("fight", "demo", "landing_ambush", "--paths", "paths.png"))
        self.assertIn("there is no level 99", self.refused("curves", "demo", "--falls", "--levels", "99"))
        self.assertIn("this fight has no place", self.refused("fight", "demo", "stair_duel", "--paths", "paths.png"))

    def test_demo(self) -> None:
        said = self.ok("demo", "--out", "pictures", "--fights", "400")
        for words in ("Warden, level 8", "The books balance.", "power", "400 fights", "Ambush on the landing"):
            self.assertIn(words, said)
        self.assertEqual(len(list((self.folder / "pictures").glob("*.png"))), 6)

    def test_colour_is_never_needed(self) -> None:
        self.assertNotIn("\x1b", self.ok("fight", "demo", "stair_duel"))

    def test_input_that_cannot_be_used(self) -> None:
        (self.folder / "bad.toml").write_text(TINY.replace("cooldown", "coldown"), encoding="utf-8")
        (self.folder / "zero.toml").write_text(
            changed(TINY, ("top = 100", 'top = "might - 10"')) + OX_AND_POST, encoding="utf-8"
        )
        (self.folder / "words.toml").write_text("not toml at all", encoding="utf-8")
        (self.folder / "latin.toml").write_bytes(b"title = '\xe9'")
        (self.folder / "empty").mkdir()
        for words, line in (
            ("did you mean cooldown?", ("sheet", "bad.toml", "ox")),
            ("is 0", ("fight", "zero.toml", "meet")),
            ("this is not TOML", ("sheet", "words.toml", "ox")),
            ("not UTF-8", ("sheet", "latin.toml", "ox")),
            ("no such file", ("trials", "nowhere", "meet")),
            ("no .toml file", ("trials", "empty", "meet")),
            ("did you mean rigger?", ("sheet", "demo", "riger")),
            ("did you mean brawn?", ("sheet", "demo", "rigger", "--why", "brwan")),
            ("levels go from 1 to 60", ("sheet", "demo", "rigger", "--level", "0")),
            ("levels go from 1 to 60", ("sheet", "demo", "rigger", "--level", "99")),
            ("did you mean stair_duel?", ("fight", "demo", "stair_dul")),
            ("numbered from 0 to", ("fight", "demo", "stair_duel", "--why", "100000")),
            ("from 0 to 2**63", ("fight", "demo", "stair_duel", "--seed", "-4")),
            ("at least 1 fight", ("trials", "demo", "stair_duel", "--fights", "0")),
            ("between 1 and 64", ("trials", "demo", "stair_duel", "--threads", "0")),
            ("ends in .csv, .json, .parquet or .txt", ("sheet", "demo", "rigger", "--out", "sheet.xls")),
            (".png, .svg or .pdf", ("fight", "demo", "stair_duel", "--plot", "fight.txt")),
            ("did you mean trials?", ("trial", "demo", "stair_duel")),
            ("not a valid integer", ("fight", "demo", "stair_duel", "--seed", "many")),
        ):
            with self.subTest(" ".join(line)):
                self.assertIn(words, self.refused(*line))

    def test_ctrl_c_ends_with_what_there_is(self) -> None:
        for seconds in (5, 20, 60):  # a slow machine may not have fought any by then
            running = subprocess.Popen(
                [sys.executable, "-m", "restless_ledger", "trials", "demo", "landing_ambush", "--fights", "100000000"],
                stdout=subprocess.PIPE,
                stderr=subprocess.PIPE,
                text=True,
                cwd=ROOT,
                preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),
            )
            time.sleep(seconds)
            running.send_signal(signal.SIGINT)
            out, err = running.communicate(timeout=60)
            if "Stopped early" in out:
                break
        self.assertEqual(running.returncode, 130, err)
        self.assertIn("Stopped early", out)
        self.assertIn("of the 100,000,000 asked for", out)
        self.assertNotIn("Traceback", err)


LEAVING = """
import atexit, sys, threading, time
from restless_ledger.__main__ import main
sys.argv = ["restless-ledger", *WORDS]
atexit.register(print, "at exit")
def late():
    time.sleep(THREAD)
    print("late")
if THREAD:
    threading.Thread(target=late).start()
class Kept:
    def __del__(self):
        print("taken apart")
kept = Kept()
kept.itself = kept
main()
print("went on")
"""


class Leaving(CommandCase):
    def left(self, *words: str, thread: float = 0.0) -> tuple[int, list[str]]:
        """Return the code that a command ends its process with, and the last lines of what is printed there."""
        code = LEAVING.replace("WORDS", repr(words)).replace("THREAD", str(thread))
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, cwd=ROOT, check=False)
        return done.returncode, done.stdout.splitlines()

    def test_a_process_ends_with_all_said_and_without_being_taken_apart(self) -> None:
        for words, code in ((("list", "demo"), 0), (("audit", "demo", "--quick"), 0), (("list", "no_such_folder"), 2)):
            found, lines = self.left(*words)
            self.assertEqual((found, lines[-1]), (code, "at exit"))
            self.assertNotIn("went on", lines)
            self.assertEqual("\n".join(lines[:-1]).strip(), command(*words).stdout.strip())

    def test_it_waits_for_a_thread_that_is_at_work(self) -> None:
        code, lines = self.left("list", "demo", thread=5.0)
        self.assertEqual((code, [line for line in lines[-3:] if line in ("late", "at exit")]), (0, ["late", "at exit"]))
