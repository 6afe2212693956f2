"""Data → entries: every entry is validated by itself, so that all that is wrong is reported at once."""

from __future__ import annotations

from functools import cache
from typing import Any, get_args

from pydantic import ValidationError

from ..formula import NamedFormulas
from ..formula.errors import closest
from .entries import Entry, kinds_in
from .entry_models import JointReader, reader, resolved
from .former import key_remedy, value_remedy
from .problems import Report, nearest
from .read_named import read_named
from .rulebook import Rulebook


def validate(data: dict[str, Any], report: Report) -> dict[str, Any]:
    """Validate entry by entry, so that one that is wrong hides nothing of the others."""
    chapters: dict[str, Any] = {}
    formulas = read_named(data.get("formulas"), report)
    for chapter, content in data.items():
        if chapter not in Rulebook.model_fields:
            report.add((chapter,), "there is no chapter of this name", chapter, nearest(chapter, Rulebook.model_fields))
            if meant := closest(chapter, Rulebook.model_fields):
                report.broken.setdefault(meant, set()).update(content if isinstance(content, dict) else ())
            continue
        kind = Rulebook.model_fields[chapter].annotation
        entry_type = _entry_kind(chapter)
        if kind is entry_type:
            entry = _validate_entry(kind, content, (chapter,), report, formulas, joint=True)
            if entry is not None:
                chapters[chapter] = entry
            continue
        if not isinstance(content, dict):
            report.add(
                (chapter,), "this chapter is a table of named entries", _shown(content), f"write [{chapter}.some_name]"
            )
            continue
        chapters[chapter] = {}
        for name, value in content.items():
            named = _validate_entry(get_args(kind)[0], name, (chapter, name), report, formulas)
            entry = _validate_entry(entry_type, value, (chapter, name), report, formulas, joint=True)
            if entry is not None and named is not None:
                chapters[chapter][name] = entry
    return chapters


def validate_entry(chapter: str, value: Any, report: Report, named: NamedFormulas, *name: str) -> Any:
    """Validate one entry of a chapter by its name, or a chapter that is a single entry."""
    return _validate_entry(_entry_kind(chapter), value, (chapter, *name), report, named)


def _entry_kind(chapter: str) -> Any:
    """Return the kind of the entries of a chapter, or of the chapter itself where it is a single entry."""
    kind: Any = Rulebook.model_fields[chapter].annotation
    return kind if isinstance(kind, type) and issubclass(kind, Entry) else get_args(kind)[1]


@cache
def _of_chapters() -> JointReader:
    """Return what reads the entries of all chapters."""
    return JointReader({chapter: _entry_kind(chapter) for chapter in Rulebook.model_fields})


def _validate_entry(
    kind: Any, value: Any, path: tuple, report: Report, named: NamedFormulas, joint: bool = False
) -> Any:
    """Validate one entry; `joint` says that it is one of very many, of all chapters. What is wrong is reported and left
    out, so that the rest can still be checked."""

    def read(value: Any) -> Any:
        return (
            _of_chapters().read(path[0], value, named) if joint else reader(kind).validate_python(value, context=named)
        )

    try:
        return read(value)
    except ValidationError as error:
        if path[1:]:
            report.broken.setdefault(path[0], set()).add(path[1])
        faults = [
            _report_item({**item, "loc": item["loc"][joint:]}, kind, value, path, report)
            for item in error.errors(include_url=False)
        ]
    try:
        return read(_without(value, [fault[len(path) :] for fault in faults]))
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
        elif item["type"] == "missing" and part == item["loc"][-1]:
            here.append(part)
    what, got, remedy = _wording(item, at)
    remedy = value_remedy(str(here[-1]), at, item["type"]) or remedy
    if item["type"] == "extra_forbidden":
        models = _kinds_at(fields, item["loc"][:-1])
        what, got = f"there is no key {here[-1]} here", ""
        former = (key_remedy(model.__name__, str(here[-1])) for model in models)
        remedy = next(filter(None, former), "") or nearest(str(here[-1]), _keys(models))
    report.add(tuple(here), what, got, remedy)
    return tuple(here)


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


def _kinds_at(kind: Any, loc: tuple) -> list[type[Entry]]:
    """Return the kinds of entries that an error's path leads to."""
    kinds = [kind] if isinstance(kind, type) and issubclass(kind, Entry) else []
    for part in loc:
        inner = [argument for each in kinds for argument in _field_kinds(each, part)]
        kinds = inner or kinds
    return kinds


def _keys(kinds: list[type[Entry]]) -> list[str]:
    return [info.alias or name for kind in kinds for name, info in kind.model_fields.items()]


def _field_kinds(kind: type[Entry], part: Any) -> list[type[Entry]]:
    for name, info in resolved(kind).items():
        if part in (name, info.alias):
            return kinds_in(info.annotation)
    return []
