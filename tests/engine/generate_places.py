"""Random places: whom an ability reaches, where everybody stands, and what wins."""

from __future__ import annotations

from .generate_deeds import CLASSES, DeedWriter


class PlaceWriter(DeedWriter):
    """Writes areas and encounters; `placed` says whether there is an arena."""

    def area(self, targets: str) -> str:
        """Return whom an ability reaches: how far, what flies there, and who is near."""
        middle = self.choose(("target", "user"))
        shape = self.choose(
            (
                "",
                f'radius = "3 m", most = "1 + level / 2", from = "{middle}", falloff = "guard / 9"',
                'shape = "cone", radius = "4 m", angle = "70 deg", falloff = 0.5',
                'shape = "line", length = "6 m", width = "1 m", each_times = "0.5 + level / 20"',
                f'shape = "ring", radius = "4 m", inner = "1 m", from = "{middle}"',
                'shape = "chain", radius = "3 m", most = 3, each_times = 0.7',
            )
        )
        more = self.maybe(f', to = "{self.choose(("foes", "allies", "mates", "all"))}"') + self.maybe(", split = true")
        pointed = "cone" in shape or "line" in shape
        area = f"area = {{ {shape}{more} }}\n" if shape and not (pointed and targets == "user") else ""
        begins_there = pointed or "user" in area
        places = bool(shape) and not begins_there and self.choose((False, False, True))
        area += "at_place = true\n" if places and area else ""
        if begins_there:
            return area
        flies = self.maybe('projectile = "9 m/s"\n')
        straight = bool(flies) and "at_place" not in area and targets in ("foes", "allies")
        return area + self.maybe('reach = "3 m"\n') + flies + self.maybe(self.straight() * straight)

    def straight(self) -> str:
        """Return how a missile flies straight on."""
        keys = (
            f"pierces = {self.choose((0, 1, 9))}",
            'each_times = "0.5 + level / 20"',
            "returns = true",
            'length = "5 m"',
            f'to = "{self.choose(("foes", "allies", "mates", "all"))}"',
        )
        return (
            f'straight = {{ width = "{self.choose((0.2, 2))} m"{"".join(self.maybe(f", {key}") for key in keys)} }}\n'
        )

    def zone(self, name: str) -> str:
        size = self.choose(
            ('radius = "2 m"', 'size = ["3 m", "4 m"]', 'radius = "4 m"\nshrinks = "1 m/s"\nleast = "1 m"')
        )
        owned = name != "mire"  # which is an arena's own
        deeds = (
            'inside = "damp"\n',
            f"entering = [{self.effects()}]\n",
            f"leaving = [{self.effects()}]\n",
            f"each = {{ every = {self.stretched(1) if owned else self.duration(1)}, does = [{self.effects()}] }}\n",
        )
        does = "".join(self.maybe(deed) for deed in deeds) or deeds[0]
        more = "".join(
            self.choose(("", "", key))
            for key in (
                "outside = true\n",
                "follows = true\n" * owned,
                "springs = true\n",
                'arms = "5 ticks"\n',
                "most = 1\n",
            )
        )
        to = self.choose(("all", "foes", "allies", "mates")) if owned else "all"
        lasts = self.choose(("", 'lasts = "9 ticks"\n', 'lasts = "40 ticks"\n'))
        return f'[zones.{name}]\nto = "{to}"\n{size}\n{lasts}{more}{does}'

    def unit(self, who: str, x: float, y: float) -> str:
        at = f', at = ["{x} m", "{y} m"]' if self.placed else ""
        late = self.maybe(self.choose((f", arrives = {self.duration(1)}", ", arrives_when = 'foes_left > mates_left'")))
        return f'{{ class = "{who}", level = {self.choose((1, 4, 9))}{at}{self.maybe(late) if x not in (2, 9, 10) else ""} }}'

    def encounter(self, mirrored: bool) -> str:
        whos = [self.choose(CLASSES) for _ in range(self.choose((1, 2, 3)))]
        others = whos if mirrored else [self.choose(CLASSES) for _ in range(self.choose((1, 2, 4)))]
        left = [self.unit(who, 2 + index, 3 + index) for index, who in enumerate(whos)]
        if mirrored:
            right = [
                unit.replace(f'at = ["{2 + index} m', f'at = ["{12 - 2 - index} m') for index, unit in enumerate(left)
            ]
        else:
            right = [self.unit(who, 9 - index, 2 + index) for index, who in enumerate(others)]
        edges = self.choose(
            ('east = "pit", west = "pit"', 'east = { ledge = "6 m" }, west = { ledge = "6 m" }', 'north = "exit"', "")
        )
        arena = (
            f'[arenas.yard]\nsize = ["12 m", "8 m"]\nedges = {{ {edges} }}\nsupplies = [{{ supply = "can", at = ["6 m", "4 m"] }}]\ncheckpoints = [{{ at = ["6 m", "5 m"]{self.maybe(", once = true")} }}, {{ at = ["7 m", "5 m"], radius = "2 m", returns_at = ["2 m", "2 m"] }}]\ncheckpoints_in_order = {self.choose(("true", "false"))}\n'
            + self.maybe(
                'walls = [{ from = ["5 m", "2 m"], to = ["5 m", "6 m"] }, { from = ["5 m", "6 m"], to = ["8 m", "5 m"] }]\n'
            )
            + self.maybe(
                f'grid = "{self.choose((0.5, 1))} m"\ncounts = "{self.choose(("straight", "sides", "corners"))}"\n'
            )
            + self.maybe('heights = [{ at = ["4 m", "3 m"], size = ["4 m", "4 m"], up = "2 m" }]\n')
            + self.maybe('zones = [{ zone = "mire", at = ["5 m", "4 m"] }]\n')
        )
        goal = self.maybe('objective = { at = ["6 m", "4 m"], radius = "2 m", hold = "20 ticks" }\n')
        place = ('arena = "yard"\n' + goal) if self.placed else ""
        return (
            (arena if self.placed else "")
            + f'[encounters.meet]\n{place}{self.wins(whos[0], "exit" in edges, bool(goal))}[[encounters.meet.sides]]\nname = "left"\nunits = [{", ".join(left)}]\n[[encounters.meet.sides]]\nname = "right"\nunits = [{", ".join(right)}]\n'
        )

    def wins(self, who: str, exits: bool, goal: bool) -> str:
        """Return more ways to win, for both sides alike."""
        points = f"points = {{ foe_down = 2{', holding = 1, every = ' + self.duration(1) if self.placed and goal else ''} }}\n"
        ways = [", at_time_limit = true", ", points = 3", f', down = ["{who}"]']
        if self.placed:
            ways += [
                f', there = {{ who = ["{who}"], at = ["6 m", "4 m"], radius = "2 m" }}',
                f', fled = ["{who}"]' if exits else "",
            ]
        way = self.choose(("", "", "", *(each for each in ways if each)))
        both = ", ".join(f'{{ side = "{side}"{way} }}' for side in ("left", "right"))
        return f"{points}wins = [{both}]\n" if way else ""

    def tries(self) -> str:
        """Return a check, and what follows its ends."""
        follows = "".join(
            f'[checks.climb.follows.{end}]\nsays = "{{name}} has {{might}}, {{luck * 2}}"\ndoes = [{self.effects()}]\n'
            for end in ("passed", "failed", "well")
        )
        return (
            f'[checks.climb]\nvalue = "{self.choose(("might", "guard + luck", "edge"))}"\nneeds = "{self.choose((4, 12))} + level"\n'
            + self.maybe(f"roll = {self.choose(('{ between = [1, 6] }', '{ dice = 2, sides = 4 }'))}\n")
            + self.maybe('requires = "guard >= 3"\n')
            + "degrees = { well = 3 }\n"
            + follows
        )

    def words(self) -> str:
        """Return what people see and read; no rule reads it."""
        verb = self.choose(("harm", "heal", "begin", "down", "use", "chance"))
        times = self.maybe(f"after = {self.duration(1)}\n") + self.maybe(f"lasts = {self.duration(1)}\n")
        return f'[texts.home]\ntext = "the yard"\n[cues.seen]\non = "{verb}"\n{times}'
