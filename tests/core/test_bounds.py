"""Numbers from outside: finite, of few digits, and of a size that a machinist would write down."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.bounds import CUTTING_BOUNDS, MOST, MOST_DIGITS, TOOL_BOUNDS, Bounds, check_numbers, fits
from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.changes import read_change
from lean_ledger.core.files.cutting_file import check_cutting, cutting_csv, read_cutting
from lean_ledger.core.files.json_input import parse_json, read_amount
from lean_ledger.core.files.tool_file import check_tool, symbols
from lean_ledger.library import shipped_library

LIB = shipped_library()


@pytest.mark.parametrize(
    ("text", "whether"),
    [("12.50", True), ("0", True), ("10000000", True), ("10000001", False), ("1e999999", False), ("1e-999999", False),
     ("NaN", False), ("-Infinity", False), ("0.333333333333333333", True), ("0.3333333333333333333", False)],
)  # fmt: skip
def test_decimal_fits_when_it_is_written_in_few_digits(text: str, whether: bool) -> None:
    """0.333333333333333333 has 18 digits behind the point; one more is too many."""
    assert fits(Decimal(text)) is whether


@given(st.decimals(allow_nan=True, allow_infinity=True))
def test_what_fits_is_plain_to_write(value: Decimal) -> None:
    if fits(value):
        assert len(f"{value:f}".replace("-", "").replace(".", "")) <= MOST_DIGITS + 1
        assert abs(value) <= MOST


def test_bounds_in_words() -> None:
    assert Bounds(0.0005, 10).words == "from 0.0005 to 10"
    assert Bounds(1, 100, whole=True).words == "a whole number from 1 to 100"
    assert not Bounds(1, 100, whole=True).hold(2.5)
    assert not Bounds(0, 1).hold(float("nan"))


@pytest.mark.parametrize("change", [
    {"change": "set-rate", "name": "labour_rate", "value": "1e999999"},
    {"change": "lay-on-face", "setup": "S1", "face": 10**400, "to": "rest"},
    {"change": "set-rate", "name": "margin", "value": "1e-999999"},
    {"change": "set-setup-cost", "setup": "S1", "hours": "1e30"},
    {"change": "set-allowance", "side": "Z+", "value": 1e300},
    {"change": "set-allowance", "side": "Z+", "value": 1e-300},
    {"change": "set-quantities", "quantities": [10**12]},
    {"change": "edit-operation", "operation": "S1.x", "vf": 5e-324},
    {"change": "take-values", "edits": [{"operation": "S1.x", "n": 1e200}]},
])  # fmt: skip
def test_change_with_a_number_that_nobody_would_write_is_refused_before_it_is_made(change: dict[str, Any]) -> None:
    with pytest.raises(PlanError) as refused:
        read_change(change)
    assert refused.value.code in ("out-of-range", "change-malformed")


@pytest.mark.parametrize("value", [0, 1, -3.5, 1e-6, Decimal("2.5"), "1e999999", True, None, [1, 2], {"a": 1.0}])
def test_plain_numbers_and_text_pass(value: Any) -> None:
    check_numbers(value, "field")


def test_everything_that_ships_lies_within_the_bounds() -> None:
    for tool in LIB.tools:
        check_tool(tool)
    for row in LIB.cutting:
        check_cutting(row)
    assert {s for t in LIB.tools for s in symbols(t.kind).values()} <= set(TOOL_BOUNDS)


@pytest.mark.parametrize(("column", "value"), [
    ("FZ_3", "1e400"), ("VC", "1e-300"), ("LIFE_VC", "4000"), ("VC", "nan"), ("LIFE_MINUTES", "0"), ("FZ_MOST", "0.9"),
])  # fmt: skip
def test_cutting_value_out_of_bounds_is_refused_with_them(column: str, value: str) -> None:
    head, first = cutting_csv(LIB.cutting).split("\n")[:2]
    cells = dict(zip(head.split(","), first.split('"')[0].split(","), strict=False))
    cells |= {"SOURCE": "x", column: value}
    with pytest.raises(ProblemError) as refused:
        read_cutting(f"{head}\n{','.join(cells[name] for name in head.split(','))}", LIB)
    assert refused.value.place == f"line 2, {column}"
    assert refused.value.code in ("out-of-range", "not-a-number")
    if refused.value.code == "out-of-range" and "digits" not in refused.value.message:
        assert CUTTING_BOUNDS[column].words in refused.value.message


def test_row_kept_from_before_the_bounds_is_told_apart() -> None:
    with pytest.raises(ProblemError, match="LIFE_VC is 4000; it must be from 1 to 20"):
        check_cutting(replace(LIB.cutting[0], life_vc=4000.0))
    with pytest.raises(ProblemError, match="DC is 0; it must be from"):
        check_tool(replace(LIB.tools[0], diameter=0.0))


def test_tool_life_stays_a_number_however_far_speed_is_from_the_usual() -> None:
    """An edge at a thousand times the usual speed has cut for a moment; at a thousandth it lasts 4 times as long."""
    data = replace(LIB.cutting[0], life_vc=20.0, life_minutes=90.0)
    assert data.life_at(1000.0, 1.0) == 0.001
    assert data.life_at(1e-300, 1.0) == 4 * 90.0
    assert data.life_at(1.0, 1.0) == 90.0


@pytest.mark.parametrize("number", ["1e999999", "9" * 40, "1e13"])
def test_number_of_a_problem_file_has_a_limit(number: str) -> None:
    with pytest.raises(ProblemError) as refused:
        read_amount(parse_json(f'{{"a": {number}}}')["a"], "a")
    assert refused.value.code == "out-of-range"
