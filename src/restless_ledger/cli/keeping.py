"""The option that keeps a run in a store."""

from __future__ import annotations

import shlex
from typing import TYPE_CHECKING

import click

from .. import api as library
from .books import path_of
from .main import QUIET, WORDS

if TYPE_CHECKING:
    from ..results import Result

STORE = "restless_ledger.store"


def _remember(context: click.Context, _parameter: click.Parameter, store: str | None) -> None:
    if store is not None:
        from ..archive import open_store

        open_store(store).check()
        context.meta[STORE] = store


option = click.option(
    "--keep",
    metavar="STORE",
    callback=_remember,
    expose_value=False,
    help="Append the figures to this run store: a file, or a directory (with Parquet) that ends in /.",
)


def keep_run(result: Result, rulebook: str) -> None:
    """Append a result's figures to a run store, if one was named, with the words of the command."""
    meta = click.get_current_context().meta
    if STORE in meta:
        where = path_of(rulebook)
        library.keep(result, meta[STORE], command=shlex.join(meta.get(WORDS, [])), rules=where)
        if not meta.get(QUIET):
            click.echo(f"kept in {meta[STORE]}", err=True)
