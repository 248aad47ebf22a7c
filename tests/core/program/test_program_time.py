"""`program-time`: cases with known answers, then each rule with arithmetic that can be followed by hand."""

from __future__ import annotations

import json
from math import hypot, pi, sqrt
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.control.blocks import ProgramError
from lean_ledger.core.control.contract import PARTS, program_time_document
from lean_ledger.core.control.run import run_program
from lean_ledger.core.control.steps import Run, StepKind
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.library.machines import Machine
from tests.conftest import CASES
from tests.values import machine_with

TIMING = CASES / "timing"


def machine(name: str) -> Machine:
    return parse_machine((TIMING / name).read_text(encoding="utf-8"))


MILL, INDEXER, LATHE = machine("mill3.json"), machine("mill4.json"), machine("lathe.json")
HEAD = "G21 G90 G17 G94 G54\n"


def run(text: str, on: Machine = MILL) -> Run:
    return run_program(HEAD + text, on)


def rapid(length: float, v: float = 25000 / 60, a: float = 3000) -> float:
    """From rest to rest."""
    return length / v + v / a if length > v * v / a else 2 * sqrt(length / a)


def up_down(length: float) -> float:
    return rapid(length, 20000 / 60, 2500)


def plunge(length: float, feed: float) -> float:
    v = feed / 60
    return length / v + v / 2500


@pytest.mark.parametrize("case", sorted(p.name.removesuffix(".expect.json") for p in TIMING.glob("*.expect.json")))
def test_case_with_known_answer(case: str) -> None:
    expect = json.loads((TIMING / f"{case}.expect.json").read_text(encoding="utf-8"))
    text = (TIMING / expect["program"]).read_text(encoding="utf-8")
    if "error" in expect:
        with pytest.raises(LedgerError) as refused:
            run_program(text, machine(expect["machine"]))
        line = expect["error"]["line"]
        assert line is None or refused.value.place == f"line {line}"
        for words in expect["error"]["mentions"]:
            assert words.lower() in str(refused.value).lower()
        return
    answer = program_time_document(run_program(text, machine(expect["machine"])))
    wanted = expect["expect"]
    for what, seconds in wanted["times"].items():
        assert sum(answer[key] for key in what.split("+")) == pytest.approx(seconds, rel=1e-3, abs=2e-3), what
    assert answer["total"] == pytest.approx(sum(answer[kind.value] for kind in PARTS))
    assert answer["lines"] == wanted.get("lines", answer["lines"])
    by_tool = {str(row["tool"]): row for row in answer["tools"]}
    for tool, sums in wanted.get("tools", {}).items():
        assert {k: by_tool[tool][k] for k in sums} == pytest.approx(sums, rel=1e-3, abs=2e-3)
    for offset, box in wanted.get("bounds", {}).items():
        assert answer["bounds"][offset]["min"] == pytest.approx(box["min"], abs=1.5e-3)
        assert answer["bounds"][offset]["max"] == pytest.approx(box["max"], abs=1.5e-3)


def test_words_need_no_spaces_and_no_capitals() -> None:
    tight = run("g0x10y20\nn30g1x-5.f.600\nm30")
    assert tight.steps[-1].end == (-5.0, 20.0, 0.0)
    assert tight.steps[-1].feed == pytest.approx(0.6)


def test_comments_and_empty_blocks_say_nothing() -> None:
    plain = run("G1 X10 F600\nM30")
    said = run("%\n(first; words)\nG1 X10 (across) F600 ; the end (of it\n\nM30 (off)\n%")
    assert said.total == plain.total


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("G1 X(1 F100", "parenthesis"),
        ("G1 X1) F100", "parenthesis"),
        ("G1 X[1+2] F100", "variable, an expression or a macro"),
        ("IF[#1 GT 2]GOTO5", "macro"),
        ("E5 X1", "E5 is no word"),
        ("M77", "M77 is no code"),
        ("G92 X0", "with an S only"),
        ("G2 X10 F100", "no centre"),
        ("G2 X10 R4 F100", "less than half the chord"),
        ("G3 X0 Y0 R5 F100", "equal ends|two different ends"),
        ("G3 X10 Y0 I4 F100", "radius is 4.000 at its start and 6.000 at its end"),
        ("M6", "before any T"),
        ("G81 X1 Z-5 F100", "needs R"),
        ("G81 X1 R2 F100", "needs Z"),
        ("G83 X1 R2 Z-5 F100", "needs Q"),
        ("G81 X1 R2 Z-5", "feed"),
        ("M98 P77", "O77"),
        ("G0 A90", "A turns an axis that this machine does not have"),
        ("G0 U5", "increment on a lathe"),
        ("G4", "how long"),
        ("G95 F0.1\nG1 X5", "spindle stands"),
        (f"G1 X{'9' * 400} F100", "no number of this world"),
    ],
)
def test_bad_line_is_named_with_the_reason(line: str, words: str) -> None:
    with pytest.raises(ProgramError, match=words) as refused:
        run(f"{line}\nM30")
    assert refused.value.place == f"line {2 + line.count(chr(10))}"


def test_program_without_a_word_is_refused() -> None:
    with pytest.raises(ProgramError, match="no word"):
        run_program("%\n(nothing)\n%\n", MILL)


def test_arc_by_radius_is_the_shorter_one_and_by_a_negative_one_the_longer() -> None:
    # a chord of 10·√2 in a circle of radius 10 spans a quarter
    short = run("G0 X10\nG3 X0 Y10 R10 F600\nM30").steps[-1].arc
    long = run("G0 X10\nG3 X0 Y10 R-10 F600\nM30").steps[-1].arc
    assert short is not None
    assert long is not None
    assert (short.angle, long.angle) == (pytest.approx(pi / 2), pytest.approx(1.5 * pi))
    assert short.centre[:2] == pytest.approx((0, 0), abs=1e-9)
    assert long.centre[:2] == pytest.approx((10, 10))
    assert short.length == pytest.approx(5 * pi)


@given(st.floats(-50, 50), st.floats(-50, 50), st.floats(0, 40), st.booleans())
def test_arc_by_radius_has_its_centre_at_that_radius(x: float, y: float, more: float, clockwise: bool) -> None:
    half = hypot(x, y) / 2
    if half < 0.1:
        return
    radius = round(half + more, 3) + 0.001
    code = "G2" if clockwise else "G3"
    arc = run(f"{code} X{x:.4f} Y{y:.4f} R{radius:.3f} F500\nM30").steps[-1].arc
    assert arc is not None
    assert abs(arc.angle) <= pi + 0.2
    assert (arc.angle < 0) == clockwise
    assert hypot(arc.centre[0], arc.centre[1]) == pytest.approx(radius, abs=0.02)


def test_whole_turn_needs_no_end() -> None:
    arc = run("G0 X20\nG2 I-20 F1000\nM30").steps[-1].arc
    assert arc is not None
    assert arc.length == pytest.approx(40 * pi)


def test_planes_turn_their_own_axes() -> None:
    # G18: from Z to X; a quarter from (X10, Z0) about the origin clockwise ends at (X0, Z10)
    arc = run("G18 G0 X10\nG2 X0 Z10 I-10 K0 F600\nM30").steps[-1].arc
    assert arc is not None
    assert arc.angle == pytest.approx(-pi / 2)


# ---- cycles


def test_tap_feeds_in_reverses_and_feeds_out() -> None:
    found = run("G0 Z20\nM3 S500\nG84 X0 Y0 R5 Z-10 F500\nG80\nM30")
    assert found.seconds(StepKind.CUT) == pytest.approx(2 * plunge(15, 500))
    assert found.seconds(StepKind.SPINDLE) == pytest.approx(2 * 1.5), "one start, one reversal"
    # 20 up, 15 down to R, 15 back up to the initial level
    assert found.seconds(StepKind.RAPID) == pytest.approx(up_down(20) + 2 * up_down(15))


def test_bore_feeds_out_and_another_stops_and_leaves_at_rapid() -> None:
    out = run("G0 Z10\nG99 G85 X0 R2 Z-8 F100\nG80\nM30")
    assert out.seconds(StepKind.CUT) == pytest.approx(2 * plunge(10, 100))
    fast = run("G0 Z10\nG99 G86 X0 R2 Z-8 F100\nG80\nM30")
    assert fast.seconds(StepKind.CUT) == pytest.approx(plunge(10, 100))
    assert fast.seconds(StepKind.SPINDLE) == 0


def test_increments_count_r_from_the_initial_level_and_z_from_r() -> None:
    found = run("G0 Z20\nG91 G99 G81 X10 R-15 Z-8 F300 L3\nG80\nM30")
    ends = [step.end for step in found.steps if step.kind == StepKind.CUT]
    assert ends == [(10, 0, -3), (20, 0, -3), (30, 0, -3)]


def test_repeats_drill_in_place_where_positions_are_absolute() -> None:
    found = run("G0 Z5\nG99 G81 X10 R2 Z-3 F300 K2\nG80\nM30")
    assert [step.end for step in found.steps if step.kind == StepKind.CUT] == [(10, 0, -3)] * 2
    assert run("G0 Z5\nG99 G81 X10 R2 Z-3 F300 L0\nG80\nM30").seconds(StepKind.CUT) == 0


def test_motion_word_ends_a_cycle_and_its_words() -> None:
    found = run("G0 Z5\nG81 X10 R2 Z-3 F300\nG0 X20\nX30\nM30")
    assert len([s for s in found.steps if s.kind == StepKind.CUT]) == 1
    with pytest.raises(ProgramError, match="needs R"):
        run("G0 Z5\nG81 X10 R2 Z-3 F300\nG80\nG81 X20 Z-3\nM30")


def test_last_peck_is_what_remains() -> None:
    found = run("G0 Z2\nG99 G83 X0 R2 Z-16 Q6 F300\nG80\nM30")
    depths = [step.end[2] for step in found.steps if step.kind == StepKind.CUT]
    assert depths == [-4, -10, -16], "18 from R in three pecks of 6, and no fourth of nothing"


# ---- tools, spindle, axes


def test_same_speed_again_and_stops_cost_nothing() -> None:
    found = run("S1000 M3\nG1 X1 F100\nM3\nS1000\nM5\nS2000\nM4\nS9000\nS9500\nM30")
    # the start, the start the other way after M5, and the change to what the spindle has at the most: 8100 both times
    assert found.seconds(StepKind.SPINDLE) == pytest.approx(3 * 1.5)


def test_tool_that_is_in_is_changed_all_the_same_and_the_spindle_stands() -> None:
    found = run("T1 M6\nS1000 M3\nT1 M6\nM3\nM30")
    assert found.seconds(StepKind.TOOL_CHANGE) == pytest.approx(2 * 4.2)
    assert found.seconds(StepKind.SPINDLE) == pytest.approx(2 * 1.5)


def test_change_by_hand_takes_most_of_a_minute() -> None:

    assert run("T1 M6\nM30", machine_with(MILL, tool_pockets=0)).total == 45


def test_turn_and_line_in_one_block_take_the_longer_of_the_two() -> None:
    # 90°: 90/60 + 60/400 = 1.65 s; 400 mm in X: 1.0989 s meanwhile, so 0.5511 s of turning and 1 s of clamps are left
    found = run("G0 X400 A90\nM30", INDEXER)
    along = rapid(400)
    assert found.seconds(StepKind.RAPID) == pytest.approx(along)
    assert found.seconds(StepKind.INDEX) == pytest.approx(1.65 - along + 1.0)


def test_turn_goes_the_way_that_is_said_never_the_shorter() -> None:
    assert run("G0 A270\nM30", INDEXER).total == pytest.approx(0.4 + 270 / 60 + 60 / 400 + 0.6)


def test_turret_turns_by_a_t_word_and_increments_move() -> None:
    found = run("T0303\nG0 X40 Z5\nU-4 W-2\nM30", LATHE)
    assert found.seconds(StepKind.TOOL_CHANGE) == pytest.approx(0.8)
    assert found.steps[-1].end == (18, 0, 3), "X and U are diameters"
    assert found.bounds["G54"] == ((36, 0, 3), (40, 0, 5))
    assert found.tools == (3,)


def test_home_goes_through_the_point_and_only_the_named_axes() -> None:
    found = run("G0 X50 Y40 Z-10\nG91 G28 Z5\nG90 G53 G0 X10\nM30")
    assert [s.end for s in found.steps] == [(50, 40, -10), (50, 40, -5), (50, 40, 0), (10, 40, 0)]
    assert found.bounds["G54"] == ((50, 40, -10), (50, 40, -5)), "machine positions are no work coordinates"


def test_each_offset_has_its_own_bounds() -> None:
    found = run("G0 X10\nG55 X20 Y5\nG54.1 P7 X30\nG154 P12 X1\nM30")
    assert set(found.bounds) == {"G54", "G55", "G54.1 P7", "G154 P12"}
    assert found.bounds["G55"] == ((20, 5, 0), (20, 5, 0))


# ---- subprograms


def test_calls_nest_forty_deep_and_no_deeper() -> None:
    with pytest.raises(ProgramError, match="40 levels"):
        run("M98 P1\nM30\nO1\nM98 P1\nM99")


def test_subprogram_without_an_end_is_said() -> None:
    with pytest.raises(ProgramError, match="no M99"):
        run("M98 P1\nM30\nO1\nG0 X1\nO2\nM99")


@pytest.mark.parametrize("text", ["M98 P1 L99999999\nM30\nO1\nM8\nM99", "G0 Z5\nG81 X1 R2 Z-3 F300 L99999999\nM30"])
def test_program_that_repeats_itself_without_end_is_refused(text: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("lean_ledger.core.control.run.MOST_STEPS", 20_000)
    with pytest.raises(ProgramError, match="repeats itself too often"):
        run(text)


def test_return_in_the_main_program_ends_it() -> None:
    assert run("G0 X10\nM99\nG0 X100\nM30").steps[-1].end == (10, 0, 0)


def test_feed_chain_goes_on_through_calls_coolant_and_offsets() -> None:
    whole = run("G1 X50 F6000\nX100\nM30")
    called = run("G1 X50 F6000\nM8\nG55\nM98 P1\nM30\nO1\nX100\nM99")
    assert called.seconds(StepKind.CUT) == pytest.approx(whole.seconds(StepKind.CUT))
    stopped = run("G1 X50 F6000\nM1\nX100\nM30")
    assert stopped.total > whole.total


@given(st.lists(st.tuples(st.floats(-90, 90), st.floats(-90, 90), st.floats(-20, 20)), min_size=1, max_size=12))
def test_document_adds_up_and_no_feed_move_beats_its_feed(points: list[tuple[float, float, float]]) -> None:
    text = "F3000\n" + "\n".join(f"G1 X{x:.3f} Y{y:.3f} Z{z:.3f}" for x, y, z in points) + "\nM30"
    found = run(text)
    answer: dict[str, Any] = program_time_document(found)
    assert answer["total"] == pytest.approx(answer["cut"])
    for step in found.steps:
        length = hypot(*(b - a for a, b in zip(step.start, step.end, strict=True)))
        assert step.seconds >= length / 50 - 1e-9
