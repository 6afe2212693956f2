"""What is fixed in each compiled program: the fields that hold one value in all fights that it is for.

The compiler leaves out what such a value rules out: a program for few features is several times as small as the one
for all of them, and its fights take down to half as long. What a fight uses decides which programs it fits; the results
are the same in all of them. `engine/native/fitting.py` chooses, `engine/compiler/emit.py` makes them.
"""

from __future__ import annotations

from collections.abc import Mapping

Fixed = Mapping[str, Mapping[str, int]]
"""By member and field: the value."""


def _absent(zero: str = "", none: str = "", one: str = "", **others: int) -> dict[str, int]:
    """Return the values of fields that are 0, -1 or 1 where nothing uses what they tell of, and of some others."""
    return {
        **dict.fromkeys(zero.split(), 0),
        **dict.fromkeys(none.split(), -1),
        **dict.fromkeys(one.split(), 1),
        **others,
    }


ABSENT: Fixed = {
    "rules": _absent(
        "downs_at_once initiative_drawn invulnerable_next gauges_read beats_meet evens reacts figures controls "
        "mitigates ends_on lists branches follows kept_off earns opens_drawn varies placed sided watched forms "
        "meanwhile takes more_downs pays priorities wins foe_down holding zones company vast turns walks_first spends "
        "helps_fallen line_times",
        none="initiative initiative_roll actions",
        one="judged",
        usual=10**9,
    ),
    "place": _absent("goal goal_ticks"),
    "units": _absent(
        "worn segmented mistakes delay heedless spared_ticks arrives first_form last_form first_reaction last_reaction "
        "first_mitigation last_mitigation first_mark last_mark first_jump last_jump",
        none="harder broken_buff root called arrives_when",
        one="lives",
    ),
    "stats": _absent("rounding", none="is_line floor_line ceiling_line"),
    "gauges": _absent(
        "first_front last_front followed rises bottom opens_points keeps", none="roll acting dealing taking"
    ),
    "flows": _absent("after_harm after_cost", none="when", one="gains"),
    "kinds": _absent(
        "heals held_back limited moving first_roll last_roll first_extra last_extra first_bar last_bar",
        none="even avoid within graze_times block_chance block_times resist guard_when guard_times",
        one="tiers",
    ),
    "parts": _absent("vital lost first_drop last_drop", none="own"),
    "abilities": _absent(
        "beside cancels on_the_move from_finish priority interruptible projectile at_place outline at_user split dash "
        "dash_to lunge lunge_returns jumps afterwards channel_every through_walls",
        none="requires shared uses channel channel_times lays windup_times recovery_times cooldown_times most falloff "
        "each_times to dash_times straight",
        one="charges single",
    ),
    "effects": _absent(
        "most stacks by by_times first last to later every branches",
        none="part steal when if_ chance avoid even after again later_times every_times",
    ),
    "buffs": _absent(
        "of ends again controls carries fades first_replaced last_replaced first_bar last_bar first_reaction "
        "last_reaction first_mitigation last_mitigation outlasts_down bars hides ends_on first_barred last_barred "
        "first_granted last_granted breaks_off first_share last_share forgets",
        none="every_times lasts_times lasts_theirs catches_at breaks_at dulls aims_at fights_for walks",
        one="copies a_giver",
    ),
    "changes": _absent(none="line varied roll"),
    "plays": _absent(
        "what away most turns brings looks_round sided first_mine last_mine", none="weight turn when if_ part best"
    ),
    "lines": _absent("moving sees"),
    "run": _absent("recording fixed_luck every"),
    "request": {"common": 1},
}
"""What each field holds where nothing uses what it tells of."""
RUN = "run"
"""The member of states that says how fights are fought. It and `request` are no tables."""


def _without(*features: str, placed: int = 0) -> Fixed:
    """Return what is fixed where these are in use: `member.field`, or a member for all of its fields."""
    used = set(" ".join(features).split())
    fixed = {
        member: {field: value for field, value in fields.items() if f"{member}.{field}" not in used}
        for member, fields in ABSENT.items()
        if member not in used
    }
    return {**fixed, "rules": {**fixed["rules"], "placed": placed}}


OFTEN = (
    "rules.follows rules.kept_off rules.earns rules.initiative rules.initiative_drawn rules.gauges_read "
    "rules.beats_meet rules.invulnerable_next rules.spends rules.helps_fallen rules.line_times lines.moving parts"
)
"""What many encounters use."""
ANSWERS = (
    "rules.reacts rules.lists rules.branches rules.mitigates rules.controls rules.ends_on rules.evens rules.figures"
)
"""What some do: reactions, mitigations, effects that hang on more, control, stats that hang on others."""
DETAILS = "units stats changes kinds gauges flows abilities effects buffs plays"
ENTER = "enter"
FIXED: dict[str, Fixed] = {
    "enter_plain": ABSENT,
    "enter_duel": _without(
        OFTEN,
        "units.worn units.segmented units.harder units.broken_buff units.mistakes units.delay units.heedless",
        "units.spared_ticks units.lives units.first_mark units.last_mark units.first_jump units.last_jump",
        "stats.rounding changes.roll flows.after_harm flows.after_cost",
        "kinds.heals kinds.held_back kinds.moving kinds.first_extra kinds.last_extra kinds.first_bar kinds.last_bar",
        "kinds.block_chance kinds.block_times kinds.resist kinds.guard_when kinds.guard_times",
        "gauges.first_front gauges.last_front gauges.followed gauges.acting gauges.dealing gauges.taking",
        "gauges.opens_points gauges.roll gauges.keeps",
        "abilities.charges abilities.single abilities.most abilities.falloff abilities.each_times",
        "abilities.projectile abilities.lunge abilities.dash abilities.from_finish abilities.interruptible",
        "abilities.uses abilities.requires",
        "effects.part effects.steal effects.most effects.when effects.if_ effects.chance effects.avoid",
        "effects.even effects.after effects.again effects.later_times effects.every_times",
        "buffs.catches_at buffs.fades buffs.first_bar buffs.last_bar buffs.first_replaced buffs.last_replaced",
        "buffs.outlasts_down buffs.aims_at buffs.fights_for buffs.walks buffs.again buffs.copies buffs.a_giver",
        "plays.what plays.when plays.if_ plays.part plays.away plays.looks_round",
    ),
    "enter_room": _without(OFTEN, ANSWERS, DETAILS, "rules.zones"),
    "enter_battle": _without(
        "rules.spends rules.helps_fallen rules.line_times rules.sided",
        "parts place units stats changes kinds abilities effects buffs",
        placed=1,
    ),
    "enter_arena": _without(OFTEN, ANSWERS, DETAILS, "rules.sided place", placed=1),
    ENTER: {},
}
"""By program, those for the fewest features first: plain duels; duels; whatever else is nowhere in particular; battles
on an arena; whatever else is on one; everything, which is also what is recorded and what a script does."""
