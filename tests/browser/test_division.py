"""Who makes what: features moved by drag and by keys, splitting, merging, locks and wishes, on the real page."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Planner

pytestmark = pytest.mark.browser


@pytest.fixture
def plate(planner: Planner) -> int:
    return planner.copy_of("sensor-base-plate", "D-PLATE")


def board(planner: Planner, plan: int) -> Page:
    planner.open(plan, "setups")
    expect(planner.page.get_by_text("No division does with fewer.")).to_be_visible()
    return planner.page


def column(page: Page, setup: str) -> Locator:
    return page.get_by_role("region", name=f"Setup {setup}")


def made(planner: Planner, plan: int) -> dict[str, Any]:
    return {s["id"]: set(s["features"]) for s in planner.plan(plan)["setups"]}


def test_feature_is_dragged_to_another_setup_and_undone(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    chip = column(page, "S1").get_by_role("button", name=re.compile("^through hole H11"))
    chip.hover()
    page.mouse.down()
    target = column(page, "S2").bounding_box()
    assert target is not None
    page.mouse.move(target["x"] + 60, target["y"] + 200, steps=8)
    page.mouse.up()
    planner.settled()
    expect(column(page, "S2").get_by_role("button", name=re.compile("H11"))).to_be_visible()
    assert "H11" in made(planner, plate)["S2"]
    page.keyboard.press("Control+z")
    expect(column(page, "S1").get_by_role("button", name=re.compile("H11"))).to_be_visible()


def test_part_is_divided_by_keyboard_alone(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    column(page, "S1").get_by_role("button", name=re.compile("^face Z")).focus()
    for _ in range(30):
        page.keyboard.press("ArrowDown")
        if page.evaluate("document.activeElement.dataset.feature") == "H11":
            break
    page.keyboard.press("2")
    planner.settled()
    assert "H11" in made(planner, plate)["S2"]
    # it keeps the focus in its new column, so the next key goes on from there
    expect(column(page, "S2").get_by_role("button", name=re.compile("H11"))).to_be_focused()
    page.keyboard.press("n")
    planner.settled()
    assert made(planner, plate)["S3"] >= {"H11"}
    expect(page.get_by_text("2 would do: Z+ up, Z- up.")).to_be_visible()
    page.keyboard.press("1")
    planner.settled()
    assert "H11" in made(planner, plate)["S1"]


def test_setup_that_would_lose_a_feature_does_not_merge(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    page.get_by_label("Merge S1 into").select_option("S2")
    expect(page.get_by_text(re.compile("cannot be made with Z- up in S2"))).to_be_visible()
    assert list(made(planner, plate)) == ["S1", "S2"]


def test_split_setup_is_merged_back(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    before = made(planner, plate)
    chip = column(page, "S1").get_by_role("button", name=re.compile("^through hole H11"))
    chip.focus()
    chip.press("n")
    planner.settled()
    page.get_by_label("Merge S3 into").select_option("S1")
    planner.settled()
    assert made(planner, plate) == before


def test_what_stays_is_solved_around(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    chip = column(page, "S1").get_by_role("button", name=re.compile("^through hole H11"))
    chip.focus()
    chip.press("2")
    planner.settled()
    column(page, "S2").get_by_label("stays as it is").click()
    planner.settled()
    page.get_by_role("button", name="Divide again").click()
    planner.settled()
    assert "H11" in made(planner, plate)["S2"]
    column(page, "S2").get_by_label("stays as it is").click()
    planner.settled()
    page.get_by_role("button", name="Divide again").click()
    planner.settled()
    assert "H11" in made(planner, plate)["S1"]


def test_wish_that_cannot_be_had_is_said_and_taken_back(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    first = column(page, "S1").get_by_role("button", name=re.compile("^face Z"))
    first.click()
    column(page, "S2").get_by_role("button", name=re.compile("^face Z")).click(modifiers=["Control"])
    page.get_by_role("button", name=re.compile("F. and F. in one setup")).click()
    planner.settled()
    expect(page.get_by_text(re.compile("Not to be had with the rest: F. and F. in one setup"))).to_be_visible()
    expect(page.get_by_text(re.compile("are to be made in one setup and stand in S1 and S2"))).to_be_visible()
    page.get_by_role("button", name=re.compile("^No longer F")).click()
    planner.settled()
    expect(page.get_by_text("Not to be had")).to_have_count(0)


@pytest.mark.tries
def test_machine_is_changed_after_seeing_what_it_changes(planner: Planner, plate: int) -> None:
    page = board(planner, plate)
    before = planner.plan(plate)["strip"]
    row = page.get_by_role("row", name=re.compile("^Mill 2, travel 500"))
    expect(row).to_contain_text(re.compile(r"−\d+\.\d"))
    promised = row.get_by_role("cell").nth(4).inner_text()
    row.get_by_role("button", name="Move there: Mill 2, travel 500, quick").click()
    planner.settled()
    after = planner.plan(plate)["strip"]
    assert after["cycle"] < before["cycle"]
    assert after["each"] == promised
    expect(row).to_contain_text("here now")
    # the rule finds another vise for another table; one that was chosen by hand may find no place there
    page.get_by_role("tab", name=re.compile("^S1")).click()
    page.get_by_label("Held in").select_option("vise-125")
    planner.settled()
    page.get_by_role("tab", name="Who makes what").click()
    five = page.get_by_role("row", name=re.compile("^Mill 4, tilting"))
    five.get_by_text(re.compile("new$")).click()
    expect(five).to_contain_text(re.compile("S1: Vise 125 finds no place on Mill 4"))
    expect(page.get_by_role("row", name=re.compile("^Lathe 1"))).to_contain_text("choose a mill")
