"""`restless-ledger new`: a small commented rulebook to start from."""

from __future__ import annotations

from pathlib import Path

import click

STARTER = Path(__file__).parent / "starter"


@click.command("new")
@click.argument("directory", type=click.Path(path_type=Path))
def command(directory: Path) -> None:
    """Write a small commented rulebook into DIRECTORY. Files that are there already are left alone."""
    from ..rulebook import InputError
    from ..rulebook.files import put_all

    files = sorted(STARTER.glob("*.toml"))
    taken = [file.name for file in files if (directory / file.name).exists()]
    if taken:
        found = ", ".join(taken)
        raise InputError(
            f"{directory}: there is already a {found} here; nothing was written\n    choose another directory"
        )
    try:
        directory.mkdir(parents=True, exist_ok=True)
        put_all({directory / file.name: file.read_bytes() for file in files})
    except OSError as error:
        raise InputError(f"{directory}: can't be written to: {error.strerror}") from None
    click.echo(f"Wrote {', '.join(file.name for file in files)} to {directory}. Try:")
    click.echo(
        f"  restless-ledger sheet {directory} ferrier --level 5\n  restless-ledger fight {directory} ford\n"
        f"  restless-ledger trials {directory} ford"
    )
