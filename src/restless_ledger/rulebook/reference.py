"""The reference of the rulebook: every chapter and key in tables, made from the fields and their descriptions."""

from __future__ import annotations

from collections.abc import Iterator
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from ..formula import Program
from .described import described
from .entries import Entry, kinds_in
from .entry_models import resolved
from .entry_type import Field
from .meaning import AtLevel, ReadOn, Refers, Timed
from .openings import Opening
from .quantities import Duration
from .rulebook import SINGLE_CHAPTERS, Rulebook
from .vocabulary import Word

BEGIN, END = "<!-- the tables begin: make reference -->", "<!-- the tables end -->"
PLAIN = {
    float: "a number",
    int: "a whole number",
    bool: "true or false",
    str: "text",
    Duration: "a duration",
    Opening: "how full",
}
PAGES = {
    "character": "a formula",
    "steady": "a formula without gauges",
    "figure": "a formula of figures",
    "level": "a formula of the level",
    "lands": "a formula of aim and dodge",
    "settle": "a formula of power and soak",
}


def tables() -> str:
    """Return every chapter and every kind of entry as Markdown tables."""
    lines: list[str] = []
    chapters = {name: kinds_in(info.annotation) for name, info in Rulebook.model_fields.items()}
    told = described(Rulebook)
    shown: set[type[Entry]] = set()
    for name, kinds in chapters.items():
        heading = name if name in SINGLE_CHAPTERS else f"{name}.NAME"
        lines += [f"### `[{heading}]`", "", told[name], ""]
        if kinds[0] in shown:
            lines += [f"The same keys as `[{_first_chapter(kinds[0])}.NAME]`.", ""]
        elif len(kinds) == 1:
            lines += _rows(kinds[0])
            shown.add(kinds[0])
        else:
            plain = ["a number", "a formula"] if name == "formulas" else []
            lines += [f"One of {_listed([*plain, *map(_link, kinds)], 'or')}.", ""]
    lines += ["## What entries hold", ""]
    for kind in _within(chapters.values()):
        if kind not in shown:
            lines += [f"### {_title(kind)}", "", _first_sentence(kind), "", *_rows(kind)]
    return "\n".join(lines).rstrip() + "\n"


def with_tables(page: str) -> str:
    """Return a page with the tables anew between its two marks."""
    before, _, rest = page.partition(BEGIN)
    return f"{before}{BEGIN}\n\n{tables()}\n{END}{rest.partition(END)[2]}"


def _first_chapter(kind: type[Entry]) -> str:
    return next(name for name, info in Rulebook.model_fields.items() if kinds_in(info.annotation) == [kind])


def _rows(kind: type[Entry]) -> list[str]:
    texts = described(kind)
    rows = ["| key | what it is | written as | unless written |", "|---|---|---|---|"]
    for name, info in resolved(kind).items():
        if texts.get(name):
            written = _written(info.annotation, tuple(info.metadata))
            rows.append(f"| `{info.alias or name}` | {texts[name]} | {written} | {_default(info)} |".replace("  ", " "))
    return [*rows, ""]


def _default(info: Field) -> str:
    """Say what counts where nothing is written."""
    if info.is_required:
        return "must be written"
    value = info.value()
    if value is None or value in ([], {}) or isinstance(value, Entry):
        return ""
    if isinstance(value, Program):
        return f"`{value.text}`"
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, Opening):
        return "full"
    if isinstance(value, Duration | Timed):
        return "no time"
    return f"`{value}`" if isinstance(value, list) else f"{value:g}" if isinstance(value, float) else f"{value}"


def _written(annotation: Any, metadata: tuple = ()) -> str:
    """Say in words what may be written for a type."""
    for meaning in metadata:
        if isinstance(meaning, Refers):
            return f"{meaning.noun} name"
        if isinstance(meaning, ReadOn):
            facts = f", with {_listed([f'`{fact}`' for fact in meaning.facts])}" if meaning.facts else ""
            return PAGES[meaning.page] + facts
        if isinstance(meaning, AtLevel):
            return "a level"
        if unit := getattr(meaning, "json_schema", {}).get("examples"):
            return f'such as `"{unit[0]}"`'
    origin, arguments = get_origin(annotation), get_args(annotation)
    if origin is Annotated:
        return _written(arguments[0], arguments[1:])
    if origin in (Union, UnionType):
        kinds = [each for each in arguments if each is not type(None)]
        return _listed(list(dict.fromkeys(map(_written, kinds))), "or") if len(kinds) < 6 else _several(kinds)
    if origin is Literal:
        return _listed([f'`"{word}"`' for word in arguments], "or")
    if origin is list:
        each = _written(arguments[0])
        return f"a list of {each}s" if each.endswith("name") else f"a list, each {each}"
    if origin is dict:
        return f"a table by {_key(arguments[0])}: {_written(arguments[1])}"
    if isinstance(annotation, type) and issubclass(annotation, Word):
        return _listed([f'`"{word}"`' for word in annotation], "or") if len(annotation) < 9 else "one of its words"
    if isinstance(annotation, type) and issubclass(annotation, Timed):
        return f'such as `"0.7 s"`, or {_link(annotation)}'
    if isinstance(annotation, type) and issubclass(annotation, Entry):
        return _link(annotation)
    return PLAIN.get(annotation, "a formula" if annotation is Program else "")


def _several(kinds: list[Any]) -> str:
    found = [kind for each in kinds for kind in kinds_in(each)]
    return {"Rise": "a curve", "DamageEffect": "an effect", "HurtStep": "a step"}.get(
        found[0].__name__, _listed([_link(kind) for kind in found], "or")
    )


def _key(annotation: Any) -> str:
    said = _written(annotation)
    return {"text": "name", "a whole number": "number", "a level": "level"}.get(said, said)


def _within(kinds: Any) -> Iterator[type[Entry]]:
    """Yield every kind of entry that others hold, each once, in the order in which one comes upon them."""
    waiting, seen = [kind for each in kinds for kind in each], set()
    while waiting:
        kind = waiting.pop(0)
        if kind not in seen:
            seen.add(kind)
            yield kind
            waiting += [inner for info in resolved(kind).values() for inner in kinds_in(info.annotation)]


def _title(kind: type[Entry]) -> str:
    """Return the name of a kind of entry in words: `HealEffect` is Heal effect."""
    words = "".join(f" {letter.lower()}" if letter.isupper() else letter for letter in kind.__name__).strip()
    return words[0].upper() + words[1:]


def _link(kind: type[Entry]) -> str:
    title = _title(kind)
    return f"[{title.lower()}](#{title.lower().replace(' ', '-')})"


def _first_sentence(kind: type[Entry]) -> str:
    """Return the example and the first sentence of what a kind of entry says of itself."""
    text = " ".join((kind.__doc__ or "").split())
    end = text.find(". ")
    return text if end < 0 else text[: end + 1]


def _listed(words: list[str], last: str = "and") -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} {last} {words[-1]}"
