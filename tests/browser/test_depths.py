"""Depths and magazines at the page: a number, a face that is pointed at, a tool that is put into a machine."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Planner
from tests.browser.test_making import entries, unfold

pytestmark = pytest.mark.browser

DRILL = "Drill 4 × Ø5.5, through"


def test_depth_is_typed_and_goes_back_to_the_rule(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    unfold(page, DRILL)
    depth = page.get_by_label(f"Depth of {DRILL}")
    before = next(e for e in entries(planner, plate) if e["name"] == DRILL)
    assert before["measured"]["words"] == ""
    depth.fill("9")
    depth.press("Enter")
    planner.settled()
    after = next(e for e in entries(planner, plate) if e["id"] == before["id"])
    assert after["measured"]["value"] == 9
    assert after["total"] < before["total"]
    expect(page.get_by_text("by hand · the rule:")).to_be_visible()
    expect(page.get_by_text(re.compile("stops .* short")).first).to_be_visible()
    page.get_by_role("button", name="Depth by the rule").last.click()
    planner.settled()
    assert next(e for e in entries(planner, plate) if e["id"] == before["id"])["measured"] == before["measured"]


def test_depth_goes_to_a_face_that_is_pointed_at(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    unfold(page, DRILL)
    page.get_by_role("button", name="Point at a face").click()
    picture = page.get_by_role("application", name=re.compile("The part, to point at"))
    expect(picture).to_be_visible()
    page.get_by_role("button", name="Bottom", exact=True).click()
    beyond = page.get_by_label("Beyond the face")
    beyond.fill("1.5")
    beyond.press("Enter")
    page.wait_for_timeout(800)  # the view turns
    picture.scroll_into_view_if_needed()
    box = picture.bounding_box()
    assert box is not None
    for across in (0.3, 0.4, 0.5, 0.6, 0.7):
        page.mouse.click(box["x"] + across * box["width"], box["y"] + 0.5 * box["height"])
        if page.get_by_role("button", name=re.compile("^To F")).count():
            break
    page.get_by_role("button", name=re.compile("^To F")).click()
    planner.settled()
    measured = next(e for e in entries(planner, plate) if e["name"] == DRILL)["measured"]
    assert re.fullmatch(r"to the (bottom|top) of F\d+ and 1.5 beyond", measured["words"])
    assert measured["value"] == measured["rule"] + 1.5


def test_tool_is_put_into_a_machine_and_taken_out(planner: Planner) -> None:
    page = planner.page
    page.goto(f"{planner.site}/tools?show=machines")
    mill = page.get_by_role("region", name="Mill 1, travel 762")
    expect(mill.get_by_text("14 of 20 pockets")).to_be_visible()
    mill.get_by_label(re.compile("^Put a tool into")).select_option(label="10 End mill 12 z3")
    expect(mill.get_by_text("15 of 20 pockets")).to_be_visible()
    mill.get_by_role("button", name=re.compile("^Take End mill 12 z3 out")).click()
    expect(mill.get_by_text("14 of 20 pockets")).to_be_visible()
    mill.get_by_role("button", name="Back to what ships").click()
    expect(mill.get_by_role("button", name="Back to what ships")).to_have_count(0)
