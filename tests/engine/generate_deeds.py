"""Random effects and reactions, written as text from a source of choices: what abilities, beats and buffs do."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

Choose = Callable[[Sequence[Any]], Any]
STATS = ("might", "guard", "luck", "speed")
GAUGES = ("health", "ward", "fury")
KINDS = ("blow", "sear")
BUFFS = ("hex", "glow", "rot")
MARKS = ("hexed", "aglow", "rotten")
ABILITIES = ("hit", "cast", "mend", "trick", "call")
CLASSES = ("ox", "elf")
PARTS = ("head", "trunk", "tail")
EVENTS = (
    "dealing",
    "taking",
    "dealing",
    "taking",
    "breaking",
    "going_down",
    "marked",
    "missing",
    "dodging",
    "moving",
    "foe_moving",
    "felling",
    "mate_down",
    "foe_down",
    "using",
    "mate_using",
    "foe_using",
    "healing",
    "healed",
    "giving",
    "beginning",
    "ending",
    "stripped",
    "emptied",
    "filled",
    "falling",
    "rising",
    "opening",
    "entering",
    "leaving",
)
ZONES = ("pool", "halo", "mire")


class DeedWriter:
    """Writes effects and reactions; every choice is made by `choose`, which picks one of a list."""

    def __init__(self, choose: Choose, placed: bool) -> None:
        self.choose = choose
        self.placed = placed

    def maybe(self, text: str) -> str:
        return text if self.choose((True, False)) else ""

    def formula(self, *more: str) -> str:
        simple = (
            "3",
            "might",
            "might / 2",
            "luck - 2",
            "2 + level",
            "10 * health_fill",
            "fury / 4",
            "ward_top / 5",
            "0.0004",
            "2 * marked(aglow) + health_top / 20",
            "foes_left + 2 * stacks(hex)",
            "min(since_start, 3) + dealt / 20 + 2 * ready(hit)",
            "bent(might) + base_luck",
            *more,
        )
        return f'"{self.choose(simple)}"'

    def duration(self, least: int = 0) -> str:
        return f'"{self.choose((least, 1, 3, 7, 12)) if least == 0 else self.choose((least, 3, 7, 12))} ticks"'

    def stretched(self, least: int = 0, bearer: bool = False) -> str:
        """A duration, which figures may stretch."""
        theirs = self.maybe(', bearer_times = "1 - guard / 30"') if bearer else ""
        times = self.choose(("", ', times = "10 / (11 + luck)"', ', times = "might / 12"'))
        return self.choose((self.duration(least), f"{{ time = {self.duration(least)}{times}{theirs} }}"))

    def shared(self, hit: bool) -> str:
        """What every effect may carry; `hit` says whether a hit comes before it."""
        if self.choose((True, True, False)):
            return ""
        after = self.maybe(f', after = "{self.choose(("hit", "miss", "critical", "always"))}"') if hit else ""
        several = self.choose(("", "", ", repeat = 2", f", repeat = {self.formula()}, every = {self.duration(1)}"))
        return "".join(
            (
                after,
                self.maybe(f", when = {self.formula()}"),
                self.choose(("", ', if = "health_fill < 0.8 and distance < 9"', ', if = "behind < 0.6 or above > 0"')),
                self.maybe(
                    self.choose(
                        (
                            ", chance = 0.6",
                            ', chance = "luck / 9", avoid = "guard / 50"',
                            ", chance = 0.4, evens_out = true",
                        )
                    )
                ),
                self.maybe(f", later = {self.duration(1)}") and self.maybe(f", later = {self.duration(1)}"),
                several,
                self.maybe(f', to = "{self.choose(("user", "mates", "allies", "foes", "all"))}"'),
            )
        )

    def effect(self, hit: bool = False, deep: int = 0) -> str:
        amount = self.formula(*(("booked / 3",) if hit else ()))
        kind, buff = self.choose(KINDS), self.choose(BUFFS)
        plain = (
            f'damage = "{kind}"',
            f'damage = "{kind}"',
            f'damage = "{kind}"',
            f'damage = "{kind}", times = {amount}',
            f'damage = "{kind}", part = "{self.choose(PARTS)}", steal = 0.3',
            f"fill = {amount}",
            f'fill = {amount}, gauge = "fury"',
            'heal = "balm"',
            f'drain = {amount}, gauge = "fury"',
            f'give = "{buff}"',
            f'give = "{buff}", strength = {amount}',
            f'buildup = "rot", amount = {amount}',
            f'strip = "{self.choose((*BUFFS, "debuff", *MARKS))}", most = 2',
            f"push = {amount}",
            f'push = {amount}, towards = "{self.choose(("north", "south", "east", "west"))}"',
            f'step = "{self.choose(("beside", "behind", "swap", "away"))}"',
            "pull = 3",
            f"toss = {amount}",
            f'mend = {amount}, part = "{self.choose(PARTS)}"',
            f'summon = "{self.choose(("imp", "imp", "elf"))}", count = {amount}, most = 2{self.called()}',
            f'{self.choose(("lay", "lay", "lift"))} = "{self.choose(ZONES)}"',
            "revive = 0.4",
            f'{self.choose(("ready", "hold_off"))} = "{self.choose(ABILITIES)}"{self.maybe(f", by = {self.duration(1)}")}',
            f'{self.choose(("prolong", "shorten"))} = "{self.choose((*BUFFS, "debuff"))}", by = {self.duration(1)}',
            f'strip = "{self.choose(BUFFS)}", stacks = 1',
            f'{self.choose(("take", "hand_over"))} = "{self.choose((*BUFFS, "debuff"))}", most = 1{self.maybe(", copies = true")}',
        )
        inside = self.choose((*plain, "group", "choice")) if deep < 2 else self.choose(plain)
        if inside == "group":
            inside = f"does = [{self.effects(hit, deep + 1)}]"
        elif inside == "choice":
            inside = f"one_of = [{{ weight = {amount}, does = [{self.effects(hit, deep + 1)}] }}, {{ weight = 2 }}]"
        return f"{{ {inside}{self.shared(hit)} }}"

    def called(self) -> str:
        """How those come who are called, and for how long."""
        bears = f', bears = "{self.choose(BUFFS)}"'
        return "".join(
            (
                self.maybe(f", lasts = {self.stretched(1)}"),
                self.maybe(', level = "level / 2"'),
                self.maybe(bears + self.maybe(f", strength = {self.formula()}")),
                self.maybe(", with_giver = true"),
            )
        )

    def effects(self, hit: bool = False, deep: int = 0) -> str:
        """A list; `hit` says whether a hit comes before it, which its formulas may then read."""
        found = []
        for _ in range(self.choose((1, 1, 2, 3))):
            found.append(self.effect(hit, deep))
            hit = hit or found[-1].startswith(("{ damage", "{ heal"))
        return ", ".join(found)

    def borne(self) -> str:
        """What a broken part may bring beside."""
        mark, reaction = f', marks = ["{self.choose(MARKS)}"]', f", reacts = [{self.reaction()}]"
        return self.maybe(mark) + self.maybe(reaction)

    def reaction(self, giver: bool = False) -> str:
        on = self.choose(EVENTS)
        gauge = f', gauge = "{self.choose(GAUGES)}"'
        needs = {"marked": f', mark = "{self.choose(MARKS)}"', "emptied": gauge, "filled": gauge}
        asks = needs.get(on, "") + (f'{gauge}, share = "luck / 20"' if on in ("falling", "rising") else "")
        if on in ("dealing", "taking"):
            asks += self.maybe(
                self.choose((', kind = "blow"', ", critical = true", ", guarded = false", ', part = "head"'))
            )
        if on in ("dealing", "taking", "using", "foe_using"):
            asks += self.maybe(f', ability = "{self.choose(ABILITIES)}"')
        if on in ("entering", "leaving"):
            asks += self.maybe(f', zone = "{self.choose(ZONES)}"')
        if on in ("giving", "beginning", "ending", "stripped"):
            asks += self.maybe(f', buff = "{self.choose(BUFFS)}"')
        held = self.maybe(f', when = "marked({self.choose(MARKS)})"')
        held += self.maybe(
            self.choose((", chance = 0.5", ", nth = 2", ', rests = "9 ticks"', ", sets_off_itself = true"))
        )
        alone = on in ("opening", "moving")
        held += "" if alone else self.maybe(', if = "health > 9"')
        to = self.choose(
            ("user", "mates", "allies", "foes", "all", *(() if alone else ("other",)), *(("giver",) * giver))
        )
        hit = on in ("dealing", "taking", "healing", "healed")
        return f'{{ on = "{on}"{asks}{held}, to = "{to}", does = [{self.effects(hit)}] }}'

    def mitigation(self, giver: bool) -> str:
        asks = self.choose(
            ("", 'kind = "blow", ', "critical = true, ", 'when = "asked > 3", ', "chance = 0.5, ", "nth = 2, ")
        )
        asks += self.maybe('rests = "9 ticks", ')
        to = self.choose(("mates", "other", *(("giver",) * giver)))
        does = self.choose(
            (
                "times = 0.5",
                "times = 1.5",
                f'passes = 0.4, to = "{to}"',
                "leaves = 2",
                "times = 0.8, less = 1.5, leaves = 9",
            )
        )
        used = self.maybe(", uses_up = true") if giver else ""
        return f"{{ {asks}{does}{used}{self.maybe(f', does = [{self.effects(True)}]')} }}"

    def mitigates(self, giver: bool = False) -> str:
        return self.maybe(f"mitigates = [{self.mitigation(giver)}]\n") and self.maybe(
            f"mitigates = [{self.mitigation(giver)}]\n"
        )

    def reacts(self, giver: bool = False) -> str:
        return self.maybe(f"reacts = [{', '.join(self.reaction(giver) for _ in range(self.choose((1, 1, 2))))}]\n")

    def critical(self) -> str:
        """What a critical may have besides its chance and its factor."""
        return self.choose(("", ', avoid = "guard / 90"', ", tiers = 2", ", evens_out = true"))

    def roll(self) -> str:
        return self.choose(
            (
                "{ between = [1, 6] }",
                '{ between = ["luck", "luck + 6"], rolls = 2, keep = "worst" }',
                "{ between = [0, 5], whole = false }",
                "{ dice = 3, sides = 4, drop_lowest = 1 }",
                "{ deck = [0, 1, 1, 5] }",
            )
        )

    def whose(self, again: str) -> str:
        """Whose a buff is, and how its stacks end."""
        ends = f'ends = "{self.choose(("one_by_one", "each"))}"\n' if again == "stack" else ""
        carries = "carries = 0.5\n" if again in ("refresh", "keep_strongest") else ""
        return "".join(
            (
                self.maybe(f'of = "{self.choose(("each_giver", "one_target"))}"\n'),
                self.maybe(ends),
                self.maybe(carries),
                self.maybe(f'replaces = ["{self.choose((*BUFFS, "debuff"))}"]\n'),
            )
        )

    def alters(self) -> str:
        """How abilities are altered for whoever has what this stands in."""
        change = self.choose(
            (
                f"cooldown = {self.stretched(1)}",
                f"more = [{self.effects()}]",
                "times = { windup = 0.5, effects = 1.7, reach = 2 }",
                'becomes = "mend"',
                'targets = "allies", times = { cost = 0 }',
            )
        )
        return self.maybe(f"alters = {{ {self.choose(ABILITIES)} = {{ {change} }} }}\n")
