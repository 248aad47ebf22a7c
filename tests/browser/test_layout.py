"""Several pieces in a load on the real page, from a plan of one piece: by mouse, and by keyboard alone."""

from __future__ import annotations

import re

import pytest
import requests
from playwright.sync_api import Locator, Page, expect

from lean_ledger.demo.served import MARK
from tests.browser.conftest import Planner
from tests.browser.test_accessible import violations

pytestmark = pytest.mark.browser


def on_tombstone(planner: Planner, number: str) -> int:
    """The cable saddle, its first setup in a low vise on the tombstone bar: one piece."""
    plan = planner.copy_of("cable-saddle", number)
    page = planner.page
    planner.open(plan, "setups?setup=S1")
    page.get_by_label(re.compile("^Machine")).select_option(label="Mill 3, travel 762, rotary")
    planner.settled()
    page.get_by_label(re.compile("^Stands on")).select_option(label="Tombstone bar 480 from rotary to tailstock")
    planner.settled()
    page.get_by_label(re.compile("^Held in")).select_option(label="Low vise 60 for tombstones")
    planner.settled()
    return plan


def pieces(page: Page) -> Locator:
    return page.locator(".load-picture .piece")


def layout(planner: Planner, plan: int, load: int = 0) -> dict[str, object]:
    answer = requests.get(f"{planner.site}/api/plans/{plan}/layout", timeout=20)
    return dict(answer.json()["loads"][load])


def test_axe_finds_nothing_in_a_load_of_forty(planner: Planner, axe: str) -> None:
    page = planner.page
    planner.open(planner.job("CS-224"), "layout?load=L2")
    expect(pieces(page)).to_have_count(40)
    expect(page.locator(".count-chart")).to_be_visible()
    assert violations(page, axe) == []


def sixteen_are_right(planner: Planner, plan: int) -> None:
    there = layout(planner, plan)
    rows = there["pieces"]
    assert isinstance(rows, list)
    assert [row["side"] for row in rows] == [side for side in (0, 90, 180, 270) for _ in range(4)]
    words = [f"G{n}" for n in range(54, 60)] + [f"G54.1 P{n}" for n in range(1, 11)]
    assert [row["offset"] for row in rows] == words
    # four at 102, about the middle of the bar at X 640 − 240
    assert [row["zero"][0] for row in rows[:4]] == [400 + 102 * k for k in (-1.5, -0.5, 0.5, 1.5)]
    assert {(row["zero"][1], row["zero"][2]) for row in rows} == {(203, rows[0]["zero"][2])}
    assert planner.plan(plan)["findings"] == [] or {f["severity"] for f in planner.plan(plan)["findings"]} == {
        "warning"
    }


def test_sixteen_pieces_on_four_sides_by_mouse(planner: Planner) -> None:
    page = planner.page
    plan = on_tombstone(planner, "L-16M")
    page.get_by_role("link", name=re.compile("^Layout")).click()
    expect(pieces(page)).to_have_count(1)
    page.get_by_role("button", name="All 4").click()
    expect(pieces(page)).to_have_count(4)
    page.get_by_role("button", name="Take 16 pieces").click()
    expect(pieces(page)).to_have_count(16)
    expect(page.locator(".layout-page h1")).to_contain_text("16 pieces a cycle in S1")
    sixteen_are_right(planner, plan)
    # one piece is dragged along the bar and told to be too near
    box = pieces(page).nth(1).locator(".box-stock").first.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 30, y, steps=4)
    page.mouse.up()
    planner.settled()
    expect(page.get_by_text(re.compile("comes too near|stand in one another")).first).to_be_visible()
    page.get_by_role("button", name="All back to their places").click()
    planner.settled()
    sixteen_are_right(planner, plan)


def test_sixteen_pieces_on_four_sides_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = on_tombstone(planner, "L-16K")
    page.keyboard.press("Alt+3")
    page.get_by_label("Columns", exact=True).focus()
    page.keyboard.type("4")
    page.keyboard.press("Enter")
    expect(pieces(page)).to_have_count(4)
    page.get_by_role("button", name="All 4").focus()
    page.keyboard.press("Enter")
    expect(pieces(page)).to_have_count(16)
    sixteen_are_right(planner, plan)
    pieces(page).nth(1).focus()
    page.keyboard.press("ArrowRight")
    planner.settled()
    assert layout(planner, plan)["pieces"][1]["moved"] == [1, 0]  # type: ignore[index]
    page.keyboard.press("Control+z")
    planner.settled()
    sixteen_are_right(planner, plan)


def test_forty_pieces_on_a_plate_share_an_offset_by_rows(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("cable-saddle", "L-40")
    planner.open(plan, "part")
    for k, change in enumerate(
        (
            {"change": "set-thread", "diameter": 3.3, "thread": "M4"},
            {"change": "set-fixture", "setup": "S2", "fixture": "plate-640"},
        ),
        start=1,
    ):
        answer = requests.post(
            f"{planner.site}/api/plans/{plan}/changes", json=change, headers={"If-Match": f'"{k}"', **MARK}, timeout=60
        )
        assert answer.status_code == 200, answer.text
    planner.open(plan, "layout?load=L2")
    planner.type_into("Columns", "5")
    planner.type_into("Rows", "8")
    expect(pieces(page)).to_have_count(40)
    page.get_by_label(re.compile("^Shared")).select_option("one for each row, or side")
    planner.settled()
    rows = layout(planner, plan, 1)["pieces"]
    assert isinstance(rows, list)
    assert len({row["offset"] for row in rows}) == 8
    assert [row["local"][0] for row in rows[:5]] == [0, 102, 204, 306, 408]
    assert [f["title"] for f in planner.plan(plan)["findings"] if f["severity"] == "error"] == []
    # proving out: the others can be skipped, and the program says so
    page.get_by_role("button", name="Prove out on piece 1 alone").click()
    planner.settled()
    expect(page.get_by_label("Piece 40 can be skipped")).to_be_checked()
    programs = requests.get(f"{planner.site}/api/plans/{plan}/program", timeout=60).json()["setups"]
    lines = programs[1]["text"].split("\n")
    assert sum(line.startswith("/ M98") for line in lines) == 39 * len(planner.plan(plan)["setups"][1]["entries"])


def test_offset_is_named_by_hand_and_a_doubled_one_is_cured(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "layout")
    planner.type_into("Columns", "2")
    for piece in (1, 2):
        offset = page.get_by_label(f"Offset of piece {piece}")
        offset.focus()
        offset.select_option("G57")
        planner.settled()
    expect(page.get_by_text("G57 is the zero of piece 2 and of piece 1", exact=False)).to_be_visible()
    page.get_by_role("button", name="Number piece 2 by the rule").click()
    planner.settled()
    expect(page.get_by_label("Offset of piece 2")).to_have_value("")
    # a zero is typed: the piece goes there
    planner.type_into("Zero X of piece 2", "500")
    assert layout(planner, plate)["pieces"][1]["zero"][0] == 500  # type: ignore[index]
