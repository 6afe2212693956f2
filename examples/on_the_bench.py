"""Poke one character by hand: hurt it, heal it, set it alight, and be told of each change."""

import restless_ledger as rl

warden = rl.live(rl.demo(), "warden", level=8)


@warden.on_change
def show(change: rl.Change) -> None:
    if change.gauge == "health":
        print(f"{change.seconds:5.2f} s  {change.verb:<7} {change.booked:+8.3f}  {change.share:5.1%} left")
    elif change.gauge is None:
        print(f"{change.seconds:5.2f} s  {change.verb} ({change.cause})")


print("a hook of power 60, held against guard, then fire:")
warden.hurt(60, "crush")
warden.give("burning")
warden.advance("5 s")

print("healed past the top:")
print("booked", warden.heal(1000), "of 1000")

print("hit until it falls, and once more:")
while not warden.is_down:
    warden.hurt(90)
print("a further hit books", warden.hurt(90))
print(warden.ledger.why(len(warden.ledger) - 2))
