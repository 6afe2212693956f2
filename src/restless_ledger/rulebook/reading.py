"""Files → one source, merged → validated and checked entries → a frozen rulebook, or all that is wrong with it."""

from __future__ import annotations

from pathlib import Path
from typing import cast

from .check import check
from .csv_tables import fill_tables
from .entry_tables import fill_entries
from .files import find_files, record_listed
from .frozen import freeze
from .layers import built_on
from .likes import with_likes
from .problems import Problem, Report, RulebookError, dotted
from .rulebook import Rulebook
from .source import Source
from .validate import validate


def read_source(root: Path, below: str = "", above: tuple[Path, ...] = ()) -> Source:
    """Read the files of a rulebook, and on which it builds. `below` comes before the names of its files, `above` are
    the rulebooks that build on it."""
    source = Source()
    files = find_files(root)
    record_listed(root, files)
    for file in files:
        source.read(file, below + _short_name(file, root))
    folder = root if root.is_dir() else root.parent
    fill_entries(source, folder, below)
    fill_tables(source, folder)
    heading = source.data.get("rulebook")
    written = heading.get("builds_on") if isinstance(heading, dict) else None
    if not isinstance(written, str):
        return source
    base, here = folder / written, ("rulebook", "builds_on")
    if not base.exists():
        what, remedy = "there is no such rulebook", "paths start at this rulebook's directory"
        source.problems.append(Problem(source.place(here), dotted(here), what, written, remedy))
        return source
    if base.resolve() in (root.resolve(), *above):
        what = "these rulebooks build on each other in a ring"
        source.problems.append(Problem(source.place(here), dotted(here), what, written, "take one of them out"))
        return source
    name = below + (written if base.is_dir() else str(Path(written).parent)).rstrip("/") + "/"
    return built_on(read_source(base, name, (*above, root.resolve())), source)


def assemble(source: Source) -> Rulebook:
    """Validate what a source has read, let the chapters check it, and return the rulebook."""
    report = Report(source)
    chapters = validate(with_likes(source, report), report)
    book = Rulebook.model_construct(**chapters)  # each entry of each chapter has been validated
    check(book, report)
    problems = [*source.problems, *report.problems]
    if problems:
        raise RulebookError(problems)
    return cast(Rulebook, freeze(book._read_from(source)))


def _short_name(file: Path, root: Path) -> str:
    return str(file.relative_to(root)) if root.is_dir() else file.name
