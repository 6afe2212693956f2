"""`restless-ledger schema`: the JSON Schema of a rulebook, for an editor's completion."""

from __future__ import annotations

import json
from pathlib import Path

import click

from ..rulebook import json_schema
from .options import open_book
from .tables import told, write_text


@click.command("schema")
@click.argument("rulebook", metavar="RULEBOOK", required=False)
@click.option("--out", type=click.Path(path_type=Path), help="Write the schema to this file instead of printing it.")
def command(rulebook: str | None, out: Path | None) -> None:
    """Print the JSON Schema that every file of a rulebook satisfies.

    With RULEBOOK it holds that rulebook's own names, so that an editor completes them and marks the misspelt ones.
    """
    text = json.dumps(json_schema(open_book(rulebook) if rulebook else None), indent=2, ensure_ascii=False)
    if out is None:
        click.echo(text)
        return
    write_text(text + "\n", out)
    for line in told("Schema", [out]):
        click.echo(line)
