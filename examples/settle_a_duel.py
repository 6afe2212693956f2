"""How many hits, how many seconds, who wins: exactly where that can be. Run `python examples/settle_a_duel.py`."""

import restless_ledger as rl

book = rl.demo()
for one, other in (("brine_moth", "brine_moth"), ("brine_moth", "kelp_wight"), ("rigger", "warden")):
    duel = rl.duel(book, one, other, level=8, fights=4_000)
    print(f"{one} against {other}: {duel.how()}")
    for by, strokes in zip(duel.names, duel.strokes, strict=True):
        stroke = strokes[0]
        hits = max(stroke.hits_to_kill, key=lambda count: stroke.hits_to_kill[count])
        print(f"  {by}: {stroke.label}, {hits} hits most often, {stroke.seconds_to_kill(0.5):.2f} s half of the time")
    for row in duel.records():
        if row["chance"] > 0:
            print(f"  {row['outcome']}: {row['chance']:.2%} ({row['low']:.2%} to {row['high']:.2%})")

bout = rl.trials(book, "yard_bout", fights=20_000)
print(f"fought: {bout.finding()}")
