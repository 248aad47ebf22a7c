"""What a new plan does as a planner would: necks plunged, small ends held, cures taken, spots that come down."""

from __future__ import annotations

from dataclasses import replace
from math import ceil, inf

import pytest
from shapely.geometry import Point, Polygon

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Turned
from lean_ledger.core.first.machine import begun, begun_on
from lean_ledger.core.first.mended import errors_of, mended
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.holding.obstacles import Prism
from lean_ledger.core.holding.surfaces import rounds
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.machines import moved_to
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.plan_document import followed_plan
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.core.setups.profile import is_neck, outer_chain
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.conftest import built, quick_ledger, with_machines

LIB = shipped_library()
FEW = with_machines("mill-762", "lathe-320", "lathe-driven")
UP = (0.0, 0.0, 1.0)


def harmless(part: Part, ledger: Ledger) -> bool:
    found = followed_plan(part, ledger)
    assert isinstance(found.outcome, Followed)
    return not [f for f in stock_findings(part, ledger, found.outcome) if f.code != "stock-left"]


def on_lathe(part: Part) -> Ledger:
    lathe = next(m for m in LIB.machines if m.turns_work)
    return evaluate(moved_to(quick_plan(part, "al-6082", (10,), LIB), lathe, part, LIB), part, LIB)


#: Ø23 over 18, a neck of Ø12 over 24, Ø19 over 12
SPOOL = rod((0, 0, 0), UP, 23, 18) + rod((0, 0, 17), UP, 12, 26) + rod((0, 0, 42), UP, 19, 12)


def test_neck_between_two_shoulders_is_plunged() -> None:
    part = built(SPOOL)
    necks = [f for f in part.features if is_neck(part, f)]
    assert [f.diameter for f in necks if isinstance(f, Turned)] == [12]
    first = begun(part, "al-6082", (10,), FEW).best
    assert errors_of(first.ledger) == []
    (groove,) = [op for op in first.ledger.operations if op.kind == "groove"]
    assert groove.depth == pytest.approx((23 - 12) / 2)
    # 24 wide, an insert goes on by 0.85 of its width from plunge to plunge
    plunges = next(f.value for f in groove.figures if f.label == "plunges")
    assert plunges == 1 + ceil(round((24 - groove.tool.diameter) / (0.85 * groove.tool.diameter), 6))
    assert harmless(part, first.ledger)


def test_shaft_stepped_one_way_has_no_neck() -> None:
    part = built(rod((0, 0, 0), UP, 23, 18) + rod((0, 0, 17), UP, 19, 26) + rod((0, 0, 42), UP, 12, 12))
    assert not [f for f in part.features if is_neck(part, f)]


def test_thin_end_is_held_by_a_smaller_chuck_or_a_collet() -> None:
    # the second setup grips Ø11, the usual soft jaws begin at 20
    part = built(rod((0, 0, 0), UP, 11, 30) + rod((0, 0, 29), UP, 26, 21))
    ledger = on_lathe(part)
    held = [load.built.hold.fixture.name for load in ledger.setups]
    assert any("110" in name or "ollet" in name for name in held)
    assert not [f for f in ledger.findings if f.code in ("chuck-range", "cannot-be-held")]


def gripped_long(part: Part, setup: str, grip: float) -> Ledger:
    plan = on_lathe(part).plan
    setups = tuple(replace(one, grip=grip) if one.id == setup else one for one in plan.setups)
    return evaluate(replace(plan, setups=setups), part, LIB)


def test_neck_that_the_jaws_cover_is_turned_from_the_other_end() -> None:
    part = built(SPOOL)
    ledger = gripped_long(part, "S1", 26)
    (covered,) = [f for f in ledger.findings if f.code == "cut-below-jaws"]
    assert [cure.label for cure in covered.cures] == ["Turn T2 in S2", "Leave 10 at Z-"]
    plan, after, taken = mended(ledger.plan, ledger, part, LIB, inf)
    assert taken == ["Turn T2 in S2"]
    assert errors_of(after) == []
    assert plan != ledger.plan
    assert harmless(part, after)
    # the other cure: 26 gripped and 1 to the cut, less the 18 + 2 up to the neck, are 7 more, 1 of them over
    longer, _ = read_change(covered.cures[1].change).apply(ledger.plan, Scene(part, LIB, ledger))
    assert "cut-below-jaws" not in {f.code for f in evaluate(longer, part, LIB).findings}


#: Ø16 over 20.5, Ø26 over 12.5, Ø34 over 22.5; a flat at y = 12 from z = 29.7 on
FLATTED = (
    rod((0, 0, 0), UP, 16, 21)
    + rod((0, 0, 20.5), UP, 26, 13)
    + rod((0, 0, 33), UP, 34, 22.5)
    - block((-20, 12, 29.7), (20, 20, 60))
)


def test_turned_part_with_a_flat_is_held_about_its_axis_and_made_whole() -> None:
    """The flat makes the part's box end at 13, the Ø26: the bar runs about its axis all the same, in both setups, and
    the flat is milled from the Ø34 that stands 4 over that.
    """
    part = built(FLATTED)
    ledger = on_lathe(part)
    assert errors_of(ledger) == []
    assert {load.built.hold.centre for load in ledger.setups if load.machine.turns_work} == {(0.0, 0.0)}
    milled = next(load for load in ledger.setups if not load.machine.turns_work)
    assert milled.built.before.over_side("Y+") == pytest.approx(17 - 13)
    assert harmless(part, ledger)


def test_flat_is_gripped_as_one_from_when_it_is_cut() -> None:
    part = built(FLATTED)
    held = on_lathe(part).setups[1].built.hold.held
    frame = frame_of("Z+", 0)
    for made, there in ((frozenset[str](), False), (frozenset(["L1"]), True)):
        around = rounds(replace(held, made=made), frame, 35.0, 50.0)
        assert {r.what for r in around if r.feature != "L1"} == {"cylinder"}
        assert any(r.what == "flat" for r in around) == there


def test_driven_tools_take_the_round_off_the_side_they_flatten() -> None:
    part = built(FLATTED)
    driven = next(m for m in LIB.machines if m.turns_work and m.rotary is not None)
    ledger = evaluate(moved_to(quick_plan(part, "al-6082", (10,), LIB), driven, part, LIB), part, LIB)
    first, second = ledger.setups
    assert any("L1" in op.features for op in first.built.operations)
    assert {side for side, _ in second.built.before.round_over} == {"Y-", "X+", "X-"}


def test_profile_beside_a_flat_is_not_as_wide_as_the_flat() -> None:
    """A flat at y = 7 over Ø37 and, narrower, over Ø31: beside the shoulder at z = 16 the part is Ø31 still."""
    body = rod((0, 0, 0), UP, 31, 20) + rod((0, 0, 16), UP, 37, 16)
    part = built(body - block((-20, 7, 6), (20, 20, 40)))
    chain = outer_chain(part, UP)
    assert max(r for z, r in chain if z < 15.9) == pytest.approx(15.5)
    assert max(r for _, r in chain) == pytest.approx(18.5)


def test_machine_that_leaves_the_least_where_none_makes_all() -> None:
    part = built(drawn(5181))
    found = begun(part, "al-6082", (10,), LIB)
    usual = next(one for one in found.plans if one.machines == (LIB.machines[0],))
    assert 0 < found.best.left <= usual.left
    assert [one.left for one in found.plans] == sorted(one.left for one in found.plans)
    assert f"on {found.best.name}: {found.best.each:.2f} each, but leaves 2 things to solve; " in found.words


def test_cure_that_a_new_plan_takes_is_told() -> None:
    part = built(drawn(133))  # two ears that the jaws would bend
    usual = quick_ledger(part)
    assert [f.code for f in errors_of(usual)] == ["ears-bend"]
    first = begun_on(quick_plan(part, "al-6082", (10,), LIB), (LIB.machines[0].id,), part, LIB)
    assert first.words == f"on Mill 1: {first.each:.2f} each; mended: Turn by 90°"
    assert errors_of(first.ledger) == []


def test_no_cure_is_taken_after_the_time_is_up() -> None:
    part = built(drawn(133))
    usual = quick_ledger(part)
    plan, ledger, taken = mended(usual.plan, usual, part, LIB, -1.0)
    assert (plan, ledger, taken) == (usual.plan, usual, [])


def beside_a_wall(off: float) -> Body:
    """A hole of Ø4.2 in a ledge, its axis so far off a wall that rises 20 over it."""
    body = block((0, 0, 0), (60, 40, 30)) - block((20, -1, 10), (61, 41, 31))
    return body - rod((20 + off, 20, -1), UP, 4.2, 12)


@pytest.mark.parametrize(("off", "thickest"), [(12.0, 16.0), (4.0, 6.0)])
def test_spot_is_made_by_a_drill_that_comes_down(off: float, thickest: float) -> None:
    ledger = quick_ledger(built(beside_a_wall(off)))
    (spot,) = [op for op in ledger.operations if op.kind == "spot"]
    assert spot.tool.diameter <= thickest
    assert spot.tool.diameter / 2 <= off
    assert [op.kind for op in ledger.operations if op.features == spot.features] == ["spot", "drill"]


def test_hole_that_no_spot_drill_comes_to_is_drilled_without_and_said() -> None:
    part = built(beside_a_wall(2.5))
    ledger = quick_ledger(part)
    (missing,) = [f for f in ledger.findings if f.code == "no-spot"]
    assert missing.severity == Severity.WARNING
    assert "may wander" in missing.why
    assert [op.kind for op in ledger.operations if op.kind in ("spot", "drill")] == ["drill"]
    assert harmless(part, ledger)


def test_deep_hole_is_pecked_by_a_long_drill() -> None:
    part = built(block((0, 0, 0), (50, 40, 60)) - rod((25, 20, -1), UP, 5, 62))
    ledger = quick_ledger(part)
    (drill,) = [op for op in ledger.operations if op.kind == "drill"]
    assert drill.tool.description == "Long drill 5"
    assert drill.motion.cycle is not None
    assert drill.motion.cycle.code == 83
    shallow = quick_ledger(built(block((0, 0, 0), (50, 40, 20)) - rod((25, 20, -1), UP, 5, 22)))
    assert [op.tool.description for op in shallow.operations if op.kind == "drill"] == ["Drill 5"]


def test_pocket_of_soft_jaws_is_cut_free_where_a_drill_comes_through() -> None:
    # a cross hole in a turned pin, which lies in jaws that were cut to it
    body = rod((0, 0, 0), UP, 20, 34) + rod((0, 0, 33), UP, 6, 19)
    part = built(body - rod((0, -11, 13), (0, 1, 0), 5, 22))
    ledger = on_lathe(part)
    (lying,) = [load for load in ledger.setups if not load.machine.turns_work]
    hold = lying.built.hold
    (drill,) = [op for op in lying.built.operations if op.kind == "drill"]
    assert drill.depth == pytest.approx(20 + 2.5 / 2.7475 + 1, abs=0.01)  # through, the tip of 140° and 1 beyond
    assert "free under 1 hole" in dict(hold.words)["pocket in the jaws"]
    x, y, _ = drill.motion.strokes[0].points[-1]
    below = [Polygon(one.rings[0], one.rings[1:]) for one in hold.drilled_free if isinstance(one, Prism)]
    assert below
    assert all(area.distance(Point(x, y)) >= 2.5 + 1 - 1e-6 for area in below)
    assert harmless(part, ledger)
