"""The command `restless-ledger`: finds a subcommand, and turns what goes wrong into one clear message."""

from __future__ import annotations

import gc
import importlib
import os
import sys

import click

from .start import start_simulation

COMMANDS = {
    "demo": "The whole tour on the shipped rulebook.",
    "audit": "Findings, worked examples and promises: what is wrong, and whether it stays right.",
    "new": "Write a small commented rulebook to start from.",
    "sheet": "One character's figures, and where each comes from.",
    "builds": "What character creation allows, and how distinct the origins are.",
    "curves": "Growth by level, classes side by side, and where they cross.",
    "duel": "Two characters: hits and seconds to kill, and who wins.",
    "odds": "The exact chance of passing each stat check, and why not.",
    "upgrades": "What a level of each upgrade costs and gives, and what a plan buys.",
    "matchups": "Everyone against everyone, and what a rational field would play.",
    "observed": "Fights that were observed in play, against the simulation.",
    "levers": "Which numbers move an encounter's outcome most.",
    "tune": "The smallest change of some numbers that meets some aims.",
    "compare": "What changed between two rulebooks, and what came of it.",
    "journey": "Hours, levels, attempts and walls along a journey.",
    "fight": "Play one fight and show its ledger.",
    "trials": "Fight many times: win rates, time to kill, who did what.",
    "falls": "From what height each class is hurt and killed, by its own jumps too.",
    "schema": "Print the JSON Schema of a rulebook's files.",
}
SIMULATING = frozenset(
    {"demo", "duel", "fight", "trials", "journey", "matchups", "compare", "levers", "observed", "tune"}
)
UNUSABLE_INPUT = 2
INTERRUPTED = 130


class Commands(click.Group):
    """Loads a subcommand's module only when it is asked for, so that --help answers at once."""

    def list_commands(self, _context: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, _context: click.Context, name: str) -> click.Command | None:
        if name not in COMMANDS:
            return None
        if name in SIMULATING:
            start_simulation()
        return importlib.import_module(f"restless_ledger.cli.{name}").command

    def format_commands(self, _context: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl(list(COMMANDS.items()))

    def resolve_command(self, context: click.Context, args: list[str]) -> tuple:
        try:
            return super().resolve_command(context, args)
        except click.UsageError as error:
            import difflib

            near = difflib.get_close_matches(args[0], COMMANDS, 1)
            remedy = f"did you mean {near[0]}?" if near else f"there are: {', '.join(COMMANDS)}"
            raise click.UsageError(f"there is no command {args[0]}; {remedy}", context) from error


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name="restless-ledger", message="%(prog)s %(version)s")
def main() -> None:
    """Declare a game's numbers as text, and see what they do.

    RULEBOOK is a directory of TOML files, or the word demo for the one that is shipped.
    """


def run() -> None:
    """Run the command line. Exit 0: done; 2: input that can't be used; 130: Ctrl-C before anything was done."""
    os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "1")  # looking for them takes longer than reading a rulebook
    gc.set_threshold(100_000, 50, 50)  # what is imported stays: looking it through for garbage is a tenth of a start
    try:
        code = main.main(standalone_mode=False)
    except click.UsageError as error:
        error.show()
        sys.exit(UNUSABLE_INPUT)
    except click.ClickException as error:
        error.show()
        sys.exit(error.exit_code)
    except (click.Abort, KeyboardInterrupt):
        print("\nStopped; nothing was lost.", file=sys.stderr)
        sys.exit(INTERRUPTED)
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())  # whoever read us has read enough
        sys.exit(0)
    except ValueError as error:
        from ..rulebook import InputError

        if not isinstance(error, InputError):
            raise
        print(error, file=sys.stderr)
        sys.exit(UNUSABLE_INPUT)
    sys.exit(code if isinstance(code, int) else 0)


if __name__ == "__main__":
    run()
