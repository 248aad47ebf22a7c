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
    answer = requests.get(f"{planner.site}/api/plans/{plan}/layout", timeout=60)
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


def test_pieces_are_turned_one_by_one_by_mouse_and_by_keyboard(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("cable-saddle", "L-TURN")
    planner.open(plan, "layout")
    page.get_by_label("Columns", exact=True).fill("2")
    page.keyboard.press("Enter")
    expect(pieces(page)).to_have_count(2)
    upright = pieces(page).nth(1).locator(".box-stock").first.bounding_box()
    page.get_by_label("Turn of piece 2", exact=True).select_option("180")
    planner.settled()
    expect(page.get_by_text("piece 2 turned by 180°").first).to_be_visible()
    pieces(page).nth(1).focus()
    page.keyboard.press("r")
    planner.settled()
    expect(page.get_by_label("Turn of piece 2", exact=True)).to_have_value("270")
    across = pieces(page).nth(1).locator(".box-stock").first.bounding_box()
    assert upright is not None
    assert across is not None
    # the picture may be drawn to another scale by then
    assert across["height"] / across["width"] == pytest.approx(upright["width"] / upright["height"], rel=0.05)
    page.keyboard.press("Shift+R")
    planner.settled()
    there = layout(planner, plan)["pieces"]
    assert isinstance(there, list)
    assert [row["turn"] for row in there] == [0, 180]
    assert not [f for f in planner.plan(plan)["findings"] if f["severity"] == "error"]
    page.get_by_role("link", name=re.compile("^Program")).click()
    expect(page.get_by_text("PIECE TURNED 180").first).to_be_attached()
    planner.open(plan, "papers")
    expect(page.get_by_text("row 1, turned 180°").first).to_be_visible()
    page.keyboard.press("Control+z")
    planner.settled()
    expect(page.get_by_text("row 1, turned 270°").first).to_be_visible()


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


# ---- first and second operation in one load


def in_double_vises(planner: Planner, number: str) -> int:
    """The sensor foot with both setups held in the double-station vise: one piece in each."""
    plan = planner.copy_of("sensor-foot", number)
    for k, setup in enumerate(("S1", "S2"), start=1):
        change_over(planner, plan, k, {"change": "set-fixture", "setup": setup, "fixture": "vise-125-double"})
    planner.open(plan, "setups")
    return plan


def change_over(planner: Planner, plan: int, edition: int, change: dict[str, object]) -> None:
    answer = requests.post(
        f"{planner.site}/api/plans/{plan}/changes",
        json=change,
        headers={"If-Match": f'"{edition}"', **MARK},
        timeout=60,
    )
    assert answer.status_code == 200, answer.text


def six_are_right(planner: Planner, plan: int) -> None:
    there = layout(planner, plan)
    rows = there["pieces"]
    assert isinstance(rows, list)
    assert [(row["setup"], row["offset"]) for row in rows] == [
        (setup, f"G{54 + 2 * k + j}") for k in range(3) for j, setup in enumerate(("S1", "S2"))
    ]
    assert [row["zero"][0] for row in rows] == [251, 216, 381, 346, 511, 476]
    assert there["finished"] == 3
    assert [f["title"] for f in planner.plan(plan)["findings"] if f["severity"] == "error"] == []
    run = there["runs"][0]  # type: ignore[index]
    assert [(one["setups"], one["count"]) for one in run["cycles"]] == [(["S1"], 1), (["S1", "S2"], 3), (["S2"], 1)]


def test_six_in_three_double_vises_by_mouse(planner: Planner) -> None:
    page = planner.page
    plan = in_double_vises(planner, "L-6M")
    page.get_by_role("link", name=re.compile("^Layout")).click()
    expect(pieces(page)).to_have_count(1)
    page.get_by_role("button", name="S2 beside S1").click()
    expect(pieces(page)).to_have_count(2)
    expect(page.get_by_role("tab", name="S1 + S2 1 piece")).to_be_visible()
    page.get_by_role("button", name="Take 3 pieces").click()
    expect(pieces(page)).to_have_count(6)
    expect(page.locator(".layout-page h1")).to_contain_text("3 pieces a cycle in S1 + S2")
    if layout(planner, plan)["columns"] != 3:  # as near to a square as goes in may be rows
        planner.type_into("Columns", "3")
        planner.type_into("Rows", "1")
    six_are_right(planner, plan)
    # the second operation alone is a program of its own
    page.get_by_role("link", name=re.compile("^Program")).click()
    expect(page.get_by_role("tab", name=re.compile("^S1 \\+ S2"))).to_be_visible()
    page.get_by_label(re.compile("^Setup")).select_option("S2")
    expect(page.get_by_text("only setup S2")).to_be_visible()
    expect(page.get_by_role("button", name="Program O0901.nc").or_(page.get_by_role("link", name="Program O0901.nc"))
           ).to_be_visible()  # fmt: skip
    # what it takes to set up and to load is the load's: typed once, it comes back as it was typed
    page.get_by_role("link", name=re.compile("^Price")).click()
    expect(page.get_by_role("rowheader", name="S1 + S2")).to_be_visible()
    planner.type_into("Load seconds of S1", "300")
    expect(page.get_by_label("Load seconds of S1", exact=True)).to_have_value("300")
    # and apart again
    page.get_by_role("link", name=re.compile("^Layout")).click()
    page.get_by_role("button", name="Take them apart").click()
    expect(page.get_by_role("tab", name="S2 3 pieces")).to_be_visible()


def test_six_in_three_double_vises_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = in_double_vises(planner, "L-6K")
    page.keyboard.press("Alt+3")
    page.get_by_role("button", name="S2 beside S1").focus()
    page.keyboard.press("Enter")
    expect(pieces(page)).to_have_count(2)
    page.get_by_label("Columns", exact=True).focus()
    page.keyboard.type("3")
    page.keyboard.press("Enter")
    expect(pieces(page)).to_have_count(6)
    six_are_right(planner, plan)
    page.keyboard.press("Control+z")
    planner.settled()
    expect(pieces(page)).to_have_count(2)


# ---- from the bar


def from_the_bar(planner: Planner, number: str) -> int:
    """The bearing spacer on the lathe, cut off a bar: one piece of an advance."""
    plan = planner.copy_of("bearing-spacer", number)
    for k, change in enumerate(
        (
            {"change": "set-stock", "form": "round bar"}, {"change": "set-stock", "sizing": "next size up"},
            {"change": "move-to-machine", "machine": "lathe-320"},
            {"change": "set-cut-off", "setup": "S1", "left": 0.3},
            {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"}, {"change": "set-buy", "buy": "bar"},
        ),
        start=1,
    ):  # fmt: skip
        change_over(planner, plan, k, change)
    planner.open(plan, "setups")
    return plan


def five_are_right(planner: Planner, plan: int) -> None:
    there = layout(planner, plan)
    bar = there["bar"]
    assert isinstance(bar, dict)
    # 8 of piece, 0.3 left, a blade of 3
    assert bar["fronts"] == pytest.approx([-11.3 * k for k in range(5)])
    assert (bar["advance"], bar["pieces"]) == (58.5, 245)
    rows = there["pieces"]
    assert isinstance(rows, list)
    assert [row["local"][2] for row in rows] == pytest.approx([-11.3 * k for k in range(5)])
    assert [f["title"] for f in planner.plan(plan)["findings"] if f["setup"] == "S1"] == []


def test_five_of_an_advance_by_mouse(planner: Planner) -> None:
    page = planner.page
    plan = from_the_bar(planner, "L-5M")
    page.get_by_role("link", name=re.compile("^Layout")).click()
    expect(page.get_by_role("img", name="1 piece of an advance of the bar")).to_be_visible()
    page.get_by_role("button", name=re.compile("^As many as go")).click()
    expect(page.get_by_role("img", name="8 pieces of an advance of the bar")).to_be_visible()
    planner.type_into("Pieces of an advance", "5")
    expect(page.locator(".bar-picture")).to_contain_text("advance 58.50")
    five_are_right(planner, plan)


def test_five_of_an_advance_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = from_the_bar(planner, "L-5K")
    page.keyboard.press("Alt+3")
    page.get_by_label("Pieces of an advance", exact=True).focus()
    page.keyboard.type("5")
    page.keyboard.press("Enter")
    expect(page.locator(".bar-picture")).to_contain_text("advance 58.50")
    five_are_right(planner, plan)
    page.get_by_label("Piece 5 can be skipped").focus()
    page.keyboard.press("Space")
    planner.settled()
    assert layout(planner, plan)["pieces"][4]["skipped"]  # type: ignore[index]


def test_forty_on_a_plate_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("cable-saddle", "L-40K")
    change_over(planner, plan, 1, {"change": "set-fixture", "setup": "S2", "fixture": "plate-640"})
    planner.open(plan, "setups")
    page.keyboard.press("Alt+3")
    expect(page.get_by_role("heading", name="Layout", level=1)).to_be_visible()
    page.get_by_role("tab", name=re.compile("^S1")).focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name=re.compile("^S2"))).to_have_attribute("aria-selected", "true")
    for label, text in (("Columns", "5"), ("Rows", "8")):
        page.get_by_label(label, exact=True).focus()
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        planner.settled()
    expect(pieces(page)).to_have_count(40)
    rows = layout(planner, plan, 1)["pieces"]
    assert isinstance(rows, list)
    assert len({tuple(row["zero"]) for row in rows}) == 40


def test_load_is_drawn_in_3d_turned_and_played_piece_by_piece(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = planner.job("CS-224")
    planner.open(plan, "layout")
    page.get_by_label(re.compile("^Drawn")).select_option("in 3D")
    turn = page.get_by_label(re.compile("^Rotary at"))
    expect(turn).to_be_visible()
    expect(page.locator(".load-model canvas")).to_be_visible()
    turn.focus()
    page.keyboard.press("ArrowRight")
    expect(turn).to_have_attribute("aria-valuetext", "5°")
    assert violations(page, axe) == []
    page.get_by_role("link", name=re.compile("^Program")).click()
    page.get_by_role("tab", name="Play the cycle").click()
    listed = page.get_by_role("region", name="Operations of the cycle").locator("tbody tr")
    expect(listed).to_have_count(16 * 9 + 40 * 3)
    listed.nth(16).get_by_role("button").click()
    expect(page.locator(".play-now")).to_contain_text("piece 16, Spot")
    expect(page.locator(".play canvas")).to_be_visible()


def test_what_runs_through_all_pieces_of_an_advance_is_chosen_by_keyboard(planner: Planner) -> None:
    page = planner.page
    plan = from_the_bar(planner, "L-5T")
    change_over(planner, plan, 7, {"change": "set-arrangement", "load": "L1", "on_bar": 5})
    planner.open(plan, "layout")
    cycle = planner.plan(plan)["setups"][0]["cycle"] * 5
    line = page.locator(".scopes tbody tr", has=page.get_by_role("rowheader", name=re.compile("^Drill ")))
    saved = float(line.locator("td").last.inner_text().replace("−", "-"))
    assert saved < -20, "five tools less to call on four pieces"
    line.get_by_role("combobox").focus()
    page.keyboard.press("o")
    page.keyboard.press("o")
    expect(line.get_by_role("combobox")).to_have_value("row")
    planner.settled()
    planner.shows(plan)
    assert planner.plan(plan)["setups"][0]["cycle"] * 5 == pytest.approx(cycle + saved, abs=0.2)
    page.locator(".scopes + details summary").click()
    expect(page.locator("ul.why")).to_contain_text("the blade cuts one piece off after the other")
    five_are_right(planner, plan)
    planner.open(plan, "papers")
    expect(page.get_by_text("Once through all pieces of the advance: “Drill Ø16, through”", exact=True)).to_be_visible()


def test_row_is_faced_in_one_pass_and_its_pieces_stand_closer(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("sensor-base-plate", "L-ROW")
    planner.open(plan, "layout")
    planner.type_into("Columns", "3")
    expect(page.get_by_text("at least 198.00 for “Face", exact=False)).to_have_count(1)
    cycle = planner.plan(plan)["setups"][0]["cycle"]
    runs = page.get_by_label(re.compile(r"^Face side Z\+.* runs$"))
    saved = float(page.locator(".scopes tbody tr").first.locator("td").last.inner_text().replace("−", "-"))
    runs.focus()
    page.keyboard.press("o")
    page.keyboard.press("o")
    expect(runs).to_have_value("row")
    planner.settled()
    planner.shows(plan)
    assert planner.plan(plan)["setups"][0]["cycle"] * 3 == pytest.approx(cycle * 3 + saved, abs=0.2)
    expect(page.get_by_text("at least 198.00 for “Face", exact=False)).to_have_count(0)
    page.locator(".scopes + details summary").click()
    expect(page.locator("ul.why")).to_contain_text("flat tool along lines")
