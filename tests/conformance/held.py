"""Which tests hold the points of the reference page on the tick."""

from __future__ import annotations

from .held_of_places import HELD_OF_PLACES

HELD_BY = {
    **HELD_OF_PLACES,
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
    "Whether one side alone stands is judged first": [
        "conformance.test_wins: the_leader_falls",
        "conformance.test_wins: a_draw_where_both_reach",
        "conformance.test_wins: points_for_holding_a_place",
        "conformance.test_wins: points_for_foes_that_go_down",
    ],
    'In rounds with `turns = "one_by_one"`': [
        "conformance.test_turns: each_acts_before_the_next",
        "conformance.test_turns: who_chooses_sees",
        "conformance.test_turns: several_actions_are_done",
        "conformance.test_turns: what_was_wound_up",
    ],
    'With `turns = "side_by_side"`': ["conformance.test_turns: one_side_after_the_other"],
    'With `walks = "first"`': ["conformance.test_turns: walking_first_reaches"],
    "Who has gone down before its turn": ["conformance.test_turns: who_is_felled_before_its_turn"],
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
    "A push `towards` a fixed": ["conformance.test_place: a_push_towards_a_fixed_direction"],
    "Who goes down with a life left": [
        "conformance.test_edges: at_the_last_checkpoint",
        "conformance.test_waiting: who_returns_onto_a_supply",
    ],
    "Of several checkpoints": [
        "conformance.test_waiting: of_two_checkpoints_side_by_side",
        "conformance.test_checkpoints: each_time_once_and_in_order",
        "conformance.test_checkpoints: where_one_returns",
    ],
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
    "`moving` and `foe_moving` come": [
        "conformance.test_moving: who_moves_pays_for_each_metre",
        "conformance.test_moving: overwatch",
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
    "Of one mitigation": [
        "conformance.test_mitigation: death_is_cheated_once",
        "conformance.test_mitigation: times_passes_and_leaves",
        "conformance.test_bodies: armour_of_a_part",
    ],
    "What mends fills the gauge": [
        "conformance.test_bodies: a_part_is_whole_again",
        "conformance.test_bodies: half_a_part_is_still_broken",
    ],
    "What is passed on": ["conformance.test_mitigation: what_is_passed_on_is_neither_soaked"],
    "Each stat is settled after": [
        "conformance.test_figures: it_is_worked_out_after_what_it_reads",
        "conformance.test_figures: rings_are_shown",
    ],
    "Where a stat reads a gauge": [
        "conformance.test_figures: a_figure_follows_a_gauge",
        "conformance.test_figures: a_figure_follows_the_share",
    ],
    "A play's `when` and `if`": [
        "conformance.test_seeing: the_time_since_the_start_is_seen_on_the_very_tick",
        "conformance.test_seeing: how_many_are_left_and_near",
        "conformance.test_seeing: a_fight_with_every_tick_played_is_the_same",
    ],
    "Lines that a play names under": [
        "conformance.test_seeing: if_reads_lines_of_the_users_own",
        "conformance.test_seeing: the_least_and_the_most_of_a_formula",
        "conformance.test_seeing: those_that_are_equally_good_fall_by_a_draw",
    ],
    "Plays with a `weight`": [
        "conformance.test_seeing: weights_share_the_uses",
        "conformance.test_seeing: what_has_no_weight_or_cannot_be_carried_out",
    ],
    "Plays with a `turn`": ["conformance.test_seeing: turns_go_round_and_wait"],
    "Where abilities have a `priority`": ["conformance.test_seeing: a_higher_priority_lands_first"],
    "What `requires` asks": ["conformance.test_altered: what_an_ability_requires"],
    "An ability that is used `beside`": [
        "conformance.test_altered: beside_takes_effect_at_once",
        "conformance.test_altered: without_it_nothing_is_different",
    ],
    "An ability that `cancels`": ["conformance.test_altered: what_cancels_ends_the_recovery"],
    "A gauge that wanes": ["conformance.test_flows: what_wanes_goes_down_to_nothing_and_no_further"],
    "`after_harm` and `after_cost`": ["conformance.test_flows: both_wait_after_a_cost_and_after_harm"],
    "A gauge in front takes harm": [
        "conformance.test_flows: which_kinds_it_takes_and_how_dearly",
        "conformance.test_flows: a_kind_that_goes_past_it",
        "conformance.test_flows: whatever_is_taken_the_harm_is_whole",
    ],
    "A top that rises does": [
        "conformance.test_flows: what_a_top_that_rises_does",
        "conformance.test_flows: a_shield_of_a_buff_ends_with_it",
    ],
    "A cost may take a gauge below 0": ["conformance.test_flows: below_zero_down_to_the_bottom"],
    "Each gauge with `downs`": ["conformance.test_flows: each_gauge_that_downs"],
    "What a damage kind names under": [
        "conformance.test_rolls: both_ends_come_up_and_nothing_beyond",
        "conformance.test_rolls: hits_are_as_the_closed_form_says",
        "conformance.test_rolls: an_entry_tells_what_was_drawn",
    ],
    "A deck is shuffled": ["conformance.test_rolls: a_deck_gives_each_card_once"],
    "Where a chance evens out": [
        "conformance.test_rolls: criticals_come_as_often_as_said",
        "conformance.test_rolls: an_effect_whose_chance_evens_out",
    ],
    "A hit that misses by no more": ["conformance.test_rolls: hits_are_as_the_closed_form_says"],
    "A block has a draw": ["conformance.test_rolls: a_whole_distribution_is_as_the_time_to_kill_says"],
    "What a class varies": [
        "conformance.test_rolls: each_unit_varies_in_each_fight",
        "conformance.test_rolls: trials_and_single_fights_see_the_same_luck",
    ],
    "With `initiative_drawn": ["conformance.test_rolls: initiative_is_rolled_for_the_fight"],
    'A buff `of = "each_giver"`': [
        "conformance.test_whose: one_for_all_or_one_of_each_giver",
        "conformance.test_whose: they_count_together",
        "conformance.test_whose: a_strip_a_filter_and_a_count",
    ],
    'A buff `of = "one_target"`': ["conformance.test_whose: on_one_bearer_only"],
    'Stacks that end `"together"`': [
        "conformance.test_whose: together_one_by_one_and_each",
        "conformance.test_whose: with_more_than_there_is_room_for",
    ],
    "`carries` adds a share": ["conformance.test_whose: a_share_of_what_is_left_is_carried_over"],
    "A buff that is taken, handed over": [
        "conformance.test_whose: taken_with_its_stacks",
        "conformance.test_whose: copied_and_handed_over",
        "conformance.test_whose: the_newest_goes_first",
    ],
    "What a buff `replaces`": ["conformance.test_whose: a_buff_takes_others_off_as_it_begins"],
    "An alteration first writes": [
        "conformance.test_altered: what_is_written_takes_its_place",
        "conformance.test_altered: gear_and_levels_of_an_upgrade",
    ],
    "A buff alters what its bearer does": ["conformance.test_altered: a_buff_alters_while_it_lasts"],
    "An ability that `becomes` another": ["conformance.test_altered: another_ability_takes_its_place"],
    "A buff that grants an ability": ["conformance.test_altered: a_buff_grants_what_its_bearers_playbook_has"],
}
"""By the first words of each point of the page: the tests that hold it."""
