"""The public face: what it lists is there, and nothing heavy is loaded before it is needed."""

import inspect
import pkgutil
import unittest

import restless_ledger as rl
from restless_ledger.cli.main import COMMANDS

from .support import python_apart

LIGHT = ("cli", "api", "first_use", "table_names")
"""What a command's help may load of the library."""


class Public(unittest.TestCase):
    DEMO = rl.demo()

    def test_everything_listed_is_there_and_described(self) -> None:
        for name in rl.__all__:
            self.assertTrue(getattr(rl, name))
            if name != "__version__":
                self.assertTrue(getattr(rl, name).__doc__, name)
        with self.assertRaises(AttributeError):
            rl.nothing  # noqa: B018

    def test_every_function_refuses_what_it_can_not_be_asked(self) -> None:
        """Whatever the argument: `InputError` names it, says what is wanted and what was got."""
        strange, refused = object(), 0
        for name in rl.__all__:
            function = getattr(rl, name)
            if not inspect.isfunction(function) or name == "time_budget":
                continue
            for parameter in inspect.signature(function).parameters.values():
                if parameter.kind is parameter.VAR_KEYWORD or any(
                    word in str(parameter.annotation) for word in ("CharacterSpec", "Item")
                ):
                    continue  # checked where characters are made
                with self.assertRaisesRegex(rl.InputError, f"{parameter.name}: .* wanted\\n    got: <object"):
                    function(**self.others(function, parameter.name), **{parameter.name: strange})
                refused += 1
        self.assertGreater(refused, 120)

    def others(self, function: object, name: str) -> dict[str, object]:
        """Return what a function must be given besides one parameter."""
        given: dict[str, object] = {
            "book": self.DEMO,
            "old": self.DEMO,
            "new": self.DEMO,
            "who": "rigger",
            "result": rl.builds(self.DEMO),
        }
        needed = [each for each in inspect.signature(function).parameters.values() if each.default is each.empty]  # type: ignore[arg-type]
        return {
            each.name: given.get(
                each.name, ["x"] if "Sequence" in str(each.annotation) else 5 if each.annotation == "int" else "x"
            )
            for each in needed
            if each.name != name and each.kind is not each.VAR_KEYWORD
        }

    def test_help_of_any_command_loads_only_the_command_line_and_sheets_no_heavy_library(self) -> None:
        helps = [["--help"], *([name, "--help"] for name in COMMANDS)]
        rooms = [room.name for room in pkgutil.iter_modules(rl.__path__) if room.name not in LIGHT]
        unwanted = ["numba", "scipy", "pandas", "matplotlib"]
        for asked, heavy in (
            (helps, ["numpy", *unwanted, *(f"restless_ledger.{room}" for room in rooms)]),
            ([["sheet", "demo", "rigger"]], unwanted),
        ):
            said = python_apart(
                "import sys\nfrom restless_ledger.cli.main import main\n"
                f"for words in {asked!r}: main.main(words, standalone_mode=False)\n"
                f"print([name for name in {heavy!r} if name in sys.modules])"
            )
            self.assertEqual(said.splitlines()[-1], "[]")
