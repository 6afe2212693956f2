"""`restless-ledger live`: poke a character at a prompt, or by commands that are given."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from .. import api as library
from . import options
from .books import open_book
from .tables import BOLD, DIM, END, RED, console, money, ruled

if TYPE_CHECKING:
    from ..scene import Live
    from ..scene.commands import Script

LEAVE = ("quit", "exit")
PROMPT = "› "


@click.command("live")
@options.rulebook
@options.who
@click.option("--level", type=int, help="Its level, and that of all who are only named.  [default: the first there is]")
@options.origin
@options.gear
@options.taught
@options.bought
@click.option("--with", "companions", multiple=True, metavar="CLASS", help="A companion.")
@click.option("--against", multiple=True, metavar="CLASS", help="A foe.")
@click.option("--acting", multiple=True, metavar="CLASS", help="Who acts by its playbook as time passes.")
@click.option("--arena", help="Where they are.")
@options.seed
@click.option("--restore", "saved", type=click.Path(path_type=Path), help="Go on with a scene that was saved.")
@click.option("--do", "commands", metavar="COMMANDS", help='Carry these out, such as "hurt 30 crush; advance 2 s".')
def command(rulebook: str, who: str, saved: Path | None, commands: str | None, **made: Any) -> int:
    """Poke WHO, a class of RULEBOOK: hurt it, give it buffs, let it use what it knows, and read what came of it.

    At a terminal it asks for commands; `help` lists them. Otherwise it reads them from standard input, or from --do,
    and exits with 1 where one was refused.
    """
    from ..scene.commands import Script

    book = open_book(rulebook)
    made["bought"] = options.assignments(made["bought"], "--bought")
    live = library.restore(book, saved) if saved else library.live(book, who, **made)
    script = Script(live)
    if commands is None and sys.stdin.isatty():
        _ask(script)
        return 0
    return _carry_out(script, commands if commands is not None else sys.stdin.read())


def _carry_out(script: Script, text: str) -> int:
    """Carry out commands and print the ledger; return 1 where one was refused."""
    from ..scene.commands import commands_in

    page, refused = console(), 0
    _head(script.live)
    for each in commands_in(text):
        page.print(f"{DIM}{PROMPT}{each}{END}")
        refused += not _do(script, each)
    page.print(script.status())
    if refused:
        page.print(f"{RED}{refused} {'command was' if refused == 1 else 'commands were'} refused.{END}")
    return int(refused > 0)


def _head(live: Live) -> None:
    names = ", ".join(unit.name for unit in live.units)
    console().print(f"{BOLD}{names}{END}: {live.setup.book.rulebook.title}, seed {live.seed}")


def _do(script: Script, command: str) -> bool:
    """Carry out one command; print what it wrote into the ledger, and what else there is to say."""
    page, before = console(), len(script.live.ledger)
    said = script.carry_out(command)
    first = before if len(script.live.ledger) >= before else 0
    lines = list(script.live.ledger.lines(first))
    if lines:
        table = ruled(">entry", f">{script.live.setup.book.clock.unit}", "what", ">change", ">balance", wide="what")
        for index, when, sentence, change, balance in lines:
            table.add_row(str(index), when, sentence, money(change), balance)
        table.show_header = False
        rest = (4, 6, 9, 9)
        words = min(page.width - sum(rest) - 14, 60)
        for column, width in zip(table.columns, (*rest[:2], words, *rest[2:]), strict=True):
            column.min_width = width
        page.print(table)
    for line in said.lines:
        page.print(line if said.done else f"{RED}{line}{END}", soft_wrap=line.startswith("  "))
    return said.done


def _ask(script: Script) -> None:
    """Ask for commands until there are no more."""
    from ..rulebook import InputError
    from ..scene.commands import commands_in

    page = console()
    _head(script.live)
    page.print("help lists the commands, quit leaves.")
    page.print(script.status())
    for line in _lines(script):
        for each in commands_in(line):
            if each in LEAVE:
                return
            try:
                if each == "help":
                    _help()
                else:
                    _do(script, each)
            except InputError as error:
                page.print(f"{RED}{error}{END}", soft_wrap=True)
        page.print(script.status())


def _help() -> None:
    from ..scene.commands import help_lines

    table = ruled("command", "what it does", wide="what it does")
    for usage, what in [*help_lines(), ("quit", "leave")]:
        table.add_row(usage, what)
    console().print(table)


def _lines(script: Script) -> Iterator[str]:
    """Yield what is typed, line by line: with history and completion, where the extra `prompt` is installed."""
    try:
        from prompt_toolkit import PromptSession
    except ImportError:
        with contextlib.suppress(EOFError, KeyboardInterrupt):
            while True:
                yield input(PROMPT)
        return
    from prompt_toolkit.completion import Completer, Completion

    class Names(Completer):
        """Completes verbs, and names of the rulebook."""

        def get_completions(self, document, _event):  # type: ignore[no-untyped-def]
            typed = document.text_before_cursor
            for name in script.completions(typed):
                yield Completion(name, -len(typed.rpartition(" ")[2].rpartition(";")[2]))

    session: PromptSession[str] = PromptSession(completer=Names(), complete_while_typing=False)
    while True:
        try:
            yield session.prompt(PROMPT)
        except KeyboardInterrupt:
            continue
        except EOFError:
            return
