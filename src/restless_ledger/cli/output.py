"""Where a command's answer goes, and how it is written: `--format` and `--out`, the same on every command."""

from __future__ import annotations

import io
from collections.abc import Callable, Mapping, Sequence
from contextlib import redirect_stdout
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from .main import QUIET
from .options import together
from .tables import console, print_records, write_text

if TYPE_CHECKING:
    from ..results import Result

TABLE_FORMATS = ("text", "csv", "json")
ENDINGS = {
    ".csv": "csv",
    ".json": "json",
    ".parquet": "parquet",
    ".txt": "text",
    ".md": "markdown",
    ".sarif": "sarif",
    ".xml": "junit",
}
"""The format of a file, by its ending, where none was asked for."""
NOTHING: Mapping[str, Callable[[], str]] = {}
META = "restless_ledger.output"
STANDARD = Path("-")


@dataclass
class Wish:
    """What was asked of a command's answer. Without a file it goes to standard output."""

    form: str = ""
    out: Path | None = None
    table: str | None = None
    plot: Path | None = None

    @property
    def file(self) -> Path | None:
        """The file that is written, if it is one."""
        return None if self.out == STANDARD else self.out

    @property
    def piped(self) -> bool:
        """Whether standard output carries data for another program, and nothing else may be printed there."""
        return self.out == STANDARD or (self.out is None and self.form not in ("", "text", "markdown"))


def wish() -> Wish:
    """Return what was asked of the present command's answer."""
    found: Wish = click.get_current_context().meta.setdefault(META, Wish())
    return found


def _keep(name: str, check: Callable[[Any], None] | None = None) -> Callable[[click.Context, Any, Any], None]:
    def callback(context: click.Context, _parameter: click.Parameter, value: Any) -> None:
        if value is not None:
            if check:
                check(value)
            setattr(context.meta.setdefault(META, Wish()), name, value)

    return callback


def _check_out(formats: Sequence[str]) -> Callable[[Path], None]:
    """Return a function that raises `InputError` where a file can't be written, or its ending is of none of the formats
    and none was asked for."""
    known = {ending: form for ending, form in ENDINGS.items() if form in (*formats, "parquet")}

    def check(out: Path) -> None:
        if out == STANDARD:
            return
        from ..rulebook import InputError
        from ..rulebook.files import check_writable

        check_writable(out)
        if not wish().form and out.suffix.lower() not in known:
            *most, last = known
            got = f"{out.suffix or 'no ending'}; or name a --format"
            raise InputError(f"{out}: the file ends in {', '.join(most)} or {last}\n    got: {got}")

    return check


def _check_plot(file: Path) -> None:
    from ..picture.style import check_picture_path

    check_picture_path(file)


plot = click.option(
    "--plot",
    type=click.Path(path_type=Path),
    callback=_keep("plot", _check_plot),
    expose_value=False,
    help="Also draw the figure to this file (.png, .svg or .pdf).",
)


def output(*tables: str, formats: Sequence[str] = TABLE_FORMATS) -> Callable[[Any], Any]:
    """Return the options of a command that answers with a table; with several `tables`, one of them can be named."""
    made = [
        click.option(
            "--format",
            type=click.Choice(formats),
            is_eager=True,
            callback=_keep("form"),
            expose_value=False,
            help="How it is written; by the ending of --out unless given, else as text.",
        ),
        click.option(
            "--out",
            metavar="FILE",
            type=click.Path(path_type=Path),
            callback=_keep("out", _check_out(formats)),
            expose_value=False,
            help="Write it to this file, and not to the terminal; - is standard output.",
        ),
    ]
    if len(tables) > 1:
        made.insert(
            0,
            click.option(
                "--table",
                type=click.Choice(tables),
                metavar="TABLE",
                callback=_keep("table"),
                expose_value=False,
                help=f"This table in full: {', '.join(tables)}.",
            ),
        )
    return together(*made)


def deliver(
    result: Result,
    show: Callable[[], None],
    *,
    head: Callable[[], None] | None = None,
    written: Mapping[str, Callable[[], str]] = NOTHING,
    table: str | None = None,
) -> None:
    """Write a result as it was asked for: `show` prints it as text (or, where a table was named, `head` and the table);
    `written` has the text of formats of its own. `table` is meant where none was named. Draw the figure too, if it was
    asked for."""
    asked = wish()

    def print_table() -> None:
        if head:
            head()
        print_records(result.records(asked.table))

    chosen = print_table if asked.table else show
    deliver_rows(lambda: result.records(asked.table or table), chosen, result.finding(), written=written)
    if asked.plot:
        result.plot(asked.plot)
        note(f"Figure written to {asked.plot}")


def deliver_rows(
    rows: Callable[[], Sequence[dict[str, Any]]],
    show: Callable[[], None],
    said: str,
    *,
    written: Mapping[str, Callable[[], str]] = NOTHING,
) -> None:
    """Write rows as they were asked for, or what `show` prints; `said` is what they show, in a sentence."""
    from ..results import table_bytes, write_records

    asked = wish()
    file = asked.file
    form = asked.form or (ENDINGS[file.suffix.lower()] if file else "text")
    if form in written and not asked.table:
        write_text(written[form](), file)
    elif file and form == "parquet":
        write_records(rows(), file)
    elif form in ("csv", "json"):
        write_text(table_bytes(rows(), form).decode(), file)
    elif file:
        write_text(text_of(show), file)
    else:
        show()
    if file:
        note(f"{said}. Written to {file}")


def note(line: str) -> None:
    """Say something beside the answer, unless it is to be quiet: on standard error where standard output carries
    data."""
    if click.get_current_context().meta.get(QUIET):
        return
    if wish().piped:
        click.echo(line, err=True)
    else:
        console().print(line)


def text_of(show: Callable[[], None]) -> str:
    """Return what a function prints, without colour."""
    kept = io.StringIO()
    with redirect_stdout(kept):
        show()
    return kept.getvalue()
