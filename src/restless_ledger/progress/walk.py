"""One run of a journey, from its first stage to its last, or to where the party stops."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial

import numpy as np

from ..engine.outcome import Outcome
from ..rulebook import InputError, Rulebook
from ..rulebook.growth import Cadence
from ..rulebook.journeys import MOST_PARTY, Gift, Stage
from ..rulebook.rolls import AnyRoll
from ..sheets import Item
from ..sheets.experience import level_among
from ..sheets.gear import check_wearing, take_items
from ..sheets.rolls import numbers_at
from .drops import MOST_DROPS, Drops
from .luck import draw, draw_one
from .party import COIN, Books, JourneyEntry, PartyStock, Traveller
from .spending import spend

VISITS = 1 << 16
"""How many visits of stages one run has room for; run and visit together number its fights, drops and checks."""
GROWTH, COIN_ROLL, CHECK = 60, 61, 62
"""The purposes of draws."""
MOST_GROWING, MOST_STEPS = 1024, 1024
"""How many stats of a class can grow, and how often at most."""


@dataclass
class Visit:
    """One attempt at a stage. `number` is the fight's among those of the journey's seed; `level` the party's lowest."""

    stage: str
    number: int
    level: int
    passed: bool
    seconds: float
    grinding: bool
    told: str
    party: list[Traveller] = field(default_factory=list, repr=False)
    """Who fought, as they were before it; of a run that is recorded."""


@dataclass
class Run:
    """One run: its visits, whether it reached the end, and what everybody had become."""

    number: int
    finished: bool
    visits: list[Visit]
    levels: list[int]
    bought: list[dict[str, int]]
    coin: int
    entries: list[JourneyEntry] | None = None

    @property
    def seconds(self) -> float:
        """How long the run took, in seconds."""
        return sum(visit.seconds for visit in self.visits)

    @property
    def stopped_at(self) -> str | None:
        """The stage at which the run stopped; None where it reached the end."""
        return None if self.finished else self.visits[-1].stage


def rolled_growth(book: Rulebook, who: str) -> tuple[tuple[int, str, Cadence, AnyRoll], ...]:
    """Return each stat of a class that grows by rolls: its number among those that grow, its growth, and its roll."""
    return book.kept(
        ("rolled growth", who),
        lambda: tuple(
            (number, stat, growth, growth.add)
            for number, (stat, growth) in enumerate(book.classes[who].growth.items())
            if isinstance(growth, Cadence) and isinstance(growth.add, AnyRoll)
        ),
    )


class Walker:
    """Walks one party through a journey. Each run is a pure function of the journey, the seed and its number."""

    def __init__(self, stock: PartyStock, seed: int, number: int, record: bool = False) -> None:
        self.stock, self.seed, self.number, self.record = stock, seed, number, record
        self.book: Rulebook = stock.book
        self.journey = stock.journey
        self.party = stock.travellers()
        for one in self.party:
            self._grow(one)
        accounts = {COIN: self.journey.coin, **{one.account: one.began_with for one in self.party}}
        self.books = Books(accounts, record)
        self.visits: list[Visit] = []

    def walk(self) -> Run:
        """Walk to the end, or to where the party stops; balance the books."""
        journey, at = self.journey, 0
        tried = dict.fromkeys(journey.stages, 0)
        ground = dict.fromkeys(journey.stages, 0)
        finished = False
        while len(self.visits) < VISITS - 1:
            name = journey.stages[at]
            stage = self.book.stages[name]
            passed = self._visit(name, stage, ground[name] > 0)
            if passed:
                self._reward(name, stage)
                if stage.grind and self.lowest < stage.grind.below and ground[name] < stage.grind.most:
                    ground[name] += 1
                    continue
                at += 1
                if at == len(journey.stages):
                    finished = True
                    break
                continue
            tried[name] += 1
            self._lose(name)
            if journey.defeat == "end" or tried[name] >= journey.attempts:
                break
            if journey.defeat == "checkpoint":
                at = max(
                    (journey.stages.index(point) for point in journey.checkpoints if journey.stages.index(point) <= at),
                    default=0,
                )
        self.books.reconcile()
        return Run(
            self.number,
            finished,
            self.visits,
            [one.level for one in self.party],
            [dict(one.bought) for one in self.party],
            self.books.balance[COIN],
            self.books.entries,
        )

    @property
    def lowest(self) -> int:
        """The lowest level in the party."""
        return min(one.level for one in self.party)

    def _visit(self, name: str, stage: Stage, grinding: bool) -> bool:
        """Try a stage once; say whether it was passed."""
        number = self.number * VISITS + len(self.visits)
        visit = Visit(name, number, self.lowest, True, stage.minutes * 60.0, grinding, "goes on")
        if stage.encounter and stage.side:
            self._fight(visit, stage)
        elif stage.check:
            self._try(visit, stage)
        named, share = (stage.restores, 1.0) if isinstance(stage.restores, dict) else ({}, stage.restores)
        for one in self.party:
            if one.fill:
                one.restore(self.stock.sheet(one), named, share)
        self.visits.append(visit)
        return visit.passed

    def _fight(self, visit: Visit, stage: Stage) -> None:
        encounter, side = stage.encounter or "", stage.side or ""
        if self.record:
            visit.party = [replace(one, fill=dict(one.fill)) for one in self.party]
        room = self.stock.room(encounter, side, self.party)
        with room.opened(self.party, [self.stock.sheet(one) for one in self.party]) as rematch:
            outcome, ticks = rematch.fight(self.seed, visit.number)
            up, now = rematch.left(room.places)
        names = room.setup.names
        winner = Outcome.of(outcome, len(names.sides)).winner(names.sides)
        visit.passed = winner == side
        visit.seconds += self.book.clock.seconds(ticks)
        visit.told = f"{winner} won" if winner else "nobody won"
        visit.told += f", {sum(up)} of {len(self.party)} standing"
        for one, row, stands in zip(self.party, now, up, strict=True):
            one.carry_over(names.gauges, row, stands, stage.returns)

    def _try(self, visit: Visit, stage: Stage) -> None:
        """Let the member with the best chance try a check; the first of those with the same."""
        name, best, who = stage.check or "", 0.0, None
        for one in self.party:
            if not self.book.checks[name].is_for(one.member.who):
                continue
            chance = self.stock.sheet(one).chance_at(name)
            if chance is not None and (who is None or chance > best):
                best, who = chance, one
        visit.passed = who is not None and draw_one(self.seed, visit.number, CHECK) < best
        did = "passes" if visit.passed else "fails"
        visit.told = f"{who.name} {did}, with a chance of {best:.1%}" if who else "nobody can try"

    def _reward(self, name: str, stage: Stage) -> None:
        """Book what a stage that was passed brings, and spend coin where there is a shop."""
        for one in self.party:
            if stage.experience:
                self._learn(one, name, stage.experience)
            gift = stage.gifts.get(one.name)
            more = (*stage.teaches.get(one.member.who, ()), *(gift.teaches if gift else ()))
            if more:
                one.change(taught=tuple(dict.fromkeys((*one.taught, *more))))
            if gift:
                self._give(one, gift)
        self.books.book(name, COIN, self._paid(stage.coin), "reward")
        if stage.drop:
            item = Drops(self.book, stage.drop, MOST_DROPS, self.seed).item(self.visits[-1].number)
            if item is not None:
                self._take(item)
        for item in take_items(self.book, stage.gives):
            self._take(item)
        if stage.shop:
            self._buy(name)

    def _learn(self, one: Traveller, name: str, experience: int) -> None:
        """Book experience of a member, and let it rise as far as that is enough for."""
        totals = one.totals
        if len(totals) > 1:
            self.books.book(name, one.account, experience, "reward", totals[-1])
            reached = level_among(totals, self.book.rulebook.levels[0], self.books.balance[one.account])
            if reached > one.level:
                one.change(level=reached)
                self._grow(one)
                one.stand_fresh(self.book)

    def _give(self, one: Traveller, gift: Gift) -> None:
        """Give a member the upgrades and the gear that are meant for it."""
        bought, upgrades = dict(one.bought), self.book.upgrades
        for upgrade, levels in gift.upgrades.items():
            bought[upgrade] = min(bought.get(upgrade, 0) + levels, upgrades[upgrade].levels)
        one.change(bought=bought)
        for piece in take_items(self.book, gift.gives):
            self._take(piece, [one])

    def _grow(self, one: Traveller) -> None:
        """Roll what the growth of a member's class adds up to its level. Each step is a roll of its own, which the
        seed, the run, the member, the stat and the number of the step decide."""
        rolled = rolled_growth(self.book, one.member.who)
        if not rolled:
            return
        place, first = self.stock.names.index(one.name), self.book.rulebook.levels[0]
        grown = {}
        for number, stat, growth, roll in rolled:
            begun = ((self.number * MOST_PARTY + place) * MOST_GROWING + number) * MOST_STEPS
            steps = begun + np.arange((one.level - first) // growth.every)
            grown[stat] = float(numbers_at(roll, draw(self.seed, steps, GROWTH)).sum())
        one.change(grown=grown)

    def _paid(self, coin: int | AnyRoll) -> int:
        """Return what a stage pays this time."""
        if not isinstance(coin, AnyRoll):
            return coin
        drawn = draw(self.seed, np.array([self.visits[-1].number]), COIN_ROLL)
        return int(numbers_at(coin, drawn)[0])

    def _take(self, item: Item, among: Sequence[Traveller] | None = None) -> None:
        """Give a piece to the first member, of all or of some, that may wear it and has room; otherwise it is left
        behind."""
        for one in self.party if among is None else among:
            page_of = partial(self._bare_page, one)
            try:
                check_wearing(self.book, one.member.who, one.level, [*one.gear, item], page_of)
            except InputError:
                continue
            one.change(gear=(*one.gear, item))
            self.visits[-1].told += f"; {one.name} takes {item}"
            return
        lacking = f"{among[0].name} has no" if among else "nobody has"
        self.visits[-1].told += f"; {lacking} use for {item}"

    def _bare_page(self, one: Traveller) -> Mapping[str, float]:
        """Return a member's page without gear."""
        return self.stock.sheet(replace(one, gear=(), known=None)).sheet.page

    def _buy(self, name: str) -> None:
        """Let each in turn spend an even share of what there is, by its plan."""
        for place, one in enumerate(self.party):
            if one.member.plan is None:
                continue
            left = sum(other.member.plan is not None for other in self.party[place:])
            share = self.books.balance[COIN] // left
            spent = spend(self.book, one.member.plan, share, one.bought)
            for purchase in spent.purchases:
                self.books.book(name, COIN, -purchase.price, f"{one.name} buys {purchase.upgrade} {purchase.level}")
            if spent.purchases:
                one.change(bought=dict(spent.bought))

    def _lose(self, name: str) -> None:
        """After a defeat: a share of the coin is gone, and everybody stands fresh before the next attempt."""
        self.books.book(name, COIN, -int(self.journey.loses_coin * self.books.balance[COIN]), "defeat")
        for one in self.party:
            one.stand_fresh(self.book)
