"""Pages of the reference that are made from the code: `make reference` writes them, a test holds them up to date."""

from __future__ import annotations

import csv
import inspect
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click
import cookbook

import restless_ledger as rl
from restless_ledger.auditing.entries import as_page
from restless_ledger.cli.main import GROUPS, main
from restless_ledger.rulebook.reference import with_tables

REFERENCE = Path(__file__).parent / "reference"
NOTE = "This page is made from the code: `make reference` writes it anew.\n"

SMALL = """
[stats]
might = { range = [0, 50] }
idle = {}
[gauges.health]
top = 40
downs = true
[damage.blow]
power = "might"
[abilities.hit]
cooldown = "1 s"
does = [{ damage = "blow" }]
[classes.ox]
growth.might = 10
learns = { 1 = ["hit"] }
[[encounters.meet.sides]]
name = "left"
units = [{ class = "ox", level = 1 }]
[[encounters.meet.sides]]
name = "right"
units = [{ class = "ox", level = 1 }]
[examples.hurt]
who = { class = "ox" }
steps = [{ hurt = 10, kind = "blow" }]
expect = { health = 30 }
[promises.four]
title = "four blows fell an ox"
hits = { by = "ox", on = "ox", with = "hit" }
levels = [1]
expect = { hits_to_kill = [4, 4] }
"""


def every_result() -> Iterator[rl.Result]:
    """Yield one result of each kind, of the demo, as small as may be."""
    book = rl.demo()
    yield rl.sheet(book, "rigger")
    yield rl.fight(book, "stair_duel")
    yield rl.trials(book, "landing_ambush", fights=20)
    yield rl.duel(book, "rigger", "warden", fights=20)
    yield rl.matchups(book, who=["rigger", "warden"], levels=[5], precision=0.3)
    yield rl.levers(book, "stair_duel", only=["damage.crush"], fights=20)
    yield rl.tune(book, ["stair_duel:riggers=0..1"], ["gauges.health.top#2=8..12"], fights=100)
    yield rl.compare(*two_versions(), fights=50, promises=True)
    yield observed(book)
    yield rl.builds(book)
    yield rl.odds(book, levels=[1])
    yield rl.curves(book)
    yield rl.falls(book, levels=[1])
    yield rl.journey(book, "winter", runs=1)
    yield rl.drops(book, "crab_heap", count=3)
    yield rl.upgrades(book, "rigger")
    yield rl.audit(two_versions()[1])
    yield rl.contents(book)
    with tempfile.TemporaryDirectory() as folder:
        yield rl.report(two_versions()[1], folder, quick=True)


def two_versions() -> tuple[rl.Rulebook, rl.Rulebook]:
    """Return a small rulebook, and the same with a number changed, so that something in it is no longer so."""
    with tempfile.TemporaryDirectory() as folder:
        text = SMALL
        versions = []
        for version in (text, text.replace("top = 40", "top = 60")):
            Path(folder, "small.toml").write_text(version, encoding="utf-8")
            versions.append(rl.load(folder))
    return versions[0], versions[1]


def observed(book: rl.Rulebook) -> rl.Observed:
    """Hold two invented fights against the simulation."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder, "seen.csv")
        with file.open("w", newline="", encoding="utf-8") as stream:
            rows = [("encounter", "winner", "seconds"), ("stair_duel", "riggers", 17.1), ("stair_duel", "wardens", 18)]
            csv.writer(stream).writerows(rows)
        return rl.observed(book, file, fights=50)


def api_page() -> str:
    """Return the reference of the Python library."""
    lines = [
        "# The Python library",
        "",
        NOTE,
        "`import restless_ledger as rl`. What follows the subject of a call is named.",
        "",
    ]
    public = {name: getattr(rl, name) for name in rl.__all__ if not name.startswith("_")}
    lines += ["## Functions", ""]
    for name, value in public.items():
        if inspect.isfunction(value):
            lines += [f"### `rl.{name}{_signature(value)}`", "", _text(value), ""]
    lines += [
        "## Results",
        "",
        "### `Result`",
        "",
        _text(rl.Result),
        "",
        "Every result has these:",
        "",
        *_members(rl.Result),
        "",
    ]
    results = list(every_result())
    for result in results:
        kind = type(result)
        lines += [f"### `{kind.__name__}`", "", _text(kind), "", *_members(kind, rl.Result), *_tables(result), ""]
    lines += ["## Other classes", ""]
    shown = {type(result) for result in results} | {rl.Result}
    for name, value in public.items():
        if inspect.isclass(value) and value not in shown:
            lines += [f"### `rl.{name}`", "", _text(value), "", *_members(value), ""]
    return "\n".join(lines).rstrip() + "\n"


def _signature(function: Any) -> str:
    return str(inspect.signature(function)).replace("'", "")


def _text(value: Any) -> str:
    return inspect.cleandoc(value.__doc__ or "")


def _members(kind: type, base: type | None = None) -> list[str]:
    """Return a line for each public method and property of a class, but for those of a base that stay as they are."""
    found = []
    for name, value in list(vars(kind).items()):
        inside = getattr(value, "func", getattr(value, "fget", value))
        if (
            name.startswith("_")
            or not callable(inside)
            or not getattr(inside, "__doc__", None)
            or inspect.isclass(inside)
        ):
            continue
        if base is not None and name in ("finding",):
            continue
        called = f"{name}{_signature(inside)}" if inspect.isfunction(value) else name
        found.append(f"- `{called.replace('(self, ', '(').replace('(self)', '()')}`: {_first(inside)}")
    return found


def _first(value: Any) -> str:
    """Return the first sentence of a docstring, on one line."""
    return " ".join(_text(value).split("\n\n")[0].split())


def _tables(result: rl.Result) -> list[str]:
    """Return a line for each table of a result: its columns."""
    lines = ["", "| table | columns |", "|---|---|"]
    for table in result.tables:
        columns = list(dict.fromkeys(name for row in result.records(table) for name in row))
        lines.append(f"| `{table}` | {', '.join(f'`{name}`' for name in columns)} |")
    return lines


def commands_page() -> str:
    """Return the reference of the commands."""
    lines = ["# The commands", "", NOTE, "`restless-ledger COMMAND --help` says the same in the terminal.", ""]
    lines += _help("restless-ledger", main)
    for title, commands in GROUPS.items():
        lines += ["", f"## {title}"]
        for name, said in commands.items():
            command = main.get_command(click.Context(main), name)
            assert command is not None
            lines += ["", f"### `{name}`", "", said, "", *_help(f"restless-ledger {name}", command)]
    return "\n".join(lines).rstrip() + "\n"


def _help(name: str, command: click.Command) -> list[str]:
    names = ["-h", "--help"]
    context = click.Context(command, info_name=name, terminal_width=100, max_content_width=100, help_option_names=names)
    return ["```text", command.get_help(context).rstrip(), "```"]


def pages() -> dict[Path, str]:
    """Return every page that is made from the code, by its file."""
    rulebook = REFERENCE / "rulebook.md"
    return {
        **cookbook.pages(),
        rulebook: with_tables(rulebook.read_text(encoding="utf-8")),
        REFERENCE / "library.md": api_page(),
        REFERENCE / "commands.md": commands_page(),
        REFERENCE / "findings.md": as_page(),
    }


if __name__ == "__main__":
    for file, text in pages().items():
        file.write_text(text, encoding="utf-8")
