"""Names that a rulebook declares, on the command line: a missing one is answered with the choice, a shell completes
them."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click
from click.shell_completion import CompletionItem

from .books import SHIPPED, open_book

if TYPE_CHECKING:
    from ..rulebook import Rulebook

MOST_NAMED = 24
WHICH = "name a rulebook's directory, or the word demo"
Completion = Callable[[click.Context, click.Parameter, str], list[CompletionItem]]


class Named(click.Argument):
    """An argument that names something; if it is missing, the message says which names there are. `chapter` is the
    chapter of the rulebook that declares them; none for the rulebook itself."""

    def __init__(self, *words: Any, chapter: str = "", **more: Any) -> None:
        super().__init__(*words, shell_complete=completion(chapter) if chapter else rulebooks, **more)
        self.chapter = chapter

    def process_value(self, ctx: click.Context, value: Any) -> Any:
        """Return the value; a missing one is refused with what there is to choose from."""
        try:
            return super().process_value(ctx, value)
        except click.MissingParameter:
            raise click.UsageError(f"{self.metavar} is missing; {self._choice(ctx)}", ctx) from None

    def _choice(self, ctx: click.Context) -> str:
        if not self.chapter:
            return WHICH
        names = list(names_of(open_book(ctx.params["rulebook"]), self.chapter))
        if not names:
            return f"this rulebook declares no {self.chapter}"
        more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
        return f"there are: {', '.join(names[:MOST_NAMED])}{more}"


def named(name: str, chapter: str, metavar: str = "", **more: Any) -> Callable[[Any], Any]:
    """Return an argument that names an entry of a chapter."""
    return click.argument(name, cls=Named, chapter=chapter, metavar=metavar or name.upper(), **more)


def names_of(book: Rulebook, chapter: str) -> Iterable[str]:
    """Return the names that a chapter declares."""
    return getattr(book, chapter) or ()


def completion(*chapters: str) -> Completion:
    """Return a function that completes the names of chapters of the rulebook that the command line names."""

    def complete(context: click.Context, _parameter: click.Parameter, begun: str) -> list[CompletionItem]:
        book = _book_of(context)
        if book is None:
            return []
        before, join, last = begun.rpartition("+")
        found = (name for chapter in chapters for name in names_of(book, chapter) if name.startswith(last))
        return [CompletionItem(f"{before}{join}{name}") for name in found]

    return complete


def _book_of(context: click.Context) -> Rulebook | None:
    """Return the rulebook of a line that is completed; None where it names none that can be read. While an option's
    value is completed, the arguments are not known yet, but the shell hands over the whole line."""
    from ..rulebook import InputError

    words = os.environ.get("COMP_WORDS", "").split()
    there = (word for word in words if word in SHIPPED or Path(word).is_dir())
    try:
        return open_book(context.params.get("rulebook") or next(there, ""))
    except (InputError, OSError):
        return None


def kinds(context: click.Context, _parameter: click.Parameter, begun: str) -> list[CompletionItem]:
    """Complete the kinds of things that a rulebook declares."""
    book = _book_of(context)
    if book is None:
        return []
    return [CompletionItem(name) for name, value in vars(book).items() if value and name.startswith(begun)]


def rulebooks(_context: click.Context, _parameter: click.Parameter, begun: str) -> list[CompletionItem]:
    """Complete the words for the shipped rulebooks, and directories."""
    words = [CompletionItem(word) for word in SHIPPED if word.startswith(begun)]
    return [*words, CompletionItem(begun, type="dir")] if not words or Path(begun or ".").is_dir() else words
