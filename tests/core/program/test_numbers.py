"""Numbers of programs: four digits each, none twice, however many setups and operations there are."""

from __future__ import annotations

import json
from datetime import date
from io import BytesIO
from zipfile import ZipFile

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.papers.package import program_package
from lean_ledger.core.papers.sheet import JobWords, setup_sheet
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.numbers import END, program_numbers
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()


@given(st.lists(st.integers(0, 400), max_size=12))
def test_no_number_is_given_twice_and_all_have_four_digits(operations: list[int]) -> None:
    try:
        found = program_numbers(operations)
    except PlanError:
        assert sum(operations) + len(operations) * 100 > END - 1000, "there was room"
        return
    taken = [n for one, count in zip(found, operations, strict=True)
             for n in (one.main, one.offsets, *(one.sub(k) for k in range(count)))]  # fmt: skip
    assert len(set(taken)) == len(taken)
    assert all(1000 <= n <= 9999 for n in taken)


def test_eight_setups_have_a_thousand_each_and_nine_have_what_they_need() -> None:
    assert [n.main for n in program_numbers([10] * 8)] == [1000 * k for k in range(1, 9)]
    # 10 operations and the main program are 11 numbers, rounded up to 100; 130 and one are 200
    assert [n.main for n in program_numbers([10, 130, *[10] * 7])] == [1000, 1100, 1300, *range(1400, 2000, 100)]
    with pytest.raises(PlanError, match="8100 operations in 9 setups"):
        program_numbers([900] * 9)


def test_twelve_setups_have_programs_that_run_and_a_package_that_names_them() -> None:
    body = block((0, 0, 0), (200, 60, 20))
    for k in range(11):
        body -= rod((12 + 16 * k, 30, 0), (0, 0, 1), 5 + 0.5 * k, 20)
    part = built(body)
    plan = quick(part)
    holes = [f.id for f in part.features if f.kind == "hole"]
    home = next(s for s, own in evaluate(plan, part, LIB).assigned.items() if holes[0] in own)
    for id in holes[: 12 - len(plan.setups)]:
        change = read_change({"change": "split-setup", "setup": home, "features": [id]})
        plan, _ = change.apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    ledger = evaluate(plan, part, LIB)
    assert len(ledger.loads) == 12
    programs = checked_programs(ledger, part, "T-12")
    assert len({one.program.file for one in programs}) == 12
    for one in programs:
        numbers = one.program.lines_of_numbers
        lines = one.program.text.split("\n")
        assert [int(lines[at - 1][1:5]) for at in numbers.values()] == list(numbers)
        assert set(numbers) == {one.program.numbers.main, *(n for n, _ in one.program.calls)}
        assert one.run.total == pytest.approx(one.setup.cycle, rel=2e-3)
    sheet = setup_sheet(JobWords("T-12", "plate", "A", "x"), ledger, part, 1, date(2026, 12, 1))
    with ZipFile(BytesIO(program_package(sheet, b"", programs, by_machine=True))) as package:
        manifest = json.loads(package.read("manifest.json"))
        first = [package.read(n).decode().split("\n")[1][:5] for n in package.namelist() if "offsets" in n]
    assert [row["main"] for row in manifest["programs"]] == [one.program.numbers.main for one in programs]
    assert len(set(first)) == 12
