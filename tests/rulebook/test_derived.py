"""Entries like others, rulebooks that build on others, entries from tables, and named formulas."""

from __future__ import annotations

import importlib.util
import json
import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl
from restless_ledger.rulebook.levers import levers_of, with_values

from ..support import TINY, book_of, changed, problems_of


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.root = Path(folder.name)

    def write(self, **files: str) -> None:
        for name, text in files.items():
            path = self.root / name.replace("__", "/").replace("_csv", ".csv").replace("_json", ".json")
            path = path if path.suffix else path.with_suffix(".toml")
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")

    def load(self, name: str = "") -> rl.Rulebook:
        return rl.load(self.root / name)

    def problems(self, name: str = "") -> str:
        with self.assertRaises(rl.RulebookError) as caught:
            self.load(name)
        return str(caught.exception)


class Likes(unittest.TestCase):
    BULL = '[classes.bull]\nlike = "ox"\ngrowth.calm = 7\n'
    TEXT = changed(TINY, ("might = { range = [0, 500] }", "might = { range = [0, 500] }\ncalm = {}"))

    def test_only_what_differs_is_written(self) -> None:
        book = book_of(self.TEXT + self.BULL)
        bull, ox = book.classes["bull"], book.classes["ox"]
        self.assertEqual(bull.growth, {**ox.growth, "calm": 7})
        self.assertEqual(bull.learns, ox.learns)
        self.assertEqual(ox.growth.get("calm"), None)

    def test_of_several_forms_one_is_taken_whole_and_so_is_a_list(self) -> None:
        text = self.TEXT + self.BULL + 'learns = { 3 = ["hit"] }\n'
        self.assertIn("this class learns it twice", problems_of(text))
        text = self.TEXT + '[buffs.a]\nstats = { might = { add = 1 } }\nmarks = ["x", "y"]\n'
        buff = book_of(text + '[buffs.b]\nlike = "a"\nstats = { might = { times = 2 } }\nmarks = ["z"]\n').buffs["b"]
        self.assertEqual((buff.stats["might"].way, buff.marks), ("times", ["z"]))

    def test_what_it_goes_without_and_one_after_another(self) -> None:
        more = self.BULL + 'without = ["learns", "growth.might"]\n[classes.calf]\nlike = "bull"\n'
        book = book_of(self.TEXT + more)
        for who in ("bull", "calf"):
            self.assertEqual((dict(book.classes[who].growth), dict(book.classes[who].learns)), ({"calm": 7}, {}))

    def test_each_value_knows_where_it_is_written(self) -> None:
        book = book_of(self.TEXT + self.BULL)
        lines = (self.TEXT + self.BULL).splitlines()
        for path, line in ((("growth", "calm"), "growth.calm = 7"), (("growth", "might"), "growth.might = 10")):
            number = int(book.place("classes", "bull", *path).rpartition(":")[2])
            self.assertEqual(lines[number - 1], line)

    def test_it_follows_the_other_when_a_number_is_varied(self) -> None:
        book = book_of(self.TEXT + self.BULL)
        (lever,) = levers_of(book, ["classes.ox.growth.might"])
        self.assertEqual(with_values(book, {lever: 33}).classes["bull"].growth["might"], 33)

    def test_what_can_be_wrong(self) -> None:
        for more, said in (
            ('[classes.bull]\nlike = "oxx"\n', "did you mean ox?"),
            ('[classes.bull]\nlike = "bull"\n', "in a ring"),
            ('[classes.a]\nlike = "b"\n[classes.b]\nlike = "a"\n', "a → b → a"),
            ('[classes.bull]\nlike = "ox"\nwithout = ["growht"]\n', "did you mean growth?"),
            ('[classes.bull]\nlike = "ox"\nwithout = "growth"\n', "this is a list of keys"),
            ('[classes.bull]\nlike = "ox"\ngrwth.might = 3\n', "there is no key grwth here"),
        ):
            self.assertIn(said, problems_of(self.TEXT + more), more)


class Layers(Folder):
    def test_a_patch_writes_only_what_differs_and_each_value_knows_its_file(self) -> None:
        self.write(
            base__main=TINY,
            patch__main='[rulebook]\nbuilds_on = "../base"\ntitle = "Hard"\n[classes.ox]\ngrowth.might = 20\n[classes.cub]\n',
        )
        base, patch = self.load("base"), self.load("patch")
        self.assertEqual((base.classes["ox"].growth["might"], patch.classes["ox"].growth["might"]), (10, 20))
        self.assertEqual(dict(patch.classes["ox"].learns), {1: ["hit"]})
        self.assertEqual((list(patch.classes), patch.rulebook.levels), (["ox", "post", "cub"], [1, 10]))
        self.assertEqual(patch.place("classes", "ox", "growth", "might"), "main.toml:5")
        self.assertTrue(patch.place("classes", "ox", "learns").startswith("../base/main.toml:"))
        self.assertIn("classes.ox.growth.might", str(rl.compare(base, patch, fights=20).records("changes")))

    def test_it_removes_what_the_base_has(self) -> None:
        self.write(
            base__main=TINY + "[classes.cub]\n",
            patch__main='[rulebook]\nbuilds_on = "../base"\nremoves = ["classes.cub", "classes.ox.learns"]\n',
        )
        book = self.load("patch")
        self.assertEqual((list(book.classes), dict(book.classes["ox"].learns)), (["ox", "post"], {}))

    def test_layers_on_layers_and_entries_like_those_below(self) -> None:
        self.write(
            a__main=TINY,
            b__main='[rulebook]\nbuilds_on = "../a"\n[classes.ox]\ngrowth.might = 20\n',
            c__main='[rulebook]\nbuilds_on = "../b/main.toml"\n[classes.bull]\nlike = "ox"\n[gauges.health]\ntop = 55\n',
        )
        book = self.load("c")
        self.assertEqual((book.classes["bull"].growth["might"], str(book.gauges["health"].top)), (20, "55"))
        self.assertTrue(book.gauges["health"].downs)
        self.assertEqual(book.place("gauges", "health", "downs").rpartition(":")[0], "../b/../a/main.toml")

    def test_what_can_be_wrong(self) -> None:
        for patch, said in (
            ('[rulebook]\nbuilds_on = "../bse"\n', "there is no such rulebook"),
            ('[rulebook]\nbuilds_on = "."\n', "in a ring"),
            ('[rulebook]\nbuilds_on = "../base"\nremoves = ["classes.oxx"]\n', "did you mean classes.ox?"),
            ('[rulebook]\nbuilds_on = "../base"\nremoves = ["classes.post"]\n[encounters.e]\n', "encounters.e"),
            (
                '[rulebook]\nbuilds_on = "../base"\n[classes.ox]\ngrowth.mihgt = 3\n',
                "main.toml:4: classes.ox.growth.mihgt",
            ),
        ):
            self.write(base__main=TINY, patch__main=patch)
            self.assertIn(said, self.problems("patch"), patch)
        self.write(a__main='[rulebook]\nbuilds_on = "../b"\n', b__main='[rulebook]\nbuilds_on = "../a"\n')
        self.assertIn("in a ring", self.problems("a"))


class Tables(Folder):
    HEAD = changed(TINY, ("might = { range = [0, 500] }", "might = { range = [0, 500] }\ncalm = {}"))
    CSV = (
        "name,label,growth.might,growth.calm,learns.1,heedless,like\n"
        'bull,"Bull, old",12,0.5,"[""hit""]",true,\n'
        ",,,,,,\n"
        "calf,Calf,,,,,bull\n"
    )

    def test_a_row_is_an_entry_and_dotted_keys_are_columns(self) -> None:
        self.write(main=self.HEAD + '[classes]\nfrom = "creatures.csv"\n', creatures_csv=self.CSV)
        book = self.load()
        bull, calf = book.classes["bull"], book.classes["calf"]
        self.assertEqual((bull.label, bull.heedless, dict(bull.learns)), ("Bull, old", True, {1: ["hit"]}))
        self.assertEqual((dict(bull.growth), dict(calf.growth)), ({"might": 12, "calm": 0.5},) * 2)
        self.assertEqual((calf.label, list(book.classes)), ("Calf", ["ox", "post", "bull", "calf"]))
        self.assertEqual(book.place("classes", "bull", "growth", "might"), "creatures.csv:2")
        self.assertEqual(book.place("classes", "calf", "label"), "creatures.csv:4")
        self.assertFalse([lever for lever in levers_of(book) if "bull" in lever.name])

    def test_json_by_name_and_as_a_list(self) -> None:
        entries = {"bull": {"growth": {"might": 12}, "learns.1": ["hit"]}}
        for data in (entries, [{"name": "bull", **entries["bull"]}]):
            self.write(main=self.HEAD + '[classes]\nfrom = ["creatures.json"]\n', creatures_json=json.dumps(data))
            self.assertEqual(self.load().classes["bull"].growth["might"], 12)

    @unittest.skipUnless(importlib.util.find_spec("python_calamine"), "the extra for spreadsheets is not installed")
    def test_spreadsheets(self) -> None:
        import zipfile

        rows = [["name", "growth.might", "label"], ["bull", 12, "Bull"], ["calf", 3.5, ""]]
        cells = "".join(
            f'<row r="{y}">'
            + "".join(
                f'<c r="{chr(64 + x)}{y}"'
                + (
                    f"><v>{cell}</v></c>"
                    if isinstance(cell, int | float)
                    else f' t="inlineStr"><is><t>{cell}</t></is></c>'
                )
                for x, cell in enumerate(row, 1)
            )
            + "</row>"
            for y, row in enumerate(rows, 1)
        )
        spreadsheet, office = (
            "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
            "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
        )
        package = "http://schemas.openxmlformats.org/package/2006"
        with zipfile.ZipFile(self.root / "creatures.xlsx", "w") as file:
            file.writestr("[Content_Types].xml", f'<Types xmlns="{package}/content-types"/>')
            file.writestr(
                "_rels/.rels",
                f'<Relationships xmlns="{package}/relationships"><Relationship Id="r" Type="{office}/officeDocument" Target="xl/workbook.xml"/></Relationships>',
            )
            file.writestr(
                "xl/workbook.xml",
                f'<workbook xmlns="{spreadsheet}" xmlns:r="{office}"><sheets><sheet name="a" sheetId="1" r:id="r1"/></sheets></workbook>',
            )
            file.writestr(
                "xl/_rels/workbook.xml.rels",
                f'<Relationships xmlns="{package}/relationships"><Relationship Id="r1" Type="{office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
            )
            file.writestr(
                "xl/worksheets/sheet1.xml",
                f'<worksheet xmlns="{spreadsheet}"><sheetData>{cells}</sheetData></worksheet>',
            )
        self.write(main=self.HEAD + '[classes]\nfrom = "creatures.xlsx"\n')
        book = self.load()
        self.assertEqual([book.classes[who].growth["might"] for who in ("bull", "calf")], [12, 3.5])
        self.assertEqual((book.classes["bull"].label, book.classes["calf"].label), ("Bull", None))

    def test_what_can_be_wrong(self) -> None:
        for table, said in (
            ("nme,growth.might\nbull,3\n", "it has no column name"),
            ("name,growth.might\nbull,strong\n", "creatures.csv:2: classes.bull.growth.might"),
            ("name,growht.might\nbull,3\n", "creatures.csv:2: classes.bull.growht: there is no key growht here"),
            ("name,label\nox,Ox\n", "declared twice"),
            ("name,label\n,Ox\n", "this row has no name"),
            ("name,growth,growth.might\nbull,3,4\n", "would be a part of"),
            ("name,label,label\nbull,a,b\n", "the column label is there twice"),
            ('name,label\n"bull,a\n', "this is not a table of entries"),
        ):
            self.write(main=self.HEAD + '[classes]\nfrom = "creatures.csv"\n', creatures_csv=table)
            self.assertIn(said, self.problems(), table)
        for name, said in (
            ("no.csv", "No such file"),
            ("../x.csv", "outside the rulebook"),
            ("/etc/passwd", "outside the rulebook"),
        ):
            self.write(main=self.HEAD + f'[classes]\nfrom = "{name}"\n')
            self.assertIn(said, self.problems(), name)


class Named(unittest.TestCase):
    CHAPTER = (
        '[formulas]\nhide = 100\ntwice = "2 * might"\nkept = { of = ["x"], is = "x / (x + hide)" }\n'
        'ease = { points = { 0 = 1, 10 = 3, "20.5" = 4 } }\n'
    )

    def value(self, formula: str, more: str = "") -> float:
        text = changed(TINY, ('power = "might"', f'power = "{formula}"')) + self.CHAPTER + more
        fight = rl.fight(
            book_of(
                text
                + '[encounters.e]\nsides = [{ name = "a", units = [{ class = "ox", level = 1 }] }, { name = "b", units = [{ class = "post", level = 1 }] }]\n'
            ),
            "e",
        )
        return -next(row["booked"] for row in fight.records() if row["verb"] == "harm")

    def test_constants_formulas_operands_and_curves(self) -> None:
        for formula, expected in (
            ("hide / 10", 10),
            ("twice + 1", 21),
            ("100 * kept(25)", 20),
            ("100 * kept(twice + 5)", 20),
            ("ease(0)", 1),
            ("ease(0 - 5)", 1),
            ("ease(5)", 2),
            ("ease(might)", 3),
            ("10 * ease(15.25)", 35),
            ("ease(99)", 4),
            ("ease(ease(5)) * 10", 14),
        ):
            self.assertAlmostEqual(self.value(formula), expected, places=3, msg=formula)

    def test_the_explanation_names_them(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "kept(might) * hide"')) + self.CHAPTER
        sides = '[encounters.e]\nsides = [{ name = "a", units = [{ class = "ox", level = 1 }] }, { name = "b", units = [{ class = "post", level = 1 }] }]\n'
        why = rl.fight(book_of(text + sides), "e").why(1)
        self.assertIn("kept(might 10) 0.091 × hide 100", why)

    def test_what_can_be_wrong(self) -> None:
        for more, said in (
            ('[formulas]\na = "b"\nb = "a"\n', "in a ring"),
            ("[formulas]\nlevel = 3\n", "is a word of the formula language"),
            ("[formulas]\nmight = 3\n", "the stat of this name"),
            ("[formulas]\nhealth_top = 3\n", "the gauge of this name"),
            ('[formulas]\na = "1 +"\n', "can't be read"),
            ('[formulas]\na = { of = ["x"] }\n', "formulas.a.is: this is missing"),
            ("[formulas]\na = { points = { q = 3 } }\n", "a number for its key"),
            ("[formulas]\na = true\n", "a named formula is"),
        ):
            self.assertIn(said, problems_of(TINY + more), more)
        for formula, said in (
            ("kept", "kept takes operands"),
            ("hide(3)", "without brackets"),
            ("kept(1, 2)", "takes 1 operands, not 2"),
            ("kep(1)", "did you mean kept?"),
            ("kept(migth)", "did you mean might?"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('power = "might"', f'power = "{formula}"')) + self.CHAPTER))
