"""Several turned pieces of an advance of the bar: where each stands, what it takes, what keeps one more out."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import offsets_of
from lean_ledger.core.loads.bars import most_by_travel
from lean_ledger.core.loads.load_ledger import bar_fed
from lean_ledger.core.loads.runs import Selection, reduced
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.papers.load_drawing import load_drawing
from lean_ledger.core.papers.sheet import fixture_words
from lean_ledger.core.plan import Plan
from lean_ledger.core.pricing.price import MaterialCost
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import shipped_library
from tests.conftest import built
from tests.core.test_bar_collet import barred
from tests.core.test_turning import UP

LIB = shipped_library()
#: Ø28 × 8 with a bore of Ø16
RING = built(rod((0, 0, 0), UP, 28, 8) - rod((0, 0, 0), UP, 16, 8))
EACH = 8 + 0.5 + 3  # a piece, what is left to face, the blade


def changed(plan: Plan, **values: Any) -> Plan:
    scene = Scene(RING, LIB, evaluate(plan, RING, LIB))
    return read_change(values).apply(plan, scene)[0]


def advance(count: int, **values: Any) -> Plan:
    plan = replace(barred(RING), buy="bar")
    return changed(plan, change="set-arrangement", load="L1", on_bar=count, **values)


@pytest.fixture(scope="module")
def five() -> Ledger:
    return evaluate(advance(5), RING, LIB)


def test_pieces_stand_one_behind_the_other_each_its_length_its_rest_and_the_blade(five: Ledger) -> None:
    load = five.loads[0]
    assert [p.out for p in load.placed] == [4 * EACH, 3 * EACH, 2 * EACH, EACH, 0]
    bar = bar_fed(load, Decimal(3000), Decimal(80))
    assert bar is not None
    # 5 × 11.5 and 2 to face the first; ⌊2920 / 59.5⌋ = 49 advances
    assert (bar.advance, bar.pieces, bar.reach) == (59.5, 245, -57.5)
    assert bar.fronts == (0, -11.5, -23, -34.5, -46)
    zeros = [o for o in offsets_of(five, RING) if o.setup == "S1"]
    assert {o.word for o in zeros} == {"G54"}
    assert [o.local[2] for o in zeros] == [0, -11.5, -23, -34.5, -46]
    assert {p.group for p in load.placed} == {"bar"}


def test_each_is_cut_off_before_the_next_is_begun_and_the_blade_faces_it(five: Ledger) -> None:
    calls = five.loads[0].calls
    places = [call.place for call in calls]
    assert places == sorted(places)
    kinds = {place: [c.operation.kind for c in calls if c.place == place] for place in "12345"}
    assert all(own[-1] == OperationKind.CUT_OFF for own in kinds.values())
    assert kinds["1"] == [OperationKind.FACE_TURN, *kinds["2"]]
    assert kinds["2"] == kinds["3"] == kinds["4"] == kinds["5"]


def test_seconds_are_those_of_the_machine_and_feeding_is_once_an_advance(five: Ledger) -> None:
    load = five.loads[0]
    (checked, *_) = checked_programs(five, RING, "T-1")
    assert checked.run.total == pytest.approx(load.cycle, rel=1e-4)
    assert checked.troubles == ()
    shifts = [line for line in checked.program.text.splitlines() if line.startswith("G52")]
    assert shifts == [f"G52 X0. Z{z}" for z in ("-11.5", "-23.", "-34.5", "-46.")] + ["G52 X0. Z0."]
    assert load.load_seconds == load.built.hold.load_seconds
    alone = evaluate(replace(barred(RING), buy="bar"), RING, LIB).loads[0]
    facing = next(c for c in alone.calls if c.operation.kind == OperationKind.FACE_TURN)
    assert alone.cycle * 5 - load.cycle > 4 * facing.operation.time.cut


def test_blocks_are_skipped_from_the_end_of_the_bar_only() -> None:
    plan = changed(advance(5), change="skip-pieces", load="L1", pieces=("4", "5"))
    assert plan.loads[0].skipped == ("4", "5")
    with pytest.raises(PlanError, match="in front of it"):
        changed(advance(5), change="skip-pieces", load="L1", pieces=("1", "2"))
    load = evaluate(advance(5), RING, LIB).loads[0]
    assert {c.place for c in reduced(load, Selection(pieces=("1", "2"))).calls} == {"1", "2"}
    with pytest.raises(PlanError, match="in front of it"):
        reduced(load, Selection(pieces=("3",)))


def test_price_takes_a_share_of_the_advance_and_whole_bars(five: Ledger) -> None:
    material = five.problem.material
    assert (material.length, material.kerf, material.pieces_per_bar) == (Decimal("11.9000"), 0, 245)
    one = evaluate(replace(barred(RING), buy="bar"), RING, LIB).problem.material
    # 11.5 and 2 to face each: ⌊2920 / 13.5⌋
    assert (one.length, one.pieces_per_bar) == (Decimal("13.5000"), 216)
    assert (five.problem.setups[0].pieces_per_cycle, five.problem.setups[0].load_seconds) == (5, 7)


@given(st.integers(1, 20), st.integers(500, 4000), st.integers(20, 900))
def test_bar_gives_whole_advances(together: int, bar: int, tenths: int) -> None:
    length = Decimal(tenths) / 10
    zero, one = Decimal(0), Decimal(1)
    cost = MaterialCost("bar", one, one, one, length, zero, Decimal(bar), zero, zero, together)
    count = cost.pieces_per_bar
    assert count % together == 0
    assert count * length <= bar < (count + together) * length


@settings(max_examples=6)
@given(st.integers(2, 8))
def test_more_of_an_advance_never_take_longer_each(count: int) -> None:
    one, more = (evaluate(advance(n), RING, LIB).loads[0] for n in (count - 1, count))
    each = [(load.cycle + load.idle) / load.pieces for load in (one, more)]
    assert each[1] < each[0]


def test_bar_that_stands_out_far_whips_and_the_cure_takes_fewer() -> None:
    plan = advance(14)
    (found,) = [f for f in evaluate(plan, RING, LIB).findings if f.code == "bar-whips"]
    cured = changed(plan, **found.cures[0].change)
    assert "bar-whips" not in {f.code for f in evaluate(cured, RING, LIB).findings}
    more = changed(cured, change="set-arrangement", load="L1", on_bar=cured.loads[0].arrangement.on_bar + 1)
    assert "bar-whips" in {f.code for f in evaluate(more, RING, LIB).findings}


def test_first_piece_is_what_the_travel_is_asked_for(five: Ledger) -> None:
    load = five.loads[0]
    most = most_by_travel(load.built, load.machine, EACH)
    past = {
        n: [f for f in evaluate(advance(n), RING, LIB).findings if f.code == "past-travel"] for n in (most, most + 1)
    }
    assert most > 5
    assert past[most] == []
    assert past[most + 1][0].title.startswith("Piece 1: ")


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"on_bar": 0}, "pieces of an advance"), ({"on_bar": 2, "columns": 2}, "one behind the other"),
        ({"on_bar": 2, "sides": (0.0,)}, "one behind the other"),
    ],
)  # fmt: skip
def test_what_no_bar_gives_is_refused(values: dict[str, Any], words: str) -> None:
    with pytest.raises(PlanError, match=words):
        changed(barred(RING), change="set-arrangement", load="L1", **values)


def test_without_a_bar_or_a_blade_there_is_one_piece() -> None:
    with pytest.raises(PlanError, match="not held by a bar collet"):
        changed(barred(RING), change="set-arrangement", load="L2", on_bar=2)
    with pytest.raises(PlanError, match="cuts the piece"):
        changed(barred(RING, cut=None), change="set-arrangement", load="L1", on_bar=2)
    # what is taken away afterwards is said, with its cure
    plan = changed(advance(4), change="set-cut-off", setup="S1", left=None)
    ledger = evaluate(plan, RING, LIB)
    (found,) = [f for f in ledger.findings if f.code == "not-as-arranged"]
    assert ledger.loads[0].pieces == 1
    cured = changed(plan, **found.cures[0].change)
    assert "not-as-arranged" not in {f.code for f in evaluate(cured, RING, LIB).findings}


def test_blanks_for_a_collet_that_is_fed_are_a_finding() -> None:
    plan = replace(advance(2), buy="blank")
    (found,) = [f for f in evaluate(plan, RING, LIB).findings if f.code == "blanks-on-bar"]
    cured = changed(plan, **found.cures[0].change)
    assert cured.buy == "bar"
    assert "blanks-on-bar" not in {f.code for f in evaluate(cured, RING, LIB).findings}


def test_sheet_says_how_far_the_bar_stands_out(five: Ledger) -> None:
    words = dict(fixture_words(five.loads[0]))
    hold = five.loads[0].built.hold
    assert words["stands out"] == f"{hold.stock.max[2] - hold.jaw_top + 46:.1f}"
    assert words["an advance"].startswith("5 pieces")
    offsets = [o for o in offsets_of(five, RING) if o.setup == "S1"]
    drawing = load_drawing(five.loads[0], offsets)
    assert drawing is not None
    assert [x for x, _, _ in drawing.numbers] == pytest.approx(
        [drawing.numbers[0][0] - k * EACH for k in range(5)]
    )  # fmt: skip
