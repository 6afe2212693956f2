"""Which tests hold the points of the reference page on the tick."""

from __future__ import annotations

HELD_BY = {
    "The first tick is 0": ["engine.test_tick: an_ability_without_windup_lands_on_the_tick_it_is_used"],
    "A refill or beat of period p": [
        "engine.test_pulse: the_first_refill_is_one_period_away",
        "engine.test_pulse: a_buff_of_5_s_that_beats_each_second",
    ],
    "Used on tick t": [
        "engine.test_tick: used_on_t_it_lands",
        "engine.test_tick: one_use_a_tick",
        "engine.test_tick: a_target_that_is_down_by_the_time",
        "conformance.test_fine_points: downed_in_the_wind_up",
    ],
    '`down_at = "end_of_tick"`': [
        "conformance.test_fine_points: at_zero_one_may_still_act",
        "conformance.test_fine_points: one_healed_above_zero",
        "conformance.test_downs: a_drain_a_cost_and_a_lost_top",
        "conformance.test_downs: who_goes_down_asks_its_condition",
        "conformance.test_downs: those_who_go_down_together",
        "conformance.test_downs: the_rest_of_its_own_list",
    ],
    "A drain is a loss": ["conformance.test_downs: a_drain_is_a_loss_and_not_a_hit"],
    "Power, aim and the dealer's": [
        "conformance.test_place: power_is_read_when_it_leaves",
        "conformance.test_place: a_projectile_arrives_on_the_first_tick",
        "conformance.test_abilities: so_many_targets_each_with_a_draw",
    ],
    "**Two projectiles in one tick**": [
        "conformance.test_hits: two_projectiles_that_arrive",
        "conformance.test_hits: a_second_hit_in_the_same_tick",
        "conformance.test_fine_points: beats_go_on_and_it_is_not_begun_anew",
    ],
    "A reaction follows the hit": [
        "conformance.test_reactions: the_answer_follows_its_cause",
        "conformance.test_reactions: each_condition_is_read",
        "conformance.test_reactions: a_reflected_hit",
        "conformance.test_many: reactions_without_an_end",
        "conformance.test_fine_points: before_the_next_effect_of_the_list",
    ],
    "A target that is down, falling": [
        "conformance.test_place: a_target_that_is_down_by_then",
        "conformance.test_place: who_is_out_of_reach_when_it_lands",
        "conformance.test_fine_points: who_falls_is_no_target",
    ],
    "A buildup's meter": [
        "conformance.test_buffs: it_catches_when_its_meter_is_full",
        "conformance.test_fine_points: while_its_buff_is_on_nothing_builds_up",
    ],
    "A fall from height h": [
        "conformance.test_edges: pushed_over_a_ledge",
        "conformance.test_edges: a_fall_within_the_safe_speed",
        "conformance.test_edges: a_pit_spares_nobody",
        "conformance.test_fine_points: who_falls_is_no_target",
    ],
    "A push sets its target": ["conformance.test_place: the_weight_divides_the_speed"],
    "Who goes down with a life left": [
        "conformance.test_edges: at_the_last_checkpoint",
        "conformance.test_waiting: who_returns_onto_a_supply",
    ],
    "Of several checkpoints": ["conformance.test_waiting: of_two_checkpoints_side_by_side"],
    "A dash sets its user": ["conformance.test_place: no_dash_while_one_still_slides"],
    "In rounds, those who may": [
        "conformance.test_choosing: more_actions_where_a_formula",
        "conformance.test_many: no_actions_are_none",
    ],
    "A gauge refills at exactly": ["conformance.test_rounding: a_gauge_refills_at_exactly_its_rate"],
    '`again = "refresh"`': [
        "engine.test_pulse: refresh_moves_the_end",
        "engine.test_pulse: buffs_end_when_their_bearer",
    ],
    "Nothing changes the gauge": [
        "conformance.test_gauges: nothing_refills_on_the_downed",
        "conformance.test_fine_points: nothing_heals_or_harms_the_downed",
    ],
    "The time-limit is judged": ["engine.test_limits: a_fight_decided_on_the_last_tick"],
    "A unit that is free but can use nothing": [
        "conformance.test_waiting: a_healer_hurt_at_2_s",
        "conformance.test_waiting: a_cost_that_a_hit_earns",
        "engine.test_every_tick: skipping_ticks_shows_in_no_ledger",
    ],
    "A unit goes for the one": ["conformance.test_waiting: a_target_that_no_play_wants_any_more"],
    "Where a figure is rounded": [
        "conformance.test_rounding: decimal_arithmetic_is_kept",
        "conformance.test_rounding: formulas_stats_and_amounts_agree",
    ],
    "An effect with conditions comes in three steps": [
        "conformance.test_effects: when_is_read_on_the_users_page",
        "conformance.test_effects: groups_of_receivers",
        "conformance.test_effects: repeat_is_rounded_down",
    ],
    "`after` asks what": [
        "conformance.test_effects: after_a_hit_a_miss",
        "conformance.test_effects: a_missed_hit_keeps_from_its_target",
        "conformance.test_effects: of_several_times_one_hit_is_enough",
        "conformance.test_effects: a_hit_that_had_no_luck",
    ],
    "A chance is `chance` less": [
        "conformance.test_effects: a_chance_less_what_avoids_it",
        "conformance.test_effects: each_of_several_times",
        "conformance.test_effects: a_group_shares_one_chance",
        "conformance.test_effects: the_ledger_says_what_was_drawn",
    ],
    "What is put off happens in phase 5": [
        "conformance.test_effects: conditions_of_what_is_put_off",
        "conformance.test_effects: what_is_put_off_goes_by_initiative",
    ],
    "What comes later comes even if": ["conformance.test_effects: what_is_put_off_comes_though_its_user"],
    "A group begins with what": ["conformance.test_effects: a_group_knows_what_was_hit"],
    "A channel happens for the first time": [
        "conformance.test_effects: a_wind_up_that_goes_on",
        "conformance.test_effects: a_wind_up_that_is_broken_off",
    ],
    "What an event is about": [
        "conformance.test_events: kind_ability_part",
        "conformance.test_events: every_nth_time_and_a_rest",
        "conformance.test_events: a_chance",
    ],
    "What a reaction does itself": [
        "conformance.test_events: what_it_does_does_not_set_it_off",
        "conformance.test_events: two_may_still_answer",
    ],
    "A reaction to another's use": ["conformance.test_events: an_answer_comes_before"],
    "A buff that ends by its time": [
        "conformance.test_events: giving_beginning_ending",
        "conformance.test_events: a_buff_that_ends_as_its_bearer_goes_down",
    ],
    "A gauge sets off `falling`": [
        "conformance.test_events: emptied_filled_and_crossing",
        "conformance.test_events: a_top_that_changes",
    ],
    "A buff that bars `acting`": ["conformance.test_control: what_is_wound_up_goes_on"],
    "A buff that bars `reacting`": ["conformance.test_control: reacting"],
    "Of several buffs that make": ["conformance.test_control: of_several_taunts_the_last_counts"],
    "A unit that fights for the other side": ["conformance.test_control: the_lured_still_count_on_their_own_side"],
    "A buff that ends on `acting`": ["conformance.test_control: the_hit_that_ends_it_still_profits"],
    "A buff with `breaks_at`": ["conformance.test_control: by_so_much_harm"],
    "A buff that diminishes": ["conformance.test_control: shorter_each_time"],
    "Mitigations come after rounding": [
        "conformance.test_mitigation: times_passes_and_leaves",
        "conformance.test_mitigation: a_gauge_in_front",
        "conformance.test_mitigation: buffs_come_before_the_class",
    ],
    "Of one mitigation": ["conformance.test_mitigation: death_is_cheated_once"],
    "What is passed on": ["conformance.test_mitigation: what_is_passed_on_is_neither_soaked"],
    "Each stat is settled after": [
        "conformance.test_figures: it_is_worked_out_after_what_it_reads",
        "conformance.test_figures: rings_are_shown",
    ],
    "Where a stat reads a gauge": ["conformance.test_figures: a_figure_follows_a_gauge"],
}
"""By the first words of each point of the page: the tests that hold it."""
