"""The figures of the documentation, made from the demo data: by the build of the site, and into a directory.

As a hook of MkDocs it puts each figure in place of the picture of the same name in `screenshots`, so that the site
shows what the library draws today. `python docs/figures.py DIRECTORY` writes them all.
"""

from __future__ import annotations

import csv
import os
import runpy
import shutil
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import restless_ledger as rl
from restless_ledger.api import DEMO

EXAMPLES = Path(__file__).parents[1] / "examples"
LEVERS = (
    "damage.crush",
    "classes.rigger.growth",
    "classes.warden.growth",
    "abilities.hook_swing",
    "abilities.stave_blow",
)
PLAYTESTS = (("stair_duel", "novice", 90), ("landing_ambush", "novice", 60), ("lamp_watch", None, 40))


def changed() -> rl.Rulebook:
    """Return the demo with two numbers changed."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(DEMO, folder, dirs_exist_ok=True)
        for file in Path(folder).glob("*.toml"):
            text = file.read_text(encoding="utf-8")
            text = text.replace("12 + 1.2 * wits", "12 + 1.25 * wits").replace("9 * grit", "9.2 * grit")
            file.write_text(text, encoding="utf-8")
        return rl.load(folder)


def observed(file: Path) -> None:
    """Draw fights of invented playtests, played by novices, over the simulation."""
    from restless_ledger.engine import set_up
    from restless_ledger.monte_carlo.sample import Sample, at_level

    book, rows = rl.demo(), [("encounter", "winner", "seconds", "damage")]
    for encounter, handling, fights in PLAYTESTS:
        sample = Sample(set_up(book, at_level(book.encounters[encounter], None, handling)), 77)
        sample.grow(fights)
        sides = (*sample.setup.names.sides, "mutual down", "time-out", "")  # the engine numbers these -3 and -2
        for outcome, ticks, harm in list(zip(sample.outcomes, sample.ticks, sample.harm, strict=True))[:fights]:
            rows.append(
                (encounter, sides[outcome], str(round(ticks * book.clock.seconds(1), 1)), str(round(float(harm))))
            )
    with tempfile.TemporaryDirectory() as folder:
        seen = Path(folder, "seen.csv")
        with seen.open("w", newline="", encoding="utf-8") as stream:
            csv.writer(stream).writerows(rows)
        rl.observed(book, seen, fights=1000).plot(file)


def reconciled(file: Path) -> None:
    """Draw the log of a game that leaves the parts out."""
    words = sys.argv
    try:
        sys.argv = ["a_game_that_differs.py", str(file)]
        runpy.run_path(str(EXAMPLES / "a_game_that_differs.py"))
    finally:
        sys.argv = words


TARGETS = ["stair_duel:riggers=0.5..0.54", "stair_duel:seconds=19.2..19.8"]
VARIED = ["gauges.health.top#2=8..12", "abilities.stave_blow.does[0].times=0.9..1.2"]
FIGURES: dict[str, Callable[[Path], Any]] = {
    "fight": lambda file: rl.fight(rl.demo(), "stair_duel", seed=3).plot(file),
    "curves": lambda file: rl.curves(rl.demo(), who=["rigger", "warden", "lampwright", "bellringer"]).plot(file),
    "builds": lambda file: rl.builds(rl.demo()).plot(file),
    "journey": lambda file: rl.journey(rl.demo(), "winter", runs=150).plot(file),
    "matchups": lambda file: rl.matchups(rl.demo(), levels=[5, 20, 40]).plot(file),
    "levers": lambda file: rl.levers(rl.demo(), "stair_duel", only=LEVERS, fights=600).plot(file),
    "duel": lambda file: rl.duel(rl.demo(), "rigger", "warden", level=8).plot(file),
    "tune": lambda file: rl.tune(rl.demo(), TARGETS, VARIED, fights=1_500).plot(file),
    "compare": lambda file: rl.compare(rl.demo(), changed(), fights=600).plot(file),
    "observed": observed,
    "reconciled": reconciled,
    "trials": lambda file: rl.trials(rl.demo(), "landing_ambush", fights=4_000).plot(file),
}


def on_files(files: Any, config: Any) -> Any:
    """Put the figures into the files of the site; `RESTLESS_LEDGER_DOCS_FIGURES=0` leaves the pictures as they are."""
    if os.environ.get("RESTLESS_LEDGER_DOCS_FIGURES") == "0":
        return files
    from mkdocs.structure.files import File

    with tempfile.TemporaryDirectory() as folder:
        for name, draw in FIGURES.items():
            place, file = f"screenshots/figure-{name}.png", Path(folder, f"{name}.png")
            draw(file)
            if (old := files.get_file_from_path(place)) is not None:
                files.remove(old)
            files.append(File.generated(config, place, content=file.read_bytes()))
    return files


if __name__ == "__main__":
    for name, draw in FIGURES.items():
        draw(Path(sys.argv[1]) / f"figure-{name}.png")
