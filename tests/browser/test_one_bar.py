"""Pieces that stay in one bar or plate until they are sawn apart, on the real page."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Planner
from tests.browser.test_accessible import violations
from tests.browser.test_layout import layout, pieces

pytestmark = pytest.mark.browser


def test_four_stay_in_one_bar_by_keyboard_alone(planner: Planner, axe: str) -> None:
    """The louvre bracket, from one piece to four in a bar, eight in a plate and back, never touching the mouse."""
    page = planner.page
    plan = planner.copy_of("louvre-bracket", "BAR-1")
    planner.open(plan, "layout")
    cell = page.get_by_label("Pieces in one bar", exact=True)
    cell.focus()
    cell.fill("4")
    cell.press("Enter")
    planner.settled()
    expect(pieces(page)).to_have_count(4)
    there = layout(planner, plan)
    rows, joined = there["pieces"], there["joined"]
    assert isinstance(rows, list)
    assert isinstance(joined, dict)
    # the piece's 90 and what is over at its ends, and a kerf of 3 between two
    step = rows[1]["zero"][0] - rows[0]["zero"][0]
    assert step == pytest.approx(90 + joined["gap"])
    assert joined["length"] == pytest.approx(4 * step - 3)
    assert {row["group"] for row in rows} == {"bar 1"}
    expect(page.get_by_text(f"A bar of 4 is {joined['length']:.2f} mm long")).to_be_visible()
    expect(page.locator(".load-picture .box-jaw")).to_have_count(2 * joined["vises"])
    expect(page.get_by_text("4 pieces stay in one bar until they are sawn apart.")).to_be_visible()
    expect(page.get_by_label("Face side Z+, 2 off runs")).to_have_value("row")
    assert planner.plan(plan)["price"] is not None
    assert violations(page, axe) == []
    behind = page.get_by_label("Rows in one plate", exact=True)
    behind.focus()
    behind.fill("2")
    behind.press("Enter")
    planner.settled()
    expect(pieces(page)).to_have_count(8)
    plate = layout(planner, plan)["joined"]
    assert isinstance(plate, dict)
    assert (plate["word"], plate["together"], plate["length"]) == ("plate", 8, joined["length"])
    expect(page.get_by_text(f"A plate of 8 is {plate['length']:.2f} × {plate['width']:.2f} mm")).to_be_visible()
    expect(page.get_by_text("8 pieces stay in one plate until they are sawn apart.")).to_be_visible()
    expect(page.get_by_label("Face side Z+, 2 off runs")).to_have_value("row")
    cell.focus()
    cell.fill("0")
    cell.press("Enter")
    expect(page.get_by_text(re.compile("pieces of one bar"))).to_be_visible()
    button = page.get_by_role("button", name="One piece")
    button.focus()
    button.press("Enter")
    planner.settled()
    expect(pieces(page)).to_have_count(1)
    expect(page.get_by_text(re.compile("^A (bar|plate) of"))).to_have_count(0)
