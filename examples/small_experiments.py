"""Small experiments in a practice yard: each asks one question of the rules, and shows the entries that answer it."""

from pathlib import Path

import restless_ledger as rl

yard = rl.load(Path(__file__).parent / "yard")


def show(question: str, encounter: str, *verbs: str, entries: int = 6) -> None:
    """Play an encounter and print the first entries of some verbs, as the ledger words them."""
    print(f"\n{question}")
    fight = rl.fight(yard, encounter)
    wanted = [row["entry"] for row in fight.records() if row["verb"] in verbs]
    lines = list(fight.lines())
    for entry in wanted[:entries]:
        number, when, what, booked, balance = lines[entry]
        print(f"  {number:>3}  {when:>7}  {what:<62} {booked:>9} {balance:>14}".rstrip())
    if fight.winner:
        print(f"  {fight.winner} won after {fight.seconds:.1f} s")


print("What does a further hit do to a character that is down?")
post = rl.live(yard, "post")
while not post.is_down:
    print("  booked", post.hurt(45), "of 45, left", post["health"])
print("  booked", post.hurt(45), "of 45: nothing changes on the downed")

print("\nWhat becomes of healing past the top?")
striker = rl.live(yard, "striker")
striker.hurt(30)
print("  booked", striker.heal(50), "of 50; the rest is waste, and health is", striker["health"])

print("\nDo its own jumps hurt a striker?")
for jump in rl.falls(yard, levels=[1]).heights[0].jumps:
    print(f"  jump {jump.number} reaches {jump.reach_m:.2f} m: {'safe' if jump.safe else f'hurts by {jump.harm:.1f}'}")

show("Two pellets arrive in one tick. Does the second count?", "two_pellets", "harm", entries=4)
show("What does a push over a ledge of 9 m do?", "over_the_edge", "push", "over the edge", "landed", "harm")
show("Does the mantle punish only the attacker, and only while it is on?", "mantle", "begin", "harm", "end", entries=9)
show("Which part of an eel is lost first, and what then?", "tail", "harm", "break", entries=9)
show("Where does one return that has reached no checkpoint?", "two_lives", "down", "return", entries=3)
