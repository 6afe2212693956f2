"""Say ledger entries in words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ..engine import Setup
from ..engine.codes import CRITICAL, FIRST_EVENT, GRAZED, GUARDED, IMMUNE, IN_FRONT, INVULNERABLE, MISSED, Verb
from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook import Rulebook
from .points import write_points

Words = dict[str, str]


@frozen
class Wording:
    """Turns the numbers of one encounter's entries into names and sentences."""

    setup: Setup

    @property
    def book(self) -> Rulebook:
        """The rulebook."""
        return self.setup.book

    def unit(self, index: int) -> str:
        """Return the name of a unit."""
        return self.setup.names.units[index]

    def gauge(self, index: int) -> str:
        """Return the name of a gauge that people read."""
        name = self.setup.names.gauges[index]
        return self.book.gauges[name].label or name

    def kind(self, index: int) -> str:
        """Return the name of a damage kind that people read."""
        chapter, name = self.setup.names.kinds[index]
        return getattr(self.book, chapter)[name].label or name

    def cause(self, index: int) -> str:
        """Return the label of an ability, a buff, a supply or a zone, or the word for any other cause."""
        name, kind = self.setup.names.causes[index], self.setup.names.cause_kind(index)
        if kind == "class":  # what a class does by itself: its reactions
            return "answer"
        chapter = {"ability": "abilities", "buff": "buffs", "supply": "supplies", "zone": "zones"}.get(kind)
        if chapter is None or name not in getattr(self.book, chapter):
            return name
        return getattr(self.book, chapter)[name].label or name

    def sentence(self, entry: Any) -> str:
        """Say what an entry is about, without its amount."""
        unit, source, cause = self.unit(entry.unit), self.unit(entry.source), self.cause(entry.cause)
        words = {
            "unit": unit,
            "source": source,
            "cause": cause,
            "whose": _possessive(source),
            "other": f" by {source}" if unit != source else "",
            "by": f" by {_whose(source, unit)} {cause}" if cause != "script" else "",
            "amount": number(round(float(entry.amount), 2)),
            "gauge": self.gauge(entry.gauge) if entry.gauge >= 0 else "",
            "part": self._part(entry),
            "place": ordinal(int(entry.amount)) if entry.amount == entry.amount else "",
            "clock": self.book.clock.unit,
        }
        say = SENTENCES[Verb.at(entry.verb)]
        return say.format(**words) if isinstance(say, str) else say(self, entry, words)

    def when(self, entry: Any) -> str:
        """Say when an entry was written: its round, or its time in seconds."""
        clock = self.book.clock
        return f"{entry.tick}" if clock.rounds else f"{clock.seconds(int(entry.tick)):.2f}"

    def amounts(self, entry: Any) -> tuple[str, str]:
        """Say by how much an entry changes its gauge, and what stands there then; nothing of one that books nothing."""
        if entry.verb >= FIRST_EVENT:
            return "", ""
        return "—" if entry.notes & MISSED else write_points(entry.booked, True), write_points(entry.balance)

    def use(self, _entry: Any, words: Words) -> str:
        """Say that an ability is used."""
        return "{source} uses {cause}".format(**words) + (f" on {words['unit']}" if words["other"] else "")

    def begin(self, entry: Any, words: Words) -> str:
        """Say that a buff begins, how strong, and from whom."""
        times = f" × {words['amount']}" if entry.amount != 1.0 else ""
        giver = f", from {words['source']}" if words["other"] else ""
        return f"{words['cause']}{times} begins on {words['unit']}{giver}"

    def refresh(self, entry: Any, words: Words) -> str:
        """Say that a buff is applied again."""
        times = f", now × {words['amount']}," if entry.amount != 1.0 else ""
        return "{cause} on {unit}".format(**words) + f"{times} is applied again{words['other']}"

    def heal(self, entry: Any, words: Words) -> str:
        """Say that a unit is healed, or that another gauge than the one that downs is filled."""
        downs = self.setup.names.gauges[entry.gauge] == self.book.downing_gauge
        return ("{unit} is healed{by}" if downs else "{unit} gains {gauge}{by}").format(**words)

    def revive(self, _entry: Any, words: Words) -> str:
        """Say that a unit comes back, and by what."""
        return "{unit} comes back with {gauge}".format(**words) + ("" if words["cause"] == "return" else words["by"])

    def lay(self, entry: Any, words: Words) -> str:
        """Say that a zone is laid, or that an arena has it."""
        return ("{cause} lies there" if entry.amount else "{source} lays {cause}").format(**words)

    def build_up(self, entry: Any, words: Words) -> str:
        """Say how full the meter of a buff is."""
        return "{cause} builds up on {unit}: {amount} of ".format(**words) + number(round(float(entry.settled), 2))

    def stopped(self, _entry: Any, words: Words) -> str:
        """Say that reactions stop here."""
        return "{unit}’s {cause} stops here: it is ".format(**words) + f"{self.book.clock.reaction_depth} deep"

    def over_the_edge(self, _entry: Any, words: Words) -> str:
        """Say that a unit goes over an edge, how deep, and who pushed it."""
        if words["cause"] == "pit":
            return "{unit} goes over the edge into a pit".format(**words)
        pushed = f", pushed{words['other']}" if words["other"] else ""
        return "{unit} goes over the edge, {amount} m deep".format(**words) + pushed

    def come_back(self, entry: Any, words: Words) -> str:
        """Say that a unit returns, and where."""
        return "{unit} returns".format(**words) + (
            f" at checkpoint {words['amount']}" if entry.amount else ", where it first stood"
        )

    def lost(self, entry: Any, words: Words) -> str:
        """Say that a use finds nobody: its target is not there, or its missile has flown its whole way."""
        if entry.amount:
            return "{whose} {cause} hits nobody in {amount} m".format(**words)
        return "{whose} {cause} finds {unit} down or out of reach".format(**words)

    def prolong(self, entry: Any, words: Words) -> str:
        """Say that the end of a buff has moved."""
        much = number(round(abs(float(entry.amount)), 2))
        way = "longer" if entry.amount > 0 else "shorter"
        return "{cause} on {unit} is ".format(**words) + f"{much} {words['clock']} {way}{words['other']}"

    def mitigate(self, entry: Any, words: Words) -> str:
        """Say how much of a hit is held back, or added to it."""
        whose = "its own" if not words["other"] else words["whose"]
        much = number(round(abs(float(entry.amount)), 2))
        done = f"takes {much} more" if entry.amount < 0 else f"is spared {much}"
        if entry.part >= 0:
            return f"{words['unit']} {done} by the armour of its {words['part']}"
        return f"{words['unit']} {done} by {whose} {words['cause']}"

    def chance(self, entry: Any, words: Words) -> str:
        """Say whether something that had a chance comes about."""
        about = f" on {words['unit']}" if words["other"] else ""
        came = "takes its chance" if entry.amount else "has no luck"
        return "{whose} {cause} ".format(**words) + came + about

    def _part(self, entry: Any) -> str:
        return self.setup.names.parts[entry.part] if entry.part >= 0 else ""

    def down(self, entry: Any, words: Words) -> str:
        """Say that a unit goes down, which parts go limp, and how many lives it has left."""
        body = self.book.classes[self.setup.units[entry.unit].sheet.who].body
        limp = self.book.bodies[body].limp if body else []
        lives = int(entry.amount)
        left = f"; {lives} {'life' if lives == 1 else 'lives'} left" if lives > 0 else ""
        return f"{words['unit']} goes down" + (f" ({', '.join(limp)} go limp)" if limp else "") + left

    def harm(self, entry: Any, words: Words) -> str:
        """Say who hurts whom with what, or why nothing is lost."""
        unit, source, cause = words["unit"], words["source"], words["cause"]
        whose = f"{_possessive(source)} {cause}"
        whose = {"fall": f"{unit}’s fall", "wall": "the wall"}.get(cause, whose)
        for note, said in (
            (MISSED, "misses"),
            (INVULNERABLE, "does nothing to the invulnerable"),
            (IMMUNE, "does nothing to the immune"),
        ):
            if entry.notes & note:
                return f"{whose} {said} {unit}"
        part = f", {self._part(entry)}" if entry.part >= 0 else ""
        critical = ", critical" if entry.notes & CRITICAL else ""
        critical += ", grazing" if entry.notes & GRAZED else ""
        guarded = ", guarded" if entry.notes & GUARDED else ""
        front = f" in {self.gauge(entry.gauge)}" if entry.notes & IN_FRONT else ""
        kind = f" ({self.kind(entry.kind)})" if entry.kind >= 0 else ""
        if cause == "script":
            return f"{unit} is hurt{kind}{front}"
        return f"{whose} hurts {unit if cause != 'fall' else 'it'}{part}{front}{critical}{guarded}"


def ordinal(place: int) -> str:
    """Return a place in a row as people write it: 1st, 2nd, 3rd, 4th."""
    last = {1: "st", 2: "nd", 3: "rd"}.get(place % 10, "th") if place % 100 not in (11, 12, 13) else "th"
    return f"{place}{last}"


def _possessive(name: str) -> str:
    return f"{name}’s"


def _whose(source: str, unit: str) -> str:
    return "its own" if source == unit else _possessive(source)


SENTENCES: dict[Verb, str | Callable[[Wording, Any, Words], str]] = {
    Verb.HARM: Wording.harm,
    Verb.HEAL: Wording.heal,
    Verb.REFILL: "{unit}: {gauge} refills",
    Verb.WANE: "{unit}: {gauge} wanes",
    Verb.RISE: "{unit}: {gauge} changes with its top",
    Verb.COST: "{unit} pays for {cause} in {gauge}",
    Verb.CUT: "{unit}: {gauge} is cut to its lower top",
    Verb.EARN: "{unit} earns {gauge} by {cause}",
    Verb.DRAIN: "{unit} loses {gauge}{by}",
    Verb.REVIVE: Wording.revive,
    Verb.WEAR: "{unit}’s {part} wears",
    Verb.MEND: "{unit}’s {part} mends{by}",
    Verb.USE: Wording.use,
    Verb.BEGIN: Wording.begin,
    Verb.REFRESH: Wording.refresh,
    Verb.END: "{cause} on {unit} ends",
    Verb.DOWN: Wording.down,
    Verb.LOST: Wording.lost,
    Verb.BREAK: "{unit}’s {part} breaks",
    Verb.WHOLE_AGAIN: "{unit}’s {part} is whole again",
    Verb.BARRED: "{cause} does not take on {unit}",
    Verb.BUILDUP: Wording.build_up,
    Verb.INTERRUPT: "{unit}’s {cause} is interrupted{other}",
    Verb.STOPPED: Wording.stopped,
    Verb.LAUNCH: "{whose} {cause} flies at {unit}, {amount} m",
    Verb.PUSH: "{unit} is pushed{other} at {amount} m/s",
    Verb.STEP: "{unit} steps {amount} m",
    Verb.OVER_EDGE: Wording.over_the_edge,
    Verb.LANDED: "{unit} lands at {amount} m/s",
    Verb.SUPPLY: "{cause} lies there",
    Verb.TAKE: "{unit} takes {cause}",
    Verb.CHECKPOINT: "{unit} reaches checkpoint {amount}",
    Verb.RETURN: Wording.come_back,
    Verb.FLED: "{unit} flees",
    Verb.MISTAKE: "{unit} makes a mistake",
    Verb.CHANCE: Wording.chance,
    Verb.CHOICE: "{whose} {cause} does the {place} of its choices",
    Verb.MITIGATE: Wording.mitigate,
    Verb.READY: "{unit}’s {cause} is ready sooner{other}",
    Verb.HOLD_OFF: "{unit}’s {cause} is held off{other}",
    Verb.PROLONG: Wording.prolong,
    Verb.LAY: Wording.lay,
    Verb.LIFT: "{cause} is gone",
    Verb.ENTER: "{unit} enters {cause}",
    Verb.LEAVE: "{unit} leaves {cause}",
    Verb.SUMMON: "{unit} comes, called by {source}",
    Verb.ARRIVAL: "{unit} arrives",
    Verb.TOSSED: "{unit} is tossed up{other} at {amount} m/s",
    Verb.JUMPED: "{unit} jumps {amount} m high",
    Verb.POSTPONE: "{unit} puts its turn off",
    Verb.SLID: "{unit} has slid {amount} m",
    Verb.STRUCK: "{unit} is stopped by a wall at {amount} m/s",
    Verb.DEPART: "{unit} is gone again",
    Verb.PUT_OFF: "{whose} {cause} does something in {amount} {clock}",
}
"""What is said of each verb: a template, or the function that words it."""
if wordless := set(Verb) - set(SENTENCES):
    raise AssertionError(f"there are no words for {', '.join(sorted(wordless))}")
