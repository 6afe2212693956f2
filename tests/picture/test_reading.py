"""What makes figures readable: colours that hold for everybody and in print, labels that do not collide, plain names."""

from __future__ import annotations

import math
import random
import unittest
from itertools import combinations

from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

import restless_ledger as rl
from restless_ledger.picture.labels import Label, place_labels
from restless_ledger.picture.readable import figure_label, label_of, lever_label
from restless_ledger.picture.style import DARK, DEBIT, FAINT, INK, NAMED, PAPER, SIDES
from restless_ledger.rulebook.levers import levers_of

from ..support import many

Colour = tuple[float, float, float]
DEFICIENCIES = {
    "protanopia": ((0.152286, 1.052583, -0.204868), (0.114503, 0.786281, 0.099216), (-0.003882, -0.048116, 1.051998)),
    "deuteranopia": ((0.367322, 0.860646, -0.227968), (0.280085, 0.672501, 0.047413), (-0.011820, 0.042940, 0.968881)),
    "tritanopia": ((1.255528, -0.076749, -0.178779), (-0.078411, 0.930809, 0.147602), (0.004733, 0.691367, 0.303900)),
}
"""Machado, Oliveira and Fernandes (2009): what each kind of colour blindness makes of linear red, green and blue."""


def linear(colour: str) -> Colour:
    parts = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    red, green, blue = (part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
    return red, green, blue


def seen(colour: str, rows: tuple[Colour, ...] | None) -> Colour:
    given = linear(colour)
    if rows is None:
        return given
    red, green, blue = (min(1.0, max(0.0, sum(a * b for a, b in zip(row, given, strict=True)))) for row in rows)
    return red, green, blue


def lab(colour: Colour) -> Colour:
    """Return L*a*b* (CIE 1976, D65)."""
    rows = ((0.4124564, 0.3575761, 0.1804375), (0.2126729, 0.7151522, 0.0721750), (0.0193339, 0.1191920, 0.9503041))
    white = (0.95047, 1.0, 1.08883)
    x, y, z = (sum(a * b for a, b in zip(row, colour, strict=True)) / top for row, top in zip(rows, white, strict=True))
    f, g, h = (part ** (1 / 3) if part > 216 / 24389 else (24389 / 27 * part + 16) / 116 for part in (x, y, z))
    return 116 * g - 16, 500 * (f - g), 200 * (g - h)


def contrast(one: str, other: str) -> float:
    """Return the contrast ratio of WCAG 2."""
    light, dark = sorted(
        (sum(w * c for w, c in zip((0.2126, 0.7152, 0.0722), linear(each), strict=True)) for each in (one, other)),
        reverse=True,
    )
    return (light + 0.05) / (dark + 0.05)


class Colours(unittest.TestCase):
    def test_the_first_two_sides_and_losses_can_be_told_apart_by_everybody(self) -> None:
        """A difference of 20 in L*a*b* is seen at a glance; beyond two sides shapes and hatches help, from 10 on."""
        for name, rows in {"all colours": None, **DEFICIENCIES}.items():
            labs = [lab(seen(colour, rows)) for colour in SIDES]
            self.assertGreater(math.dist(labs[0], labs[1]), 40, name)
            for one, other in combinations(range(4), 2):
                self.assertGreater(math.dist(labs[one], labs[other]), 10, f"{name}: {SIDES[one]}, {SIDES[other]}")
            self.assertGreater(math.dist(labs[0], lab(seen(DEBIT, rows))), 20, name)

    def test_lines_and_letters_stand_out_from_the_paper(self) -> None:
        for colour in (*SIDES, DEBIT):
            self.assertGreater(contrast(colour, PAPER), 3, colour)
        self.assertGreater(contrast(INK, PAPER), 10)
        self.assertGreater(contrast(FAINT, PAPER), 4.5)

    def test_dark_pages_have_every_colour_and_stand_out_too(self) -> None:
        self.assertEqual(set(DARK), set(NAMED))
        for name, colour in DARK.items():
            if name not in ("paper", "rule"):
                self.assertGreater(contrast(colour, DARK["paper"]), 4.5, name)


class Labels(unittest.TestCase):
    def test_labels_of_near_points_do_not_cover_each_other(self) -> None:
        luck = random.Random(3)
        for _ in range(many(200)):
            panel = Figure(figsize=(12.8, 8), dpi=100).add_subplot()
            panel.set_xlim(0, 16)
            panel.set_ylim(0, 9)
            middle = (luck.uniform(2, 12), luck.uniform(2, 7))
            points = [(middle[0] + luck.gauss(0, 0.8), middle[1] + luck.gauss(0, 0.8)) for _ in range(8)]
            place_labels(panel, [Label(f"Gutter hound {number}", point, INK) for number, point in enumerate(points)])
            figure = panel.get_figure()
            assert isinstance(figure, Figure)
            renderer = FigureCanvasAgg(figure).get_renderer()
            boxes = [text.get_window_extent(renderer) for text in panel.texts]
            covered = sum(
                max(0, min(a.x1, b.x1) - max(a.x0, b.x0)) * max(0, min(a.y1, b.y1) - max(a.y0, b.y0))
                for a, b in combinations(boxes, 2)
            )
            self.assertLess(covered, 0.05 * sum(box.width * box.height for box in boxes))


class Names(unittest.TestCase):
    def test_numbers_are_called_what_people_call_them(self) -> None:
        book = rl.demo()
        names = {lever.name: lever_label(book, lever) for lever in levers_of(book)}
        for path, label in (
            ("abilities.stave_blow.does[0].times", "stave blow: times"),
            ("abilities.stave_blow.cooldown", "stave blow: cooldown"),
            ("classes.warden.growth.grit.from", "Warden: Grit growth from"),
            ("damage.crush.power#2", "crush: power (2nd number)"),
        ):
            self.assertEqual(names[path], label)
        for label in names.values():
            self.assertNotRegex(label, r"_|\[|\.\w")
        self.assertEqual(figure_label(book, "health_top"), "Health")
        self.assertEqual(label_of(book, "encounters", "stair_duel"), "A duel on the stair")


if __name__ == "__main__":
    unittest.main()
