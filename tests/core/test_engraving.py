"""Engraving: letters of single strokes, drawn lines, their path, and a part that is meant to be cut into."""

from __future__ import annotations

import io
import itertools
from dataclasses import replace

import ezdxf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import FileRefused, PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.files.dxf_drawing import lines_of_dxf
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.milling.engraving import engraved_path, laid, lines_of
from lean_ledger.core.operations.milling.lettering import STROKES, strokes_of
from lean_ledger.core.operations.milling.paths import Down
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.plan import Engraving, Plan
from lean_ledger.core.program.agree import agreement, run_of
from lean_ledger.core.program.write import programs_of
from lean_ledger.core.revisions.carried import decided_features, without_decisions
from lean_ledger.library import shipped_library
from tests.conftest import built, quick
from tests.core.test_indexed import indexed_plan
from tests.core.test_turning import on_lathe
from tests.values import changed

LIB = shipped_library()
PLATE = built(block((0, 0, 0), (80, 50, 20)) - rod((15, 25, 0), (0, 0, 1), 12, 20))
TOP = next(f.id for f in PLATE.features if getattr(f, "normal", None) == (0, 0, 1))
TEXT = Engraving("mark-1", TOP, 0.2, "RC-608", 5.0, at=(10.0, 0.0))


def engraved(*marks: Engraving) -> Plan:
    return replace(quick(PLATE), engravings=marks or (TEXT,))


def evaluated(*marks: Engraving) -> Ledger:
    return evaluate(engraved(*marks), PLATE, LIB)


def op_of(ledger: Ledger) -> Operation:
    return next(op for op in ledger.operations if op.kind == "engrave")


def made(plan: Plan, **change: object) -> Plan:
    return read_change(change).apply(plan, Scene(PLATE, LIB, evaluate(plan, PLATE, LIB)))[0]


# ---- lines


def test_letters_stand_side_by_side_around_the_middle() -> None:
    # 6 high: I at units 2 of a letter that begins at −5, so x −3; L from 1 to 5
    assert strokes_of("IL", 6) == (((-3, -3), (-3, 3)), ((1, 3), (1, -3), (5, -3)))
    # twice as high, twice as far
    assert strokes_of("IL", 12)[1][-1] == (10, -6)


@given(st.text(alphabet="".join(STROKES), min_size=1, max_size=30), st.floats(min_value=0.5, max_value=50))
def test_letters_stay_in_their_box(text: str, height: float) -> None:
    points = [p for line in strokes_of(text, height) for p in line]
    half = (6 * (len(text) - 1) + 4) / 2 * height / 6
    assert all(abs(x) <= half + 1e-4 and abs(y) <= height / 2 + 1e-4 for x, y in points)
    assert all(len(line) >= 2 for line in strokes_of(text, height))


def test_letter_that_there_is_none_of_is_named() -> None:
    with pytest.raises(PlanError, match="no letter #") as refused:
        strokes_of("A#", 5)
    assert refused.value.code == "no-such-letter"


def test_drawn_lines_are_brought_to_the_middle_turned_and_moved() -> None:
    drawn = Engraving("m", TOP, 0.2, lines=(((10, 10), (20, 10)), ((20, 10), (20, 14))), at=(5.0, 1.0), turn=90.0)
    # around (15, 12): from (−5, −2) to (5, −2) to (5, 2); a quarter turn takes (x, y) to (−y, x)
    assert laid(lines_of(drawn), drawn, (40, 25)) == (((47, 21), (47, 31)), ((47, 31), (43, 31)))


def dxf(draw, units: int = 4) -> bytes:  # type: ignore[no-untyped-def]
    document = ezdxf.new()  # type: ignore[attr-defined]
    document.header["$INSUNITS"] = units
    draw(document.modelspace(), document)
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def test_open_lines_of_a_drawing_are_read_in_its_unit() -> None:
    def draw(space, document) -> None:  # type: ignore[no-untyped-def]
        document.layers.add("OFF").off()
        space.add_line((0, 0), (1, 0))
        space.add_lwpolyline([(0, 0), (0, 1), (2, 1)])
        space.add_text("not these words")
        space.add_line((5, 5), (6, 6), dxfattribs={"layer": "OFF"})

    assert lines_of_dxf(dxf(draw, units=1), "logo.dxf") == (((0, 0), (25.4, 0)), ((0, 0), (0, 25.4), (50.8, 25.4)))


def test_arc_s_chords_stay_near_it() -> None:
    (line,) = lines_of_dxf(dxf(lambda space, _: space.add_arc((0, 0), 10, 0, 90)), "arc.dxf")
    assert line[0] == (10, 0)
    assert line[-1] == pytest.approx((0, 10), abs=1e-4)
    middles = [((a[0] + b[0]) / 2, (a[1] + b[1]) / 2) for a, b in itertools.pairwise(line)]
    assert all(9.989 <= (x * x + y * y) ** 0.5 <= 10.0001 for x, y in middles)


def test_drawing_without_lines_or_that_is_none_is_refused() -> None:
    with pytest.raises(FileRefused, match="no line"):
        lines_of_dxf(dxf(lambda space, _: space.add_text("words")), "words.dxf")
    with pytest.raises(FileRefused, match=r"logo\.dxf: this is not a DXF"):
        lines_of_dxf(b"solid", "logo.dxf")
    with pytest.raises(FileRefused, match="at most 2 MB"):
        lines_of_dxf(b" " * 2_000_001, "big.dxf")


def test_drawing_that_says_no_unit_is_in_mm() -> None:
    bare = b"0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n8\n21\n0\n0\nENDSEC\n0\nEOF\n"
    assert lines_of_dxf(bare, "bare.dxf") == (((0, 0), (8, 0)),)


def test_block_in_itself_a_drawing_too_far_out_and_too_many_points_are_refused() -> None:
    def within(space, document) -> None:  # type: ignore[no-untyped-def]
        block = document.blocks.new("AGAIN")
        block.add_line((0, 0), (1, 0))
        block.add_blockref("AGAIN", (1, 1))
        space.add_blockref("AGAIN", (0, 0))

    def many(space, _) -> None:  # type: ignore[no-untyped-def]
        for k in range(101):
            space.add_lwpolyline([(i % 7, (i + k) % 5) for i in range(200)])

    with pytest.raises(FileRefused, match="deep in one another"):
        lines_of_dxf(dxf(within), "again.dxf")
    with pytest.raises(FileRefused, match="from the origin"):
        lines_of_dxf(dxf(lambda space, _: space.add_circle((0, 0), 1e15)), "far.dxf")
    with pytest.raises(FileRefused, match="at most 20,000 points"):
        lines_of_dxf(dxf(many), "many.dxf")


# ---- the path and its seconds


def test_each_line_is_gone_along_once_and_back_for_the_next_step() -> None:
    motion = engraved_path((((0, 0), (10, 0)),), Down(0.0, -0.5, 2, 5.0), 100.0)
    assert [(s.points, s.feed_mm_per_min) for s in motion.strokes if not s.is_rapid] == [
        (((0, 0, 2), (0, 0, -0.25)), 50),
        (((0, 0, -0.25), (10, 0, -0.25)), 100),
        (((10, 0, -0.25), (10, 0, -0.5)), 50),
        (((10, 0, -0.5), (0, 0, -0.5)), 100),
    ]


def test_engraving_takes_length_over_feed() -> None:
    op = op_of(evaluated())
    # Ø1 at the spindle's 8,100 rpm, 2 flutes, a third of the feed of Ø3: 0.02/3
    assert op.tool.diameter == 1
    assert op.cutting.vf == pytest.approx(8100 * 2 * 0.02 / 3)
    lines = strokes_of("RC-608", 5.0)
    along = sum(((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5 for line in lines for a, b in itertools.pairwise(line))
    down = len(lines) * (2 + 0.2)
    assert op.time.nominal_cut == pytest.approx(60 * (along + 2 * down) / op.cutting.vf, rel=1e-3)


def test_deep_lines_are_cut_in_steps_of_a_third_of_the_mill() -> None:
    op = op_of(evaluated(replace(TEXT, depth=0.8)))
    assert (op.cutting.passes, op.cutting.ap) == (3, pytest.approx(0.8 / 3))
    by_hand = changed_op(replace(TEXT, depth=0.8), passes=1)
    assert by_hand.cutting.passes == 1


def changed_op(mark: Engraving, **values: object) -> Operation:
    plan = made(engraved(mark), change="edit-operation", operation=f"S1.{mark.id}.engrave", **values)
    return op_of(evaluate(plan, PLATE, LIB))


# ---- in a plan


def test_it_comes_after_its_face_and_goes_into_the_part() -> None:
    ledger = evaluated()
    order = [call.operation for call in ledger.loads[0].calls]
    engrave = op_of(ledger)
    assert order.index(engrave) > max(order.index(op) for op in order if TOP in op.features and op != engrave)
    assert ledger.findings == ()  # or evaluate gives a tuple of none
    found = followed(course_of(PLATE, ledger))
    assert stock_findings(PLATE, ledger, found) == []
    # what is gone from the part is a groove of 1 × 0.2 along the lines, and half a circle at each end
    taken = next(step.removed for step in found.steps if step.operation == engrave.id)
    assert 0.2 * 40 < taken < 0.2 * 130
    assert found.over_share == pytest.approx(0, abs=1e-4)


def test_what_else_cuts_there_is_still_found() -> None:
    ledger = evaluated()
    course = course_of(PLATE, ledger)
    drilled = [replace(cut, into_part=False) for cut in course.cuts]
    found = followed(replace(course, cuts=tuple(drilled)))
    assert {r.operation for r in found.remainders if r.cut_into} == {op_of(ledger).id}


def test_letters_over_a_hole_or_the_edge_are_a_finding() -> None:
    over = evaluated(replace(TEXT, at=(-25.0, 0.0)))
    assert [f.code for f in over.findings if f.severity == "error"] == ["engraved-off-face"]
    assert "leaves" in over.findings[0].title
    assert [f.code for f in evaluated(replace(TEXT, height=20.0)).findings][:1] == ["engraved-off-face"]


def test_face_that_no_mill_looks_at_is_named() -> None:
    side = next(f.id for f in PLATE.features if getattr(f, "normal", None) == (0, -1, 0))
    found = next(f for f in evaluated(replace(TEXT, face=side)).findings if f.code == "not-engraved")
    assert "from its side" in found.why
    assert found.cures[0].change == {"change": "remove-engraving", "engraving": "mark-1"}
    pin = built(rod((0, 0, 0), (0, 0, 1), 30, 40))
    end = next(f.id for f in pin.features if getattr(f, "where", "") == "end")
    on = replace(on_lathe(pin), engravings=(replace(TEXT, face=end, at=(0.0, 0.0), height=2.0),))
    assert "on a lathe" in next(f.why for f in evaluate(on, pin, LIB).findings if f.code == "not-engraved")


def test_side_of_an_indexed_setup_is_engraved_from_where_it_looks() -> None:
    bar = built(block((0, 0, 0), (82, 36, 36)))
    side = next(f.id for f in bar.features if getattr(f, "normal", None) == (0, -1, 0))
    plan = replace(indexed_plan(bar), engravings=(replace(TEXT, face=side, at=(0.0, 0.0)),))
    ledger = evaluate(plan, bar, LIB)
    op = op_of(ledger)
    assert op.way.direction == (0, -1, 0)
    assert [f for f in ledger.findings if f.severity == "error"] == []
    assert stock_findings(bar, ledger, followed(course_of(bar, ledger))) == []


def test_program_engraves_and_the_machine_agrees() -> None:
    ledger = evaluated()
    first = programs_of(ledger, PLATE, "test")[0]
    setup = ledger.load_of(first.setup)
    assert abs(agreement(run_of(first, setup), setup).difference) < 1e-3
    assert "ENGRAVE" in first.text.upper()


# ---- changes


def test_it_is_put_on_moved_and_taken_off() -> None:
    plan = made(quick(PLATE), change="engrave", face=TOP, text=" rc-608 ")
    (mark,) = plan.engravings
    assert (mark.id, mark.text, mark.height, mark.depth) == ("mark-1", "RC-608", 4, 0.2)
    plan = made(plan, change="edit-engraving", engraving="mark-1", x=12.5, turn=90, depth=0.4)
    assert (plan.engravings[0].at, plan.engravings[0].turn, plan.engravings[0].depth) == ((12.5, 0), 90, 0.4)
    plan = made(plan, change="edit-operation", operation="S1.mark-1.engrave", passes=1)
    plan = made(plan, change="remove-engraving", engraving="mark-1")
    assert plan.engravings == ()
    assert plan.edits == ()


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"change": "engrave", "face": "H1", "text": "A"}, "no-flat-side"),
        ({"change": "engrave", "face": "F99", "text": "A"}, "no-flat-side"),
        ({"change": "engrave", "face": TOP, "text": "  "}, "nothing-to-engrave"),
        ({"change": "engrave", "face": TOP, "text": "Ä"}, "no-such-letter"),
        ({"change": "engrave", "face": TOP, "text": "A", "depth": 9}, "out-of-range"),
        ({"change": "engrave", "face": TOP, "text": "A", "height": 0}, "out-of-range"),
        ({"change": "engrave", "face": TOP, "text": "A" * 81}, "too-long"),
        ({"change": "engrave", "face": TOP, "lines": [[[0, 0]]]}, "no-line"),
        ({"change": "engrave", "face": TOP, "lines": [[[0, 0], [5000, 0]]]}, "too-large"),
        ({"change": "engrave", "face": TOP, "lines": [[[0, 0], [5, 0]]], "name": "x" * 2000}, "too-long"),
        ({"change": "edit-engraving", "engraving": "mark-7", "x": 1}, "no-such-engraving"),
    ],
)
def test_what_cannot_be_engraved_is_refused(change: dict[str, object], code: str) -> None:
    with pytest.raises(PlanError) as refused:
        made(quick(PLATE), **change)
    assert refused.value.code == code


def test_it_goes_with_the_face_when_decisions_are_dropped() -> None:
    plan = engraved()
    assert decided_features(plan)[TOP] == ("“RC-608” engraved",)
    assert without_decisions(plan, [TOP]).engravings == ()
    assert changed(plan, "S1", cut_off=None).engravings == plan.engravings
