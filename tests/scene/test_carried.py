"""What a scene is carried through and stays what it is: a save, a copy, a new sheet, being listened to, slow steps."""

from __future__ import annotations

import json
import pickle
import random
import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl
from restless_ledger.engine.setup import FightFault
from restless_ledger.scene.reasons import stat_now

from ..engine.test_random import random_book
from ..support import TINY, book_of, changed, demo_with, many

BOOKS = many(400, 60)


def specs(book: rl.Rulebook) -> list[list[rl.CharacterSpec]]:
    """Return who meets whom in a random rulebook, the first two of each side."""
    return [
        [
            rl.CharacterSpec(each.who, each.level, each.origin, each.attributes, each.gear, each.taught, each.bought)
            for each in side.units[:2]
        ]
        for side in book.encounters["meet"].sides[:2]
    ]


def scene(book: rl.Rulebook, seed: int) -> rl.Live:
    """Return a scene of a random rulebook in which two act by themselves."""
    (first, *rest), others = specs(book)
    arena = next(iter(book.arenas), None) if seed % 2 else None
    return rl.live(book, first, companions=rest, against=others, acting=[0, 1], arena=arena, seed=seed)


def poke(live: rl.Live, what: int, book: rl.Rulebook) -> None:
    """Do one of a few things to a scene."""
    if what == 0:
        live.hurt(3)
    elif what == 1:
        live.give(next(iter(book.buffs)))
    elif what == 2:
        live.unit(1).hit("blow", 9, by=0)
    elif what == 3:
        live.check("climb", at=1)


class Carried(unittest.TestCase):
    def test_a_scene_goes_on_as_if_it_had_not_been_saved_copied_become_anew_or_listened_to(self) -> None:
        """The rest of the ledger is the same, to the last figure, whatever is done to the scene that changes nothing."""
        compared = 0
        for seed in range(BOOKS):
            book = random_book(seed)
            try:
                plain, anew, saved, told = (scene(book, seed) for _ in range(4))
                told.on_change(lambda change: None)
                draw = random.Random(seed)
                for _ in range(6):
                    ticks, what = draw.choice((1, 3, 7, 20)), draw.randrange(5)
                    for live in (plain, anew, saved, told):
                        live.advance(f"{ticks} ticks")
                        poke(live, what, book)
                    members = anew._scene.members
                    number = draw.randrange(len(members))
                    anew._scene.replace(number, members[number])
                    saved = rl.Live.restored(book, saved.save(), "scene") if draw.random() < 0.5 else saved.copy()
            except FightFault:
                continue
            records = str(plain.ledger.records())
            for name, live in (("anew", anew), ("saved", saved), ("told", told)):
                self.assertEqual(str(live.ledger.records()), records, (seed, name))
            self.assertEqual([row for row in plain.ledger.balances() if row["difference"]], [], seed)
            compared += 1
        self.assertGreater(compared, BOOKS // 2)

    def test_why_a_stat_is_what_it_is_adds_up_to_what_it_is(self) -> None:
        seen = 0
        for seed in range(BOOKS):
            book = random_book(seed)
            try:
                live, draw = scene(book, seed), random.Random(seed)
                for _ in range(5):
                    live.advance(f"{draw.choice((1, 5, 20))} ticks")
                    poke(live, draw.randrange(3), book)
                    for number in range(len(live._scene.members)):
                        for stat in book.stats:
                            worth, now = stat_now(live._scene, number, stat).value, live.unit(number)[stat]
                            self.assertAlmostEqual(worth, now, 6, (seed, number, stat))
                            seen += bool(live.unit(number).changed_by(stat))
            except FightFault:
                continue
        self.assertGreater(seen, BOOKS)

    def test_two_who_act_by_themselves_fight_the_fight_of_that_seed(self) -> None:
        book = demo_with("", (', handling = "watchful"', ""), (', handling = "planted"', ""))
        for seed in (1, 2, 3):
            fight = rl.fight(book, "stair_duel", seed=seed)
            live = rl.live(book, "rigger", level=8, against=["warden"], acting=[0, 1], seed=seed)
            live.advance(f"{fight.ticks} ticks")
            self.assertEqual(str(live.ledger.records()[: len(fight)]), str(fight.records()))

    def test_a_saved_scene_says_who_is_in_it_and_is_refused_where_it_was_changed(self) -> None:
        book = book_of(TINY)
        live = rl.live(book, "ox", level=3, against=["post"])
        live.hurt(30)
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "scene.json"
            text = live.save(file)
            self.assertEqual(rl.restore(book, file)["health"], 70)
            content = json.loads(text)
            self.assertEqual(content["units"][0]["gauges"], {"health": [70.0, 100.0]})
            for change, words in (
                (lambda each: each["units"][0]["gauges"].update(health=[90.0, 100.0]), "changed since it was saved"),
                (lambda each: each["state"]["gauges"].update(now=[[99000, 2]]), "changed since it was saved"),
                (lambda each: each.update(version=2), "reads version 1"),
                (lambda each: each.update(format="other"), "no saved scene"),
            ):
                other = json.loads(text)
                change(other)
                file.write_text(json.dumps(other))
                with self.assertRaisesRegex(rl.InputError, words):
                    rl.restore(book, file)
            file.write_text("no JSON")
            with self.assertRaisesRegex(rl.InputError, "this is no JSON"):
                rl.restore(book, file)
            file.write_text(text)
            with self.assertRaisesRegex(rl.InputError, "under another rulebook"):
                rl.restore(book_of(changed(TINY, ("top = 100", "top = 110"))), file)
            with self.assertRaisesRegex(rl.InputError, "can't be read"):
                rl.restore(book, Path(folder) / "none.json")
            with self.assertRaisesRegex(rl.InputError, "can't be written"):
                live.save(Path(folder) / "none" / "scene.json")

    def test_a_copy_and_a_pickle_share_nothing_and_nobody_listens(self) -> None:
        live, told = rl.live(book_of(TINY), "ox"), list[rl.Change]()
        live.on_change(told.append)
        for other in (live.copy(), pickle.loads(pickle.dumps(live))):
            other.hurt(60)
            self.assertEqual((live["health"], other["health"], len(told)), (100, 40, 0))
