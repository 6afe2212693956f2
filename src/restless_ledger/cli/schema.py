"""`restless-ledger schema`: the JSON Schema of a rulebook, for an editor's completion."""

from __future__ import annotations

import json

import click

from ..rulebook import json_schema


@click.command("schema")
def command() -> None:
    """Print the JSON Schema that every file of a rulebook satisfies."""
    click.echo(json.dumps(json_schema(), indent=2))
