"""Read a directory of TOML files into one frozen rulebook, or say everything that is wrong with it."""

from __future__ import annotations

import difflib
import re
import tomllib
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any, TypeVar, cast, get_args

from pydantic import BaseModel, TypeAdapter, ValidationError

from .check import check
from .csv_tables import fill_tables
from .files import read_regular
from .frozen import freeze
from .positions import line_positions
from .problems import InputError, Problem, Report, RulebookError, dotted, nearest
from .rulebook import SINGLE_CHAPTERS, Rulebook

Book = TypeVar("Book", bound=Rulebook)


def load(path: str | Path, into: type[Book] = Rulebook) -> Book:  # type: ignore[assignment]
    """Read a rulebook: a directory of TOML files (sub-directories too), or one file.

    Raises `RulebookError`, which lists all that is wrong, each with file and line, dotted path and remedy;
    `InputError` when there is nothing to read at all.
    """
    root = Path(path)
    source = Source()
    for file in _find_files(root):
        source.read(file, _short_name(file, root))
    fill_tables(source, root if root.is_dir() else root.parent)
    return assemble(source, into)


def assemble(source: Source, into: type[Book]) -> Book:
    """Validate what a source has read, let the chapters check it, and return the rulebook."""
    report = Report(source)
    chapters = _validate(source.data, into, report)
    book = cast(Book, into.model_construct(**chapters))  # each entry of each chapter has been validated
    check(book, report)
    problems = [*source.problems, *report.problems]
    if problems:
        raise RulebookError(problems)
    book._source = source
    return cast(Book, freeze(book))


def _find_files(path: Path) -> list[Path]:
    if path.is_file():
        return [path]
    if not path.is_dir():
        raise InputError(
            f"{path}: there is no such file or directory\n    give a directory of TOML files, or the word demo"
        )
    files = sorted(file for file in path.rglob("*.toml") if not file.name.startswith("."))
    if not files:
        raise InputError(
            f"{path}: there is no .toml file in this directory\n    start one with: restless-ledger new {path}"
        )
    return files


def _short_name(file: Path, root: Path) -> str:
    return str(file.relative_to(root)) if root.is_dir() else file.name


MOST_DIGITS, MOST_PARTS = 400, 60
LONG_DIGITS = re.compile(rf"[0-9_]{{{MOST_DIGITS + 1},}}")
LONG_KEY = re.compile(rf"(?:[A-Za-z0-9_-]+\s*\.\s*){{{MOST_PARTS},}}[A-Za-z0-9_-]+")


@dataclass
class Source:
    """The texts of a rulebook, merged; remembers which file and line each dotted path came from."""

    data: dict[str, Any] = field(default_factory=dict)
    texts: dict[str, str] = field(default_factory=dict)
    owners: dict[tuple, str] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def read(self, file: Path, name: str) -> None:
        """Read one file and merge it; what is wrong with it becomes a problem."""
        try:
            text = read_regular(file).decode("utf-8-sig")
        except OSError as error:
            self.problems.append(Problem(name, "", f"the file can't be read: {error.strerror}"))
            return
        except UnicodeDecodeError as error:
            line = error.object.count(b"\n", 0, error.start) + 1
            got = f"byte 0x{error.object[error.start]:02x}"
            self.problems.append(Problem(f"{name}:{line}", "", "the file is not UTF-8 text", got, "save it as UTF-8"))
            return
        self.add(text, name)

    def add(self, text: str, name: str) -> None:
        """Merge one TOML text under a file's name."""
        if found := LONG_DIGITS.search(text):
            line = text.count("\n", 0, found.start()) + 1
            self.problems.append(
                Problem(
                    f"{name}:{line}",
                    "",
                    f"a number of more than {MOST_DIGITS} digits",
                    f"{found[0][:20]}…",
                    "write a shorter one",
                )
            )
            return
        if found := LONG_KEY.search(text):
            line = text.count("\n", 0, found.start()) + 1
            self.problems.append(
                Problem(
                    f"{name}:{line}",
                    "",
                    f"a key of more than {MOST_PARTS} parts",
                    f"{found[0][:20]}…",
                    "write a shorter one",
                )
            )
            return
        try:
            data = tomllib.loads(text)
        except (tomllib.TOMLDecodeError, RecursionError, ValueError) as error:
            found = re.search(r" \(at line (\d+), column (\d+)\)", str(error))
            place = f"{name}:{found[1]}" if found else f"{name}:{text.count(chr(10)) + 1}"
            what = re.sub(r" \(at .*\)", "", str(error))
            self.problems.append(
                Problem(place, "", f"this is not TOML: {what}", "", "see https://toml.io for the format")
            )
            return
        self.texts[name] = text
        self.merge(data, name)

    def merge(self, data: dict[str, Any], name: str) -> None:
        for chapter, content in data.items():
            if not isinstance(content, dict) or chapter in SINGLE_CHAPTERS:
                self.put((chapter,), content, self.data, name)
                continue
            kept = self.data.setdefault(chapter, {})
            self.owners.setdefault((chapter,), name)
            for entry, value in content.items():
                if isinstance(kept, dict):
                    self.put((chapter, entry), value, kept, name)

    def put(self, path: tuple, value: Any, into: dict, name: str) -> None:
        """Put an entry in its chapter, unless another file has it already."""
        if path in self.owners:
            other = f"{self.owners[path]}:{self.line(self.owners[path], path)}"
            self.problems.append(
                Problem(
                    f"{name}:{self.line(name, path)}",
                    dotted(path),
                    "declared twice",
                    f"also at {other}",
                    "keep one of the two",
                )
            )
            return
        self.owners[path] = name
        into[path[-1]] = value

    @cached_property
    def _lines(self) -> dict[str, dict[tuple, int]]:
        return {}

    def line(self, name: str, path: tuple) -> int:
        """Return the line of the longest part of a path that the file writes."""
        if name not in self._lines:
            self._lines[name] = line_positions(self.texts[name])
        lines = self._lines[name]
        return next((lines[path[:length]] for length in range(len(path), 0, -1) if path[:length] in lines), 1)

    @cached_property
    def _places(self) -> dict[tuple, str]:
        return {}

    def place(self, path: tuple) -> str:
        """Return `file:line` of a path, or of the nearest thing above it."""
        if path not in self._places:
            self._places[path] = self._find_place(path)
        return self._places[path]

    def _find_place(self, path: tuple) -> str:
        for length in range(len(path), 0, -1):
            if path[:length] in self.owners:
                name = self.owners[path[:length]]
                return f"{name}:{self.line(name, path)}"
        return next(iter(self.texts), "the rulebook")


def _validate(data: dict[str, Any], into: type[Rulebook], report: Report) -> dict[str, Any]:
    """Validate entry by entry, so that one that is wrong hides nothing of the others."""
    chapters: dict[str, Any] = {}
    for chapter, content in data.items():
        if chapter not in into.model_fields:
            report.add((chapter,), "there is no chapter of this name", chapter, nearest(chapter, into.model_fields))
            for meant in difflib.get_close_matches(chapter, into.model_fields, 1):
                report.broken.setdefault(meant, set()).update(content if isinstance(content, dict) else ())
            continue
        kind = into.model_fields[chapter].annotation
        if isinstance(kind, type) and issubclass(kind, BaseModel):
            entry = _validate_entry(kind, content, (chapter,), report)
            if entry is not None:
                chapters[chapter] = entry
            continue
        key_type, entry_type = get_args(kind)
        if not isinstance(content, dict):
            report.add(
                (chapter,), "this chapter is a table of named entries", _shown(content), f"write [{chapter}.some_name]"
            )
            continue
        chapters[chapter] = {}
        for name, value in content.items():
            named = _validate_entry(key_type, name, (chapter, name), report)
            entry = _validate_entry(entry_type, value, (chapter, name), report)
            if entry is not None and named is not None:
                chapters[chapter][name] = entry
    return chapters


def _validate_entry(kind: Any, value: Any, path: tuple, report: Report) -> Any:
    """Validate one entry. What is wrong is reported and left out, so that the rest can still be checked."""
    try:
        return _adapter(kind).validate_python(value)
    except ValidationError as error:
        if path[1:]:
            report.broken.setdefault(path[0], set()).add(path[1])
        faults = [_report_item(item, kind, value, path, report) for item in error.errors(include_url=False)]
    try:
        return _adapter(kind).validate_python(_without(value, [fault[len(path) :] for fault in faults]))
    except ValidationError:
        return None


def _without(value: Any, faults: list[tuple]) -> Any:
    """Return a copy of some data that lacks the parts at the given paths."""
    if not isinstance(value, dict | list):
        return value
    pairs = value.items() if isinstance(value, dict) else enumerate(value)
    kept = {
        key: _without(item, [fault[1:] for fault in faults if fault[:1] == (key,)])
        for key, item in pairs
        if (key,) not in faults
    }
    return kept if isinstance(value, dict) else list(kept.values())


def _report_item(item: Any, kind: Any, value: Any, path: tuple, report: Report) -> tuple:
    """Turn one of pydantic's errors into a problem, and return its path: the parts that are in the data."""
    here: list[Any] = list(path)
    at: Any = value
    fields = kind
    for part in item["loc"]:
        part = str(part) if isinstance(at, dict) and not isinstance(part, str) else part
        if (isinstance(at, dict) and part in at) or (isinstance(at, list) and part in range(len(at))):
            here.append(part)
            at = at[part]  # type: ignore[index]
        elif item["type"] == "missing":
            here.append(part)
    what, got, remedy = _wording(item, at)
    if item["type"] == "extra_forbidden":
        what, got = f"there is no key {here[-1]} here", ""
        remedy = nearest(str(here[-1]), _sibling_keys(fields, item["loc"][:-1]))
    report.add(tuple(here), what, got, remedy)
    return tuple(here)


@lru_cache(maxsize=64)
def _adapter(kind: Any) -> TypeAdapter:
    return TypeAdapter(kind)


_REMEDIES = {
    "missing": ("this is missing", "write it"),
    "string_pattern_mismatch": (
        "names are lower-case letters, digits and _, and begin with a letter",
        "rename it, such as slate_crab",
    ),
    "string_type": ("text is wanted here", "write it in quotes"),
    "float_type": ("a number is wanted here", "write it without quotes"),
    "int_type": ("a whole number is wanted here", "write it without quotes or decimals"),
    "int_from_float": ("a whole number is wanted here", "write it without decimals"),
    "finite_number": ("a finite number is wanted here", "write a number"),
    "bool_type": ("true or false is wanted here", "write true or false, without quotes"),
    "list_type": ("a list is wanted here", "write it in brackets: [ … ]"),
    "dict_type": ("a table is wanted here", "write it in braces: { … }"),
    "model_type": ("a table is wanted here", "write it in braces: { … }"),
}


def _wording(item: Any, at: Any) -> tuple[str, str, str]:
    """Return what is wrong, what was got and the remedy, in our own words where we have them."""
    kind, context = item["type"], item.get("ctx", {})
    got = "" if kind == "missing" else _shown(at)
    if kind in _REMEDIES:
        what, remedy = _REMEDIES[kind]
        return what, got, remedy
    if kind == "literal_error":
        return "this is not one of the words that can stand here", got, f"write {context['expected']}"
    for bound, words in (("ge", "at least"), ("le", "at most"), ("gt", "above"), ("lt", "below")):
        if bound in context:
            return f"the number must be {words} {context[bound]:g}", got, "change it"
    if kind in ("string_too_short", "string_too_long"):
        few, least = kind == "string_too_short", context.get("min_length", context.get("max_length"))
        return f"text of {'at least' if few else 'at most'} {least} letters is wanted here", got, "rewrite it"
    if kind in ("too_short", "too_long"):
        least = context.get("min_length", context.get("max_length"))
        return f"{'at least' if kind == 'too_short' else 'at most'} {least} wanted here", got, "add or remove some"
    return item["msg"], "" if kind == "formula" else got, ""


def _shown(value: Any) -> str:
    text = "true" if value is True else "false" if value is False else repr(value)
    return text if len(text) <= 60 else text[:57] + "…"


def _sibling_keys(kind: Any, loc: tuple) -> list[str]:
    """Return the keys of the model that an error's path leads to."""
    models = [kind] if isinstance(kind, type) else []
    for part in loc:
        inner = [argument for model in models for argument in _field_models(model, part)]
        models = inner or models
    return [info.alias or name for model in models for name, info in getattr(model, "model_fields", {}).items()]


def _field_models(model: Any, part: Any) -> list[type]:
    for name, info in getattr(model, "model_fields", {}).items():
        if part in (name, info.alias):
            return _models_in(info.annotation)
    return []


def _models_in(annotation: Any) -> list[type]:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return [annotation]
    return [model for argument in get_args(annotation) for model in _models_in(argument)]
