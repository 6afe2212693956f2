"""The report: it says what the library says, needs nothing else, and is whole however early it is stopped."""

from __future__ import annotations

import html
import re
import shutil
import subprocess
import tempfile
import unittest
from html.parser import HTMLParser
from pathlib import Path
from unittest.mock import patch

import restless_ledger as rl
from restless_ledger.reporting import Report
from restless_ledger.reporting.parts.promised import HIGH, MARGIN, WIDE, promises

from ..support import OX_AND_POST, TINY, CommandCase, book_of, changed, one, sides

LABELLED = (
    changed(TINY, ("[classes.ox]\n", '[classes.ox]\nlabel = "<b>Ox & co</b>"\n'))
    + OX_AND_POST
    + """
[promises.quick]
title = "an ox needs 10 hits"
hits = { by = "ox", on = "post", with = "hit" }
levels = [1]
expect = { hits_to_kill = [10, 10] }
[promises.slow]
title = "fights last a minute"
encounter = "meet"
expect = { seconds_median = [60, 70] }
"""
)


class Reading(HTMLParser):
    """The ids, the links, the headings and the elements that are open at the end of a page."""

    EMPTY = ("meta", "link", "input", "br", "rect", "line", "circle", "path", "use")

    def __init__(self, page: str) -> None:
        super().__init__()
        self.ids: list[str] = []
        self.links: list[str] = []
        self.outside: list[str] = []
        self.levels: list[int] = []
        self.open: list[str] = []
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = dict(attrs)
        if given.get("id"):
            self.ids.append(str(given["id"]))
        for name in ("href", "xlink:href", "src"):
            value = given.get(name) or ""
            if value.startswith("#"):
                self.links.append(value[1:])
            elif value and not value.startswith("data:"):
                self.outside.append(value)
        if re.fullmatch("h[1-6]", tag):
            self.levels.append(int(tag[1]))
        if tag not in self.EMPTY:
            self.open.append(tag)

    def handle_endtag(self, tag: str) -> None:
        if tag not in self.EMPTY:
            assert self.open.pop() == tag, tag


def texts(page: str) -> str:
    return html.unescape(re.sub(r"<[^>]+>", " ", re.sub(r"(?s)<(script|style).*?</\1>", "", page)))


class Reports(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.faulty = rl.faulty()
        cls.report = Report(cls.faulty, fights=60)
        cls.page = cls.report.html()

    def test_the_page_is_well_formed_and_needs_nothing_else(self) -> None:
        page = Reading(self.page)
        self.assertEqual(page.open, [])
        self.assertEqual(len(page.ids), len(set(page.ids)))
        self.assertEqual([link for link in page.links if link not in page.ids], [])
        self.assertEqual(page.outside, [])
        self.assertEqual(re.findall(r"@import|url\((?!#)[^)]*\)", self.page), [])
        self.assertEqual(page.levels[0], 1)
        for before, after in zip(page.levels, page.levels[1:], strict=False):
            self.assertLessEqual(after - before, 1, "a heading leaves out a level")

    def test_every_finding_stands_there_with_its_place_and_remedy(self) -> None:
        said = " ".join(texts(self.page).split())
        audit = rl.audit(self.faulty)
        self.assertGreater(len(audit.findings), 100)
        for finding in audit.findings:
            for words in (finding.code, finding.place, finding.path, finding.what, finding.why, finding.remedy):
                self.assertIn(" ".join(words.split()), said)

    def test_it_says_what_the_library_says(self) -> None:
        said = " ".join(texts(self.page).split())
        for name in self.faulty.encounters:
            if any(stage.encounter == name for stage in self.faulty.stages.values()):
                continue  # a party fights it
            trials = rl.trials(self.faulty, name, fights=60)
            self.assertIn(trials.finding(), said)
            for row in trials.records("outcomes"):
                self.assertIn(f"{row['outcome']} {row['fights']} {row['share']:.1%}", said)
        for name in self.faulty.classes:
            for figure in rl.sheet(self.faulty, name, level=1).gauges.values():
                self.assertIn(figure.label, said)
        self.assertIn(rl.matchups(self.faulty).finding(), said)

    def test_names_are_text_and_no_markup(self) -> None:
        page = Report(book_of(LABELLED), quick=True).html()
        self.assertNotIn("<b>Ox", page)
        self.assertIn("&lt;b&gt;Ox &amp; co&lt;/b&gt;", page)
        self.assertEqual(Reading(page).open, [])

    def test_promises_are_drawn_where_they_lie(self) -> None:
        book = book_of(LABELLED)
        part = promises(book, rl.audit(book))
        assert part
        page = "".join(cell.drawing for row in part.blocks[-1].rows for cell in row)
        kept, broken = (re.search(rf'<svg class="bounds {word}".*?</svg>', page) for word in ("kept", "broken"))
        assert kept and broken
        for drawn in (kept[0], broken[0]):
            for number in re.findall(r'(?:x|x1|x2|cx)="([\d.]+)"', drawn):
                self.assertTrue(MARGIN <= float(number) <= WIDE - MARGIN)
            self.assertIn(f'height="{HIGH}"', drawn)

        def at(drawn: str, name: str) -> float:
            found = re.search(rf' {name}="([\d.]+)"', drawn)
            assert found
            return float(found[1])

        self.assertLess(at(broken[0], "cx"), at(broken[0], "x"))
        self.assertTrue(at(kept[0], "x") <= at(kept[0], "cx") <= at(kept[0], "x") + 2)

    def test_rulebooks_that_have_little(self) -> None:
        for text in (
            TINY,
            TINY + OX_AND_POST,
            TINY.replace("[abilities.hit]", "[abilities.unused]").replace('"hit"', ""),
        ):
            report = Report(book_of(text), quick=True)
            self.assertTrue(report.complete)
            self.assertEqual(Reading(report.html()).open, [])

    def test_an_encounter_that_can_not_be_fought_says_so_and_the_rest_goes_on(self) -> None:
        text = changed(TINY, ("top = 100", 'top = "might"')) + OX_AND_POST + sides("duel", one("ox"), one("ox"))
        said = texts(Report(book_of(text), fights=20).html())
        self.assertIn("This encounter can’t be fought.", said)
        self.assertIn("20 fights.", said)

    def test_what_changed_since(self) -> None:
        old, new = (book_of(LABELLED.replace("top = 100", f"top = {top}")) for top in (100, 60))
        said = texts(Report(new, since=old, fights=50, quick=True).html())
        self.assertIn("gauges.health.top", said)
        self.assertIn("Changes", said)

    def test_stopped_at_any_step_it_holds_what_was_done_by_then(self) -> None:
        book, whole = book_of(LABELLED), [part.title for part in Report(book_of(LABELLED), fights=20).parts]
        for last in (0, 1, 3, 4):

            def progress(done: int, _every: int, last: int = last) -> None:
                if done == last:
                    raise KeyboardInterrupt

            report = Report(book, fights=20, progress=progress)
            titles = [part.title for part in report.parts]
            self.assertEqual(titles, whole[: len(titles)])
            page = report.html()
            self.assertEqual((report.complete, Reading(page).open), (False, []))
            self.assertIn("This report was stopped early", page)

    def test_the_same_rulebook_gives_the_same_page_but_for_the_time(self) -> None:
        pages = [
            re.sub(r"\d{4}-\d\d-\d\d \d\d:\d\d UTC", "", Report(book_of(LABELLED), quick=True).html()) for _ in "12"
        ]
        self.assertEqual(*pages)

    def test_a_journey_s_party_is_not_put_into_an_encounter_that_waits_for_it(self) -> None:
        book = rl.demo()
        with patch("restless_ledger.reporting.parts.encounters.figure_of") as drawn:
            from restless_ledger.reporting.parts.encounters import encounter

            section, complete = encounter(book, "frost_scouts", 20, 1, "demo")
        self.assertEqual((complete, drawn.called, section.blocks), (True, False, []))
        self.assertIn("see Journeys", section.lead)


class Command(CommandCase):
    def test_the_command(self) -> None:
        (self.folder / "book.toml").write_text(LABELLED, encoding="utf-8")
        said = self.ok("report", "book.toml", "--fights", "20")
        self.assertIn("written to report/index.html", said)
        self.assertTrue(
            (self.folder / "report" / "index.html").read_text(encoding="utf-8").startswith("<!doctype html>")
        )
        self.ok("report", "book.toml", "--quick", "--out", "one.html")
        self.assertNotIn("Encounters", (self.folder / "one.html").read_text(encoding="utf-8"))
        (self.folder / "taken").write_text("")
        self.assertIn("can't be", self.refused("report", "book.toml", "--quick", "--out", "taken"))
        self.assertIn("no folder", self.refused("report", "book.toml", "--quick", "--out", "no/such/one.html"))

    def test_since_a_revision(self) -> None:
        rules = self.folder / "rules"
        rules.mkdir()
        (rules / "book.toml").write_text(LABELLED, encoding="utf-8")
        git = ["git", "-c", "user.name=a", "-c", "user.email=a@b", "-C", str(rules)]
        for words in (["init", "-q"], ["add", "."], ["commit", "-qm", "first"]):
            subprocess.run([*git, *words], check=True)
        (rules / "book.toml").write_text(LABELLED.replace("top = 100", "top = 70"), encoding="utf-8")
        self.ok("report", "rules", "--quick", "--since", "HEAD", "--fights", "20", "--out", "r.html")
        page = (self.folder / "r.html").read_text(encoding="utf-8")
        self.assertIn("gauges.health.top", page)
        revision = subprocess.run([*git, "rev-parse", "--short=12", "HEAD"], capture_output=True, text=True).stdout
        self.assertIn(f"revision {revision.strip()}+", page)


CHECK = """
addEventListener("load", async () => {
  document.querySelectorAll("details").forEach(each => (each.open = true));
  const found = await axe.run(document, { resultTypes: ["violations"] });
  const wide = document.documentElement.scrollWidth > innerWidth;
  const said = found.violations.map(each => `${each.id}: ${each.nodes[0].html}`);
  document.title = "checked " + JSON.stringify({ said, wide });
});
"""


@unittest.skipUnless(shutil.which("chromium") and shutil.which("npm"), "needs chromium and npm")
class InABrowser(unittest.TestCase):
    """The page opens without a message on the console, and a checker of accessibility has nothing to say."""

    def test_accessibility_and_the_console(self) -> None:
        page = Report(rl.faulty(), fights=60).html()
        with tempfile.TemporaryDirectory() as folder:
            words = ["npm", "install", "--silent", "--no-save", "--prefix", folder, "axe-core@4"]
            axe = Path(folder, "node_modules", "axe-core", "axe.min.js")
            if subprocess.run(words, capture_output=True).returncode or not axe.exists():
                self.skipTest("npm can not install axe-core here")
            checked = page.replace("</body>", f'<script src="{axe.as_uri()}"></script><script>{CHECK}</script></body>')
            Path(folder, "page.html").write_text(checked, encoding="utf-8")
            for size in ("1280,800", "500,800"):  # a headless window is no narrower than this
                with self.subTest(size):
                    done = self.open(folder, size)
                    title = re.search(r"<title>(.*?)</title>", done.stdout)
                    assert title, done.stderr[-2000:]
                    self.assertEqual(html.unescape(title[1]), 'checked {"said":[],"wide":false}')
                    self.assertNotIn("CONSOLE", done.stderr)

    def open(self, folder: str, size: str) -> subprocess.CompletedProcess[str]:
        words = [
            "chromium",
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-background-networking",
            f"--user-data-dir={folder}/profile",
            f"--window-size={size}",
            "--virtual-time-budget=20000",
            "--enable-logging=stderr",
            "--dump-dom",
            f"file://{folder}/page.html",
        ]
        return subprocess.run(words, capture_output=True, text=True, timeout=180)


if __name__ == "__main__":
    unittest.main()
