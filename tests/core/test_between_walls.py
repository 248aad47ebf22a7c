"""What is turned between two walls: V-grooves and necks with tapers, near what holds the work and far off it."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity
from shapely.geometry import Polygon

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.turning.between_walls import FAR, HEAD, Reached, reached, recesses
from lean_ledger.core.operations.turning.insert_outline import insert_of
from lean_ledger.core.papers.plan_document import FirstPlan, first_plan
from lean_ledger.core.setups.profile import Profile, reached_chain, section_of
from lean_ledger.library import shipped_library
from tests.cases.parts.named import NAMED, revolved
from tests.conftest import built, with_machines

LIB = shipped_library()
#: Trying every machine takes time and shows nothing here: what is turned is turned on lathes.
FEW = with_machines("mill-762", "mill-five", "lathe-320")
TOOLS = {t.id: t for t in LIB.tools}


def vee(a: float, b: float, depth: float, flat: float = 0.0) -> Profile:
    """From the free end at z = 60: a V into Ø80, its walls going over a and b along the axis."""
    low, high = 30 - b, 30 + flat + a
    return ((60, 0), (60, 40), (high, 40), (30 + flat, 40 - depth), (30, 40 - depth), (low, 40), (0, 40), (0, 0))


def way_of(tool: str, chain: Profile, limit: float = -FAR) -> Reached:
    (recess,) = recesses(chain)
    return reached(TOOLS[tool], recess, chain, reached_chain(chain), limit)


def test_blade_leaves_a_triangle_at_the_bottom_and_a_pointed_insert_nothing() -> None:
    """8 wide, 8 deep: where it is w wide it is w high over its bottom, so a blade of w leaves w · w / 2: 4.5 and 2. Its
    walls lean by atan(4 / 8) = 26.6° to the radius, a 35° insert by 17.5°.
    """
    chain = vee(4, 4, 8)
    assert way_of("GR3", chain).left == pytest.approx(4.5, abs=1e-6)
    assert way_of("GR2", chain).left == pytest.approx(2.0, abs=1e-6)
    assert way_of("TP35", chain).left == pytest.approx(0.0, abs=1e-6)
    assert way_of("TP35", chain).cleared.area == pytest.approx(32.0)


def test_pointed_insert_in_a_steep_vee_stands_off_the_bottom() -> None:
    """4 wide, 8 deep, walls of 14°: the insert touches both edges when its tip is 2 / tan 17.5° = 6.34 deep."""
    way = way_of("TP35", vee(2, 2, 8))
    assert way.tips.bounds[1] == pytest.approx(40 - 2 / 0.31530, abs=1e-3)


def test_neck_of_straight_walls_is_left_to_no_pointed_insert() -> None:
    chain = vee(0, 0, 5, flat=10)
    assert way_of("GR3", chain).left == pytest.approx(0, abs=1e-6)
    assert way_of("TP35", chain).left == pytest.approx(2 * 5 * 5 * 0.31530 / 2, rel=1e-3)


def test_what_holds_the_work_keeps_a_broad_head_off() -> None:
    """The head is 6 beside the tip: it comes to the lower wall at z = 26 only where nothing stands above 20."""
    chain = vee(4, 4, 8)
    assert way_of("TP35", chain, 26 - HEAD).left == pytest.approx(0, abs=1e-6)
    assert way_of("TP35", chain, 26 - HEAD + 2).left > 1
    assert way_of("GR2", chain, 26 - HEAD + 2).left == pytest.approx(2.0, abs=1e-6)


@settings(deadline=None, max_examples=15)
@given(
    st.floats(0, 8), st.floats(0, 8), st.floats(1, 9), st.sampled_from([0.0, 2.5, 6.0]),
    st.sampled_from(["GR2", "GR3", "TP35"]),
)  # fmt: skip
def test_no_insert_goes_into_the_part(a: float, b: float, depth: float, flat: float, tool: str) -> None:
    """Wherever its tip may be, what carries the edge is outside of the part: tried at the corners of that."""
    chain = vee(a, b, depth, flat)
    if not recesses(chain):
        return
    way = way_of(tool, chain)
    (recess,) = recesses(chain)
    assert way.left + way.cleared.area == pytest.approx(recess.area.area)
    for piece in getattr(way.tips, "geoms", [way.tips]):
        for z, r in list(piece.exterior.coords) if not piece.is_empty else ():
            for edge in insert_of(TOOLS[tool]):
                placed = affinity.translate(Polygon([(q, p) for p, q in edge.exterior.coords]), z, r)
                assert placed.intersection(section_of(chain)).area < 1e-3


def whole(found: FirstPlan) -> bool:
    return not [f for f in found.ledger.findings if f.severity == Severity.ERROR]


@pytest.mark.parametrize("material", ["al-6082"])
def test_pulley_is_turned_whole_with_more_stock_to_hold_it_by(material: str) -> None:
    """The V lies 8 over the face that the jaws hold next to: 6 for the insert's head and 1 for the jaws, and 2 of stock
    are not enough to grip 10. What is cured is cured by the value that the cure names.
    """
    part = built(NAMED["pulley"]())
    found = first_plan(part, material, (10,), FEW)
    assert whole(found)
    assert isinstance(found.outcome, Followed)
    assert stock_findings(part, found.ledger, found.outcome) == []
    (op,) = [o for o in found.ledger.operations if o.kind == OperationKind.TURN_RECESS]
    assert op.tool.id == "TP35"
    assert op.depth == pytest.approx(8, abs=0.01)
    assert found.ledger.plan.allowances.on("Z-") == pytest.approx(10.0)


@pytest.mark.parametrize(
    "profile",
    [
        # two necks with tapers, one under a collar
        [(0, 0), (20, 0), (20, 12), (17, 13.5), (17, 20), (20, 21.5), (20, 28), (15, 33), (15, 40), (20, 42), (20, 50),
         (12, 50), (12, 62), (0, 62)],
    ],
)  # fmt: skip
def test_necks_with_tapers_are_turned_whole(profile: list[tuple[float, float]]) -> None:
    part = built(revolved(profile))
    found = first_plan(part, "al-6082", (10,), FEW)
    assert whole(found)
    assert isinstance(found.outcome, Followed)
    assert stock_findings(part, found.ledger, found.outcome) == []
    assert any(op.kind == OperationKind.TURN_RECESS for op in found.ledger.operations)
    for op in found.ledger.operations:
        assert op.power <= op.power_limit * 1.001
