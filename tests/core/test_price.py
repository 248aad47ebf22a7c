"""The price, line by line, from exact decimals; and the refusals of its problem file."""

from __future__ import annotations

import json
from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.pricing import parse_price_problem, price, price_document
from lean_ledger.core.pricing.price import cents, price_curve
from tests.conftest import CASES

PROBLEM: dict[str, Any] = {
    "format": "lean-ledger/price-problem@1",
    "quantities": [10],
    "material": {
        "kind": "blank", "price_per_kg": 6.4, "density": 2.7, "section_area": 1000, "length": 100, "kerf": 3,
        "bar_length": 3000, "remnant": 80, "cut_charge": 1.5,
    },
    "setups": [
        {"name": "first", "machine_rate": 80, "labour_rate": 40, "attendance": 0.5, "setup_hours": 1.5,
         "cycle_seconds": 300, "pieces_per_cycle": 1, "load_seconds": 60, "load_during_cycle": False},
    ],
    "tooling_per_piece": 0.35, "fixtures": 480, "fixture_life": None, "programming_hours": 4, "programming_rate": 70,
    "outside": [{"name": "anodise", "per_piece": 1.2, "lot": 60}],
    "inspection_seconds": 30, "inspection_rate": 48, "scrap": 0, "overhead": 0.1, "margin": 0.2,
}  # fmt: skip


def problem(**changes: Any):  # type: ignore[no-untyped-def]
    return parse_price_problem(json.dumps({**PROBLEM, **changes}))


def lines(**changes: Any) -> dict[str, Decimal]:
    return dict(price(problem(**changes))[0].lines)


@pytest.mark.parametrize(
    "case", sorted(p.stem.removesuffix(".expect") for p in (CASES / "price").glob("price-*.expect.json"))
)
def test_case_is_priced_to_the_cent(case: str) -> None:
    expect = json.loads((CASES / "price" / f"{case}.expect.json").read_text(encoding="utf-8"))["expect"]
    text = (CASES / "price" / f"{case}.json").read_text(encoding="utf-8")
    document = price_document(price(parse_price_problem(text)))
    for got, wanted in zip(document["quantities"], expect["quantities"], strict=True):
        for key, value in wanted.items():
            if key == "machine_hours":
                assert got[key] == pytest.approx(value, abs=0.0501)
            else:
                assert got[key] == value, (case, key)


def test_each_line_by_hand() -> None:
    found = lines()
    # kg: 1000 · 100 · 2.7 / 10⁶ = 0.27; · 6.4 · 10
    assert found["material"] == Decimal("17.28")
    # 1.5 h · (80 + 40)
    assert found["setup"] == Decimal("180.00")
    # 10 · 360 s = 1 h · (80 + 0.5 · 40)
    assert found["run"] == Decimal("100.00")
    assert found["tooling"] == Decimal("3.50")
    assert found["fixtures"] == Decimal("480.00")
    assert found["programming"] == Decimal("280.00")
    # 10 · 1.2 + 60
    assert found["outside"] == Decimal("72.00")
    # 30/3600 · 48 · 10
    assert found["inspection"] == Decimal("4.00")
    assert found["overhead"] == Decimal("113.68")


def test_price_is_cost_over_one_less_margin() -> None:
    (found,) = price(problem())
    # 1136.78 · 1.1 = 1250.458; / 0.8 = 1563.0725
    assert found.cost == Decimal("1250.46")
    assert found.price == Decimal("1563.07")
    assert found.each == Decimal("156.31")


def test_scrap_starts_more_pieces() -> None:
    assert price(problem(scrap=0.02))[0].started == 11  # 10 / 0.98 = 10.2
    assert price(problem(quantities=[49], scrap=0.02))[0].started == 50


def test_bars_are_bought_whole() -> None:
    bar = {**PROBLEM["material"], "kind": "bar"}
    # (3000 − 80 + 3) / 103 = 28 pieces a bar; 10 pieces: one bar of 8.1 kg · 6.4, and ten cuts of 1.5
    assert problem(material=bar).material.pieces_per_bar == 28
    assert lines(material=bar)["material"] == Decimal("66.84")


def test_fixtures_are_whole_or_spread() -> None:
    assert lines(fixture_life=1000)["fixtures"] == Decimal("4.80")


def test_loading_during_the_cycle_counts_the_longer() -> None:
    setup = {**PROBLEM["setups"][0], "load_during_cycle": True, "load_seconds": 200}
    # 10 · 300 s = 0.8333 h · 100
    assert lines(setups=[setup])["run"] == Decimal("83.33")


def test_pieces_per_cycle_round_up_to_whole_loads() -> None:
    setup = {**PROBLEM["setups"][0], "pieces_per_cycle": 4}
    # 3 loads · 360 s = 0.3 h · 100
    assert lines(setups=[setup])["run"] == Decimal("30.00")


@pytest.mark.parametrize(
    ("value", "shown"), [("0.005", "0.01"), ("1.005", "1.01"), ("2.675", "2.68"), ("0.0049", "0.00")]
)
def test_halves_round_up(value: str, shown: str) -> None:
    assert cents(Fraction(Decimal(value))) == Decimal(shown)


@given(st.integers(1, 2000), st.integers(1, 2000))
def test_more_pieces_never_cost_less_in_all_nor_more_each(a: int, b: int) -> None:
    few, many = sorted((a, b))
    first, second = price(replace(problem(), quantities=(few, many)))
    assert first.price <= second.price
    assert first.each >= second.each


def test_curve_holds_the_quantities_asked_for_and_falls() -> None:
    curve = price_curve(replace(problem(), quantities=(10, 250)))
    each = dict(curve)
    assert {10, 250} <= set(each)
    assert [e for _, e in curve] == sorted((e for _, e in curve), reverse=True)
    assert each[10] == price(problem())[0].each


@given(
    st.sets(st.integers(1, 20_000), min_size=1, max_size=4),
    st.sampled_from((0, 0.03)),
    st.integers(1, 7),
)
def test_curve_is_the_price_to_the_cent(quantities: set[int], scrap: float, pieces: int) -> None:
    """The curve sums the lines up before it takes them times a quantity, the price after."""
    asked = problem(scrap=scrap, quantities=sorted(quantities))
    one = replace(asked, setups=(replace(asked.setups[0], pieces_per_cycle=pieces), *asked.setups[1:]))
    curve = price_curve(one)
    again = price(replace(one, quantities=tuple(q for q, _ in curve)))
    assert [each for _, each in curve] == [q.each for q in again]


@pytest.mark.parametrize(
    ("change", "place", "reason"),
    [
        ({"marginn": 0.2}, "marginn", "unknown key"),
        ({"margin": 1}, "margin", "below 1"),
        ({"scrap": 1.5}, "scrap", "below 1"),
        ({"quantities": [10, -5]}, "quantities[1]", "whole number above 0"),
        ({"quantities": [2.5]}, "quantities[0]", "whole number above 0"),
        ({"quantities": []}, "quantities", "at least one"),
        ({"fixtures": -1}, "fixtures", "negative"),
        ({"overhead": "0.1"}, "overhead", "a number is needed"),
        ({"overhead": True}, "overhead", "a number is needed"),
        ({"material": {**PROBLEM["material"], "kind": "rod"}}, "material.kind", "bar"),
        ({"material": {**PROBLEM["material"], "length": 0}}, "material.length", "above 0"),
        ({"material": {**PROBLEM["material"], "kind": "bar", "length": 5000}}, "material", "holds no piece"),
        ({"setups": [{**PROBLEM["setups"][0], "pieces_per_cycle": 0}]}, "setups[0].pieces_per_cycle", "above 0"),
        ({"setups": {}}, "setups", "list"),
        ({"outside": [{"name": "paint", "per_piece": 1}]}, "outside[0].lot", "missing"),
        ({"format": "lean-ledger/price-problem@2"}, "format", "this reads"),
    ],
)  # fmt: skip
def test_bad_problem_names_the_place_and_the_reason(change: dict[str, Any], place: str, reason: str) -> None:
    with pytest.raises(ProblemError) as refused:
        problem(**change)
    assert refused.value.place == place
    assert reason in refused.value.message


def test_missing_key_is_named() -> None:
    with pytest.raises(ProblemError, match="margin: is missing"):
        parse_price_problem(json.dumps({k: v for k, v in PROBLEM.items() if k != "margin"}))


def test_text_that_is_no_json_names_line_and_column() -> None:
    with pytest.raises(ProblemError, match="line 2 column 3"):
        parse_price_problem("{\n  oops}")
    with pytest.raises(ProblemError, match="NaN is no number"):
        parse_price_problem('{"margin": NaN}')


def test_setups_and_outside_may_be_empty() -> None:
    found = lines(setups=[], outside=[])
    assert (found["setup"], found["run"], found["outside"]) == (0, 0, 0)
