"""Grow a character, dress it, let it buy, and send its party through a winter."""

import restless_ledger as rl

book = rl.demo()

print("A rigger of the cliffs, from the first level to the last:")
rigger = rl.sheet(book, "rigger", origin="cliffborn", attributes={"brawn": 4, "nerve": 4})
for level in (1, 12, 60):
    grown = rigger.change(level=level)
    known = ", ".join(grown.abilities)
    print(f"  level {level:>2}: brawn {grown['brawn'].value:g}, health {grown['health'].value:g}, knows {known}")

print("The same with what the crabs leave:")
for item in rl.drops(book, "crab_heap", count=12, seed=7):
    if item and item.gear != "chain_apron" and book.gear[item.gear].level is None:
        print(f"  {item}: grit {rigger.change(gear=[item])['grit'].value:g} instead of {rigger['grit'].value:g}")

print("What 300 coin buy by two plans:")
for plan in ("hook_first", "a_stout_back"):
    spent = rl.spend(book, plan, 300)
    print(f"  {plan}: {dict(spent.bought)}, {spent.left} left")

journeys = rl.journey(book, "winter", runs=80, seed=1)
print(f"A winter of watches: {journeys.finding()}.")
for record in journeys.stages:
    print(f"  {journeys.label(record['stage']):<16} level {record['level']:>4g}, {record['attempts']:.2f} tries")
