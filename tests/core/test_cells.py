"""Cells: machines that run by themselves, people who tend them, and the pace that comes of it."""

from __future__ import annotations

import itertools
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.cells.model import Station, Tended
from lean_ledger.core.cells.of_plan import PlanCell, cell_of
from lean_ledger.core.cells.run import steady
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.plan import Cell, Plan
from lean_ledger.core.pricing.price import MaterialCost, PriceProblem, PriceSetup, price
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick

LIB = shipped_library()
PLATE = demo_part("sensor-base-plate")


def station(id: str, cycle: float, served: float, pieces: int = 1, *, beside: bool = False) -> Station:
    return Station(id, id, round(cycle * 1000), round(served * 1000), pieces, beside)


def tended(*stations: Station, people: int = 1, walk: float = 5.0, room: int = 2) -> Tended:
    return Tended(stations, (frozenset(range(len(stations))),) * people, round(walk * 1000), room)


TWO = (station("A", 60, 20), station("B", 50, 15))


# ---- the pace


def test_slowest_machine_sets_the_pace_where_its_operator_is_there_in_time() -> None:
    cell = tended(*TWO, station("bench", 0, 25))
    found = steady(cell)
    # A takes 60 + 20; the operator 20 + 15 + 25 and three walks of 5 = 75, and goes ahead to A before it ends
    assert found.pace == 80_000 == cell.bound
    assert found.bottleneck == "A"
    assert found.shares["A"] == {"running": pytest.approx(60 / 80), "served": pytest.approx(20 / 80)}


def test_operator_sets_the_pace_where_the_work_by_hand_takes_longer() -> None:
    found = steady(tended(*TWO, station("bench", 0, 60)))
    assert found.pace == 110_000  # 20 + 15 + 60 and three walks of 5
    assert found.bottleneck == "operator 1"
    assert steady(tended(*TWO, station("bench", 0, 60), people=2)).pace < 110_000


def test_pieces_that_are_served_together_share_a_service() -> None:
    # four in 260 + 60 = 80 each, two in 150 + 35 = 92.5 each: the second sets the pace
    found = steady(tended(station("A", 260, 60, 4), station("B", 150, 35, 2), walk=4, room=8))
    assert found.pace == pytest.approx(92_500)


def test_second_pallet_is_loaded_while_the_machine_runs() -> None:
    assert steady(tended(station("A", 99, 24, 2, beside=True))).pace == 49_500
    assert steady(tended(station("A", 99, 24, 2))).pace == 61_500  # (99 + 24) / 2


def test_each_tends_his_own() -> None:
    stations = (station("A", 40, 30), station("B", 40, 50))
    cell = Tended(stations, (frozenset({0}), frozenset({1})), 5000, 2)
    assert steady(cell).pace == 90_000  # B: 40 + 50, nobody walks
    assert steady(cell).shares["operator 2"].get("walking", 0.0) == 0.0


def test_too_little_room_brings_it_to_a_stand() -> None:
    with pytest.raises(PlanError, match="too little room"):
        steady(tended(station("A", 60, 20, 4), station("B", 50, 15, 4), room=3))


@st.composite
def cells(draw: st.DrawFn) -> Tended:
    count = draw(st.integers(1, 4))
    stations = []
    for k in range(count):
        bench = k > 0 and draw(st.booleans())
        cycle = 0 if bench else draw(st.integers(5, 300))
        pieces = 1 if bench else draw(st.sampled_from([1, 1, 2, 4]))
        beside = not bench and draw(st.integers(0, 4)) == 0
        stations.append(station(f"S{k}", cycle, draw(st.integers(2, 60)), pieces, beside=beside))
    return tended(
        *stations, people=draw(st.integers(1, 3)), walk=draw(st.integers(0, 6)), room=draw(st.integers(8, 16))
    )


@settings(deadline=None, max_examples=60)
@given(cells())
def test_pace_is_between_its_bound_and_one_after_the_other(cell: Tended) -> None:
    found = steady(cell)
    alone = sum((s.cycle + s.served + 2 * cell.walk) / s.pieces for s in cell.stations)
    assert cell.bound - 1e-6 <= found.pace <= alone * max(s.pieces for s in cell.stations) + 1e-6


@settings(deadline=None, max_examples=40)
@given(cells())
def test_over_a_period_everybody_is_somewhere_once_and_every_piece_is_served_at_each_station(cell: Tended) -> None:
    found = steady(cell)
    for who, shares in found.shares.items():
        own = sorted((s for s in found.spans if s.who == who), key=lambda s: s.start)
        assert own[0].start == 0
        assert own[-1].end == found.period
        if who.startswith("operator"):
            assert all(a.end == b.start for a, b in itertools.pairwise(own))
        assert sum(shares.values()) >= 1 - 1e-9
    for one in (s for s in cell.stations if not s.is_bench):
        runs = sum(s.end - s.start for s in found.spans if (s.who, s.doing) == (one.id, "running"))
        # as often as it takes for the pieces of the period, whatever lies between the stations
        assert runs == pytest.approx(one.cycle * found.pieces / one.pieces, abs=one.cycle)


# ---- of a plan


def two_mills() -> Plan:
    plan = quick(PLATE)
    return changed(plan, {"change": "set-machine", "setup": "S2", "machine": "mill-500"})


def changed(plan: Plan, change: dict[str, object]) -> Plan:
    return read_change(change).apply(plan, Scene(PLATE, LIB, evaluate(plan, PLATE, LIB)))[0]


def decided(**values: object) -> dict[str, object]:
    usual = {"operators": 1, "walk": 4.0, "room": None, "shift_hours": 8.0, "availability": 0.85}
    return {"change": "set-cell"} | usual | values


def cell(ledger: Ledger) -> PlanCell:
    return cell_of(ledger.plan.cell, ledger.loads, ledger.problem.setups)


def test_stations_are_the_loads_and_what_is_done_by_hand_beside_them() -> None:
    plan = changed(two_mills(), {"change": "add-hand-work", "setup": "S1", "kind": "deburr", "during": True})
    made = evaluate(plan, PLATE, LIB)
    first, bench, second = cell(made).tended.stations
    assert (first.cycle, first.served) == (round(made.loads[0].cycle * 1000), round(made.loads[0].load_seconds * 1000))
    assert (bench.name, bench.served, bench.is_bench) == ("bench after S1: deburr", 20_000, True)
    assert second.name.endswith("Mill 2, travel 500, quick")


def test_money_and_pieces_of_a_shift_by_hand() -> None:
    def line(rate: int) -> PriceSetup:
        return PriceSetup(
            "S", Decimal(rate), Decimal(42), Decimal("0.5"), Decimal("0.5"), Decimal(60), 1, Decimal(20), False
        )

    one = PlanCell(Cell(), tended(*TWO), steady(tended(*TWO)), (line(85), line(98)))
    assert one.seconds_each == 80
    assert int(one.per_shift) == 306  # 8 · 3600 · 0.85 / 80
    assert one.run_each == pytest.approx(5.00)  # (85 + 98 + 42) · 80 / 3600
    assert one.apart_each == pytest.approx((85 + 21 + 98 + 21) * 80 / 3600)
    beside = tuple(replace(s, load_during_cycle=True) for s in one.setups)  # 20 beside 60 cost nothing
    assert replace(one, setups=beside).apart_each == pytest.approx((85 + 21 + 98 + 21) * 60 / 3600)
    assert one.setting_up_each(10) == pytest.approx(0.5 * (85 + 42 + 98 + 42) / 10)
    assert one.hours(100) == pytest.approx((60 + 20 + 50 + 15 + 99 * 80) / 3600)


def test_price_of_a_plan_run_as_a_cell_by_hand() -> None:
    """Each load by itself 160 + 20 s: 225 · 180 / 3600 = 11.25 a piece; the cell 80 s: 5.00; setting up 133.50 a lot.

    Ten: (133.50 + 112.50) · 1.1 / 0.8 = 338.25, 33.83 each; as a cell (133.50 + 50) · 1.1 / 0.8 = 252.31, 25.23 each.
    """
    none, half = Decimal(0), Decimal("0.5")
    lines = tuple(
        PriceSetup("S", Decimal(rate), Decimal(42), half, half, Decimal(160), 1, Decimal(20), load_during_cycle=False)
        for rate in (85, 98)
    )
    material = MaterialCost("blank", none, none, none, none, none, none, none, none)
    problem = PriceProblem((10,), material, lines, none, none, None, none, none, (), none, none, none, Decimal("0.1"),
                           Decimal("0.2"))  # fmt: skip
    one = PlanCell(Cell(), tended(*TWO), steady(tended(*TWO)), lines)
    assert price(problem)[0].each == Decimal("33.83")
    assert one.price_each(problem, 10) == Decimal("25.23")


def test_price_as_a_cell_is_the_plan_s_less_what_the_loads_run_by_themselves() -> None:
    made = evaluate(two_mills(), PLATE, LIB)
    there, p = cell(made), made.problem
    for priced in made.prices:
        saved = (there.apart_each - there.run_each) * priced.started * (1 + Fraction(p.overhead))
        expected = Fraction(priced.price) - saved / (1 - Fraction(p.margin))
        assert float(there.price_each(p, priced.quantity)) == pytest.approx(float(expected) / priced.quantity, abs=0.02)


def test_cell_that_is_too_slow_is_found_with_what_helps() -> None:
    plan = changed(two_mills(), {"change": "add-hand-work", "setup": "S2", "kind": "inspect", "during": True})
    plan = changed(plan, {"change": "edit-hand-work", "setup": "S2", "work": plan.loads[1].hand[0].id, "seconds": 600})
    alone = cell(evaluate(plan, PLATE, LIB))
    assert alone.steady.bottleneck == "operator 1"
    plan = changed(plan, decided(wanted=int(alone.per_shift) + 5))
    made = evaluate(plan, PLATE, LIB)
    (short,) = (f for f in made.findings if f.code == "cell-too-slow")
    assert next(cure.label for cure in short.cures) == "2 operators"
    assert "Operator 1 sets the pace" in short.why


@pytest.mark.parametrize(
    ("change", "code"),
    [
        (decided(operators=0), "out-of-range"),
        (decided(availability=0.0), "out-of-range"),
        (decided(operators=2, tends=[["L1"]]), "tends"),
        (decided(tends=[["L9"]]), "no-such-station"),
        (decided(operators=2, tends=[["L1"], ["L1"]]), "nobody-tends"),
    ],
)
def test_refused(change: dict[str, object], code: str) -> None:
    with pytest.raises(PlanError) as refused:
        changed(two_mills(), change)
    assert refused.value.code == code


def test_two_loads_on_one_machine_are_no_cell() -> None:
    with pytest.raises(PlanError, match="makes more than one load"):
        cell(evaluate(replace(quick(PLATE), cell=Cell()), PLATE, LIB))
