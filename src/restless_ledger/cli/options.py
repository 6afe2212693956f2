"""The options that several commands share."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import click

from .names import WHICH as WHICH
from .names import Named, completion, named

DEFAULT_SEED = 1

rulebook = click.argument("rulebook", cls=Named, metavar="RULEBOOK")
encounter = named("encounter", "encounters")
who = named("who", "classes")
seed = click.option(
    "--seed",
    type=int,
    default=DEFAULT_SEED,
    show_default=True,
    help="Decides every draw; the same seed, the same fights.",
)
level = click.option("--level", type=int, help="The level; the first there is unless given.")
origin = click.option(
    "--origin", metavar="NAME", shell_complete=completion("origins"), help="Where the character comes from."
)
gear = click.option(
    "--gear",
    multiple=True,
    metavar="NAME",
    shell_complete=completion("gear"),
    help="Wear this; may be given several times.",
)
taught = click.option(
    "--taught",
    multiple=True,
    metavar="ABILITY",
    shell_complete=completion("abilities"),
    help="Know this too, as if an event had taught it.",
)
bought = click.option("--bought", multiple=True, metavar="UPGRADE=LEVEL", help="Have so many levels of an upgrade.")
chosen = click.option(
    "--set",
    "chosen",
    multiple=True,
    metavar="ATTRIBUTE=VALUE",
    help="An attribute as the player chose it; may be given several times.",
)


def read_levels(_context: click.Context, _parameter: click.Parameter, text: str | None) -> tuple[int, ...]:
    """Return the levels that a text such as `1,20` names, and none for None. Raises `InputError` on anything else."""
    from ..rulebook import InputError

    try:
        return tuple(int(word) for word in text.split(",")) if text else ()
    except ValueError:
        raise InputError(f"--levels: write whole numbers, such as 5,20,40\n    got: {text}") from None


levels = click.option("--levels", metavar="L,...", callback=read_levels, help="Only these levels, such as 1,20,60.")


def assignments(words: Sequence[str], option: str = "--set") -> dict[str, int]:
    """Return what `name=value` words say. Raises `InputError` on a word that says nothing."""
    from ..rulebook import InputError

    found = {}
    for word in words:
        name, _, value = word.partition("=")
        try:
            found[name.strip()] = int(value)
        except ValueError:
            raise InputError(f"{option}: write name=number, such as brawn=7\n    got: {word}") from None
    return found


def together(*options: Callable[[Any], Any]) -> Callable[[Any], Any]:
    """Return one decorator for several options, shown in this order."""

    def decorate(function: Any) -> Any:
        for option in reversed(options):
            function = option(function)
        return function

    return decorate
