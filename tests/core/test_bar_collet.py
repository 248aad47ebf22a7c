"""A bar through the spindle: what the collet takes, what stands out, what a piece costs of the bar."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.hold import CONTACT, HeldStock
from lean_ledger.core.holding.obstacles import Rod
from lean_ledger.core.holding.resolve import MAKERS
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Plan, StockForm
from lean_ledger.core.program.agree import agreement, run_of
from lean_ledger.core.program.write import programs_of
from lean_ledger.core.setups.frame import frame_of
from lean_ledger.library import shipped_library
from lean_ledger.library.fixtures import FIXTURES, BarCollet, Fixture
from tests.conftest import built
from tests.core.test_turning import LATHE, UP, on_lathe
from tests.values import changed

LIB = shipped_library()
COLLET = next(f for f in LIB.fixtures if isinstance(f, BarCollet))
#: Ø30, 20 long, under Ø22, 22 long
PIN = built(rod((0, 0, 0), UP, 30, 20) + rod((0, 0, 20), UP, 22, 22))


def barred(part: Part, behind: float = 4.5, *, cut: float | None = 0.5, **stock: object) -> Plan:
    plan = on_lathe(part, LATHE, **stock)
    side = "Z-" if plan.setups[0].up == "Z+" else "Z+"
    plan = replace(plan, allowances=plan.allowances.with_side(side, behind))
    return changed(plan, "S1", fixture=COLLET.id, cut_off=cut)


def hold_of(plan: Plan, part: Part = PIN) -> BarHold:
    hold = evaluate(plan, part, LIB).loads[0].built.hold
    assert isinstance(hold, BarHold)
    return hold


def codes(plan: Plan, part: Part = PIN) -> set[str]:
    return {f.code for f in evaluate(plan, part, LIB).findings if f.severity == "error" and f.setup == "S1"}


@pytest.fixture(scope="module")
def ledger() -> Ledger:
    return evaluate(barred(PIN), PIN, LIB)


def test_every_kind_of_fixture_is_named_once_where_it_is_read_and_once_where_it_holds() -> None:
    assert set(FIXTURES.values()) == set(MAKERS) == set(get_args(Fixture))
    assert {type(f) for f in LIB.fixtures} == set(MAKERS)


def test_nose_stands_under_the_blade_and_the_bar_goes_on_behind(ledger: Ledger) -> None:
    hold = ledger.loads[0].built.hold
    assert isinstance(hold, BarHold)
    # 4.5 behind the piece: 0.5 to face, a blade of 3, 1 of clearance; none of it goes into the collet
    assert hold.grip == 0
    (nose,) = hold.obstacles
    assert isinstance(nose, Rod)
    assert (nose.radius, nose.box.max[2]) == (52, pytest.approx(hold.floor, abs=0.02))
    assert hold.touches == "a bar Ø35, over 45 of it"
    # 45 kN at µ 0.15, on the land and not on what the piece leaves in it
    assert hold.friction == pytest.approx(6750)
    assert hold.seat == 96


def test_piece_costs_what_stands_out_and_loads_by_feeding_the_bar(ledger: Ledger) -> None:
    # 42 long, 2 in front, 4.5 behind
    assert ledger.stock.bounds.size[2] == pytest.approx(48.5)
    assert ledger.loads[0].built.operations[-1].kind == "cut off"
    assert ledger.loads[0].seconds["handling"] == 7
    assert [f for f in ledger.findings if f.severity == "error" and f.setup == "S1"] == []


def test_stock_comes_out_as_the_part_and_the_machine_agrees(ledger: Ledger) -> None:
    found = followed(course_of(PIN, ledger))
    assert found.over_share == pytest.approx(0, abs=0.003)  # an insert leaves its radius in the corner of a step
    assert [f for f in stock_findings(PIN, ledger, found) if f.severity == "error"] == []
    for program in programs_of(ledger, PIN, "test"):
        setup = ledger.load_of(program.setup)
        assert abs(agreement(run_of(program, setup), setup).difference) < 0.01


def test_piece_that_is_not_cut_off_stays_on_its_bar() -> None:
    plan = barred(PIN, cut=None)
    found = next(f for f in evaluate(plan, PIN, LIB).findings if f.code == "stays-on-bar")
    scene = Scene(PIN, LIB, evaluate(plan, PIN, LIB))
    change = next(c.change for c in found.cures if c.change["change"] == "set-cut-off")
    cured, _ = read_change(change).apply(plan, scene)
    assert cured.setup("S1").cut_off == 0.5
    assert codes(cured) == set()


def test_blade_needs_room_before_the_nose() -> None:
    # 0.5 to face, the blade's 3 and 1 of clearance
    assert codes(barred(PIN, 4.5)) == set()
    found = next(f for f in evaluate(barred(PIN, 3.0), PIN, LIB).findings if f.code == "cut-off-in-jaws")
    assert found.title == "The blade would cut 1.5 into the nose."
    assert found.cures[0].change["value"] == 4.5


@given(st.floats(min_value=0.0, max_value=2.0))
def test_collet_closes_by_half_a_millimetre(smaller: float) -> None:
    size = 35 - smaller
    box = Bounds((-size / 2, -size / 2, 0), (size / 2, size / 2, 50))
    held = HeldStock(PIN, box, "round", upright=True, finished=None)
    hold = BarHold(frame_of("Z+", 0), 0, (box,), held, 0.0, COLLET, cut_off=True)
    assert (hold.findings("S1") == []) == (smaller <= 0.5 + CONTACT)


def test_bar_between_two_sizes_and_one_too_thick_are_named() -> None:
    between = barred(PIN, sizing="fixed", fixed=(33.5, 33.5, 48.5))
    found = next(f for f in evaluate(between, PIN, LIB).findings if f.code == "collet-size")
    assert "bar of Ø33.5" in found.title
    assert "nearest is 32" in found.why or "nearest is 35" in found.why
    thick = built(rod((0, 0, 0), UP, 70, 20))
    assert "collet-size" in codes(barred(thick), thick)
    assert "collet-size" not in codes(barred(PIN))


def test_hexagonal_bar_is_held_by_its_flats() -> None:
    hold = hold_of(barred(PIN, form="hexagonal bar"))
    # Ø30 and 2 on each side: 34 across the flats asked for
    assert hold.held.section == "hex"
    assert hold.across == pytest.approx(36)
    assert hold.touches == "a hexagonal bar 36, over 45 of it"
    assert "collet-size" not in codes(barred(PIN, form="hexagonal bar"))


@pytest.mark.parametrize("form", ["block", "rectangular bar", "plate"])
def test_what_is_no_bar_is_refused(form: StockForm) -> None:
    plan = barred(PIN, form=form, sizing="over the part")
    found = next(f for f in evaluate(plan, PIN, LIB).findings if f.code == "no-bar")
    assert "the stock is a block" in found.title
    assert {"change": "set-stock", "form": "round bar"} in [c.change for c in found.cures]


def test_long_piece_bends_out_of_the_collet() -> None:
    long = built(rod((0, 0, 0), UP, 12, 90))
    plan = barred(long)
    warned = {f.code for f in evaluate(plan, long, LIB).findings if f.setup == "S1"}
    assert "stands-far-out" in warned
