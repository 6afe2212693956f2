"""`restless-ledger warm`: compile the rules of combat now, for images and builds."""

from __future__ import annotations

import click


@click.command("warm")
def command() -> int:
    """Compile the rules of combat now, where no wheel has them, so that no later command does. Exits with 1 where there
    is no compiler."""
    from ..engine import is_compiled

    if is_compiled():
        click.echo("The rules of combat are compiled.")
        return 0
    return 1
