"""How many hits, how many seconds, who wins: exactly where that can be. Run `python examples/settle_a_duel.py`."""

import restless_ledger as rl

book = rl.demo()
for one, other in (("brine_moth", "brine_moth"), ("brine_moth", "kelp_wight"), ("rigger", "warden")):
    duel = rl.duel(book, one, other, level=8, fights=4_000)
    print(f"{one} against {other}: {duel.how()}")
    for by, times_to_kill in zip(duel.names, duel.times_to_kill, strict=True):
        kill = times_to_kill[0]
        hits = max(kill.hits_to_kill, key=lambda count: kill.hits_to_kill[count])
        print(f"  {by}: {kill.label}, {hits} hits most often, {kill.seconds_to_kill(0.5):.2f} s half of the time")
    for row in duel.records():
        if row["chance"] > 0:
            print(f"  {row['outcome']}: {row['chance']:.2%} ({row['low']:.2%} to {row['high']:.2%})")

bout = rl.trials(book, "yard_bout", fights=20_000)
print(f"fought: {bout.finding()}")
