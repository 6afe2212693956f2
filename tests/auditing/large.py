"""A large rulebook: as many classes, abilities and levels as one likes, all of them with formulas and foes."""

from __future__ import annotations

import random


def large_rulebook(classes: int = 100, abilities: int = 500, levels: int = 60, seed: int = 1) -> str:
    """Return the text of a rulebook of so many classes and abilities, fifty buffs and an encounter for each four classes."""
    generator = random.Random(seed)
    text = [
        f"""
[rulebook]
levels = [1, {levels}]
[stats]
brunt = {{ range = [1, 400], round = "down" }}
shell = {{ range = [0, 400], round = "down" }}
vigour = {{ range = [1, 400], round = "down" }}
craft = {{ range = [1, 400], round = "down" }}
[gauges.health]
top = "60 + 8 * vigour"
refill = {{ amount = "1 + vigour / 50", every = "5 s", after_harm = "4 s" }}
downs = true
[gauges.breath]
top = "40 + vigour / 2"
refill = {{ amount = 5, every = "1 s" }}
"""
    ]
    text += [
        f"""
[damage.kind_{kind}]
aim = "0.9 + craft / 800"
dodge = "shell / 900"
lands = "clamp(aim - dodge, 0.05, 1)"
power = "{8 + kind} + {1.2 + kind / 10} * brunt"
soak = "0.5 * shell"
settle = "max(1, power - soak)"
critical = {{ chance = "craft / 900", times = 1.5 }}
"""
        for kind in range(5)
    ]
    text += [
        f"""
[buffs.mood_{buff}]
lasts = "{generator.randint(2, 9)} s"
stats = {{ {generator.choice(["brunt", "shell", "craft"])} = {{ scale = {generator.choice([-0.2, -0.1, 0.1, 0.2])} }} }}
"""
        for buff in range(50)
    ]
    text += [
        f"""
[abilities.deed_{ability}]
cost = {{ breath = {generator.randint(1, 9)} }}
windup = "{generator.randint(1, 6) / 10} s"
cooldown = "{generator.randint(8, 90) / 10} s"
does = [{{ damage = "kind_{ability % 5}", times = {generator.randint(8, 16) / 10} }}, {{ give = "mood_{ability % 50}" }}]
"""
        for ability in range(abilities)
    ]
    for who in range(classes):
        mine = [f"deed_{(who * 5 + index) % abilities}" for index in range(5)]
        learns = ", ".join(f'{1 + index * (levels // 6)} = ["{name}"]' for index, name in enumerate(mine))
        growths = "\n".join(
            f"growth.{stat} = {{ from = {generator.randint(8, 20)}, to = {generator.randint(60, 120)}, bend = {generator.randint(0, 3) / 10} }}"
            for stat in ("brunt", "shell", "vigour", "craft")
        )
        text.append(f"[classes.kin_{who}]\n{growths}\nlearns = {{ {learns} }}\n")
    for first in range(0, classes - 3, 4):
        sides = [
            f'{{ name = "{name}", units = [{", ".join(f"{{ class = {chr(34)}kin_{who}{chr(34)}, level = 5 }}" for who in pair)}] }}'
            for name, pair in (("east", (first, first + 1)), ("west", (first + 2, first + 3)))
        ]
        text.append(f"[encounters.meet_{first}]\nsides = [{', '.join(sides)}]\n")
    return "".join(text)
