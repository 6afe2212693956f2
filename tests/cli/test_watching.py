"""`--watch`: what is said of a save is what moved, and nothing else."""

from __future__ import annotations

import signal
import subprocess
import sys
import threading
import time
import unittest
from queue import Empty, Queue

import restless_ledger as rl
from restless_ledger.cli.moved import moved_audit, moved_fight, moved_sheet, moved_trials

from ..support import OX_AND_POST, TINY, CommandCase, book_of, changed

BASE = changed(
    TINY,
    ('power = "might"', 'power = "might"\naim = 0.8'),
    ("growth.might = 0", 'growth.might = 9\nlearns = { 1 = ["hit"] }'),
)
BOOK = BASE + OX_AND_POST


def other(old: str, new: str) -> rl.Rulebook:
    return book_of(changed(BOOK, (old, new)))


class Moved(unittest.TestCase):
    def test_a_sheet(self) -> None:
        old = rl.sheet(book_of(BOOK), "ox")
        self.assertEqual(moved_sheet(old, rl.sheet(book_of(BOOK + "\n# a remark\n"), "ox")), [])
        new = rl.sheet(other('growth.might = 10\nlearns = { 1 = ["hit"] }', "growth.might = 12"), "ox")
        self.assertEqual(moved_sheet(old, new), ["might: 10 → 12", "no longer knows hit"])

    def test_a_fight(self) -> None:
        old = rl.fight(book_of(BOOK), "meet")
        self.assertEqual(moved_fight(old, rl.fight(book_of(BOOK), "meet")), [])
        new = rl.fight(other("growth.might = 10", "growth.might = 11"), "meet")
        said = moved_fight(old, new)
        differs = next(
            number for number, (one, two) in enumerate(zip(old.lines(), new.lines(), strict=False)) if one != two
        )
        self.assertIn(f"The first entry that differs is {differs}:", said[-1])
        self.assertEqual(len(said) == 2, old.finding() != new.finding())

    def test_trials_move_beyond_chance_or_they_do_not(self) -> None:
        old = rl.trials(book_of(BOOK), "meet", fights=2000)
        same = rl.trials(book_of(changed(BOOK, ("[classes.ox]", '[classes.ox]\nlabel = "Ox"'))), "meet", fights=2000)
        self.assertEqual(moved_trials(old, same), ["Nothing that this encounter depends on has changed."])
        much = rl.trials(other("growth.might = 10", "growth.might = 14"), "meet", fights=2000)
        self.assertIn("moved beyond chance", moved_trials(old, much)[0])
        little = rl.trials(other("growth.might = 10", "growth.might = 10.001"), "meet", fights=2000)
        self.assertIn("has not moved beyond chance", moved_trials(old, little)[0])

    def test_an_audit(self) -> None:
        promised = BOOK + (
            '[promises.even]\ntitle = "an even fight"\nencounter = "meet"\nlevels = [1]\nexpect = { seconds_median = [5, 15] }\n'
        )
        old, new = rl.audit(book_of(promised)), rl.audit(book_of(promised.replace("[5, 15]", "[25, 30]")))
        self.assertEqual(moved_audit(old, rl.audit(book_of(promised))), [])
        self.assertIn("promise kept → broken: an even fight", moved_audit(old, new)[0])
        faulty = rl.audit(rl.faulty(), quick=True)
        said = moved_audit(rl.audit(rl.demo(), quick=True), faulty)
        self.assertIn(f"and {len(faulty.findings) - 12} more", said)
        self.assertTrue(moved_audit(faulty, rl.audit(rl.demo(), quick=True))[0].startswith("gone: error "))


def heard_interrupts() -> None:
    """Let a process hear Ctrl-C also where those who began it do not."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)


class Watching(CommandCase):
    def test_each_save_is_answered_also_one_that_can_not_be_read(self) -> None:
        book = self.folder / "book.toml"
        book.write_text(BOOK, encoding="utf-8")
        words = [sys.executable, "-m", "restless_ledger", "sheet", "book.toml", "ox", "--watch"]
        running = subprocess.Popen(
            words,
            cwd=self.folder,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            preexec_fn=heard_interrupts,
        )
        said: Queue[str] = Queue()
        assert running.stdout
        threading.Thread(target=lambda: [said.put(line) for line in running.stdout or ()], daemon=True).start()
        try:
            self.heard(said, "waiting for a file")
            for text, answer in (
                (changed(BOOK, ("growth.might = 10", "growth.might = 12")), "might: 10 → 12"),
                (BOOK.replace("growth.might = 10", "growth.mihgt = 10"), "did you mean might?"),
                (BOOK, "might: 12 → 10"),
            ):
                time.sleep(0.3)
                book.write_text(text, encoding="utf-8")
                self.heard(said, answer)
                self.heard(said, "waiting for a file")
        finally:
            running.send_signal(signal.SIGINT)
            running.wait(timeout=20)
            running.stdout.close()
        self.assertEqual(running.returncode, 130)

    def heard(self, said: Queue[str], words: str) -> None:
        """Wait until a line with these words is said."""
        heard = []
        try:
            while not heard or words not in heard[-1]:
                heard.append(said.get(timeout=60))
        except Empty:
            self.fail(f"{words!r} was not said, but {heard}")


if __name__ == "__main__":
    unittest.main()
