"""Poking a character at the terminal."""

from __future__ import annotations

import io
import os
import pty
import select
import subprocess
import sys
import time
from unittest.mock import patch

import restless_ledger as rl
from restless_ledger.scene.commands import Script, commands_in, help_lines

from ..scene.test_use import MORE
from ..support import CommandCase, book_of, command


class Poking(CommandCase):
    def test_commands_are_carried_out_and_a_refusal_is_counted(self) -> None:
        script = "hurt 30 crush; use hook_swing # too far\nadvance 1 s; give burning; why guard; level 12"
        who = ("live", "demo", "rigger", "--level", "8", "--against", "slate_crab", "--arena", "landing")
        done = command(*who, "--do", script)
        said = " ".join(done.stdout.split())
        self.assertEqual(done.returncode, 1)
        for words in (
            "Rigger is hurt (crush)",
            "out of reach by 5.2 m",
            "by burning",
            "learned second_step",
            "1 command was refused",
        ):
            self.assertIn(words, said)

    def test_standard_input_bad_words_and_a_saved_scene(self) -> None:
        said = self.ok("live", "demo", "warden", "--do", f"hurt 30; save {self.folder / 's.json'}")
        self.assertIn("saved to", said)
        said = self.ok("live", "demo", "warden", "--restore", str(self.folder / "s.json"), "--do", "hurt 5")
        self.assertIn("1 0.00 Warden is hurt", " ".join(said.split()))
        with patch("sys.stdin", io.StringIO("hurt 5\nuse brace; use brace")):
            done = command("live", "demo", "warden")
        self.assertEqual((done.returncode, done.stdout.count("it is learned at level 3")), (1, 2), done.stdout)
        for words, commands in (
            ("did you mean hurt?", "hrt 5"),
            ("write hurt 30", "hurt much"),
            ("close the quotation mark", 'as "warden'),
            ("zero or more", "hurt -5"),
            ("a duration is written with its unit", "advance"),
            ("there is no buff soakd", "give soakd"),
        ):
            done = command("live", "demo", "warden", "--do", commands)
            self.assertEqual((done.returncode, words in done.stderr), (2, True), (commands, done.stderr))

    def test_every_command_of_the_help_can_be_written(self) -> None:
        live = rl.live(book_of(MORE), "elk", companions=["elk"], against=["post"], arena="yard")
        script = Script(live)
        for each in commands_in(
            "hurt 3 blow; hit 5 blow by post part head; heal 3 breath; can hit; use hit at post; move 5 m 5 m; push 2 m/s north;"
            "give veil by post strength 2; strip veil; fall 1 m; why might; why 0; show; show might; as post; as 'elk 1';"
            "level 3; become post level 2; become elk; down; revive 50%; reset; advance 3 ticks"
        ):
            script.carry_out(each)
        self.assertIn("veil", script.completions("give v"))
        self.assertEqual(script.completions("hurt 3; use ho"), [])
        self.assertIn("post", script.completions("use hit at "))
        self.assertEqual(
            {usage.split()[0] for usage, _ in help_lines()} & {"hurt", "use", "save"}, {"hurt", "use", "save"}
        )

    def test_a_prompt_asks_until_it_is_left(self) -> None:
        ours, theirs = pty.openpty()
        process = subprocess.Popen(
            [sys.executable, "-m", "restless_ledger", "live", "demo", "warden"],
            stdin=theirs,
            stdout=theirs,
            stderr=theirs,
            close_fds=True,
        )
        os.close(theirs)
        said, sent, begun = b"", False, time.monotonic()
        while process.poll() is None and time.monotonic() - begun < 120:
            if select.select([ours], [], [], 0.2)[0]:
                try:
                    said += os.read(ours, 65536)
                except OSError:
                    break
            if not sent and b"help lists the commands" in said and "›".encode() in said:
                os.write(ours, b"hurt 30; hrt\rquit\r")
                sent = True
        process.wait(30)
        os.close(ours)
        text = said.decode("utf-8", "replace")
        self.assertEqual(process.returncode, 0, text)
        self.assertIn("Warden is hurt", text)
        self.assertIn("did you mean hurt?", text)
