"""`restless-ledger list`: what a rulebook declares, and the JSON Schema of its files."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING

import click

from .. import api as library
from . import output
from .books import open_book
from .names import WHICH, kinds, rulebooks
from .output import deliver, deliver_rows
from .tables import BOLD, END, console, ruled

if TYPE_CHECKING:
    from ..analysis.contents import Contents

MOST = 12
"""Names that a line of the overview shows."""


@click.command("list")
@click.argument("rulebook", metavar="[RULEBOOK]", required=False, shell_complete=rulebooks)
@click.argument("kind", metavar="[KIND]", required=False, shell_complete=kinds)
@click.option("--schema", is_flag=True, help="Print the JSON Schema of its files instead; without RULEBOOK, of any.")
@output.output()
def command(rulebook: str | None, kind: str | None, schema: bool) -> None:
    """List what RULEBOOK declares: all kinds with their names, or the names of one KIND with labels and places."""
    if schema:
        found = library.json_schema(open_book(rulebook) if rulebook else None)
        text = json.dumps(found, indent=2, ensure_ascii=False) + "\n"
        deliver_rows(list, lambda: click.echo(text, nl=False), "Schema", written={"json": lambda: text})
        return
    if rulebook is None:
        raise click.UsageError(f"RULEBOOK is missing; {WHICH}")
    contents = library.contents(open_book(rulebook), kind=kind)
    deliver(contents, lambda: print_contents(contents))


def print_contents(contents: Contents) -> None:
    """Print the names of one kind with labels and places, or a line for each kind."""
    page = console()
    if contents.kind is None:
        page.print(f"{BOLD}{contents.book.rulebook.title}{END}")
        table = ruled("kind", ">count", "names", wide="names")
        for kind, count in contents.counts.items():
            names = [row["name"] for row in contents.names if row["kind"] == kind]
            more = f", and {count - MOST} more" if count > MOST else ""
            table.add_row(kind, str(count), ", ".join(names[:MOST]) + more)
    else:
        table = ruled("name", "label", "place", wide="label")
        for row in contents.names:
            table.add_row(row["name"], row["label"], row["place"])
    page.print(table)
    page.print(f"{contents.finding()}.")
