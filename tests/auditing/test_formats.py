"""What an audit is written as: SARIF, JUnit XML, JSON, and the command with its exit codes."""

from __future__ import annotations

import json
import os
import shutil
import tempfile
import unittest
from pathlib import Path
from unittest import mock
from xml.etree import ElementTree

import jsonschema

import restless_ledger as rl
from restless_ledger.api import FAULTY
from restless_ledger.auditing import Audit
from restless_ledger.auditing.entries import catalogue
from restless_ledger.auditing.formats.junit import junit_of_problems
from restless_ledger.cli.audit import print_audit
from restless_ledger.cli.output import text_of

from ..support import ROOT, TINY, book_of, command

REQUIREMENTS = json.loads((Path(__file__).parent / "sarif_requirements.json").read_text(encoding="utf-8"))


class SarifCases(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.audit = rl.audit(rl.faulty())

    def test_it_meets_the_requirements_of_the_standard(self) -> None:
        log = self.audit.sarif(FAULTY)
        jsonschema.Draft7Validator(REQUIREMENTS).validate(log)
        (run,) = log["runs"]
        rules = [rule["id"] for rule in run["tool"]["driver"]["rules"]]
        for result in run["results"]:
            self.assertEqual(rules[result["ruleIndex"]], result["ruleId"])
        self.assertEqual(
            {result["ruleId"] for result in run["results"]}, {*catalogue(), "example_does_not_hold", "promise_broken"}
        )

    def test_places_point_at_real_lines(self) -> None:
        with mock.patch("pathlib.Path.cwd", return_value=FAULTY.parent):
            log = self.audit.sarif(FAULTY)
        for result in log["runs"][0]["results"]:
            where = result["locations"][0]
            file, line = (where["physicalLocation"][key] for key in ("artifactLocation", "region"))
            rows = (FAULTY.parent / file["uri"]).read_text(encoding="utf-8").splitlines()
            told = rows[line["startLine"] - 1]
            wanted = result["ruleId"] if result["ruleId"] in catalogue() else ""
            self.assertIn(wanted, told)
            self.assertTrue(told.strip())

    def test_a_place_elsewhere_is_told_as_a_uri(self) -> None:
        with tempfile.TemporaryDirectory() as folder, mock.patch("pathlib.Path.cwd", return_value=Path(folder)):
            result = self.audit.sarif(FAULTY)["runs"][0]["results"][0]
        self.assertTrue(result["locations"][0]["physicalLocation"]["artifactLocation"]["uri"].startswith("file:///"))

    def test_what_is_undecided_is_an_open_question(self) -> None:
        text = (
            TINY
            + """
[playbooks.wary]
plays = [{ use = "hit", when = "health > 0" }]
[encounters.meet]
sides = [{ name = "a", units = [{ class = "ox", level = 1, playbook = "wary" }] },
         { name = "b", units = [{ class = "ox", level = 1, playbook = "wary" }] }]
[promises.fair]
encounter = "meet"
fights = 100
expect = { mutual_downs = [1, 1] }
"""
        )
        audit = rl.audit(book_of(text))
        (result,) = [each for each in audit.sarif()["runs"][0]["results"] if each["ruleId"] == "promise_broken"]
        self.assertEqual((result["kind"], result["level"]), ("open", "none"))
        self.assertFalse(audit.failed)
        skipped = ElementTree.fromstring(audit.junit()).findall(".//skipped")
        self.assertEqual(len(skipped), 1)


class JunitCases(unittest.TestCase):
    def test_cases_failures_and_counts(self) -> None:
        audit = rl.audit(rl.faulty())
        suites = ElementTree.fromstring(audit.junit(FAULTY))
        self.assertEqual([suite.get("name") for suite in suites], ["findings", "worked examples", "promises"])
        findings = suites[0]
        self.assertEqual(len(findings), len(catalogue()))
        errors = {finding.code for finding in audit.findings if finding.severity == "error"}
        self.assertEqual({case.get("name") for case in findings if case.find("failure") is not None}, errors)
        for key, xpath in (("tests", "testcase"), ("failures", "testcase/failure"), ("skipped", "testcase/skipped")):
            self.assertEqual(
                [int(suite.get(key, -1)) for suite in suites], [len(suite.findall(xpath)) for suite in suites]
            )
            self.assertEqual(int(suites.get(key, -1)), sum(int(suite.get(key, -1)) for suite in suites))

    def test_signs_that_xml_cannot_hold_are_kept_out(self) -> None:
        """They are refused when the rulebook is read, and what says so is XML all the same."""
        odd = '[examples.odd]\ntitle = "a \\u0000 bell \\u0007"\nwho = { class = "ox" }\nexpect = { health = 1 }'
        with self.assertRaises(rl.RulebookError) as caught:
            book_of(TINY + odd)
        ElementTree.fromstring(junit_of_problems(caught.exception.problems))


class TextCases(unittest.TestCase):
    def test_it_fits_on_a_page_of_eighty_columns_and_says_worst_first(self) -> None:
        rows = text_of(lambda: print_audit(rl.audit(rl.faulty()))).splitlines()
        self.assertLessEqual(max(map(len, rows)), 80)
        words = [row.split(" ")[0] for row in rows if row.split(" ")[0] in ("ERROR", "WARNING", "NOTE")]
        self.assertEqual(words, sorted(words, key=("ERROR", "WARNING", "NOTE").index))
        self.assertIn("\x1b", command("audit", "faulty", "--quick", FORCE_COLOR="1").stdout)

    def test_records_are_json_and_frames_hold_every_finding(self) -> None:
        audit = rl.audit(rl.faulty(), quick=True)
        record = json.loads(json.dumps(audit.report(), allow_nan=False))
        self.assertEqual(len(record["findings"]), len(audit.findings))
        self.assertEqual(list(audit.frame()["code"]), [finding.code for finding in audit.findings])
        self.assertTrue(record["failed"])


class CommandCases(unittest.TestCase):
    def run_on(self, text: str, *words: str) -> tuple[int, str, str]:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "book.toml").write_text(text, encoding="utf-8")
            told = command("audit", "book.toml", *words, cwd=Path(folder))
            return told.returncode, told.stdout, told.stderr

    def test_exit_codes(self) -> None:
        clean = (
            TINY
            + '[promises.hits]\nhits = { by = "ox", on = "post", with = "hit" }\nexpect = { hits_to_kill = [10, 10] }\n'
        )
        self.assertEqual(self.run_on(clean, "--quick")[0], 0)
        self.assertEqual(self.run_on(clean.replace("[10, 10]", "[1, 2]"), "--quick")[0], 1)
        self.assertEqual(self.run_on(TINY.replace("range = [0, 500]", "range = [20, 500]"), "--quick")[0], 0)
        self.assertEqual(
            self.run_on(
                TINY.replace("might = { range", "might = { base = 900, range").replace("growth.might = 0", ""),
                "--quick",
            )[0],
            1,
        )
        self.assertEqual(self.run_on(TINY + "[nonsense]\nx = 1\n", "--quick")[0], 2)
        self.assertEqual(command("audit", "/there/is/no/such").returncode, 2)

    def test_an_unreadable_rulebook_is_told_in_every_format(self) -> None:
        text = TINY.replace("[classes.post]", '[classes.post]\nbody = "wood"')
        code, sarif, _ = self.run_on(text, "--format", "sarif")
        log = json.loads(sarif)
        jsonschema.Draft7Validator(REQUIREMENTS).validate(log)
        (result,) = log["runs"][0]["results"]
        where = result["locations"][0]["physicalLocation"]
        self.assertEqual((code, result["ruleId"], where["artifactLocation"]["uri"]), (2, "unreadable", "book.toml"))
        self.assertIn('body = "wood"', text.splitlines()[where["region"]["startLine"] - 1])
        code, junit, _ = self.run_on(text, "--format", "junit")
        self.assertEqual((code, len(ElementTree.fromstring(junit).findall(".//failure"))), (2, 1))
        code, record, _ = self.run_on(text, "--format", "json")
        self.assertEqual((code, len(json.loads(record)["unreadable"])), (2, 1))
        code, _, told = self.run_on(text)
        self.assertEqual((code, "there is no body of this name" in told), (2, True))

    def test_it_writes_to_a_file(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for form in ("text", "json", "sarif", "junit"):
                told = command("audit", "faulty", "--quick", "--format", form, "--out", f"{folder}/{form}")
                self.assertEqual(told.returncode, 1, told.stderr)
                self.assertTrue((Path(folder) / form).read_text(encoding="utf-8").strip())
            lost = command("audit", "demo", "--quick", "--out", f"{folder}/no/such/place")
            self.assertEqual((lost.returncode, "can't be written" in lost.stderr), (2, True))

    def test_explain(self) -> None:
        told = command("audit", "--explain", "dear_ability")
        self.assertEqual(told.returncode, 0)
        self.assertIn(catalogue()["dear_ability"].why.split(",")[0], " ".join(told.stdout.split()))
        wrong = command("audit", "--explain", "deer_ability")
        self.assertEqual((wrong.returncode, "did you mean dear_ability" in wrong.stderr), (2, True))
        self.assertEqual(command("audit").returncode, 2)

    def test_the_hook_runs_the_command_that_there_is(self) -> None:
        hook = (ROOT / ".pre-commit-hooks.yaml").read_text(encoding="utf-8")
        self.assertIn("entry: restless-ledger audit --quick", hook)
        with tempfile.TemporaryDirectory() as folder:
            shutil.copytree(FAULTY, f"{folder}/rulebook")
            told = command("audit", "--quick", "rulebook", cwd=Path(folder))
            self.assertEqual(told.returncode, 1)
            self.assertIn("people.toml", told.stdout)


class StoppedCases(unittest.TestCase):
    def test_what_was_not_judged_by_ctrl_c_is_undecided(self) -> None:
        def stop(done: int, _all: int) -> None:
            raise KeyboardInterrupt

        audit = Audit(rl.faulty(), progress=stop)
        self.assertEqual({judgement.verdict for judgement in audit.promises} - {"kept", "broken"}, set())
        text = TINY + "".join(
            f'[promises.p{number}]\nduels = ["ox", "post"]\nexpect = {{ wins = [0, 1] }}\n' for number in range(3)
        )
        audit = Audit(book_of(text), progress=stop)
        self.assertEqual([judgement.verdict for judgement in audit.promises], ["undecided", "undecided", "kept"])
        self.assertEqual(audit.promises[0].note, "stopped before it was judged")


if __name__ == "__main__":
    os.environ.setdefault("COLUMNS", "80")
    unittest.main()
