"""The cookbook: recipes of a few lines, each played on the spot. `make reference` writes what comes out of each."""

from __future__ import annotations

import re
import tempfile
import tomllib
from pathlib import Path

import restless_ledger as rl
from restless_ledger.engine.outcome import HOW_WON

FOLDER = Path(__file__).parent / "howto" / "say-it"
RECIPE = re.compile(
    r"^## (?P<title>[^\n]+)\n(?P<text>(?:(?!^## ).)*?)^```toml\n(?P<toml>.*?)^```\n\n"
    r"```text (?P<most>\d+)(?P<how>[^\n]*)\n(?P<out>.*?)^```$",
    re.M | re.S,
)
"""A title, words, the lines, and what comes out: so many lines of the ledger; `all`, also of the foe's strikes."""
HERO = "growth.strength = 12\ngrowth.nerve = 30\n"
BOUT = """
[[encounters.bout.sides]]
name = "ours"
units = [{ class = "hero", level = 1 }]
[[encounters.bout.sides]]
name = "theirs"
units = [{ class = "foe", level = 1 }]
"""


def base() -> str:
    """Return the rulebook that every recipe adds to: the first one on the index page."""
    found = re.search(r"^```toml\n(.*?)^```$", (FOLDER / "index.md").read_text(encoding="utf-8"), re.M | re.S)
    assert found
    return found[1]


def whole(fragment: str) -> dict[str, str]:
    """Return the files of the rulebook of a recipe: the base, and the recipe with its hero and its bout."""
    written = tomllib.loads(fragment)
    abilities = [name for name, entry in written.get("abilities", {}).items() if name not in _granted(written)]
    known = [name for name in abilities if name != "strike"] or ["strike"]
    listed = ", ".join(f'"{name}"' for name in known)
    hero = HERO + f"learns = {{ 1 = [{listed}] }}\n"
    own = written.get("classes", {}).get("hero", {})
    hero = "".join(
        line + "\n"
        for line in hero.splitlines()
        if line.split(".")[-1].split()[0] not in {*own, *own.get("growth", {})}
    )
    if "hero" in written.get("classes", {}):
        fragment = fragment.replace("[classes.hero]\n", "[classes.hero]\n" + hero)
    else:
        fragment += "\n[classes.hero]\n" + hero
    if "bout" not in written.get("encounters", {}):
        fragment += BOUT
    return {"base.toml": _without(base(), written), "recipe.toml": fragment}


def _granted(written: dict) -> set[str]:
    """Return the abilities that something grants, or that another class learns: the hero does not learn those."""
    found = set()
    for chapter in ("buffs", "gear", "abilities", "origins", "upgrades"):
        for entry in written.get(chapter, {}).values():
            found |= set(entry.get("grants", ()))
    for who, entry in written.get("classes", {}).items():
        for names in entry.get("learns", {}).values():
            found |= set(names) if who != "hero" else set()
    return found


def _without(text: str, written: dict) -> str:
    """Return the base without the entries that a recipe writes anew."""
    for chapter, entries in written.items():
        if chapter in ("clock", "rulebook"):
            text = re.sub(rf"^\[{chapter}\]\n(?:(?!\[).*\n)*", "", text, flags=re.M)
        for name in entries if isinstance(entries, dict) else ():
            text = re.sub(rf"^\[{chapter}\.{name}\]\n(?:(?!\[).*\n)*", "", text, flags=re.M)
            if chapter == "stats":
                text = re.sub(rf"^{name} = .*\n", "", text, flags=re.M)
    return text


def play(fragment: str) -> list[str]:
    """Return what the ledger of the bout of a recipe says, a line for each entry."""
    with tempfile.TemporaryDirectory() as folder:
        for name, text in whole(fragment).items():
            Path(folder, name).write_text(text, encoding="utf-8")
        book = rl.load(folder)
    fight = rl.fight(book, "bout", seed=1)
    unit = "" if book.clock.rounds else " s"
    rows = [
        (f"{when.rstrip('0').rstrip('.') if '.' in when else when}{unit}", said, change)
        for _, when, said, change, _ in fight.lines()
    ]
    how = f" {HOW_WON[way]}" if (way := fight.won_by) in HOW_WON else ""
    ended = f"{fight.winner} won{how}" if fight.winner else f"nobody won: {fight.outcome}"
    rows.append((f"{fight.seconds:g}{unit}", ended, ""))
    return [f"{when:>6}  {said:<52}  {change:>6}".rstrip() for when, said, change in rows]


def played(page: str) -> str:
    """Return a page of recipes with what comes out of each."""

    def again(found: re.Match[str]) -> str:
        try:
            lines = play(found["toml"])
        except rl.InputError as error:
            raise ValueError(f"{found['title']}: {error}") from error
        every = " all" in found["how"]
        kept = [line for line in lines if every or not _is_noise(line)][: int(found["most"])]
        start, end = found.start("out") - found.start(), found.end("out") - found.start()
        return found[0][:start] + "\n".join(kept) + "\n" + found[0][end:]

    return RECIPE.sub(again, page)


def _is_noise(line: str) -> bool:
    """Say whether a line is of the foe's own doing, which most recipes are not about."""
    return "foe uses strike" in line or "foe’s strike hurts" in line


def pages() -> dict[Path, str]:
    """Return every page of the cookbook with its recipes played, by its file."""
    found = sorted(file for file in FOLDER.glob("*.md") if file.name != "index.md")
    return {file: played(file.read_text(encoding="utf-8")) for file in found}
