"""Speeds, feeds, passes and power: worked examples, limits, and what was set by hand."""

from __future__ import annotations

from dataclasses import replace
from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.operations.cutting.conditions import (
    EFFICIENCY,
    Wish,
    chip_thinning,
    cutting_power,
    settle,
    settle_plunge,
    settle_tap,
    spindle_speed,
)
from lean_ledger.core.plan import OperationEdit
from lean_ledger.library import shipped_library
from tests.values import machine_with

LIB = shipped_library()
MILL = LIB.machines[0]
ALU, STEEL = LIB.material("al-6082"), LIB.material("steel-c45")
assert ALU is not None
assert STEEL is not None
NONE = OperationEdit("op")


def tool(id: str):  # type: ignore[no-untyped-def]
    found = LIB.tool(id)
    assert found is not None, id
    return found


def data(id: str, material=ALU):  # type: ignore[no-untyped-def]
    found = LIB.data(tool(id), material)
    assert found is not None
    return found


def test_speed_from_cutting_speed() -> None:
    # 1000 · 260 / (π · 10) = 8276 rpm
    assert spindle_speed(260, 10) == pytest.approx(8276.06, abs=0.01)


def test_feed_is_speed_times_flutes_times_feed_per_tooth() -> None:
    # D 10, z 3, fz 0.064, n 3000 → 576 mm/min
    three = replace(data("EA10"), fz=((10.0, 0.064),))
    settled = settle(tool("EA10"), three, ALU, MILL, replace(NONE, n=3000), Wish(5, 10, 5))
    assert settled.cutting.vf == pytest.approx(576)


def test_speed_stops_at_the_spindle_and_says_so() -> None:
    settled = settle(tool("EA6"), data("EA6"), ALU, MILL, NONE, Wish(5, 6, 3))
    assert settled.cutting.n == 8100
    figure = next(f for f in settled.figures if f.label == "n")
    assert "the spindle's most is 8100" in figure.formula
    assert settled.cutting.vc == pytest.approx(pi * 6 * 8100 / 1000)


def test_step_downs_are_equal() -> None:
    # depth 14, at most 8 → ceil(14/8) = 2 passes of 7
    settled = settle(tool("EA10"), data("EA10"), ALU, MILL, NONE, Wish(14, 8, 4))
    assert (settled.cutting.passes, settled.cutting.ap) == (2, 7)


def test_depth_that_divides_exactly_takes_no_extra_pass() -> None:
    settled = settle(tool("EA10"), data("EA10"), ALU, MILL, NONE, Wish(0.3 * 3, 0.3, 4))
    assert settled.cutting.passes == 3


def test_thin_chips_raise_the_feed_in_roughing_only() -> None:
    wide = settle(tool("EA10"), data("EA10"), ALU, MILL, NONE, Wish(5, 10, 5)).cutting.vf
    thin = settle(tool("EA10"), data("EA10"), ALU, MILL, NONE, Wish(5, 10, 1)).cutting.vf
    finish = settle(tool("EA10"), data("EA10"), ALU, MILL, NONE, Wish(5, 10, 1, thin_chips=False)).cutting.vf
    assert thin == pytest.approx(wide * 5 / 3)
    assert finish == pytest.approx(wide)


def test_chip_thinning_by_hand() -> None:
    # ae/D = 0.1: 1 / (2·sqrt(0.1 − 0.01)) = 1/0.6
    assert chip_thinning(1, 10) == pytest.approx(1 / 0.6)
    assert chip_thinning(5, 10) == 1
    assert chip_thinning(0.01, 10) == 2, "never more than twice"


@given(st.floats(0.02, 9.9), st.floats(1, 20))
def test_chip_thinning_never_lowers_the_feed(ae: float, diameter: float) -> None:
    assert 1 <= chip_thinning(ae, diameter) <= 2


def test_power_by_hand() -> None:
    # Q = 5 · 4 · 1000 = 20 000 mm³/min; · 800 N/mm² / 60·10⁶ / 0.8 = 0.333 kW
    assert cutting_power(5, 4, 1000, 800) == pytest.approx(20_000 * 800 / 60e6 / EFFICIENCY)


def test_feed_is_held_back_to_the_spindle_s_power() -> None:
    weak = machine_with(MILL, spindle=replace(MILL.spindle, power=0.5))
    settled = settle(tool("EU20"), data("EU20", STEEL), STEEL, weak, NONE, Wish(16, 16, 5))
    assert settled.power == pytest.approx(0.5)
    assert "held back to 0.5 kW" in next(f for f in settled.figures if f.label == "vf").formula


def test_feed_set_by_hand_stands_and_its_power_is_told() -> None:
    settled = settle(tool("EA20"), data("EA20"), ALU, MILL, replace(NONE, vf=20_000), Wish(20, 20, 8))
    assert settled.cutting.vf == 20_000
    assert settled.power > settled.power_limit


def test_edits_stand_over_the_rule() -> None:
    edit = replace(NONE, n=4000, vf=900, ae=2.5, passes=4, allowance=0.35)
    cutting = settle(tool("EA10"), data("EA10"), ALU, MILL, edit, Wish(8, 8, 4, 0.2)).cutting
    assert (cutting.n, cutting.vf, cutting.ae, cutting.passes, cutting.allowance) == (4000, 900, 2.5, 4, 0.35)
    assert cutting.ap == 2


@pytest.mark.parametrize("name", ["n", "vf", "ap", "ae"])
def test_values_must_be_above_0(name: str) -> None:
    with pytest.raises(PlanError, match=f"{name} is 0; it must be above 0"):
        settle(tool("EA10"), data("EA10"), ALU, MILL, replace(NONE, **{name: 0.0}), Wish(8, 8, 4))


def test_drill_feeds_by_its_flutes() -> None:
    settled = settle_plunge(tool("D10"), data("D10"), ALU, MILL, NONE, 20)
    n = 1000 * 140 / (pi * 10)
    assert settled.cutting.n == pytest.approx(n)
    assert settled.cutting.vf == pytest.approx(n * 2 * 0.11)


def test_tap_feeds_its_pitch_per_turn() -> None:
    settled = settle_tap(tool("TM6"), data("TM6"), MILL, NONE, 12)
    n = 1000 * 18 / (pi * 6)
    assert settled.cutting.vf == pytest.approx(n * 1.0)


def test_tap_feed_cannot_be_set() -> None:
    with pytest.raises(PlanError, match="set n instead of vf"):
        settle_tap(tool("TM6"), data("TM6"), MILL, replace(NONE, vf=100), 12)


def test_torque_curve_is_linear_between_its_points_and_power_capped() -> None:
    spindle = MILL.spindle  # 80 N·m to 1800, 17 N·m at 8100; 15 kW
    assert spindle.torque_at(900) == 80
    assert spindle.torque_at((1800 + 8100) / 2) == pytest.approx((80 + 17) / 2)
    assert spindle.power_at(900) == pytest.approx(80 * 900 / 9549)
    assert spindle.power_at(4000) == 15


@given(st.sampled_from([t for t in LIB.tools if t.kind == "end_mill"]), st.floats(0.5, 30), st.floats(0.1, 8))
def test_passes_times_step_is_the_depth_and_no_step_is_too_deep(mill, depth, ae) -> None:  # type: ignore[no-untyped-def]
    material = next(m for m in LIB.materials if LIB.data(mill, m) is not None)
    found = LIB.data(mill, material)
    assert found is not None
    wish = Wish(depth, min(mill.cutting_length, material.rough_ap * mill.diameter), ae)
    settled = settle(mill, found, material, MILL, NONE, wish)
    cutting = settled.cutting
    assert cutting.passes * cutting.ap == pytest.approx(depth)
    assert cutting.ap <= wish.ap + 1e-6
    assert cutting.n <= MILL.spindle.max_rpm
    assert settled.power <= settled.power_limit * 1.001
