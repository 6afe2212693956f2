"""Defaults of options that a project writes down: `[tool.restless-ledger]` in pyproject.toml, or in rulebook.toml."""

from __future__ import annotations

from collections.abc import Iterator, MutableMapping
from functools import cached_property
from pathlib import Path
from typing import Any

import click

from .books import path_of

TABLE = "restless-ledger"
SHARED = ("seed", "threads", "cluster", "keep", "quiet", "verbose")
"""Options that may be set for all commands at once; the others stand in a table of their command."""


class Settings(MutableMapping[str, Any]):
    """The defaults of one command. What the rulebook's own file says goes before what the project's says."""

    def __init__(self, context: click.Context) -> None:
        self.context = context
        self._headings: dict[str, Path] = {}
        self._found: dict[Path, dict[str, Any]] = {}

    def __getitem__(self, name: str) -> Any:
        option = self._option(name)
        for file in self._files():
            table = self._read(file)
            if option and option in table:
                return table[option]
        raise KeyError(name)

    def _option(self, name: str) -> str:
        """Return how an option is typed, without its dashes; nothing for an argument."""
        for parameter in self.context.command.params:
            if parameter.name == name and isinstance(parameter, click.Option):
                return max(parameter.opts, key=len).lstrip("-")
        return ""

    def _files(self) -> Iterator[Path]:
        rulebook = self.context.params.get("rulebook")
        if isinstance(rulebook, str):
            yield self._heading(rulebook)
        yield self._project

    def _heading(self, rulebook: str) -> Path:
        """Return the file of a rulebook that its settings stand in."""
        if rulebook not in self._headings:
            path = path_of(rulebook)
            self._headings[rulebook] = path / "rulebook.toml" if path.is_dir() else path
        return self._headings[rulebook]

    @cached_property
    def _project(self) -> Path:
        """The nearest `pyproject.toml` of this folder and those around it; the folder itself where there is none."""
        here = Path.cwd()
        files = (each / "pyproject.toml" for each in (here, *here.parents))
        return next((file for file in files if file.is_file()), here)

    def _read(self, file: Path) -> dict[str, Any]:
        """Return the options that a file sets for this command. Raises `InputError` on one that the command has not."""
        if file not in self._found:
            own = self._data(file).get("tool", {}).get(TABLE, {})
            self._found[file] = self._checked(file, own) if own and isinstance(own, dict) else {}
        return self._found[file]

    @staticmethod
    def _data(file: Path) -> dict[str, Any]:
        """Return what a file holds, where it may hold settings: a large rulebook takes long to read."""
        try:
            text = file.read_text(encoding="utf-8")
            if TABLE not in text:
                return {}
            import tomllib

            return tomllib.loads(text)
        except (OSError, ValueError):  # no such file; what is wrong with a rulebook is said when it is read
            return {}

    def _checked(self, file: Path, own: dict[str, Any]) -> dict[str, Any]:
        from ..rulebook.problems import InputError, nearest

        command = self.context.info_name or ""
        shared = {name: value for name, value in own.items() if not isinstance(value, dict)}
        for name in shared:
            if name not in SHARED:
                what = f"{name} is no option of all commands"
                raise InputError(f"{file}: tool.{TABLE}.{name}: {what}\n    write it in [tool.{TABLE}.COMMAND]")
        mine = own.get(command, {})
        options = [self._option(each.name or "") for each in self.context.command.params]
        for name in mine if isinstance(mine, dict) else ():
            if name not in options:
                what = f"{command} has no option --{name}"
                raise InputError(f"{file}: tool.{TABLE}.{command}.{name}: {what}\n    {nearest(name, options)}")
        return {**shared, **mine}

    def __setitem__(self, name: str, value: Any) -> None:
        raise TypeError("settings are read from files")

    def __delitem__(self, name: str) -> None:
        raise TypeError("settings are read from files")

    def __iter__(self) -> Iterator[str]:
        return (each.name for each in self.context.command.params if each.name and each.name in self)

    def __len__(self) -> int:
        return sum(1 for _ in self)

    def __contains__(self, name: object) -> bool:
        try:
            self[str(name)]
        except KeyError:
            return False
        return True


class SettledContext(click.Context):
    """A context whose options take their defaults from the project's settings."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.default_map = Settings(self)
