"""What the engine knows of abilities, effects, buffs and reactions, field by field.

Times are ticks; a line is a formula that is read on one character's page; -1 stands for "none" wherever an index is
wanted.
"""

from __future__ import annotations

from .fields import fields

ABILITIES = fields(
    targets="i8",
    windup="i8",
    recovery="i8",
    cooldown="i8",
    first_cost="i8",
    first_effect="i8",
    last_effect="i8",  # costs lie just before the effects
    from_finish="i8",
    windup_times="i8",
    recovery_times="i8",
    cooldown_times="i8",  # lines
    charges="i8",
    shared="i8",
    uses="i8",
    priority="i8",
    interruptible="i8",
    reach="f8",
    least="f8",
    single="i8",  # 1: it has no area
    radius="f8",
    most="i8",
    falloff="i8",  # lines: most, falloff
    projectile="f8",  # its speed; 0: none
    lunge="f8",
    dash="f8",
    first_load="i8",
    last_load="i8",  # of the kinds of hits that its projectile brings
    channel="i8",
    channel_times="i8",  # line
    channel_every="i8",  # the group of effects that its wind-up repeats; -1: none
)
EFFECTS = fields(
    what="i8",
    index="i8",  # kind, gauge or buff
    line="i8",  # the amount
    times="f8",  # where the amount is a plain number
    to_user="i8",
    part="i8",  # the name of the part that is aimed at
    steal="i8",  # line
    most="i8",
    stacks="i8",
    by="i8",
    by_times="i8",  # line
    first="i8",
    last="i8",  # of the buffs that it takes off, or of the effects that it holds
    branches="i8",  # 1: it asks for something, waits, happens several times, or is for several
    to="i8",
    within="f8",
    when="i8",
    if_="i8",
    chance="i8",
    avoid="i8",
    even="i8",  # the number of a chance that evens out
    after="i8",
    later="i8",
    again="i8",  # how many times
    every="i8",
    later_times="i8",
    every_times="i8",  # lines: when, if, chance, avoid, again, later_times, every_times
)
BUFFS = fields(
    lasts="i8",
    lasts_times="i8",
    lasts_theirs="i8",
    every="i8",
    every_times="i8",  # lines
    first_effect="i8",
    last_effect="i8",
    first_change="i8",
    last_change="i8",
    again="i8",
    of="i8",
    ends="i8",
    carries="f8",
    first_copy="i8",
    copies="i8",
    a_giver="i8",  # the first of as many rows as there can be of it on one unit, so many of each giver
    cause="i8",
    first_replaced="i8",
    last_replaced="i8",
    most="i8",
    catches_at="i8",  # line
    fades="f8",  # fades: a tick
    first_bar="i8",
    last_bar="i8",
    first_reaction="i8",
    last_reaction="i8",
    outlasts_down="i8",
    first_mitigation="i8",
    last_mitigation="i8",
    controls="i8",  # 1: it keeps its bearer from something, or makes it do something
    bars="i8",
    hides="i8",
    ends_on="i8",  # sets of words, a bit each
    first_barred="i8",
    last_barred="i8",  # of the abilities that it bars
    breaks_off="i8",
    aims_at="i8",
    fights_for="i8",
    walks="i8",  # -1: as it likes
    breaks_at="i8",  # line
    dulls="i8",
    first_share="i8",
    last_share="i8",
    forgets="i8",  # the group in which it gets shorter each time, and by how much; -1: none
)
CHANGES = fields(
    way="i8",
    index="i8",  # the stat, or the page slot of a mark
    amount="f8",
    line="i8",  # the amount, where it is a formula
    varied="i8",
    roll="i8",  # where what is drawn for each fight is kept, and its roll; -1: it is not
)
MITIGATIONS = fields(
    kind="i8",
    part="i8",
    noted="i8",
    unnoted="i8",
    when="i8",
    if_="i8",
    chance="i8",
    nth="i8",
    rests="i8",
    times="i8",
    passes="i8",
    leaves="i8",  # lines: when, if, chance, times, passes, leaves
    to="i8",
    uses_up="i8",
    first_effect="i8",
    last_effect="i8",
    cause="i8",
)
REACTIONS = fields(
    on="i8",
    mark="i8",
    kind="i8",
    ability="i8",  # the cause that stands for it
    part="i8",
    noted="i8",
    unnoted="i8",  # bits of the notes that a hit must have, and must not have
    buff="i8",
    itself="i8",  # 1: only the very buff that it stands in
    gauge="i8",
    share="i8",
    when="i8",
    if_="i8",
    chance="i8",  # lines: share, when, if, chance
    nth="i8",
    rests="i8",
    sets_off_itself="i8",
    to="i8",
    within="f8",
    first_effect="i8",
    last_effect="i8",
    cause="i8",
)
