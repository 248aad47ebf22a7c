"""Text that stays text: in files, in spreadsheets, in the names of downloads."""

from __future__ import annotations

from io import BytesIO

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.plain_text import as_ascii, check_name, check_text, for_csv, from_csv
from lean_ledger.core.files.csv_input import csv_cells, read_table
from lean_ledger.core.files.tool_file import read_tools, tool_row, tools_csv
from lean_ledger.core.papers.lists import as_csv, as_xlsx
from lean_ledger.core.papers.sheet import JobWords, SetupSheet, setup_sheet
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick_ledger

FORMULA = "=cmd|' /C calc'!A0"


def sheet() -> SetupSheet:
    from datetime import date

    part = demo_part("anemometer-arm-block")
    return setup_sheet(JobWords("Ł-5", "x", "A", ""), quick_ledger(part), part, 1, date(2026, 11, 28))


@pytest.mark.parametrize("text", [FORMULA, "+1+2", "-1-2", "@SUM(A1)", "\t=1", "'=1", "''=1"])
def test_what_a_spreadsheet_would_compute_is_written_with_an_apostrophe_and_comes_back(text: str) -> None:
    assert str(for_csv(text)).startswith("'")
    assert from_csv(str(for_csv(text))) == text


@pytest.mark.parametrize("text", ["12", "-0.5", "+3,5", "1e-3", "-1.5E+3", "End mill 6", "Ø6", "", "'quoted'"])
def test_numbers_and_plain_words_are_written_as_they_are(text: str) -> None:
    assert for_csv(text) == text
    assert from_csv(text) == text


@given(st.text(alphabet=st.characters(exclude_categories=["Cs", "Cc"]), max_size=20).map(str.strip))
def test_any_cell_comes_in_again_as_it_was(text: str) -> None:
    assert from_csv(str(for_csv(text))) == text


def test_tool_named_like_a_formula_is_text_in_csv_and_xlsx_and_comes_back() -> None:
    library = shipped_library()
    row = tool_row(library.tools[0]) | {"ID": "X1", "NUMBER": "", "DESCRIPTION": FORMULA}
    tool = read_tools(
        "\n".join([",".join(row), ",".join(f'"{c}"' for c in csv_cells(row).values())]), library
    ).tools[0]  # fmt: skip
    assert tool.description == FORMULA
    written = tools_csv([tool])
    assert f"'{FORMULA}" in written
    assert read_tools(written, library).tools[0].description == FORMULA
    ((_, read),) = read_table(written, ("ID",), ("ID",))
    assert read["DESCRIPTION"] == FORMULA
    book = load_workbook(BytesIO(as_xlsx("tools", ("what",), [(FORMULA,), ("\x07bell",)], sheet().date)))
    cells = [row[0] for row in book.active.iter_rows()]  # type: ignore[union-attr]
    assert [(c.value, c.data_type) for c in cells] == [("what", "s"), (FORMULA, "s"), ("bell", "s")]
    assert as_csv(("what",), [(FORMULA,)]).decode("utf-8-sig").split("\r\n")[1] == f"'{FORMULA}"


def test_name_in_plain_ascii() -> None:
    assert as_ascii("J–101 Ł-5 №7 Ø6 Sørby") == "J-101 L-5 No7 O6 Sorby"
    assert as_ascii("部品") == "__"


@pytest.mark.parametrize("text", ["a\x00b", "a\ud800", "bell\x07", "\x9f", "\uffff"])
def test_control_characters_and_halves_of_pairs_are_refused(text: str) -> None:
    with pytest.raises(PlanError, match=r"U\+[0-9A-F]{4}") as refused:
        check_text(text, "note")
    assert refused.value.place == "note"
    with pytest.raises(PlanError):
        check_name(text, "the name")


def test_a_note_may_have_lines_and_a_name_may_not() -> None:
    check_text("one\ntwo\tthree", "note")
    check_name("№7 Łódź – 部品", "the name")
    with pytest.raises(PlanError, match="stands on one line"):
        check_name("one\ntwo", "the name")
    check_name("x" * 120, "the name")
    with pytest.raises(PlanError, match="121 characters; at most 120"):
        check_name("x" * 121, "the name")
