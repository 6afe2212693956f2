"""Play one fight of the shipped rulebook, read its ledger, and ask why an entry is what it is."""

import restless_ledger as rl

book = rl.demo()  # or rl.load("path/to/your/rulebook")

sheet = rl.sheet(book, "rigger", level=12)
print(sheet["brawn"].why())

fight = rl.fight(book, "stair_duel", seed=7)
print(f"{fight.outcome} after {fight.seconds:.1f} s, {len(fight)} entries")

ledger = fight.frame()  # a pandas DataFrame
hits = ledger.loc[(ledger["verb"] == "harm") & ~ledger["missed"]]
print(hits[["seconds", "source", "cause", "unit", "booked", "balance"]].to_string(index=False))

heaviest = hits.loc[hits["booked"].idxmin(), "entry"]
print(fight.why(int(heaviest)))
print(fight.frame("balances").to_string(index=False))  # opening + credits + debits = closing
