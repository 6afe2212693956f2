"""Which tests hold the points of the reference page on areas and zones."""

from __future__ import annotations

HELD_OF_PLACES = {
    "Who is tossed up": ["conformance.test_tosses: who_is_tossed_up"],
    "A wall within an arena": [
        "conformance.test_walls: who_is_behind_a_wall",
        "conformance.test_walls: what_goes_through_walls",
        "conformance.test_walls: who_goes_out_of_sight",
        "conformance.test_walls: an_area_ends_at_walls",
    ],
    "Who walks to somewhere": [
        "conformance.test_walls: the_shortest_way_round_one",
        "conformance.test_walls: the_shortest_way_round_many",
        "conformance.test_walls: where_there_is_no_way",
        "conformance.test_walls: nobody_crosses_a_wall",
    ],
    "Who slides into a wall": [
        "conformance.test_walls: what_a_wall_takes",
        "conformance.test_walls: only_the_speed_into",
    ],
    "A unit faces the nearest foe": [
        "conformance.test_facing: one_turns_to_what",
        "conformance.test_facing: from_in_front_from_the_side",
    ],
    "`behind` is how far behind": [
        "conformance.test_facing: from_in_front_from_the_side",
        "conformance.test_facing: a_blow_from_behind",
        "conformance.test_facing: plays_see_whose_back",
        "conformance.test_facing: without_a_place",
    ],
    "Who stands on raised ground": ["conformance.test_facing: how_much_higher"],
    "A group with `arrives`": [
        "conformance.test_company: who_arrives_at_a_time",
        "conformance.test_company: on_a_condition",
    ],
    "A side with somebody yet to arrive": [
        "conformance.test_company: a_side_that_waits_for_help",
        "conformance.test_company: help_that_comes_at_the_last_moment",
    ],
    "A call brings units at once": ["conformance.test_company: who_is_called_is_fresh"],
    "Of all that one unit": ["conformance.test_company: so_many_at_a_time", "conformance.test_company: what_splits"],
    "Who was called for a while": [
        "conformance.test_company: they_leave_after_a_while",
        "conformance.test_company: they_leave_with_their_giver",
    ],
    "Before they come and after": ["conformance.test_company: who_is_not_there"],
    "An area is a matter of distances": [
        "conformance.test_shapes: round_at_the_target_and_at_the_user",
        "conformance.test_shapes: a_cone",
        "conformance.test_shapes: a_line",
        "conformance.test_shapes: a_ring",
        "conformance.test_shapes: who_stands_where_the_user_stands",
    ],
    "Whom an area reaches comes": [
        "conformance.test_shapes: a_line_goes_from_the_user_outwards",
        "conformance.test_shapes: a_chain_jumps_to_the_nearest",
        "conformance.test_shapes: the_nearest_count_first",
    ],
    "An area that begins at its user": [
        "conformance.test_shapes: a_ring_round_the_user_and_a_cone",
        "conformance.test_shapes: whom_an_area_reaches",
    ],
    "What is used `at_place`": [
        "conformance.test_shapes: who_has_left_the_place",
        "conformance.test_shapes: a_projectile_flies_to_the_place",
        "conformance.test_shapes: a_place_stays_in_reach",
    ],
    "A missile with `straight` flies": [
        "conformance.test_straight: who_is_hit_and_when",
        "conformance.test_straight: it_ends_at_a_wall",
        "conformance.test_straight: on_the_same_spot_due_east",
    ],
    "In phase 3 of each tick it flies on": [
        "conformance.test_straight: who_is_hit_and_when",
        "conformance.test_straight: interception_to_the_tick",
    ],
    "Nobody is hit twice": ["conformance.test_straight: who_is_hit_and_when"],
    "An area is around each one": [
        "conformance.test_straight: it_bursts_at_each",
        "conformance.test_straight: each_time_less",
    ],
    "The ledger says how far somebody slid": [
        "conformance.test_leaps: the_speed_is_a_formula",
        "conformance.test_leaps: a_lunge_that_returns",
    ],
    "Who lands from the air": ["conformance.test_moving: who_lands_goes_on_recovering"],
    "A jump begins once": ["conformance.test_leaps: how_high_how_long_and_how_hard"],
    "In the air one does nothing": [
        "conformance.test_leaps: nobody_reaches_who_is_in_the_air",
        "conformance.test_leaps: a_dash_goes_on_in_the_air",
        "conformance.test_leaps: out_of_a_zone",
    ],
    "Over a ledge it falls on": ["conformance.test_leaps: over_an_edge_it_falls"],
    "A play with `later`": ["conformance.test_turns: who_puts_its_turn_off"],
    "With `grid` everybody stands": [
        "conformance.test_grid: everybody_stands_in_the_middle",
        "conformance.test_grid: a_slow_one_gets_there",
    ],
    "`counts` says how far it is": [
        "conformance.test_grid: who_is_in_reach",
        "conformance.test_grid: steps_are_counted",
        "conformance.test_grid: an_area_over_corners",
    ],
    "With `movement.radius` nobody": [
        "conformance.test_room: nobody_walks_into_the_room",
        "conformance.test_room: who_walks_goes_round",
        "conformance.test_room: a_slide_ends_at_another",
        "conformance.test_room: those_who_stand_within",
    ],
    "Who flies, by `movement.flies`": [
        "conformance.test_room: over_walls",
        "conformance.test_room: not_over_edges",
        "conformance.test_room: it_is_above",
    ],
    "A step puts its user": [
        "conformance.test_steps: where_a_step_ends",
        "conformance.test_steps: it_ends_within_the_arena",
        "conformance.test_steps: on_the_same_spot_the_way",
    ],
    "Of several amounts of one use": [
        "conformance.test_shapes: less_for_each_that_it_pierces",
        "conformance.test_shapes: split_among_all",
        "conformance.test_shapes: fall_off_from_the_middle",
    ],
    "A zone is laid where": [
        "conformance.test_zones: an_ability_lays_one_where",
        "conformance.test_zones: it_stays_where_its_receiver_fell",
        "conformance.test_zone_buffs: an_aura_goes_with_its_bearer",
    ],
    "Zones are looked at once a tick": [
        "conformance.test_zone_buffs: slow_ground_slows",
        "conformance.test_zones: a_zone_beats_until_it_ends",
    ],
    "Within means at most": [
        "conformance.test_zones: who_is_within_by_geometry",
        "conformance.test_zones: without_a_place_everybody",
    ],
    "A zone laid on tick t": [
        "conformance.test_zones: one_that_arms_takes_nobody",
        "conformance.test_zone_buffs: a_trap_springs_once",
        "conformance.test_zones: a_ring_that_closes",
    ],
    "What a zone does is done by": [
        "conformance.test_zones: whom_it_takes",
        "conformance.test_zone_buffs: an_arenas_zone_is_of_who",
    ],
    "The buff of `inside`": [
        "conformance.test_zone_buffs: a_buff_with_a_time_lasts_on",
        "conformance.test_zone_buffs: where_two_meet_the_buff_is_one",
    ],
    "Who goes down or flees": [
        "conformance.test_zone_buffs: an_aura_goes_with_its_bearer",
        "conformance.test_zones: the_next_one_ends_the_oldest",
    ],
}
"""By the first words of each point: the tests that hold it."""
