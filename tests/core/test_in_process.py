"""The stock through the operations of whole plans: it ends as the part, and what does not is found and named."""

from __future__ import annotations

from dataclasses import replace
from math import pi, radians, tan

import pytest
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps

from lean_ledger.core.basis.errors import LedgerError
from lean_ledger.core.basis.findings import Chapter, Finding, Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.cuts import Course
from lean_ledger.core.followed.findings import stock_findings, with_stock
from lean_ledger.core.followed.in_process import Followed, Remainder, followed, height_at, stock_after
from lean_ledger.core.geometry.masses import MassError, box_mass
from lean_ledger.core.geometry.model import Bounds, Vec
from lean_ledger.core.geometry.solids import Body, block, drilled, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import OperationEdit, Plan
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick, quick_ledger

LIB = shipped_library()


def findings(part: Part, ledger: Ledger) -> list[Finding]:
    return stock_findings(part, ledger, followed(course_of(part, ledger)))


def with_pocket() -> Part:
    """A pocket of 40 × 30 with sharp corners, 10 deep, in a block."""
    return built(block((0, 0, 0), (80, 60, 25)) - block((20, 15, 15), (60, 45, 25)))


def test_stock_of_a_demo_part_ends_as_the_part() -> None:
    part = demo_part("mast-clamp-half")
    ledger = quick_ledger(part)
    found = followed(course_of(part, ledger))
    # the part's own volume is exact, of its boundary; the stock's is of triangles
    assert found.steps[-1].volume == pytest.approx(part.model.solid.volume, rel=0.001)
    assert stock_findings(part, ledger, found) == []
    assert len(found.steps) == len(ledger.operations)
    assert all(step.removed > -1e-6 for step in found.steps)
    assert found.start - sum(step.removed for step in found.steps) == pytest.approx(found.steps[-1].volume)


def test_stock_agrees_with_exact_booleans_on_the_way() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 8, 20))
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    exact = block(course.stock.box.min, course.stock.box.max)
    compared = 0
    for cut, op, step in zip(course.cuts, ledger.operations, followed(course).steps, strict=True):
        if op.kind == "face":
            exact = exact - block((-99, -99, 20), (99, 99, 99))
        elif op.kind in ("spot", "drill"):
            x, y, tip = min((p for s in cut.motion.strokes for p in s.points), key=lambda p: p[2])
            # a pointed cutter from its tip up: as deep as it is above the top
            point = cut.tool.diameter / 2 / tan(radians(cut.tool.tip_angle / 2))
            exact = exact - drilled((x, y, 60), (0, 0, -1), cut.tool.diameter, 60 - tip - point, cut.tool.tip_angle)
        else:
            break
        compared += 1
        assert step.volume == pytest.approx(volume(exact), rel=0.0005), op.name
    assert compared >= 3


def volume(body: Body) -> float:
    props = GProp_GProps()
    BRepGProp.VolumeProperties_s(body.shape, props)
    return float(props.Mass())


def test_facing_takes_off_what_the_allowance_says() -> None:
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    found = followed(replace(course, cuts=course.cuts[:1]))
    assert ledger.operations[0].kind == "face"
    size = ledger.stock.bounds.size
    assert found.steps[0].removed == pytest.approx(size[0] * size[1] * 2, rel=1e-6)


def test_sharp_corners_keep_what_a_round_tool_leaves() -> None:
    part = with_pocket()
    ledger = quick_ledger(part)
    (finding,) = findings(part, ledger)
    assert (finding.code, finding.features) == ("stock-left", ("P1",))
    finish = next(op for op in ledger.operations if op.kind == "finish wall")
    r = finish.tool.diameter / 2
    # in each corner r² (1 − π/4) over a depth of 10; the farthest corner of the round is r (√2 − 1)… off it
    pieces = followed(course_of(part, ledger)).remainders
    assert len(pieces) == 4
    assert sum(p.volume for p in pieces) == pytest.approx(4 * r * r * (1 - pi / 4) * 10, rel=0.03)
    assert max(p.amount for p in pieces) == pytest.approx(r * (1 - 0.5**0.5), rel=0.03)
    assert finding.operation == finish.id
    assert (finding.severity, finding.cures != ()) == ("warning", True)
    assert f"R{r:g} stays in 4 corners that the model has sharp" in finding.why
    # the guess by radii is replaced by what the solids show
    guessed = {f.code for f in ledger.findings}
    shown = {f.code for f in with_stock(ledger, part, followed(course_of(part, ledger))).findings}
    assert "corner-left" in guessed
    assert "corner-left" not in shown
    assert "stock-left" in shown


def test_rounder_corner_than_drawn_is_no_sharp_one() -> None:
    """Corners of R4 and a mill of R8 by hand: what stays is stock, and the model has nothing sharp."""
    part = built(block((0, 0, 0), (80, 60, 25)) - rounded_block((20, 15, 15), (60, 45, 26), 4))
    plan = quick(part)
    wall = next(op for op in evaluate(plan, part, LIB).operations if op.kind == "finish wall")
    thick = next(t for t in LIB.tools if t.kind == "end_mill" and t.diameter == 16)
    ledger = evaluate(replace(plan, edits=(OperationEdit(wall.id, tool=thick.id),)), part, LIB)
    (finding,) = [f for f in findings(part, ledger) if f.code == "stock-left"]
    assert finding.severity == "error"
    assert "take a thinner tool" in finding.why


def left(part: Part, ledger: Ledger, *sizes: Vec) -> Finding:
    """What is said of boxes that stay on a pocket's walls, at its corner."""
    face = part.by_id["P1"].faces[0]
    pieces = []
    for size in sizes:
        high = (20 + size[0], 15 + size[1], 15 + size[2])
        vertices, triangles = box_mass(Bounds((20.0, 15.0, 15.0), high)).triangles()
        points, corners = tuple(map(tuple, vertices.tolist())), tuple(map(tuple, triangles.tolist()))
        volume = size[0] * size[1] * size[2]
        pieces.append(Remainder(False, min(size), volume, points[0], face, "", points, corners, (0.0,) * len(corners)))
    (found,) = stock_findings(part, ledger, Followed(1.0, 1.0, (), tuple(pieces)))
    return found


def test_thin_fin_is_left_to_deburring() -> None:
    """0.15 × 5 × 3.5: 2.6 mm³, twice that over 2 · (0.75 + 0.53 + 17.5) are 0.14 in the mean. Thicker or larger is
    stock.
    """
    part = with_pocket()
    ledger = quick_ledger(part)
    fin = left(part, ledger, (0.15, 5.0, 3.5))
    assert (fin.code, fin.severity) == ("stock-left", "warning")
    assert "deburring" in fin.why
    assert left(part, ledger, (0.15, 5.0, 3.5), (0.6, 9.0, 9.0)).severity == "error"
    assert left(part, ledger, (0.15, 6.0, 9.0)).severity == "error"  # 8.1 mm³


def test_what_may_stay_is_no_finding_until_more_of_it_stays() -> None:
    part = with_pocket()
    plan = quick(part)
    (finding,) = findings(part, evaluate(plan, part, LIB))
    accepted = changed(plan, part, finding.cures[0].change)
    assert findings(part, evaluate(accepted, part, LIB)) == []
    less = replace(accepted, accepted=(replace(accepted.accepted[0], amount=0.2),))
    assert [f.code for f in findings(part, evaluate(less, part, LIB))] == ["stock-left"]
    taken_back = changed(accepted, part, {"change": "accept-rest", "feature": "P1", "amount": 0})
    assert taken_back == plan


def changed(plan: Plan, part: Part, change: dict[str, object]) -> Plan:
    return read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0]


def test_cut_into_the_part_names_its_operation_and_depth() -> None:
    part = demo_part("anemometer-arm-block")
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    number = next(i for i, op in enumerate(ledger.operations) if op.kind == "finish outline")
    deeper = shifted(course, number, (0.3, 0.0, 0.0))
    found = [f for f in stock_findings(part, ledger, followed(deeper)) if f.code == "cut-into-part"]
    assert found
    assert {f.operation for f in found} == {ledger.operations[number].id}
    assert "goes 0.30 into" in found[0].title


def shifted(course: Course, number: int, by: tuple[float, float, float]) -> Course:
    """The course with one path moved aside: as if its zero had been set wrong."""
    cut = course.cuts[number]
    strokes = tuple(
        Stroke(tuple((x + by[0], y + by[1], z + by[2]) for x, y, z in s.points), s.feed_mm_per_min)
        for s in cut.motion.strokes
    )
    cuts = list(course.cuts)
    cuts[number] = replace(cut, motion=Motion(strokes))
    return replace(course, cuts=tuple(cuts))


def test_what_is_left_out_or_threaded_is_meant() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 8, 20))
    hole = next(f.id for f in part.features if f.kind == "hole")
    plan = quick(part)
    out = changed(plan, part, {"change": "leave-out", "features": [hole], "reason": "made elsewhere"})
    assert findings(part, evaluate(out, part, LIB)) == []
    threaded = changed(plan, part, {"change": "set-thread", "diameter": 8.0, "thread": "M8"})
    ledger = evaluate(threaded, part, LIB)
    assert followed(course_of(part, ledger)).remainders, "the tap drill leaves the thread's material"
    assert findings(part, ledger) == []


def test_deep_cut_into_a_threaded_hole_is_not_taken_for_its_thread() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, 0), (0, 0, 1), 6.8, 20))
    plan = changed(quick(part), part, {"change": "set-thread", "diameter": 6.8, "thread": "M8"})
    ledger = evaluate(plan, part, LIB)
    course = course_of(part, ledger)
    drill = next(i for i, op in enumerate(ledger.operations) if op.kind == "drill")
    wide = replace(course.cuts[drill], tool=replace(course.cuts[drill].tool, diameter=10.0))
    wrong = replace(course, cuts=(*course.cuts[:drill], wide, *course.cuts[drill + 1 :]))
    # 1.6 deep all round, where the thread of 1.25 is 0.77 high
    assert "cut-into-part" in {f.code for f in stock_findings(part, ledger, followed(wrong))}


def test_another_error_about_a_feature_hides_no_stock_on_it() -> None:
    part = with_pocket()
    ledger = quick_ledger(part)
    other = Finding("grip-slips", Severity.ERROR, Chapter.SETUPS, "", "", "S1", ("P1",))
    ledger = replace(ledger, findings=(*ledger.findings, other))
    assert [f.code for f in findings(part, ledger)] == ["stock-left"]


def test_shape_and_height_after_any_operation() -> None:
    part = demo_part("sensor-base-plate")
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    size = ledger.stock.bounds.size
    start, end = stock_after(course, 0), stock_after(course, len(course.cuts))
    assert start.volume == pytest.approx(size[0] * size[1] * size[2])
    assert end.volume == pytest.approx(part.model.solid.volume, rel=0.001)
    corner = (course.stock.box.min[0] + 3, course.stock.box.min[1] + 3, 0.0)
    assert height_at(course, 0, corner, (0.0, 0.0, 1.0)) == pytest.approx(size[2])
    assert height_at(course, 1, corner, (0.0, 0.0, 1.0)) == pytest.approx(size[2] - 2)


def test_part_whose_triangles_leave_gaps_is_said_to_be_unknown() -> None:
    part = with_pocket()
    ledger = quick_ledger(part)
    course = course_of(part, ledger)
    mesh = course.target[0]
    open_mesh = replace(mesh, triangles=mesh.triangles[:-4], faces=mesh.faces[:-4])
    with pytest.raises(MassError) as refused:
        followed(replace(course, target=(open_mesh,)))
    error: LedgerError = refused.value
    assert with_stock(ledger, part, error).findings[-1].code == "stock-unknown"
