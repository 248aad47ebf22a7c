"""The setup sheet and the lists: the plan's own numbers, and the same bytes each time."""

from __future__ import annotations

import csv
from dataclasses import replace
from datetime import date
from io import BytesIO, StringIO

import pytest
from openpyxl import load_workbook
from pypdf import PdfReader

from lean_ledger.core.papers.lists import OPERATION_HEAD, TOOL_HEAD, as_csv, as_xlsx, operation_rows, tool_rows
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.papers.projection import view_of
from lean_ledger.core.papers.sheet import JobWords, SetupSheet, clock, hours, setup_sheet
from lean_ledger.core.setups import frame_of
from tests.conftest import demo_part, quick_ledger

JOB = JobWords("SB-220", "Sensor base plate", "A", "Hochwart Wind Vanes")


def sheet(name: str = "sensor-base-plate") -> SetupSheet:
    part = demo_part(name)
    return setup_sheet(JOB, quick_ledger(part), part, 3, date(2026, 11, 25))


def test_clock_and_hours() -> None:
    assert (clock(0), clock(59.96), clock(331.04), clock(3725)) == ("0:00.0", "1:00.0", "5:31.0", "62:05.0")
    assert (hours(1.15), hours(0.999)) == ("1:09", "1:00")


def test_sheet_carries_the_ledger_s_numbers() -> None:
    ledger = quick_ledger(demo_part("sensor-base-plate"))
    made = sheet()
    assert made.cycle == ledger.cycle
    assert [s.cycle for s in made.setups] == [s.cycle for s in ledger.loads]
    for setup, own in zip(made.setups, ledger.loads, strict=True):
        assert [o.total for o in setup.operations] == [e.total for e in own.calls]
        in_cut = sum(t.minutes for t in setup.tools)
        assert in_cut * 60 == pytest.approx(own.seconds["cutting"])
        assert {t.number for t in setup.tools} == {e.operation.tool.number for e in own.calls}
    assert [s.offset for s in made.setups] == ["G54", "G55"]


def test_pdf_says_what_the_setter_needs() -> None:
    made = sheet()
    reader = PdfReader(BytesIO(sheet_pdf(made)))
    assert len(reader.pages) == 2
    first = reader.pages[0].extract_text()
    for words in (
        "SB-220", "Sensor base plate", "Setup 1 of 2", "plan version 3", "2026-11-25", "144.00 × 94.00 × 20.00",
        "Vise 100", "edge finder", "Face mill 50 z5", "Countersink Ø11", f"Cycle {clock(made.setups[0].cycle)}",
        f"Piece: cycle {clock(made.cycle)}",
    ):  # fmt: skip
        assert words in first, words
    assert "Setup 2 of 2" in reader.pages[1].extract_text()
    assert "SUPERSEDED" not in first
    pages = PdfReader(BytesIO(sheet_pdf(replace(made, superseded_by="B")))).pages
    assert all("SUPERSEDED: this sheet makes revision A, and revision B" in page.extract_text() for page in pages)


def test_long_list_of_operations_goes_on_with_its_head() -> None:
    made = sheet()
    many = made.setups[0].operations * 4
    long = replace(made, setups=(replace(made.setups[0], operations=many),))
    reader = PdfReader(BytesIO(sheet_pdf(long)))
    assert len(reader.pages) > 1
    assert "Operation" in reader.pages[1].extract_text()
    assert reader.pages[1].extract_text().count("Setup 1 of 2") == 1


def test_same_plan_gives_the_same_bytes() -> None:
    a, b = sheet(), sheet()
    assert sheet_pdf(a) == sheet_pdf(b)
    assert as_xlsx("tools", TOOL_HEAD, tool_rows(a), a.date) == as_xlsx("tools", TOOL_HEAD, tool_rows(b), b.date)


def test_csv_holds_each_operation_once() -> None:
    made = sheet()
    rows = list(csv.reader(StringIO(as_csv(OPERATION_HEAD, operation_rows(made)).decode("utf-8-sig"))))
    assert rows[0] == list(OPERATION_HEAD)
    assert len(rows) - 1 == sum(len(s.operations) for s in made.setups)
    total = sum(float(row[-1]) for row in rows[1:])
    assert total == pytest.approx(sum(o.total for s in made.setups for o in s.operations), abs=0.3)


def test_xlsx_holds_numbers_as_numbers() -> None:
    made = sheet()
    page = load_workbook(BytesIO(as_xlsx("operations", OPERATION_HEAD, operation_rows(made), made.date))).active
    assert page is not None
    assert [c.value for c in page[1]] == list(OPERATION_HEAD)
    assert isinstance(page["L2"].value, float)
    assert page.max_row == 1 + sum(len(s.operations) for s in made.setups)


@pytest.mark.parametrize("up", ["Z+", "Z-", "X+", "Y-"])
@pytest.mark.parametrize("turn", [0, 90])
def test_views_fit_the_part_s_box_in_its_setup(up: str, turn: int) -> None:
    part = demo_part("anemometer-arm-block")
    frame = frame_of(up, turn)
    box = frame.box(part.model.solid.bounds)
    for name, axes in (("top", (0, 1)), ("end", (1, 2))):
        view = view_of(part, frame, name)  # type: ignore[arg-type]
        for axis, i in zip(axes, (0, 1), strict=True):
            values = [p[i] for line in view.visible for p in line]
            assert min(values) == pytest.approx(box.min[axis], abs=0.01), (name, axis)
            assert max(values) == pytest.approx(box.max[axis], abs=0.01), (name, axis)
    assert view_of(part, frame, "iso").visible
