"""Every kind of cure that the ledger offers is taken once, in a test whose plan has the finding: it is gone afterwards.

The table says which of the tests sees which kinds, as "code of the finding, change that the cure makes"; `watched`
notes the plans that such a test evaluates, `all_mend` takes the cures when it is over.
"""

from __future__ import annotations

from collections.abc import Iterable

import pytest

from lean_ledger.core.basis.findings import Cure, Finding
from lean_ledger.core.changes import read_change
from lean_ledger.core.changes.scene import Scene
from lean_ledger.core.ledger import evaluate as evaluating
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan
from lean_ledger.library import Library

Seen = list[tuple[Plan, Part, Library]]

TESTS = "tests/"
OFFERED: dict[str, tuple[str, ...]] = {
    "core/program/test_joined.py::test_one_file_runs_as_its_setups_do[sonde-carrier]": (
        "tool-called-again group-by-tool",
    ),
    "core/test_bar_collet.py::test_bar_between_two_sizes_and_one_too_thick_are_named": (
        "collet-size set-fixture",
        "collet-size set-hold",
        "collet-size set-stock",
        "no-blade set-cut-off",
    ),
    "core/test_bar_collet.py::test_blade_needs_room_before_the_nose": (
        "cut-off-in-jaws set-allowance",
        "cut-off-in-jaws set-cut-off",
    ),
    "core/test_bar_collet.py::test_piece_that_is_not_cut_off_stays_on_its_bar": ("blanks-on-bar set-buy",),
    "core/test_bar_collet.py::test_what_is_no_bar_is_refused[block]": (
        "no-bar set-fixture",
        "no-bar set-stock",
    ),
    "core/test_bars.py::test_bar_that_stands_out_far_whips_and_the_cure_takes_fewer": ("bar-whips set-arrangement",),
    "core/test_bars.py::test_without_a_bar_or_a_blade_there_is_one_piece": (
        "cut-below-jaws set-allowance",
        "hole-short move-feature",
        "not-as-arranged set-arrangement",
        "stays-on-bar set-cut-off",
        "stays-on-bar set-fixture",
        "stays-on-bar set-hold",
    ),
    "core/test_beside.py::test_speed_that_is_shared_on_one_turret_is_found_and_mended": (
        "shares-for-nothing own-speed",
    ),
    "core/test_beside.py::test_speed_that_is_too_fast_for_one_is_found_and_mended": ("shared-too-fast share-speed",),
    "core/test_beside.py::test_tap_reverses_the_spindle_and_shares_it_with_nobody": ("alone-on-spindle own-speed",),
    "core/test_between_walls.py::test_pulley_is_turned_whole_with_more_stock_to_hold_it_by[al-6082]": (
        "grip-not-flat set-hold",
        "no-operation leave-out",
    ),
    "core/test_bodies.py::test_body_whose_side_a_revision_took_away_is_an_error": ("body-without-side drop-body",),
    "core/test_bodies.py::test_boss_is_round_and_moves_with_its_place": (
        "body-stays-on drop-body",
        "body-stays-on remove-body",
    ),
    "core/test_bodies.py::test_filled_hole_is_not_made_and_not_forgotten": ("filled-for-now take-in",),
    "core/test_boring_head.py::test_head_by_hand_that_does_not_fit_is_an_error": ("head-size edit-operation",),
    "core/test_boring_head.py::test_head_holds_one_size_in_a_setup": ("head-set-twice edit-operation",),
    "core/test_boring_head.py::test_rule_that_is_not_trusted_says_so": (
        "tolerance-not-made leave-out",
        "tolerance-not-made say-tolerance",
    ),
    "core/test_by_hand.py::test_empty_plan_has_one_setup_and_everything_waits": (
        "no-operation add-setup",
        "not-placed divide-again",
        "outline-short add-setup",
        "outline-short set-allowance",
    ),
    "core/test_by_hand.py::test_feature_that_no_setup_reaches_yet_says_which_side_would": ("no-drill leave-out",),
    "core/test_chains.py::test_chain_that_forgets_a_thread_is_an_error": ("thread-not-made make-as",),
    "core/test_chains.py::test_choice_without_its_tool_or_its_rule_is_said_and_the_rules_choose": (
        "no-such-rule make-as",
        "rule-lacks-tool make-as",
    ),
    "core/test_cells.py::test_cell_that_is_too_slow_is_found_with_what_helps": ("cell-too-slow set-cell",),
    "core/test_changes.py::test_change_is_worded_and_its_plan_can_be_evaluated[setup S2: X+ up]": (
        "grip-over-edge set-hold",
    ),
    "core/test_depths.py::test_blind_hole_drilled_too_deep_is_an_error_and_a_through_one_may_go_farther": (
        "cut-too-deep set-depth",
    ),
    "core/test_depths.py::test_deeper_takes_longer": ("cut-short set-depth",),
    "core/test_depths.py::test_face_that_a_revision_took_away_is_said_and_the_rule_stands": ("no-depth set-depth",),
    "core/test_division.py::test_feature_asked_to_come_first_does": (
        "comes-late divide-again",
        "comes-late drop-wish",
    ),
    "core/test_division.py::test_features_asked_to_stay_together_move_as_one": (
        "not-together divide-again",
        "not-together drop-wish",
    ),
    "core/test_drilling.py::test_missing_tap_is_a_finding_that_names_the_holes": ("no-tap set-thread",),
    "core/test_engaged.py::test_conventional_roughing_is_in_steps": ("not-that-way edit-operation",),
    "core/test_engraving.py::test_face_that_no_mill_looks_at_is_named": ("not-engraved remove-engraving",),
    "core/test_engraving.py::test_letters_over_a_hole_or_the_edge_are_a_finding": (
        "engraved-off-face remove-engraving",
    ),
    "core/test_drum.py::test_cut_before_the_last_position_is_found_and_spreading_mends_it": (
        "cut-off-early spread-out",
    ),
    "core/test_drum.py::test_slide_with_two_tools_is_found_and_spreading_mends_it": ("slide-full spread-out",),
    "core/test_drum.py::test_tool_on_the_wrong_slide_is_refused_and_found_and_spreading_mends_it": (
        "wrong-slide spread-out",
    ),
    "core/test_drum.py::test_what_comes_too_early_is_found_and_spreading_mends_it": ("too-early spread-out",),
    "core/test_handover.py::test_short_piece_would_meet_the_blade_and_each_end_goes_by_itself": (
        "counter-meets-blade load-apart",
    ),
    "core/test_handover.py::test_what_no_longer_goes_over_is_said_and_taken_apart": ("not-as-arranged load-apart",),
    "core/test_first_machine.py::test_no_single_machine_makes_it_for_less[flange]": ("vise-opening set-hold",),
    "core/test_first_machine.py::test_round_part_that_a_mill_leaves_things_of_begins_on_a_lathe_from_a_bar[82]": (
        "grip-not-flat set-fixture",
    ),
    "core/test_foreign.py::test_program_that_another_machine_cannot_read_is_a_finding_and_our_motion_counts": (
        "program-unread detach-program",
    ),
    "core/test_forms.py::test_a_slot_that_no_mill_fits_is_told_with_what_would": ("no-form-mill leave-out",),
    "core/test_grips.py::test_each_cure_of_ears_that_bend_cures_them": (
        "ears-bend set-force",
        "ears-bend set-hold",
        "ears-bend set-spacer",
        "ears-bend set-turn",
        "grip-slips set-hold",
    ),
    "core/test_habits.py::test_tool_by_hand_that_does_not_come_everywhere_is_an_error": ("too-thick edit-operation",),
    "core/test_indexed.py::test_machine_without_a_rotary_is_a_finding_with_the_machines_that_turn": (
        "no-rotary set-indexed",
    ),
    "core/test_jaws_on_solids.py::test_jaws_touch_at_least_what_the_plan_says[2]": (
        "no-seat set-hold",
        "no-seat set-turn",
    ),
    "core/test_layout.py::test_as_many_fit_as_the_travel_has_room_for": ("past-travel set-arrangement",),
    "core/test_layout.py::test_control_without_enough_words_is_found_and_sharing_cures_it": (
        "too-few-offsets set-offsets",
    ),
    "core/test_layout.py::test_journal_says_what_was_done_to_a_load": ("neighbour-too-near set-arrangement",),
    "core/test_layout.py::test_piece_moved_onto_another_is_found": ("pieces-overlap set-arrangement",),
    "core/test_layout.py::test_sides_are_left_out_on_a_machine_without_a_rotary_and_rows_in_a_lathe": (
        "no-mount set-carriers",
    ),
    "core/test_layout.py::test_word_named_twice_is_found_and_cured": ("offset-doubled set-offsets",),
    "core/test_ledger.py::test_wrong_value_is_a_finding_whose_cure_mends_it[edit0-power]": (
        "feed-beyond-tool edit-operation",
        "power edit-operation",
    ),
    "core/test_ledger.py::test_wrong_value_is_a_finding_whose_cure_mends_it[edit1-speed]": (
        "speed edit-operation",
        "speed-beyond-tool edit-operation",
    ),
    "core/test_ledger.py::test_wrong_value_is_a_finding_whose_cure_mends_it[edit2-step-too-deep]": (
        "step-too-deep edit-operation",
    ),
    "core/test_ledger.py::test_wrong_value_is_a_finding_whose_cure_mends_it[edit3-tool-unusable]": (
        "tool-unusable edit-operation",
    ),
    "core/test_ledger.py::test_wrong_value_is_a_finding_whose_cure_mends_it[edit5-drill-size]": (
        "drill-size edit-operation",
    ),
    "core/test_load_order.py::test_operation_taken_out_does_not_run_is_said_and_comes_back": ("taken-out take-out",),
    "core/test_load_order.py::test_precedence_by_hand_that_a_rule_came_to_contradict_is_left_out_and_said": (
        "before-lost not-before",
    ),
    "core/test_load_programs.py::test_row_that_is_longer_than_its_tombstone_is_found": (
        "past-carrier set-arrangement",
    ),
    "core/test_load_programs.py::test_side_that_there_is_not_and_a_machine_without_any": (
        "no-such-side set-arrangement",
    ),
    "core/test_new_plans.py::test_machine_that_leaves_the_least_where_none_makes_all": (
        "cut-below-jaws move-feature",
        "no-mill leave-out",
        "would-cut set-allowance",
    ),
    "core/test_pulled_bar.py::test_bar_that_would_be_pulled_past_the_blade_s_travel_is_found_and_fed_again": (
        "pulled-too-far pull-bar",
    ),
    "core/test_short_holes.py::test_hole_over_a_leg_is_drilled_from_the_wall_s_other_side[more0-set-up]": (
        "would-cut set-up",
    ),
    "core/test_short_holes.py::test_hole_over_a_leg_is_drilled_from_the_wall_s_other_side[more1-split-setup]": (
        "would-cut split-setup",
    ),
    "core/test_short_holes.py::test_hole_over_a_leg_is_drilled_from_the_wall_s_other_side[more2-move-feature]": (
        "would-cut move-feature",
    ),
    "core/test_one_cause.py::test_closed_hollow_is_one_finding_that_its_cure_mends": ("closed-hollow leave-out",),
    "core/test_one_pass.py::test_what_goes_round_turns_within_or_was_moved_runs_on_each": (
        "not-in-one-pass set-scope",
    ),
    "core/test_probing.py::test_where_sides_are_turned_up_nothing_is_probed_and_that_is_said": (
        "not-probed set-probe",
    ),
    "core/test_revisions.py::test_decision_on_a_feature_that_is_gone_is_listed_and_can_be_dropped": (
        "decided-for-gone drop-decisions",
    ),
    "core/test_revisions.py::test_decision_on_a_resized_feature_is_looked_at_again": (
        "decided-before confirm-features",
        "decided-before drop-decisions",
    ),
    "core/test_shopping.py::test_every_missing_tool_of_a_mill_is_asked_for": ("no-chamfer-mill leave-out",),
    "core/test_stock_sizes.py::test_list_without_a_size_is_a_finding_and_the_part_is_still_priced": (
        "no-stock-size set-stock",
    ),
    "core/test_stock_sizes.py::test_longer_revision_gets_a_longer_blank_and_a_fixed_one_does_not": (
        "stock-small set-stock",
    ),
    "core/test_threads.py::test_thread_without_a_name_or_a_left_handed_one_is_said": (
        "left-hand leave-out",
        "thread-not-named say-thread",
    ),
    "core/test_tool_calls.py::test_tool_that_wears_out_within_a_cycle_is_told_and_a_second_one_cures_it": (
        "worn-in-cycle edit-operation",
    ),
    "core/test_turning.py::test_groove_is_plunged_by_an_insert_that_fits": ("no-insert move-feature",),
    "core/test_turning.py::test_moving_between_lathes_leaves_the_milled_setup_on_its_mill": (
        "no-mount set-fixture",
        "no-mount set-hold",
    ),
    "core/test_zero.py::test_bore_counts_once_a_setup_before_has_made_it": ("zero-on-nothing set-zero",),
    "store/test_revisions_of_a_job.py::test_taking_a_revision_is_a_line_of_the_journal_with_its_price_and_is_undone": (
        "revision-waits take-revision",
        "thread-homeless forget-thread",
        "thread-homeless set-thread",
    ),
}


def watched(monkeypatch: pytest.MonkeyPatch) -> Seen:
    """The plans that are evaluated from now on, each with its part and library."""
    seen: Seen = []
    parts: list[Part] = []
    planned, settled = evaluating.planned_part, evaluating.settled

    def planned_part(part: Part, plan: Plan) -> Part:
        parts.append(part)
        return planned(part, plan)

    def settling(plan: Plan, part: Part, library: Library) -> object:
        seen.append((plan, parts.pop(), library))
        return settled(plan, part, library)

    monkeypatch.setattr(evaluating, "planned_part", planned_part)
    monkeypatch.setattr(evaluating, "settled", settling)
    return seen


def all_mend(seen: Seen, kinds: Iterable[str]) -> None:
    wanted = set(kinds)
    for plan, part, library in list(seen):
        if not wanted:
            return
        ledger = evaluating.evaluate(plan, part, library)
        for finding, cure in [(f, c) for f in ledger.findings for c in f.cures]:
            kind = f"{finding.code} {cure.change['change']}"
            if kind in wanted:
                wanted.remove(kind)
                changed, _ = read_change(cure.change).apply(plan, Scene(part, library, ledger))
                after = evaluating.evaluate(changed, part, library).findings
                assert not any(_same(one, finding) for one in after), _words(finding, cure)
    assert not wanted, f"no longer offered: {', '.join(sorted(wanted))}"


def _same(one: Finding, other: Finding) -> bool:
    here = (one.code, one.setup, one.operation) == (other.code, other.setup, other.operation)
    return here and (one.features == other.features or bool(set(one.features) & set(other.features)))


def _words(finding: Finding, cure: Cure) -> str:
    return f"“{cure.label}” does not mend “{finding.title}”"
