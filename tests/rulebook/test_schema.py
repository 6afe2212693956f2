"""The JSON Schema: it fits what is shipped, describes every field, and lets an editor complete a rulebook's own names."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import tempfile
import time
import tomllib
import unittest
from pathlib import Path
from typing import Any

import jsonschema

import restless_ledger as rl
from restless_ledger.api import DEMO, FAULTY
from restless_ledger.rulebook.reference import with_tables
from restless_ledger.rulebook.schema import entries

from ..support import ROOT, command

SERVER = Path(sys.executable).with_name("tombi")


def properties(schema: dict[str, Any]) -> list[tuple[str, str, dict]]:
    """Return every property of every kind of entry: kind, key, its part of the schema."""
    kinds = {**schema["$defs"], "Rulebook": schema}
    return [(kind, key, part) for kind, held in kinds.items() for key, part in held.get("properties", {}).items()]


class Schema(unittest.TestCase):
    def test_shipped_rulebooks_fit_and_with_their_own_names_too(self) -> None:
        for folder, book in ((DEMO, rl.demo()), (FAULTY, rl.faulty())):
            for schema in (rl.json_schema(), rl.json_schema(book)):
                jsonschema.Draft202012Validator.check_schema(schema)
                validator = jsonschema.Draft202012Validator(schema)
                for file in folder.glob("*.toml"):
                    found = [error.message for error in validator.iter_errors(tomllib.loads(file.read_text("utf-8")))]
                    self.assertEqual(found, [], file.name)
                self.assertNotIn('"x-', json.dumps(schema))

    def test_every_property_is_described(self) -> None:
        found = properties(rl.json_schema())
        self.assertGreater(len(found), 470)
        self.assertEqual([(kind, key) for kind, key, part in found if not part.get("description")], [])
        for kind, key, part in found:
            self.assertRegex(part["description"], r"^[A-Z].*\.$", (kind, key))
            self.assertLess(len(part["description"]), 170, (kind, key))
        for kind in entries():
            self.assertTrue(kind.__doc__, kind)

    def test_the_reference_page_is_made_from_the_fields(self) -> None:
        page = (ROOT / "docs" / "reference" / "rulebook.md").read_text(encoding="utf-8")
        self.assertEqual(page, with_tables(page), "run make reference")
        for kind, key, _ in properties(rl.json_schema()):
            self.assertIn(f"`{key}`" if kind != "Rulebook" else f"`[{key}", page)

    def test_a_name_that_is_not_declared_does_not_fit_its_rulebook(self) -> None:
        validator = jsonschema.Draft202012Validator(rl.json_schema(rl.demo()))
        right = (
            'classes.rigger = { playbook = "hook_and_oil", growth = { brawn = 3 }, learns = { 2 = ["hook_swing"] } }'
        )
        self.assertEqual(list(validator.iter_errors(tomllib.loads(right))), [])
        for old, new in (("hook_and_oil", "hook_and_oi"), ("brawn", "brown"), ("hook_swing", "hook_swng")):
            self.assertTrue(list(validator.iter_errors(tomllib.loads(right.replace(old, new)))), new)
            self.assertEqual(
                list(
                    jsonschema.Draft202012Validator(rl.json_schema()).iter_errors(
                        tomllib.loads(right.replace(old, new))
                    )
                ),
                [],
            )
        level = '[[encounters.stair_duel.sides]]\nname = "a"\nunits = [{ class = "rigger", level = 61 }]'
        self.assertTrue(list(validator.iter_errors(tomllib.loads(level))))

    def test_the_command_writes_it(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder, "schema.json")
            done = command("list", "demo", "--schema", "--out", str(file))
            self.assertEqual((done.returncode, done.stderr), (0, ""))
            self.assertEqual(json.loads(file.read_text("utf-8")), rl.json_schema(rl.demo()))
        self.assertEqual(json.loads(command("list", "--schema").stdout), rl.json_schema())
        self.assertEqual(command("list", "nowhere", "--schema").returncode, 2)


class Editor:
    """A TOML language server, spoken to as an editor does."""

    def __init__(self, folder: str) -> None:
        self.process = subprocess.Popen(
            [SERVER, "lsp", "--offline"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            cwd=folder,
        )
        self.folder, self.number = Path(folder).as_uri(), 0
        self.diagnostics: list[str] = []
        self.ask(
            "initialize",
            {
                "processId": os.getpid(),
                "rootUri": self.folder,
                "capabilities": {},
                "workspaceFolders": [{"uri": self.folder, "name": "rules"}],
            },
        )
        self.send({"method": "initialized", "params": {}})

    def send(self, message: dict[str, Any]) -> None:
        body = json.dumps({"jsonrpc": "2.0", **message}).encode()
        assert self.process.stdin
        self.process.stdin.write(b"Content-Length: %d\r\n\r\n%s" % (len(body), body))
        self.process.stdin.flush()

    def read(self) -> dict[str, Any]:
        assert self.process.stdout
        length = 0
        while line := self.process.stdout.readline().strip():
            if line.lower().startswith(b"content-length"):
                length = int(line.split(b":")[1])
        return json.loads(self.process.stdout.read(length))

    def ask(self, method: str, params: dict[str, Any]) -> Any:
        """Ask for something, and return the answer; what comes before it is noted or waved through."""
        self.number += 1
        self.send({"id": self.number, "method": method, "params": params})
        while True:
            message = self.read()
            if message.get("method") == "textDocument/publishDiagnostics":
                self.diagnostics = [each["message"] for each in message["params"]["diagnostics"]]
            elif "method" in message and "id" in message:
                self.send({"id": message["id"], "result": None})
            elif message.get("id") == self.number and "method" not in message:
                return message.get("result")

    def complete(self, text: str) -> dict[str, str]:
        """Return what is offered at the mark | in a text, and what is said of it."""
        before, _, after = text.partition("|")
        file = f"{self.folder}/part{self.number}.toml"
        document = {"uri": file, "languageId": "toml", "version": 1, "text": before + after}
        self.send({"method": "textDocument/didOpen", "params": {"textDocument": document}})
        at = {"line": before.count("\n"), "character": len(before.rpartition("\n")[2])}
        offered: list[dict] = []
        for _ in range(60):  # the server reads the schema after it has begun
            answer = self.ask("textDocument/completion", {"textDocument": {"uri": file}, "position": at})
            offered = answer["items"] if isinstance(answer, dict) else answer or []
            if offered:
                break
            time.sleep(0.25)
        return {each["label"].strip('"'): str(each.get("documentation")) for each in offered}

    def close(self) -> None:
        self.process.kill()
        self.process.wait()
        for stream in (self.process.stdin, self.process.stdout):
            assert stream
            stream.close()


@unittest.skipUnless(SERVER.exists(), "the language server tombi is not installed")
class InAnEditor(unittest.TestCase):
    def test_it_completes_the_names_of_the_rulebook_and_flags_what_is_none(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "schema.json").write_text(json.dumps(rl.json_schema(rl.demo())), encoding="utf-8")
            Path(folder, "tombi.toml").write_text(
                '[[schemas]]\npath = "schema.json"\ninclude = ["*.toml"]\n', encoding="utf-8"
            )
            editor = Editor(folder)
            try:
                offered = editor.complete(
                    '[[encounters.meet.sides]]\nname = "a"\nunits = [{ class = "|", level = 3 }]\n'
                )
                self.assertEqual(set(offered), set(rl.demo().classes))
                self.assertIn("The class of the character.", offered["rigger"])
                offered = editor.complete("[abilities.hook_swing]\nwind|\n")
                self.assertIn("The time from the use until it lands.", offered["windup"])
                offered = editor.complete("[classes.rigger.growth]\n|\n")
                self.assertLessEqual(set(rl.demo().stats), set(offered))
            finally:
                editor.close()
            shutil.copytree(DEMO, f"{folder}/rules")
            wrong = Path(folder, "watch.toml")
            wrong.write_text('[classes.rigger]\nplaybook = "hook_and_oill"\n', encoding="utf-8")
            told = subprocess.run(
                [SERVER, "lint", "--offline", "watch.toml"], cwd=folder, capture_output=True, text=True
            )
            self.assertNotEqual(told.returncode, 0)
            self.assertIn("hook_and_oill", told.stdout + told.stderr)
