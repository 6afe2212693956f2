"""A live character: hurt it, heal it, let it use what it knows, let time pass, and be told of each change."""

from __future__ import annotations

import copy
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from ..checked import check_seed
from ..rulebook import InputError, Rulebook
from ..rulebook.files import put
from ..rulebook.quantities import parse_duration
from ..rulebook.verbs import Verb
from ..sheets import CharacterSpec
from .asked import parsed
from .change import Change, ChangeReader
from .character import LiveCharacter
from .listeners import Listener, Subscription
from .saving import restored, saved
from .scene import LiveLedger, Member, Scene

OTHER_EVENTS = ("stat", "opening", "reset")


class Live(LiveCharacter):
    """One character, its companions and its foes, stepped by hand by the same rules that fights are played by.

    What it does not name is done to the first character; `unit` gives the others. Nobody acts by themselves unless
    that was asked for.
    """

    def __init__(self, scene: Scene) -> None:
        super().__init__(scene, 0)

    @classmethod
    def of(
        cls,
        book: Rulebook,
        who: CharacterSpec,
        companions: Sequence[str | CharacterSpec] = (),
        against: Sequence[str | CharacterSpec] = (),
        acting: Sequence[str | int] = (),
        arena: str | None = None,
        seed: int | None = 1,
    ) -> Live:
        """Return a scene of a character with others; a class that is named has its level."""
        if seed is not None:
            check_seed(seed)
        others = [(each, side) for side, some in enumerate((companions, against)) for each in some]
        made = [
            (each if isinstance(each, CharacterSpec) else CharacterSpec(each, who.level), side) for each, side in others
        ]
        members = [Member(who, 0), *(Member(spec, side) for spec, side in made)]
        scene = Scene(book, members, arena, seed)
        if acting:
            acts = {scene.find(each) for each in acting}
            members = [Member(each.spec, each.side, number in acts) for number, each in enumerate(members)]
            scene = Scene(book, members, arena, seed)
        return cls(scene)

    @classmethod
    def restored(cls, book: Rulebook, text: str, name: str) -> Live:
        """Return a scene that was saved, from its JSON; `name` is what messages call it."""
        return cls(restored(book, text, name))

    @property
    def units(self) -> list[LiveCharacter]:
        """Everybody in the scene, oneself first; then those who were or can be called."""
        return [self.unit(number) for number in range(len(self._scene.bench.setup.units))]

    def unit(self, who: str | int) -> LiveCharacter:
        """Return somebody in the scene: by name, by number, or by class where there is only one of it. Raises
        `InputError` on an unknown name, and one that stands for several."""
        return LiveCharacter(self._scene, self._scene.find(who))

    def on_change(
        self,
        listener: Listener,
        *,
        unit: str | int | None = None,
        gauge: str | None = None,
        stat: str | None = None,
        event: str | None = None,
        opening: bool = False,
    ) -> Callable[[], None]:
        """Call `listener(change)` for each change from now on; returns a function that ends that.

        It hears of everything, or of one unit, one gauge, one stat or one kind of `event` (a verb of the ledger,
        `stat` or `reset`). With `opening` it is told first what each gauge and stat that it hears of is now, as changes
        whose verb is `opening`. Listeners are told after a whole call (`hurt`, `advance` …) is carried out: entry by
        entry in the order of the ledger, each with the figures of its own entry, and at the end of each tick of the
        stats that have changed on it. What a listener changes itself is told to all after that. One that raises keeps
        no other from hearing: its error comes once all have been told everything. Raises `InputError` where the
        listener can't be called, and on an unknown name.
        """
        if not callable(listener):
            raise InputError(f"on_change: a listener is a function of one change\n    got: {listener!r}")
        bench, book = self._scene.bench, self._scene.book
        name = None if unit is None else bench.setup.names.units[self._scene.find(unit)]
        for noun, asked, known in (
            ("gauge", gauge, tuple(book.gauges)),
            ("stat", stat, tuple(book.stats)),
            ("event", event, (*(verb.value for verb in Verb), *OTHER_EVENTS)),
        ):
            if asked is not None:
                bench.find(noun, asked, known)
        subscription = Subscription(listener, name, gauge, stat, event)
        end = self._scene.listeners.add(subscription)
        if opening:
            for change in self._openings():
                if Subscription(listener, name, gauge, stat, None).wants(change):
                    listener(change)
        return end

    def _openings(self) -> list[Change]:
        """Return what every gauge and stat is now, as changes."""
        reader, found = ChangeReader(self._scene.bench.setup, self._scene.bench.state), list[Change]()
        for number, unit in enumerate(self._scene.bench.setup.units):
            found += [reader.of_gauge(number, gauge, "opening") for gauge in unit.sheet.gauges]
            for stat in self._scene.book.stats:
                value = self._scene.bench.figure(number, stat)
                found.append(reader.of_stat(number, stat, value, value, None, "opening"))
        return found

    def advance(self, duration: str) -> float:
        """Let time pass, such as "5 s" or "3 rounds"; return the time it is now."""
        clock, bench = self._scene.book.clock, self._scene.bench
        length = parsed("advance", parse_duration, duration)
        if (length.unit == "rounds") != clock.rounds and length.unit != "ticks":
            counted = 'rounds, such as "3 rounds"' if clock.rounds else 'seconds, such as "0.7 s"'
            raise InputError(f"advance: this rulebook counts {counted}\n    got: {duration!r}")
        until = bench.ticks + clock.ticks(length)
        while True:  # a listener that hears of stats hears of them tick by tick
            left = until - self._scene.bench.ticks
            step = min(1, left) if self._scene.listeners.hear_stats else left
            self._scene.told(lambda ticks=step: self._scene.bench.advance(ticks))  # type: ignore[misc]
            if self._scene.bench.ticks >= until:
                return self.seconds

    def save(self, file: str | Path | None = None) -> str:
        """Return the whole scene as JSON, and write it to a file if one is named; `rl.restore` reads it.

        It holds everything but the listeners: gauges, buffs, cooldowns, what is under way, draws, the ledger. It is for
        reading; a text that was changed is not restored. Raises `InputError` where the file can't be written.
        """
        text = saved(self._scene)
        if file is not None:
            put(file, text.encode())
        return text

    def copy(self) -> Live:
        """Return a scene of its own that goes on from here; it shares nothing with this one, and nobody listens."""
        return Live(copy.deepcopy(self._scene))

    def reset(self) -> None:
        """Let everybody be as at the beginning, with the gear and the levels of now; the ledger begins anew."""
        self._scene.begin()
        reader = ChangeReader(self._scene.bench.setup, self._scene.bench.state)
        self._scene.listeners.tell([reader.of_reset(number) for number in range(len(self._scene.members))])

    @property
    def seed(self) -> int | None:
        """What decides every draw; None: what is rolled as a fight opens is as on average."""
        return self._scene.seed

    @property
    def seconds(self) -> float:
        """How much time has gone by, in seconds (rounds where the clock counts rounds)."""
        return self._scene.seconds

    @property
    def ledger(self) -> LiveLedger:
        """All that was booked so far, as a fight's ledger."""
        return self._scene.ledger

    @property
    def setup(self) -> Any:
        """What the engine makes of the scene."""
        return self._scene.bench.setup
