"""One character of a scene, and all that can be done to it and asked of it."""

from __future__ import annotations

from typing import Any

from ..engine.codes import BEGIN, END, HARM, HEAL, LANDED, NEVER, PUSH, REVIVE, STEP
from ..formula.explain import number
from ..frozen_classes import frozen
from ..ledger.points import points
from ..ledger.rows import rows_of
from ..rulebook import InputError
from ..rulebook.measures import parse_length, parse_speed
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, CheckOutcome, Item, Sheet
from .asked import check_amount, direction, parsed
from .becoming import Became, become, gain, worn
from .reasons import changers, gauge_now, stat_now
from .scene import Scene
from .trying import tried
from .using import Answer, answered, can_use, number_of_part, use


@frozen
class Borne:
    """A buff that is on: its name and label, who gave it, stacks, strength, and how long it lasts still, in seconds
    (in rounds where the clock counts rounds; None: until something ends it)."""

    name: str
    label: str
    source: str
    stacks: int
    strength: float
    left: float | None


class LiveCharacter:
    """One character of a scene. Amounts are in points."""

    def __init__(self, scene: Scene, number: int) -> None:
        self._scene = scene
        self._number = number

    @property
    def name(self) -> str:
        """What the ledger calls it."""
        return self._scene.bench.setup.names.units[self._number]

    @property
    def sheet(self) -> Sheet:
        """What it is without buffs: its class, its level, its gear, with each figure's origin."""
        return self._scene.bench.setup.units[self._number].sheet

    @property
    def spec(self) -> CharacterSpec:
        """Who it is now: class, level and all that was chosen."""
        return self.sheet.spec

    @property
    def is_down(self) -> bool:
        """Whether it is down."""
        return self._scene.bench.down(self._number)

    @property
    def at(self) -> tuple[float, float] | None:
        """Where it stands, in metres east and north of the arena's south-west corner; None without an arena."""
        row = self._scene.bench.state.units[self._number]
        return (float(row.x), float(row.y)) if self._scene.arena else None

    def __getitem__(self, name: str) -> float:
        """Return what a name on its page is now: a stat, a gauge, `health_top`, `marked(alight)`.

        Raises `InputError` on an unknown name, and one that stands for a text.
        """
        return self._scene.bench.figure(self._number, name)

    def __repr__(self) -> str:
        held = [f"{name} {number(self[name])} of {number(self[f'{name}_top'])}" for name in self.sheet.gauges]
        down = " (down)" if self.is_down else ""
        return f"<{type(self).__name__}: {self.name}, level {self.spec.level}: {', '.join(held)}{down}>"

    @property
    def buffs(self) -> list[Borne]:
        """The buffs that are on, in the order in which they began."""
        bench, book = self._scene.bench, self._scene.book
        found = []
        for place, row in enumerate(bench.state.buffs[self._number]):
            if row.on:
                name = bench.setup.names.buffs[place]
                label = (book.buffs[name].label or name) if name in book.buffs else name
                left = None if row.ends_at >= NEVER else book.clock.seconds(int(row.ends_at) - bench.ticks)
                source = bench.setup.names.units[row.source]
                found.append((row.began, Borne(name, label, source, int(row.count), float(row.strength), left)))
        return [borne for _, borne in sorted(found, key=lambda each: each[0])]

    def hurt(self, amount: float, kind: str | None = None, gauge: str | None = None) -> float:
        """Hurt by a positive amount; return what that took off the gauge, in points (as a positive number).

        With a damage kind, the amount is the power of a hit from nobody (see `hit`). Without a kind it is a plain loss,
        straight off the gauge (the one that takes the character down, unless named). A downed character takes nothing.
        What shields in front took, and what reactions did, is not counted. Raises `InputError` on an unknown name or
        amount.
        """
        if kind is not None:
            return self.hit(kind, amount)
        check_amount("hurt", amount)
        on = self._scene.bench.gauge(self._number, gauge)
        return 0.0 - self._booked(HARM, "script", on, index=-1 - on, amount=amount)

    def hit(self, kind: str, amount: float, *, by: str | int | None = None, part: str | None = None) -> float:
        """Hit with a damage kind of a given power; return what that took off the gauge, in points.

        It is the same hit as in a fight, with soak, resistance, guard stance, invulnerability, reactions and what is
        earned, but that it lands, is not critical and has no spread. With `by` it comes from that one, who reacts,
        drains and earns by it; without, from nobody. It strikes the `part` that is named, or none. Raises `InputError`
        on an unknown name or amount, and a part that it has not, or no longer.
        """
        check_amount("hurt", amount)
        bench, kinds = self._scene.bench, tuple(self._scene.book.damage)
        number = bench.find("damage kind", kind, kinds)
        on = int(bench.setup.tables.kinds[number].gauge)
        source = self._number if by is None else self._scene.find(by)
        what = {
            "index": number,
            "amount": amount,
            "source": source,
            "part": number_of_part(self._scene, self._number, part),
        }
        return 0.0 - self._booked(HARM, "script", on, **what)

    def heal(self, amount: float, gauge: str | None = None) -> float:
        """Heal by a positive amount; return what was booked, in points. Nothing heals the downed."""
        check_amount("heal", amount)
        on = self._scene.bench.gauge(self._number, gauge)
        return self._booked(HEAL, "script", on, index=on, amount=amount)

    def fall(self, height: str) -> float:
        """Let it fall from a height such as "9 m"; return the harm booked, in points."""
        metres = parsed("fall", parse_length, height)
        return 0.0 - self._booked(LANDED, "fall", self._scene.bench.gauge(self._number, None), amount=metres)

    def down(self) -> bool:
        """Take it down: it loses all that is left of the gauge that downs. Say whether it is down now."""
        gauge = self._scene.bench.gauge(self._number, None)
        left = points(self._scene.bench.state.gauges[self._number, gauge].now)
        self.hurt(max(left, 0.0))
        return self.is_down

    def revive(self, share: float = 1.0) -> Answer:
        """Bring it back with a share of its gauge, from 0 to 1. Refused where it is up."""
        if not (isinstance(share, int | float) and 0 <= share <= 1):
            raise InputError(f"revive: the share goes from 0 to 1\n    got: {share!r}")
        return self._answered(REVIVE, amount=float(share))

    def give(self, buff: str, *, strength: float = 1.0, by: str | int | None = None) -> Answer:
        """Put a buff on it, from itself unless `by` names somebody. Refused where it is down."""
        check_amount("give", strength)
        source = self._number if by is None else self._scene.find(by)
        return self._answered(BEGIN, index=self._buff(buff), amount=strength, source=source)

    def strip(self, buff: str) -> Answer:
        """Take a buff off, all of its stacks and givers. Refused where it is not on."""
        bench, first = self._scene.bench, self._buff(buff)
        rows = range(first, first + int(bench.setup.tables.buffs[first].copies or 1))
        on = [row for row in rows if bench.state.buffs[self._number, row].on]
        if not on:
            return Answer(False, f"{buff} is not on {self.name}")
        for row in on:
            self._answered(END, index=row)
        return Answer(True)

    def move(self, east: str, north: str) -> Answer:
        """Put it somewhere at once: metres east and north of the arena's south-west corner, such as "4 m"."""
        if self._scene.arena is None:
            return Answer(False, "this scene has no arena")
        x, y = (parsed("move", parse_length, each) for each in (east, north))
        return self._answered(STEP, x=x, y=y)

    def push(self, speed: str, towards: str, *, by: str | int | None = None) -> Answer:
        """Set it sliding at a speed such as "5 m/s", whatever it weighs: `towards` north, south, east or west, or away
        from a unit that is named."""
        if self._scene.arena is None:
            return Answer(False, "this scene has no arena")
        fast = parsed("push", parse_speed, speed)
        east, north = direction(self._scene, self._number, towards)
        source = self._number if by is None else self._scene.find(by)
        return self._answered(PUSH, x=fast * east, y=fast * north, source=source)

    def use(self, ability: str, *, at: str | int | None = None, part: str | None = None, away: bool = False) -> Answer:
        """Begin to use an ability on somebody, or say in full why it can't.

        Without `at` it is the first foe that is up, or the character itself where the ability is for allies or its
        user. It may aim at a `part`; a dash may lead `away`. What has a wind-up lands as time passes (`advance`); what
        has none lands at once. Raises `InputError` on an unknown name.
        """
        return self._scene.told(lambda: use(self._scene, self._number, ability, at, part, away))

    def can_use(self, ability: str, *, at: str | int | None = None) -> Answer:
        """Say whether it could use an ability now, or what stands against it. Nothing changes."""
        return can_use(self._scene, self._number, ability, at)

    def gain(self, experience: int) -> Became:
        """Let it gain experience, and rise as far as that takes it. Raises `InputError` without a curve of
        experience."""
        return self._scene.told(lambda: gain(self._scene, self._number, experience))

    def set_level(self, level: int) -> Became:
        """Let it have a level; its experience begins anew there. Raises `InputError` on a level there isn't, and where
        it wears what it may not wear there."""
        return self._become(level=level)

    def become(self, who: str, *, level: int | None = None) -> Became:
        """Let it be of another class. A gauge that both hold keeps what it holds, another begins as in a fight, and
        what only the old one knew ends. Raises `InputError` on an unknown name and on gear that it may not wear."""
        return self._become(who=who, level=self.spec.level if level is None else level)

    def wear(self, *gear: str | Item) -> Became:
        """Let it put on gear; in a slot that is full, the piece that it has worn longest goes. Raises `InputError` on
        an unknown name and on what it may not wear."""
        return self._become(gear=worn(self._scene, self._number, *gear))

    def take_off(self, *gear: str) -> Became:
        """Let it take gear off, by name. Raises `InputError` on what it does not wear."""
        left = list(self.sheet.gear)
        for name in gear:
            piece = next((item for item in left if item.gear == name), None)
            if piece is None:
                said = nearest(name, [item.gear for item in left]) if left else "it wears nothing"
                raise InputError(f"take_off: {self.name} does not wear {name}\n    {said}")
            left.remove(piece)
        return self._become(gear=tuple(left))

    def teach(self, *abilities: str) -> Became:
        """Teach it abilities, as an event would. Raises `InputError` on an unknown name."""
        return self._become(taught=tuple(dict.fromkeys((*self.spec.taught, *abilities))))

    def buy(self, upgrade: str, levels: int = 1) -> Became:
        """Let it have more levels of an upgrade, for nothing. Raises `InputError` on an unknown name, and on a level
        there isn't."""
        return self._become(bought={**self.spec.bought, upgrade: self.spec.bought.get(upgrade, 0) + levels})

    def why(self, what: str | int) -> str:
        """Say why a stat or a gauge is what it is just now, whether it can use an ability, or (by its number) why an
        entry of the ledger is what it is. Raises `InputError` on an unknown name or number."""
        if isinstance(what, int):
            return self._scene.ledger.why(what)
        if what in self._scene.book.stats:
            return stat_now(self._scene, self._number, what).why()
        if what in self.sheet.gauges:
            return gauge_now(self._scene, self._number, what)
        return self.sheet.why(what)

    def changed_by(self, stat: str) -> list[str]:
        """Return what changes a stat just now beyond the sheet: the labels of buffs and broken parts, in the order in
        which they began. Empty: it is as on the sheet, but for what the scene rolled. Raises `InputError` on an unknown
        name."""
        self._scene.bench.find("stat", stat, tuple(self._scene.book.stats))
        return changers(self._scene, self._number, stat)

    def text(self, name: str) -> str:
        """Return a text of the character. Raises `InputError` on an unknown name, and one that stands for a number."""
        return self.sheet.text(name)

    def check(self, name: str, *, at: str | int | None = None) -> CheckOutcome:
        """Try a check with the figures of now, and let happen what follows: its `does`, about itself or the unit
        that is named. Raises `InputError` on an unknown name."""
        return self._scene.told(lambda: tried(self._scene, self._number, name, at))

    def _become(self, **what: Any) -> Became:
        return self._scene.told(lambda: become(self._scene, self._number, **what))

    def _buff(self, buff: str) -> int:
        """Return the first row of a buff. Raises `InputError` on an unknown name."""
        self._scene.bench.find("buff", buff, tuple(self._scene.book.buffs))
        return self._scene.bench.setup.names.buffs.index(buff)

    def _answered(self, verb: int, **what: Any) -> Answer:
        """Carry a change out, tell of it, and say what stood against it."""
        scene, unit = self._scene, self._number
        return scene.told(lambda: answered(scene, unit, scene.bench.poke(unit, verb, **what)[0]))

    def _booked(self, verb: int, cause: str, gauge: int, **what: Any) -> float:
        """Carry a change out, tell of it, and return what it booked itself on a gauge, in points."""

        def act() -> float:
            bench, booked = self._scene.bench, HARM if verb == LANDED else verb
            _, entries = bench.poke(self._number, verb, **what)
            number = bench.setup.names.causes.index(cause)
            for row in rows_of(bench.state, entries.start, entries.stop):
                if (row.verb, row.cause, row.gauge, row.unit) == (booked, number, gauge, self._number):
                    return points(row.booked)
            return 0.0

        return float(self._scene.told(act))
