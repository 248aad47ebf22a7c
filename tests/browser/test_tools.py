"""The shop's tools on the real page: looked for, calculated with, changed, brought in and refused."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
import requests
from playwright.sync_api import expect

from lean_ledger.demo.served import MARK
from tests.browser.conftest import Planner

pytestmark = pytest.mark.browser


def test_tool_is_found_calculated_changed_and_put_back(planner: Planner, site: str) -> None:
    page = planner.page
    page.goto(f"{site}/")
    page.get_by_role("link", name="Tools and cutting data").click()
    page.get_by_role("tab", name="End mills").click()
    page.get_by_label("Look for").fill("ø16 z4")
    expect(page.locator(".shelf-table tbody tr")).to_have_count(2)  # one of them long
    page.get_by_role("button", name="End mill 16 z4 coated", exact=True).click()
    calculator = page.get_by_role("region", name="Calculator for End mill 16 z4 coated")
    calculator.get_by_label("Material").select_option("steel-c45")
    # 120 m/min on Ø16
    expect(calculator.get_by_role("row", name=re.compile(r"^n \d+ rpm"))).to_contain_text("2387")
    calculator.get_by_label("Speed, % of usual").fill("120")
    calculator.get_by_label("Speed, % of usual").press("Enter")
    expect(calculator.get_by_role("row", name=re.compile(r"^n \d+ rpm"))).to_contain_text("2865")
    expect(calculator.get_by_role("row", name=re.compile(r"^life \d"))).to_contain_text("43")
    cell = page.get_by_label("LPR of End mill 16 z4 coated")
    cell.fill("66")
    cell.press("Enter")
    expect(page.get_by_role("status")).to_contain_text("Taken: EU16")
    own = page.get_by_role("button", name="Take out what the shop changed of End mill 16 z4 coated")
    own.click()
    expect(own).to_have_count(0)
    expect(cell).to_have_value("62")


def test_file_is_brought_in_or_refused_with_its_place(planner: Planner, site: str, tmp_path: Path) -> None:
    page = planner.page
    page.goto(f"{site}/tools?show=reamer")
    file = tmp_path / "reamers.csv"
    head = "ID,KIND,DESCRIPTION,DC,ZEFP,LCF,LPR,PRICE\n"
    file.write_text(f"{head}RE7,reamer,Reamer 7 H7,7,6,x,66,50\n", encoding="utf-8")
    page.get_by_label("Bring in tools, CSV or JSON").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text("reamers.csv, line 2, LCF: is 'x'; a number is needed")
    file.write_text(f"{head}RE7,reamer,Reamer 7 H7,7,6,40,66,50\n", encoding="utf-8")
    page.get_by_label("Bring in tools, CSV or JSON").set_input_files(file)
    expect(page.get_by_role("status")).to_contain_text("Taken: RE7")
    expect(page.get_by_role("button", name="Reamer 7 H7", exact=True)).to_be_visible()
    page.get_by_role("button", name="Take out what the shop changed of Reamer 7 H7").click()
    expect(page.get_by_role("button", name="Reamer 7 H7", exact=True)).to_have_count(0)
    with page.expect_download() as download:
        page.get_by_role("link", name="tools.csv").click()
    assert download.value.path().read_text(encoding="utf-8").startswith("ID,NUMBER,KIND")


def test_holder_of_a_tool_is_changed_and_counts_in_plans(planner: Planner, site: str) -> None:
    """A nose of Ø36 in place of Ø22: the tool goes wider behind, and the table says who changed it."""
    page = planner.page
    page.goto(f"{site}/tools?show=end_mill")
    choice = page.get_by_label("Holder of End mill 10 z3", exact=True)
    expect(choice).to_have_value("CH22")
    try:
        choice.select_option("CH36")
        expect(page.get_by_role("status")).to_contain_text("EA10")
        expect(choice).to_have_value("CH36")
        tools = requests.get(f"{site}/api/shop/tools", timeout=60).json()["tools"]
        row = next(t for t in tools if t["row"]["ID"] == "EA10")
        assert (row["row"]["HOLDER"], row["own"]) == ("CH36", True)
    finally:
        requests.delete(f"{site}/api/shop/own/tool/EA10", headers=MARK, timeout=60)


def test_what_is_left_out_stays_in_the_table_to_be_given_another_tool(planner: Planner) -> None:
    page = planner.page
    plan = planner.job("AB-118")
    edition = planner.plan(plan)["edition"]
    change = {"change": "edit-operation", "operation": "S1.H3.ream", "tool": "EA20"}  # wider than the bore
    requests.post(f"{planner.site}/api/plans/{plan}/changes", json=change,
                  headers={"If-Match": f'"{edition}"', **MARK}, timeout=60)  # fmt: skip
    planner.open(plan, "operations")
    left = page.locator(".left-out", has_text="Ream Ø8, through H7")
    expect(left).to_contain_text("would cut the part or what holds it")
    again = left.get_by_label("Tool of Ream Ø8, through H7", exact=True)
    again.focus()
    again.select_option(label="by the rule")
    planner.settled()
    expect(page.locator(".left-out")).to_have_count(0)
    assert [f for f in planner.plan(plan)["findings"] if f["code"] == "would-cut"] == []
