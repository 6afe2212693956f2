"""The command `restless-ledger`: finds a subcommand, and turns what goes wrong into one clear message."""

from __future__ import annotations

import contextlib
import errno
import gc
import importlib
import os
import signal
import sys
from typing import TYPE_CHECKING

import click

if TYPE_CHECKING:
    from ..engine.time_budget import Budget

GROUPS = {
    "Write": {
        "new": "Write a small commented rulebook to start from.",
        "list": "What a rulebook declares, and the JSON Schema of its files.",
        "audit": "Findings, worked examples and promises: what is wrong, and whether it stays right.",
    },
    "Look": {
        "sheet": "One character’s figures, where each comes from, and what upgrades cost.",
        "curves": "Growth by level, classes side by side; from what height falls hurt and kill.",
        "builds": "What character creation allows, and the odds of each stat check.",
        "duel": "Two characters: hits and seconds to kill, and who wins.",
    },
    "Play": {
        "fight": "Play one fight and read its ledger.",
        "trials": "Fight many times: win rates, time to kill, who did what.",
        "live": "Poke a character at a prompt: hurt it, let it act, and read what came of it.",
        "journey": "Hours, levels, attempts and walls along a journey.",
        "demo": "The whole tour on the shipped rulebook.",
    },
    "Study": {
        "compare": "What changed between two rulebooks, and what came of it; what moved kept figures.",
        "matchups": "Everyone against everyone, and what a rational field would play.",
        "levers": "Which numbers move an encounter’s outcome most.",
        "tune": "The smallest change of some numbers that meets some aims.",
    },
    "Hand over": {
        "report": "One page of HTML with all that can be said of a rulebook.",
        "export": "Write all that a game loads, and its rules as source code with test vectors.",
        "reconcile": "What was recorded in play, held against the rules.",
        "warm": "Compile the rules of combat now, for images and builds.",
    },
}
"""The commands in the order in which people work, those that are used most first in each group."""
COMMANDS = {name: what for group in GROUPS.values() for name, what in group.items()}
MOVED = {
    "falls": "curves RULEBOOK --falls",
    "odds": "builds RULEBOOK --odds",
    "upgrades": "sheet RULEBOOK WHO --upgrades",
    "history": "compare --history STORE",
    "observed": "reconcile RULEBOOK FIGHTS.csv",
    "schema": "list RULEBOOK --schema",
}
"""What stands in another command, and how it is asked for there."""
WORDS = "restless_ledger.words"
"""Under which name the words of a command are kept with its context."""
QUIET = "restless_ledger.quiet"
"""Under which name it is kept that a command says only what was asked."""
UNUSABLE_INPUT = 2
OUR_FAULT = 70
INTERRUPTED = 130


class Commands(click.Group):
    """Loads a subcommand's module only when it is asked for. A module imports what it calls where it calls it, so
    that --help answers at once."""

    def list_commands(self, _context: click.Context) -> list[str]:
        """Return the names of all commands, in the order of the help."""
        return list(COMMANDS)

    def get_command(self, _context: click.Context, name: str) -> click.Command | None:
        """Return a command, imported when it is asked for."""
        if name not in COMMANDS:
            return None
        command: click.Command = importlib.import_module(f"restless_ledger.cli.{name}").command
        settled(command)
        return command

    def format_commands(self, _context: click.Context, formatter: click.HelpFormatter) -> None:
        """Write the commands in groups, with what each does."""
        for title, commands in GROUPS.items():
            with formatter.section(title):
                formatter.write_dl([(name.ljust(max(map(len, COMMANDS))), what) for name, what in commands.items()])

    def resolve_command(self, context: click.Context, args: list[str]) -> tuple:
        """Return the command that was typed; a misspelt one is reported with the nearest."""
        context.meta[WORDS] = list(args)
        try:
            return super().resolve_command(context, args)
        except click.UsageError as error:
            import difflib

            near = difflib.get_close_matches(args[0], COMMANDS, 1)
            remedy = f"did you mean {near[0]}?" if near else f"there are: {', '.join(COMMANDS)}"
            remedy = f"write: restless-ledger {MOVED[args[0]]}" if args[0] in MOVED else remedy
            raise click.UsageError(f"there is no command {args[0]}; {remedy}", context) from error


def settled(command: click.Command) -> None:
    """Give a command what all have: defaults from the project's settings, and how much it says."""
    from .settings import SettledContext

    command.context_class = SettledContext
    if not any(each.name == "quiet" for each in command.params):
        flag = {"is_flag": True, "expose_value": False}
        command.params += [
            click.Option(["-q", "--quiet"], callback=_quiet, help="Say only what was asked.", **flag),
            click.Option(["-v", "--verbose"], callback=_verbose, help="Say what is done.", **flag),
        ]


def _quiet(context: click.Context, _parameter: click.Parameter, asked: bool) -> None:
    if asked:
        context.meta[QUIET] = True
        _log_at("ERROR")


def _verbose(_context: click.Context, _parameter: click.Parameter, asked: bool) -> None:
    if asked:
        _log_at("INFO")


def _log_at(level: str) -> None:
    """Let the library's log go to standard error, from a level on."""
    import logging

    log = logging.getLogger("restless_ledger")
    log.setLevel(level)
    if not log.handlers:
        handler = logging.StreamHandler()
        handler.setFormatter(logging.Formatter("%(message)s"))
        log.addHandler(handler)


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name="restless-ledger", message="%(prog)s %(version)s")
@click.option(
    "--time-budget",
    type=float,
    metavar="SECONDS",
    help="End after so many seconds, as at Ctrl-C: what is done by then is shown.",
)
@click.pass_context
def main(context: click.Context, time_budget: float | None) -> None:
    """Declare a game's numbers as text, and see what they do.

    RULEBOOK is a directory of TOML files, or the word demo for the one that is shipped.
    """
    if time_budget is not None:
        from ..engine.time_budget import time_budget as limited

        context.ensure_object(list).append(context.with_resource(limited(time_budget)))


def run() -> None:
    """Run the command line, and exit.

    0: done, also where the reader of a pipe has closed it. 1: a finding, a broken promise or an aim that was not met.
    2: input that can't be used, and output that can't be written. 70: a fault of this program. 130: cut short by
    Ctrl-C.
    """
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")  # looking for them takes longer than reading a rulebook
    for name in ("OPENBLAS_NUM_THREADS", "MKL_NUM_THREADS"):
        os.environ.setdefault(name, "1")  # NumPy would begin a pool of threads that no command uses
    gc.set_threshold(100_000, 50, 50)  # looking what is imported through for garbage is a tenth of a start otherwise
    for name in ("stdout", "stderr"):
        if getattr(sys, name) is None:  # closed by the program that started this one
            setattr(sys, name, open(os.devnull, "w"))  # noqa: SIM115
    interrupted = record_interrupts()
    budgets: list[Budget] = []
    code = carried_out(budgets)
    if code in (0, 1) and (interrupted or any(budget.spent for budget in budgets)):
        say("Stopped early: this is what was done by then.")
        code = INTERRUPTED
    try:
        if sys.stdout is not None:
            sys.stdout.flush()
    except OSError as error:
        code = unwritten(error)
    sys.exit(code)


def record_interrupts() -> list[int]:
    """Note each Ctrl-C from now on in the list that is returned; it is raised as before."""
    found: list[int] = []

    def interrupt(number: int, frame: object) -> None:
        found.append(number)
        raise KeyboardInterrupt

    with contextlib.suppress(ValueError):  # not in the main thread
        if signal.getsignal(signal.SIGINT) is signal.default_int_handler:
            signal.signal(signal.SIGINT, interrupt)
    return found


def carried_out(budgets: list[Budget]) -> int:
    """Carry out what the command line asks for; return the code to exit with. A time budget that was asked for is added
    to the list."""
    try:
        code = main.main(prog_name="restless-ledger", standalone_mode=False, obj=budgets)
        return code if isinstance(code, int) else 0
    except click.UsageError as error:
        say(*([error.ctx.get_usage()] if error.ctx else []), f"Error: {error.format_message()}")
        return UNUSABLE_INPUT
    except click.ClickException as error:
        say(f"Error: {error.format_message()}")
        return UNUSABLE_INPUT
    except (click.Abort, KeyboardInterrupt):
        say("", "Stopped; nothing was lost.")
        return INTERRUPTED
    except SystemExit:  # so click ends where nobody reads on, and only there
        return 0
    except OSError as error:
        return unwritten(error)
    except Exception as error:
        from ..rulebook import InputError

        if isinstance(error, InputError):
            say(str(error))
            return UNUSABLE_INPUT
        if os.environ.get("RESTLESS_LEDGER_DEBUG") == "1":
            raise
        what = " ".join(str(error).split())[:300]
        say(
            f"This is a fault of restless-ledger, please report it: {type(error).__name__}: {what}",
            "    RESTLESS_LEDGER_DEBUG=1 shows where it came about",
        )
        return OUR_FAULT


def unwritten(error: OSError) -> int:
    """Return the code to exit with where standard output can't be written to: 0 where a pipe's reader has closed it."""
    with contextlib.suppress(OSError, ValueError, AttributeError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    if isinstance(error, BrokenPipeError) or error.errno == errno.EPIPE:
        return 0
    say(f"what was said can't be written: {error.strerror or error}")
    return UNUSABLE_INPUT


def say(*lines: str) -> None:
    """Say something on standard error, if anybody can hear it."""
    with contextlib.suppress(OSError, ValueError, AttributeError):
        print(*lines, sep="\n", file=sys.stderr, flush=True)
