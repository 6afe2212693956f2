"""Random legal rulebooks over every mechanic, written as text from a source of choices."""

from __future__ import annotations

from .generate_deeds import ABILITIES, BUFFS, CLASSES, KINDS, MARKS, PARTS, STATS, ZONES
from .generate_places import PlaceWriter

HIT = '{ use = "hit" }'
WARY_HIT = '{ use = "hit", when = "fury >= 3 or health_fill < 0.7" }'
SPITEFUL_HIT = '{ use = "hit", if = "health_fill < 0.8 or marked(hexed)" }'


class Writer(PlaceWriter):
    """Writes one rulebook; every choice is made by `choose`, which picks one of a list."""

    def changes(self) -> str:
        stat, change = (
            self.choose(STATS),
            self.choose(("set = 4", "add = 3", "add = -20", "scale = -0.6", "times = 1.5")),
        )
        hangs = self.choose(
            (
                "",
                "",
                ', edge = { add = "guard / 4" }',
                ', edge = { scale = "0.5 if health_fill < 0.5 else 0" }',
                ', edge = { times = "ward_fill" }',
            )
        )
        return f"stats = {{ {stat} = {{ {change} }}{hangs} }}\n"

    def clock(self) -> str:
        limit = f'time_limit = "{self.choose((90, 400))} ticks"\n'
        rounds = self.maybe("rounds = true\n") and self.maybe("rounds = true\n")
        actions = self.maybe('actions = "luck / 3"\n') if rounds else ""
        if rounds:
            turns = self.choose(("", 'turns = "one_by_one"\n', 'turns = "side_by_side"\n'))
            actions += turns + (self.maybe('walks = "first"\n') if turns else "")
        return (
            "[rulebook]\nlevels = [1, 9]\n[clock]\nticks_per_second = 10\n"
            + limit
            + rounds
            + actions
            + "".join(
                (
                    f'down_at = "{self.choose(("end_of_tick", "at_once"))}"\n',
                    f'invulnerable_from = "{self.choose(("at_once", "next_tick"))}"\n',
                    f"reaction_depth = {self.choose((0, 1, 4))}\n",
                    self.maybe('initiative = "luck"\n'),
                    self.maybe(
                        f'initiative_roll = {{ between = [1, 20] }}\ninitiative_drawn = "{self.choose(("each_fight", "each_round"))}"\n'
                    ),
                )
            )
        )

    def gauges(self) -> str:
        waits = self.choose(("", f", after_harm = {self.duration(1)}", f", after_cost = {self.duration(1)}"))
        wanes = f"wanes = {{ amount = {self.formula()}, every = {self.duration(1)}{waits} }}\n"
        refill = f"refill = {{ amount = {self.formula()}, every = {self.duration(1)}{self.maybe(', after_harm = ' + self.duration(1))}{self.maybe(', when = ' + self.formula())} }}\n"
        takes = self.choose(("", "takes = { blow = 2 }\n", "takes = { blow = 0.3, sear = 1 }\n"))
        ward = self.maybe(f'before = "health"\n{takes}') + self.maybe(
            f'rises = "{self.choose(("keeps_share", "fills"))}"\n'
        )
        ward += self.maybe(f'over = "{self.choose(("cut", "keep"))}"\n')
        earns = self.maybe(f'earns = {{ acting = 1, dealing = "booked / 5", taking = {self.formula()} }}\n')
        begins = ('"full"', "0", '"30%"', '{ between = ["10%", 9] }', "{ dice = 2, sides = 6 }")
        opens = self.choose(begins)
        more = self.choose(("", "downs = true\n", "bottom = -4\n"))
        return (
            f'[gauges.health]\ntop = "40 + 2 * guard"\ndowns = true\n{self.maybe(refill)}'
            f'[gauges.ward]\ntop = "5 + might"\nbegins = {opens}\n{ward}[gauges.fury]\ntop = "12 + luck"\nbegins = {"8" if more == "downs = true" + chr(10) else opens}\n{earns}{self.maybe(wanes)}{more}'
        )

    def kind(self, name: str) -> str:
        parts = (
            f"[{'healing' if name == 'balm' else 'damage'}.{name}]\npower = '{self.choose((4, 12, 25))} + {self.choose(('might / 3', 'edge'))}'\n",
            self.maybe('soak = "guard / 3"\n'),
            self.maybe(
                f'aim = "0.9"\ndodge = "{self.choose(("0", "luck / 50"))}"\n'
                + self.maybe("grazes = { within = 0.1, times = 0.5 }\n")
            ),
            self.choose(
                (
                    "",
                    f"rolled = {{ die = {self.roll()} }}\nsettle = 'max(0, power + die - soak)'\n",
                    "settle = 'max(0, power * (1 + behind) - soak + above)'\n",
                )
            ),
            self.maybe('spread = "0.05 + luck / 50"\n'),
            self.maybe(f"critical = {{ chance = {self.choose(('0.3', '1.6'))}, times = 1.5{self.critical()} }}\n"),
            self.maybe('block = { chance = "luck / 40", times = 0.4 }\n'),
            self.maybe("limits = [1, 30]\n"),
            self.maybe('past = ["ward"]\n'),
            self.maybe('round = "nearest"\n'),
            self.maybe('resist = "luck / 40"\n'),
            self.maybe("against = { ox = 1.5, elf = 0.5 }\n"),
            self.maybe('guard = { when = "marked(aglow)", times = 0.5 }\n'),
            self.maybe(f'barred_by = ["{self.choose(MARKS)}"]\n'),
            self.maybe('gauge = "ward"\n'),
        )
        return "".join(parts)

    def buff(self, name: str, mark: str) -> str:
        control = self.control()
        again = self.choose(
            ("refresh", "stack", "keep_strongest", "ignore", *(("extend",) * ("diminishes" not in control)))
        )
        catches = 'catches_at = "4 + guard"\nfades = { amount = 5, every = "20 ticks" }\n' if name == "rot" else ""
        return "".join(
            (
                f'[buffs.{name}]\nkind = "{"debuff" if name == "hex" else self.choose(("buff", "debuff"))}"\n',
                f'marks = ["{mark}"]\nlasts = {self.stretched(1, bearer=True)}\n',
                catches,
                f'again = "{again}"\nmost = 3\n{self.whose(again)}',
                self.maybe(self.changes()),
                self.maybe(f"each = {{ every = {self.stretched(1)}, does = [{self.effects()}] }}\n"),
                self.reacts(giver=True),
                self.mitigates(giver=True),
                self.maybe(f'barred_by = ["{self.choose(MARKS)}"]\n'),
                self.maybe("outlasts_down = true\n"),
                control,
                self.alters(),
                self.maybe(f'grants = ["{self.choose(ABILITIES)}", "aside"]\n'),
            )
        )

    def control(self) -> str:
        """What a buff bars and forces, and what ends it."""
        bars = self.choose(("acting", "walking", "dashing", "reacting", "healed", "hit", "cast"))
        dulls = '{ group = "dull", times = [1, 0.5, 0], forgets = "40 ticks" }'
        keys = (
            f'bars = ["{bars}"]\n',
            "breaks_off = true\n",
            f'aims_at = "{self.choose(("giver", "anybody"))}"\n',
            'fights_for = "giver"\n',
            f'walks = "{self.choose(("away", "towards"))}"\n',
            f'hides_from = ["{self.choose(("aiming", "hits"))}"]\n',
            f'ends_on = ["{self.choose(("acting", "moving", "dealing", "taking"))}"]\n',
            f"breaks_at = {self.formula()}\n",
        )
        return "".join(key for key in keys if self.choose((False, False, True))) + self.choose(
            ("", f"diminishes = {dulls}\n")
        )

    def zones(self) -> str:
        """Return the zones, and the buff that one bears in them."""
        again = self.choose(("refresh", "stack", "ignore"))
        damp = f'[buffs.damp]\nmarks = ["hexed"]\nagain = "{again}"\nmost = 3\n' + self.maybe(
            f"lasts = {self.stretched(1, bearer=True)}\n"
        )
        damp += self.maybe(self.changes()) + self.reacts(giver=True) + self.control().partition("diminishes")[0]
        return damp + "".join(self.zone(name) for name in ZONES)

    def ability(self, name: str) -> str:
        on = self.choose(("foes", "foes", "allies", "user", "fallen_allies"))
        area = self.area(on)
        return "".join(
            (
                f'[abilities.{name}]\ntargets = "{on}"\ndoes = [{self.effects()}]\ncooldown = {self.stretched()}\n',
                self.maybe(f"windup = {self.stretched()}\n"),
                ""
                if "at_place" in area
                else self.maybe(f"channel = {{ every = {self.duration(1)}, does = [{self.effects()}] }}\n"),
                self.maybe(f"recovery = {self.stretched()}\n"),
                self.maybe("cost = { fury = 2 }\n"),
                self.maybe('cooldown_from = "finish"\n'),
                self.maybe("charges = 2\n"),
                self.maybe('shared = "pool"\n'),
                self.maybe("uses = 3\n"),
                self.maybe("interruptible = true\n"),
                self.maybe('least = "1 m"\n'),
                self.maybe(f"requires = {self.formula()}\n"),
                self.maybe(f'cancels = "{self.choose(("recovery", "windup", "either"))}"\n'),
                self.maybe("on_the_move = true\n"),
                self.maybe("through_walls = true\n"),
                self.choose(("", "", f'lays = "{self.choose(ZONES)}"\n')),
                area,
                self.maybe('lunge = "2 m"\n' + self.maybe("lunge_returns = true\n")),
                self.maybe(self.dash()),
                self.choose(("", "", "", "jumps = 1\n", "jumps = 2\n")),
            )
        )

    def dash(self) -> str:
        to = self.choose(("target", "away", "facing", "moving"))
        times = self.choose(("1", "speed_now / 2", "speed / 3"))
        return self.choose(('dash = "6 m/s"\n', f'dash = {{ speed = "5 m/s", times = "{times}", to = "{to}" }}\n'))

    def body(self) -> str:
        head = "[bodies.b]\n" + self.maybe('loses = "last_first"\nharder = "level / 40"\n') + "[bodies.b.parts]\n"
        own = ', own = "4 + guard"'
        breaks = f', breaks = {{ stats = {{ might = {{ scale = -0.5 }} }}, drops = ["hit"], lost = {self.choose(("true", "false"))}{self.borne()} }}'
        soak = self.maybe(', soak = "guard / 9"')
        vital = self.choose((", vital = true", ""))
        return (
            head
            + f'head = {{ share = 0.2, times = "1 + might / 12", aim = 0.5{own}{vital}{soak} }}\ntrunk = {{ share = 0.5 }}\ntail = {{ share = 0.3{own}{breaks} }}\n'
        )

    def play(self) -> str:
        return self.choose(
            (
                f'{{ use = "{self.choose(ABILITIES)}", when = {self.formula()}, if = {self.formula()} }}',
                f'{{ use = "{self.choose(ABILITIES)}", when = "{self.choose(("health_fill < 0.6", "fury >= 6", "marked(hexed)", "ward < 4"))}" }}',
                f'{{ use = "{self.choose(ABILITIES)}", pick = "{self.choose(("random", "weakest", "strongest", "nearest", "most_dangerous", "attacker"))}" }}',
                f'{{ use = "{self.choose(ABILITIES)}", pick = {{ {self.choose(("least", "most"))} = "health - foe_might + 9 * at_user" }}, mine = {{ foe_might = "might" }} }}',
                f'{{ use = "aside", when = {self.formula()} }}',
                f'{{ use = "{self.choose(ABILITIES)}", weight = {self.formula()} }}',
                f'{{ use = "{self.choose(ABILITIES)}", if = "winding_up or foes_near(3) > 1", when = "aimed_at < 2" }}',
                f'{{ use = "{self.choose(ABILITIES)}", part = "{self.choose(PARTS)}", to = "away", if = "health_fill < 0.9 and distance < 4" }}',
                '{ wait = "3 ticks", when = "health_fill < 0.5" }',
                '{ flee = true, when = "health < 12" }',
                '{ fetch = "can", when = "fury < 5" }',
            )
        )

    def character(self, name: str) -> str:
        plays = ", ".join(self.play() for _ in range(3))
        return "".join(
            (
                f"[classes.{name}]\ngrowth.might = {{ from = 6, to = 20 }}\ngrowth.guard = 3\ngrowth.luck = {self.choose((0, 8))}\ngrowth.speed = 2\n",
                'learns = { 1 = ["hit", "cast", "mend"], 2 = ["aside"], 3 = ["trick", "call", "skin"] }\n',
                self.maybe('body = "b"\n'),
                self.maybe(f'marks = ["{self.choose(MARKS)}"]\n'),
                self.alters(),
                self.maybe("varies = { might = { times = { between = [0.5, 1.5], whole = false } } }\n"),
                self.reacts(),
                self.mitigates(),
                self.maybe(f'invulnerable = {{ after_hit = {self.duration(1)}, stops = ["blow"] }}\n'),
                self.maybe("lives = 2\n"),
                self.maybe("heedless = true\n"),
                self.maybe('jumps = [{ speed = "3 m/s" }, { share = 0.8 }]\n'),
                self.maybe('handling = "raw"\n'),
                f"{self.maybe(f'playbook = {chr(34)}p_{name}{chr(34)}')}\n",
                f"[playbooks.p_{name}]\n{self.maybe(f'distance = {chr(34)}2 m{chr(34)}')}\nplays = [{plays}, {self.choose((HIT, WARY_HIT, SPITEFUL_HIT))}]\n",
            )
        )

    def rest(self) -> str:
        return f"""
[stats]
might = {{ range = [0, 60], round = "down" }}
guard = {{ range = [0, 40] }}
luck = {{ range = [-10, 30] }}
speed = {{ range = [0, 9] }}
edge = {{ is = "{self.choose(("might / 2 + luck", "9 - fury / 3", "level + 4 * marked(aglow)"))}", range = [0, "30 + guard"] }}
[formulas]
base_luck = 2
bent = {{ points = {{ 0 = 0, 10 = 4, 40 = 6 }} }}
[handlings.raw]
delay = {self.duration()}
aim = 0.8
mistakes = 0.2
[movement]
pace = "speed"
{self.maybe("crash = {q}crash_speed + 1{q}".format(q=chr(34)))}
weight = "1 + guard / 10"
{self.maybe('radius = "0.2 + guard / 90"')}
{self.maybe('flies = "2 * marked(hexed)"')}
{self.maybe('air_friction = "2 m/s2"')}
[falls]
safe_speed = "4 m/s"
{self.maybe('terminal = { speed = "9 m/s", times = "0.5 + luck / 40" }')}
damage = "5 * (fall_speed - safe_speed)"
[lives]
delay = {self.duration()}
gauges = {{ health = "50%", fury = 3 }}
invulnerable = {self.duration()}
[supplies.can]
every = {{ time = {self.duration(1)}, times = "1 + luck / 60" }}
does = [{self.effects()}]
[abilities.skin]
passive = true
{self.changes()}{self.reacts()}
"""

    def write(self, mirrored: bool) -> str:
        """Return the text of a rulebook with one encounter, `meet`; mirrored: both sides are the same."""
        chapters = [
            self.clock(),
            self.rest(),
            self.gauges(),
            *(self.kind(name) for name in (*KINDS, "balm")),
            *(self.buff(name, mark) for name, mark in zip(BUFFS, MARKS, strict=True)),
            self.zones(),
            *(self.ability(name) for name in ABILITIES),
            f"[abilities.aside]\nbeside = true\ncooldown = {self.stretched(1)}\ndoes = [{self.effects()}]\n",
            self.body(),
            *(self.character(name) for name in CLASSES),
            '[classes.imp]\ngrowth.might = 6\ngrowth.speed = 3\nlearns = { 1 = ["hit"] }\nlives = 2\n',
            self.encounter(mirrored),
            self.tries(),
            self.words(),
        ]
        return "\n".join(chapters)
