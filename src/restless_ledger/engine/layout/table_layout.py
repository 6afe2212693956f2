"""The engine's memory that stays as it is during a fight, field by field. `layout.py` describes what changes.

Amounts are thousandths of a point, times are ticks.
A line is a formula that is read on one character's page; -1 stands for "none" wherever an index is wanted.
"""

from __future__ import annotations

from typing import ClassVar

from .ability_layout import ABILITIES, BUFFS, CHANGES, EFFECTS, MITIGATIONS, REACTIONS
from .fields import FLOAT, WHOLE, fields
from .kind_layout import EXTRAS, FACES, KINDS, ROLLS
from .memory import Block
from .place_layout import CHECKPOINTS, HEIGHTS, LAID, PLACE, SPOTS, STRAIGHTS, SUPPLIES, WALLS, WINS, ZONES

RULES = fields(
    limit="i8",  # the tick on which the fight is called off
    downs_at_once="i8",  # 1: a down takes effect within its phase; 0: at settle
    judged="i8",  # 1: the fight ends when one side stands; 0: it goes on (a character on the bench)
    sides="i8",
    downing="i8",  # the gauge that takes its character down
    initiative="i8",  # line; -1 where it is the same for all
    first_ability_cause="i8",
    first_buff_cause="i8",
    first_supply_cause="i8",
    gauges_read="i8",  # 1: some line reads a gauge, so that pages must show them at once
    facts="i8",  # the first page slot of the facts of the moment
    invulnerable_next="i8",  # 1: invulnerability begins on the tick after the hit
    reaction_depth="i8",
    dealing_reads="i8",
    taking_reads="i8",  # the sets of slots that the lines of dealers, and of takers, read
    reacts="i8",  # a bit for each event that something reacts to
    figures="i8",  # 1: some stat hangs on other figures
    controls="i8",  # 1: some buff keeps its bearer from something, or makes it do something, or alone lets it
    mitigates="i8",  # 1: something is done to some hit before it is booked
    ends_on="i8",  # the set of all that ends some buff
    lists="i8",  # 1: an effect can bring others about, or hang on more than its list
    branches="i8",  # 1: some effect does not simply happen, or reads what a hit before it booked
    follows="i8",  # 1: a hit can lead to more than its own entry
    kept_off="i8",  # 1: something can keep a hit off, or make it land more or less often than its kind says
    earns="i8",  # 1: some gauge earns
    opens_drawn="i8",  # 1: some gauge begins at a roll
    evens="i8",  # how many chances even out
    varies="i8",  # 1: some stat is drawn for each unit in each fight
    initiative_roll="i8",
    initiative_drawn="i8",  # what is added to the initiative (-1: nothing); 1: anew each tick
    actions="i8",  # line
    placed="i8",  # 1: the fight has a place
    takes="i8",  # 1: not every gauge in front takes every kind, point for point
    more_downs="i8",  # 1: more than one gauge takes its character down
    pays="i8",  # 1: what flows waits after a cost
    forms="i8",  # 1: some buff changes an ability, or lets its bearer use one
    meanwhile="i8",  # 1: some ability can be used while its user does something else
    watched="i8",  # 1: some line asks something of the fight
    priorities="i8",  # 1: some ability comes before others in a round
    seconds="f8",  # that a tick lasts
    turns="i8",  # how turns follow on each other
    walks_first="i8",
    wins="i8",  # how many more ways to win there are
    foe_down="i8",
    holding="i8",
    holding_every="i8",  # points: for a foe that goes down, and for each so many ticks of holding the objective
    vast="i8",  # 1: amounts can be so large that the totals of a fight have to be watched
    largest="f8",
    usual="f8",  # the largest amount, in points, and the largest that no number of can outgrow the books of a fight
    beats_meet="i8",  # 1: a beat can touch another than its bearer, or what it does can hang on another's refill
    first_script_effect="i8",  # on a bench: one effect for each damage kind, for a script's hits
    zones="i8",  # 1: some zone can be there
    sided="i8",  # 1: some line reads who is behind or above
    company="i8",  # 1: somebody comes later, or may be called
    spends="i8",  # 1: some ability can be used only so often, or lost
    helps_fallen="i8",  # 1: some ability is aimed at a fallen ally
    line_times="i8",  # 1: what some hit is multiplied by hangs on its user
    top_reads="i8",  # the set of slots that the tops of gauges read
    beats_matter="i8",  # 1: what comes of a tick can hang on the order of its beats, or on them being there
)
UNITS = fields(
    side="i8",
    first_play="i8",
    last_play="i8",
    first_part="i8",
    last_part="i8",
    first_known="i8",
    last_known="i8",
    first_form="i8",
    last_form="i8",  # what buffs make of the abilities that it knows
    first_reaction="i8",
    last_reaction="i8",  # of its class and of all else that it has from the beginning
    first_mitigation="i8",
    last_mitigation="i8",
    first_change="i8",
    last_change="i8",  # that last as long as the fight and can't be added up beforehand
    first_mark="i8",
    last_mark="i8",  # of those that it bears from the beginning
    worn="i8",  # 1: some part can wear, break or be lost
    segmented="i8",
    harder="i8",  # line
    broken_buff="i8",  # the first of the buffs that stand for its broken parts
    spared_ticks="i8",  # invulnerability after a hit
    delay="i8",
    aim="f8",
    mistakes="f8",  # handling
    distance="f8",  # that its playbook keeps
    heedless="i8",
    lives="i8",
    at_x="f8",
    at_y="f8",
    root="i8",
    called="i8",  # of a reserve: whose it is, and which effects call it; -1: none
    arrives="i8",
    arrives_when="i8",  # a tick, or a line
    first_jump="i8",
    last_jump="i8",
    class_cause="i8",
)
BASES = fields(start="f8", added="f8", scaled="f8", times="f8")
STATS = fields(
    slot="i8",
    floor="f8",
    ceiling="f8",
    rounding="i8",
    is_line="i8",
    floor_line="i8",
    ceiling_line="i8",  # where these are formulas
)
GAUGES = fields(
    slot="i8",  # page slot of the amount; the top and the share follow it
    top="i8",  # line
    opens_share="f8",
    opens_points="f8",  # a share of the top, and points besides
    roll="i8",  # by which it begins; -1: none
    returns_share="f8",
    returns_points="f8",  # on a return
    first_flow="i8",
    last_flow="i8",  # what refills it, and what wanes of it
    acting="i8",
    dealing="i8",
    taking="i8",  # lines: what it earns
    followed="i8",  # 1: some stat reads it
    keeps="i8",  # 1: what is over a top that has fallen back is kept
    rises="i8",  # what a top that changes does to the amount
    bottom="i8",  # the lowest amount
    downs="i8",  # 1: its character goes down when it is empty
    first_front="i8",
    last_front="i8",  # the gauges before it
)
FLOWS = fields(
    gauge="i8",
    gains="i8",  # 1: it comes back, -1: it wanes
    amount="i8",  # line
    steady="i8",  # the amount in thousandths where it is the same whole number for everybody, or 0
    every="i8",
    after_harm="i8",
    after_cost="i8",
    when="i8",  # line
    cause="i8",
)
PARTS = fields(
    up_to="f8",  # the sum of the shares up to and with this part
    times="i8",  # line
    same_times="f8",  # what that is for everybody; -1 where it hangs on the owner
    share="f8",
    aim="f8",
    own="i8",
    vital="i8",
    lost="i8",
    first_drop="i8",
    last_drop="i8",
    name="i8",
)
PLAYS = fields(
    what="i8",
    known="i8",
    ability="i8",
    pick="i8",
    when="i8",
    if_="i8",  # two lines: own page, target's page
    part="i8",
    wait="i8",
    supply="i8",
    away="i8",
    sole="i8",  # the only unit that it can ever be aimed at; -1: there are several, or none
    best="i8",  # line, least for the target
    most="i8",  # 1: it is most, not least
    weight="i8",  # line
    turn="i8",
    turns="i8",  # whose turn it has to be, from 0, of how many; -1: any
    first_mine="i8",
    last_mine="i8",  # lines of its user that it writes on the pages of others
    brings="i8",  # 1: its `if` or `pick` reads those, or what the other does
    looks_round="i8",  # 1: it reads how near the nearest foe is
    sided="i8",  # 1: its `if` or its `pick` reads whom it would be behind of, or above
)
MINE = fields(line="i8", slot="i8")
KNOWN = fields(
    ability="i8",
    basic="i8",  # as it is altered for this unit, and the ability that it is
    by_buff="i8",  # 1: only a buff lets the unit use it
)
FORMS = fields(
    known="i8",
    buff="i8",
    ability="i8",  # what a known ability is while a buff is on
)
LINES = fields(
    start="i8",
    stop="i8",
    page="i8",  # 1: read on a character's page; 0: where two meet
    moving="i8",  # 1: it reads a gauge or a fact, so its result is never kept
    reads="i8",  # the set of slots it reads, a bit each
    sees="i8",  # 1: it asks something of the fight
)
SLOTS = fields(
    first_reader="i8",
    last_reader="i8",  # the lines that read this slot of their character's page
)
SEEN = fields(
    what="i8",
    about="i8",  # an ability or a buff
    named="i8",  # 1: it is about something that is named
    within="f8",
    slot="i8",
)
CODE = fields(op="i8", argument="i8")


class Tables(Block):
    """What is fixed in a fight. Each member with its dtype and its axes."""

    LAYOUT: ClassVar = {
        "rules": (RULES, "one"),
        "units": (UNITS, "unit"),
        "bases": (BASES, "unit stat"),  # before buffs, limits and rounding
        "stats": (STATS, "stat"),
        "stat_order": (WHOLE, "stat"),  # each after those that it reads
        "gauges": (GAUGES, "gauge"),
        "flows": (FLOWS, "flow"),
        "fronts": (WHOLE, "front"),  # gauges that stand before another
        "takes": (FLOAT, "gauge kind"),  # what a point of a kind costs a gauge in front; 0: it goes past
        "kinds": (KINDS, "kind"),
        "against": (FLOAT, "kind unit"),  # what a kind does to a unit's class
        "stops": (WHOLE, "unit kind"),  # 1: its invulnerability after a hit stops this kind
        "bars": (WHOLE, "bar"),  # page slots of marks that bar a kind or a buff
        "own_marks": (WHOLE, "own_mark"),  # page slots of marks that units bear from the beginning
        "extras": (EXTRAS, "extra"),
        "rolls": (ROLLS, "roll"),
        "faces": (FACES, "face"),
        "parts": (PARTS, "part"),
        "drops": (WHOLE, "drop"),  # abilities that go with a part
        "abilities": (ABILITIES, "ability"),
        "loads": (WHOLE, "load"),  # kinds of hits that projectiles bring
        "jumps": (FLOAT, "jump"),  # the speeds at which units take off, in metres per second
        "straights": (STRAIGHTS, "straight"),  # how missiles fly that do not follow their target
        "effects": (EFFECTS, "effect"),
        "strips": (WHOLE, "strip"),  # buffs that an effect takes off
        "buffs": (BUFFS, "buff"),
        "changes": (CHANGES, "change"),
        "barred": (WHOLE, "barred"),  # abilities that buffs bar
        "shares": (FLOAT, "share"),  # by how much buffs get shorter
        "reactions": (REACTIONS, "reaction"),
        "mitigations": (MITIGATIONS, "mitigation"),
        "plays": (PLAYS, "play"),
        "mine": (MINE, "mine"),
        "seen": (SEEN, "seen"),  # what lines ask of the fight
        "known": (KNOWN, "known"),
        "forms": (FORMS, "form"),
        "place": (PLACE, "one"),
        "spots": (SPOTS, "spot"),
        "supplies": (SUPPLIES, "supply"),
        "zones": (ZONES, "zone"),
        "walls": (WALLS, "wall"),
        "corners": (FLOAT, "corner two"),  # a hair beyond the ends of walls, where one can go round them
        "ways": (FLOAT, "corner corner"),  # how far it is from one to another, round all walls
        "heights": (HEIGHTS, "height"),
        "laid": (LAID, "laid"),  # those of the arena
        "checkpoints": (CHECKPOINTS, "checkpoint"),
        "wins": (WINS, "win"),
        "asked_for": (WHOLE, "asked_for"),  # units that ways to win ask for
        "lines": (LINES, "line"),
        "slots": (SLOTS, "slot"),
        "readers": (WHOLE, "reader"),  # lines
        "code": (CODE, "instruction"),
        "constants": (FLOAT, "constant"),
    }
