"""The stock, step by step, on the real page: the slider, the height at a point, the finding of what stays on."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
import requests
from playwright.sync_api import expect

from lean_ledger.core.geometry.solids import block, write_step
from lean_ledger.demo.served import MARK
from tests.browser.conftest import Planner

pytestmark = [pytest.mark.browser, pytest.mark.follows]


@pytest.fixture
def tray(planner: Planner, tmp_path: Path) -> int:
    """A pocket with sharp corners: a round tool leaves something in each of them."""
    path = tmp_path / "tray.step"
    write_step(block((0, 0, 0), (80, 60, 25)) - block((20, 15, 15), (60, 45, 25)), path, "tray")
    with path.open("rb") as file:
        answer = requests.post(
            f"{planner.site}/api/jobs", files={"file": ("tray.step", file)},
            data={"number": "T-1", "material": "al-6082", "quantities": "10"}, headers=MARK, timeout=60,
        )  # fmt: skip
    return int(answer.json()["plan_id"])


def open_stock(planner: Planner, plan: int) -> None:
    """The page, once the stock was followed: it may have to wait for the plans of other tests."""
    planner.open(plan, "setups?setup=stock")
    expect(planner.page.get_by_label("Operations done")).to_be_visible(timeout=120_000)


def test_leftover_stock_is_read_and_left_on(planner: Planner, tray: int) -> None:
    page = planner.page
    open_stock(planner, tray)
    finding = page.locator(".finding").filter(has_text=re.compile("Stock stays on P1, pocket: up to 0.88 in 4 places"))
    expect(finding).to_be_visible()
    expect(page.get_by_text("stays on, mm:")).to_be_visible()
    expect(finding).to_contain_text("R3 stays in 4 corners that the model has sharp")
    finding.get_by_role("button", name="Leave 0.88 on it").click()
    planner.settled()
    expect(finding).to_have_count(0)
    expect(page.get_by_role("link", name=re.compile("^Papers"))).to_contain_text("ready", timeout=120_000)
    page.keyboard.press("Control+z")
    expect(finding).to_be_visible()


def test_slider_goes_through_the_operations_by_keys(planner: Planner, tray: int) -> None:
    page = planner.page
    open_stock(planner, tray)
    slider = page.get_by_label("Operations done")
    last = int(slider.get_attribute("max") or 0)
    assert last == sum(len(s["entries"]) for s in planner.plan(tray)["setups"])
    expect(page.get_by_text(f"after {last} of {last}:")).to_be_visible()
    slider.focus()
    page.keyboard.press("Home")
    expect(page.get_by_text("as it comes from the saw")).to_be_visible()
    # 84 × 64 × 29 of aluminium at 2.70 g/cm³
    expect(page.locator(".stock-slider")).to_contain_text("421 g")
    page.keyboard.press("ArrowRight")
    expect(page.locator(".stock-slider")).to_contain_text(re.compile(f"after 1 of {last}: Face side Z"))
    page.get_by_role("button", name=re.compile("^Rough pocket P1")).click()
    expect(page.locator(".stock-slider")).to_contain_text("Rough pocket P1")


def test_height_is_read_at_a_pick(planner: Planner, tray: int) -> None:
    page = planner.page
    open_stock(planner, tray)
    slider = page.get_by_label("Operations done")
    slider.focus()
    page.keyboard.press("Home")
    page.get_by_role("button", name="Top", exact=True).click()
    page.wait_for_timeout(1200)
    canvas = page.locator(".model-canvas canvas")
    box = canvas.bounding_box()
    assert box is not None
    canvas.click(position={"x": box["width"] / 2, "y": box["height"] / 2})
    expect(page.get_by_text(re.compile(r"there are 29\.00 mm of stock"))).to_be_visible()


def test_price_says_that_its_stock_is_not_followed_until_it_is(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "price")
    sure = page.get_by_role("button", name=re.compile("Price each at"))
    expect(sure).not_to_contain_text("stock not followed yet")  # it follows by itself
    planner.type_into("Machine rate of S1", "90")
    expect(sure).not_to_contain_text("stock not followed yet")
    page.goto(planner.site)
    row = page.locator(".jobs-table tbody tr").filter(has_text=re.compile("T-"))
    expect(row.first).not_to_contain_text("stock not followed yet")


def test_change_that_moves_a_tool_marks_the_price_until_the_stock_is_followed(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "price")
    sure = page.get_by_role("button", name=re.compile("Price each at"))
    expect(sure).not_to_contain_text("stock not followed yet")
    requests.post(
        f"{planner.site}/api/plans/{plate}/changes", json={"change": "set-allowance", "side": "Z+", "value": 3.5},
        headers={**MARK, "If-Match": f'"{planner.plan(plate)["edition"]}"'}, timeout=60,
    ).raise_for_status()  # fmt: skip
    planner.open(plate, "price")
    expect(sure).to_contain_text("stock not followed yet")
    expect(page.get_by_role("heading", name=re.compile("Price"))).to_contain_text("stock not followed yet")
    expect(sure).not_to_contain_text("stock not followed yet")
