"""Each chapter by mouse and by keyboard."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
import requests
from playwright.sync_api import expect

from lean_ledger.core.geometry.solids import write_step
from lean_ledger.core.papers.sheet import clock
from lean_ledger.demo.served import MARK
from tests.browser.conftest import ROUGH, Planner
from tests.core.test_many_alike import plate_body

pytestmark = pytest.mark.browser

# ---- part


def test_row_lights_the_feature_and_the_model_selects_the_row(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    row = page.get_by_role("row", name=re.compile("^pocket P1"))
    row.click()
    expect(row).to_have_attribute("aria-selected", "true")
    card = page.locator(".feature-card")
    expect(card).to_contain_text("corner R6smallest upright inner round")
    expect(card).to_contain_text("reachedfrom Z+")
    # seen from the top: 0.9 of the canvas for 140 mm; the pocket ends 2 mm right of the middle, then comes the top
    page.get_by_role("button", name="Top", exact=True).click()
    canvas = page.locator(".model-canvas canvas")
    page.wait_for_timeout(600)
    box = canvas.bounding_box()
    assert box is not None
    scale = 0.9 * box["width"] / 140
    middle = {"x": box["width"] / 2, "y": box["height"] / 2}
    canvas.click(position={"x": middle["x"] + 7 * scale, "y": middle["y"]})
    expect(card.locator("h3")).to_have_text("F2 face Z+")
    canvas.click(position={"x": middle["x"] - 28 * scale, "y": middle["y"]})
    expect(card.locator("h3")).to_have_text("P1 pocket")
    expect(row).to_have_attribute("aria-selected", "true")


def test_features_are_walked_with_the_arrow_keys(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    rows = page.locator(".feature-table tbody tr")
    rows.nth(0).focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(rows.nth(2)).to_have_attribute("aria-selected", "true")


def test_features_are_found_by_words(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    page.get_by_label("Find features").fill("slot")
    expect(page.locator(".feature-table tbody tr")).to_have_count(1)


def test_thread_can_be_named_taken_off_and_undone(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    cycle = planner.figure("cycle")
    choice = page.get_by_label("Thread of the holes Ø 4.2", exact=True)
    choice.select_option("M5")
    planner.settled()
    longer = planner.figure("cycle")
    assert longer != cycle
    choice.select_option("10-24 UNC") if "10-24 UNC" in choice.inner_text() else None
    choice.select_option("")
    planner.settled()
    expect(page.get_by_test_id("strip-cycle")).to_have_text(cycle)
    page.keyboard.press("Control+z")
    planner.settled()
    expect(page.get_by_test_id("strip-cycle")).not_to_have_text(cycle)


def test_units_switch_everywhere_and_inch_is_read_as_inch(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    page.get_by_role("button", name="inch").click()
    expect(page.get_by_label("Allowance X+", exact=True)).to_have_value("0.0787")
    planner.type_into("Allowance X+", "1/8")
    value = next(a["value"] for a in planner.plan(plate)["allowances"] if a["side"] == "X+")
    assert value == pytest.approx(25.4 / 8)
    planner.type_into("Allowance X+", "4mm")
    value = next(a["value"] for a in planner.plan(plate)["allowances"] if a["side"] == "X+")
    assert value == pytest.approx(4)
    page.get_by_role("button", name="mm").click()
    expect(page.get_by_label("Allowance X+", exact=True)).to_have_value("4.00")


# ---- setups


def test_zero_orientation_and_grip_are_chosen_and_drawn(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    expect(page.locator(".setup-picture .part-visible").first).to_have_attribute("d", re.compile("M"))
    page.get_by_role("combobox", name=re.compile("^Zero at")).select_option("left back")
    planner.settled()
    expect(page.locator("figcaption")).to_contain_text("the left and the back side of the stock")
    planner.type_into("Grip", "4")
    expect(page.locator(".measure").first).to_contain_text("grip 4.0")
    expect(page.get_by_role("group", name="Setup S1 from above")).to_be_visible()
    page.get_by_role("tab", name=re.compile("S2")).click()
    expect(page.get_by_role("heading", name="Setup S2")).to_be_visible()
    setup = planner.plan(plate)["setups"][0]
    assert (setup["zero"]["place"], setup["hold"]["grip"]) == ("left back", 4)


def test_grip_that_cannot_hold_is_found_and_mended_by_its_cure(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    planner.type_into("Grip", "2")
    finding = page.locator(".finding").filter(has_text="The jaws grip 2.0")
    expect(finding).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Papers"))).to_contain_text("held back")
    finding.get_by_role("button", name="Grip 3").click()
    planner.settled()
    expect(finding).to_have_count(0)
    assert "finding" in planner.figure("effect")


def test_other_material_has_other_times_and_another_price(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    before = planner.plan(plate)
    page.get_by_label("Material").select_option("stainless-1.4301")
    planner.settled()
    after = planner.plan(plate)
    assert after["strip"]["cycle"] > 2 * before["strip"]["cycle"]
    expect(page.locator(".where")).to_contain_text("Stainless steel 1.4301")
    expect(page.get_by_test_id("strip-each")).to_have_text(after["strip"]["each"])


def test_hole_is_moved_to_another_setup(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    row = page.get_by_role("row").filter(has_text="through hole H11")
    row.get_by_role("button", name="to S2").click()
    planner.settled()
    assert "H11" in planner.plan(plate)["setups"][1]["features"]


def test_zero_is_chosen_by_pointing_and_by_keys(planner: Planner) -> None:
    plan = planner.copy_of("mast-clamp-half", "Z-CLAMP")
    page = planner.page
    planner.open(plan, "setups?setup=S2")
    point = page.get_by_role("button", name="Zero at bore H7", exact=True)
    point.focus()
    page.keyboard.press("Enter")
    planner.settled()
    expect(page.locator("figcaption")).to_contain_text("indicate bore H7, Ø42.00, zero on its axis")
    row = page.get_by_role("row", name=re.compile("^F1 face"))
    expect(row.get_by_role("cell").nth(1)).to_have_text("0.000")
    page.get_by_role("button", name="Zero by the rule").click()
    planner.settled()
    expect(page.get_by_text("By the rule: H7 is finished and wide enough to indicate")).to_be_visible()
    page.get_by_role("button", name="All X and Y positive").click()
    planner.settled()
    zero = planner.plan(plan)["setups"][1]["zero"]
    assert (zero["of"], zero["place"]) == ("stock", "left front")
    assert all(c["x"] >= 0 and c["y"] >= 0 for c in zero["coordinates"])
    page.get_by_role("button", name="Zero at stock, right back").click()
    planner.settled()
    expect(page.locator("figcaption")).to_contain_text("the right and the back side of the stock")


# ---- operations


def test_feed_is_edited_and_emptied_back_to_the_rule(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    label = f"vf of {ROUGH}"
    by_rule = page.get_by_label(label, exact=True).input_value()
    cycle = planner.figure("cycle")
    planner.type_into(label, "600*2")
    expect(page.get_by_label(label, exact=True)).to_have_value("1200")
    assert planner.figure("cycle") != cycle
    expect(page.get_by_test_id("strip-effect")).to_contain_text("each")
    planner.type_into(label, "")
    expect(page.get_by_label(label, exact=True)).to_have_value(by_rule)
    expect(page.get_by_test_id("strip-cycle")).to_have_text(cycle)


def test_cell_shows_how_it_understood_and_escape_leaves_it(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    cell = page.get_by_label(f"ap of {ROUGH}", exact=True)
    before = cell.input_value()
    cell.click()
    cell.fill("3x1+2")
    expect(page.get_by_role("status").filter(has_text="= 5.000 mm")).to_be_visible()
    cell.fill("what")
    expect(page.get_by_role("status").filter(has_text="no number")).to_be_visible()
    cell.press("Escape")
    expect(cell).to_have_value(before)
    assert planner.plan(plate)["edition"] == 1


def test_arrows_and_enter_walk_the_column_and_a_column_can_be_pasted(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    cells = page.locator("input[data-column=n]")
    cells.nth(0).click()
    page.keyboard.press("ArrowDown")
    expect(cells.nth(1)).to_be_focused()
    page.keyboard.press("Enter")
    expect(cells.nth(2)).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(cells.nth(1)).to_be_focused()
    cells.nth(1).evaluate(
        """(cell) => {
            const data = new DataTransfer();
            data.setData("text", "5000\\n5100");
            cell.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
        }"""
    )
    expect(cells.nth(2)).to_have_value("5100")
    expect(cells.nth(1)).to_have_value("5000")


def test_wrong_value_is_refused_in_the_strip_and_nothing_is_lost(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    planner.type_into(f"n of {ROUGH}", "-100")
    expect(page.get_by_role("alert")).to_contain_text("n is -100; it must be from 1 to 200000")
    assert planner.plan(plate)["edition"] == 1


def test_tool_is_changed_in_the_table(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    choice = page.get_by_label(f"Tool of {ROUGH}", exact=True)
    choice.focus()  # then the tools are listed
    choice.select_option("EA8")
    planner.settled()
    entry = next(e for s in planner.plan(plate)["setups"] for e in s["entries"] if e["name"] == ROUGH)
    assert entry["tool"]["id"] == "EA8"
    assert entry["edited"] == ["tool"]


@pytest.mark.follows
def test_missing_tool_is_named_and_the_holes_left_to_another(planner: Planner) -> None:
    page = planner.page
    plan_id = planner.copy_of("louvre-bracket", "T-louvre")
    planner.open(plan_id, "operations")
    finding = page.locator(".finding").filter(has_text="No tool makes")
    expect(finding).to_be_visible()
    finding.get_by_role("button", name="Leave to another shop").click()
    planner.settled()
    expect(finding).to_have_count(0)
    expect(page.get_by_test_id("strip-findings")).to_have_text("0")
    expect(page.get_by_role("link", name=re.compile("^Papers"))).to_contain_text("ready", timeout=120_000)


def test_many_alike_pockets_are_one_row_whose_tool_is_that_of_all(planner: Planner, tmp_path: Path) -> None:
    """Six pockets, one line each to rough, to clean, to finish: another tool in the first one is in all."""
    page = planner.page
    write_step(plate_body(3, 2), tmp_path / "tray.step", "tray")
    with (tmp_path / "tray.step").open("rb") as file:
        answer = requests.post(
            f"{planner.site}/api/jobs", files={"file": ("tray.step", file)}, headers=MARK, timeout=60,
            data={"number": "T-tray", "material": "al-6082", "quantities": "10", "machine": "mill-762"},
        )  # fmt: skip
    plan_id = int(answer.json()["plan_id"])
    planner.open(plan_id, "operations")
    row = page.get_by_role("button", name=re.compile("Rough 6 pockets P1 to P6"))
    expect(row).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Rough pocket"))).to_have_count(0)
    choice = page.get_by_label(re.compile("^Tool of Rough 6 pockets"))
    choice.focus()
    choice.select_option(label="T9 End mill 10 z3")
    planner.settled()
    expect(row).to_be_visible()
    row.click()
    expect(page.get_by_text("P1, P2, P3, P4, P5, P6 made by")).to_be_visible()
    expect(page.get_by_text("alike features, one after the other")).to_be_visible()
    page.keyboard.press("Control+z")
    planner.settled()
    expect(choice.locator("option:checked")).to_have_text("T11 End mill 16 z3")


# ---- order


def test_move_that_breaks_a_precedence_is_refused_with_the_reason(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "order")
    first = page.locator("tbody tr").nth(1)
    first.focus()
    first.press("Alt+ArrowUp")
    expect(page.get_by_role("alert")).to_contain_text("the top is faced first")
    assert planner.plan(plate)["edition"] == 1


def test_operation_is_dragged(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "order")
    before = [e["id"] for e in planner.plan(plate)["setups"][0]["entries"]]
    handles = page.locator("td.handle")
    source, target = handles.nth(1).bounding_box(), handles.nth(3).bounding_box()
    assert source is not None
    assert target is not None
    page.mouse.move(source["x"] + 8, source["y"] + 8)
    page.mouse.down()
    page.mouse.move(source["x"] + 8, source["y"] + 20, steps=4)
    page.mouse.move(target["x"] + 8, target["y"] + 10, steps=8)
    page.mouse.up()
    for _ in range(100):  # what was dropped is told a moment later
        if planner.plan(plate)["edition"] > 1:
            break
        page.wait_for_timeout(100)
    planner.settled()
    after = [e["id"] for e in planner.plan(plate)["setups"][0]["entries"]]
    assert after == [before[0], before[2], before[3], before[1], *before[4:]]


def test_grouping_by_tool_saves_what_it_says(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "order")
    button = page.get_by_label("Sorting").get_by_role("button", name=re.compile("^Group by tool, −")).first
    saves = float(re.findall(r"−([\d.]+)", button.inner_text())[0])
    before = planner.plan(plate)
    button.click()
    planner.settled()
    after = planner.plan(plate)
    assert before["strip"]["cycle"] - after["strip"]["cycle"] == pytest.approx(saves, abs=1.5)
    assert after["setups"][0]["calls"] == before["setups"][0]["grouped_calls"]
    expect(page.get_by_text("grouped by tool there are no fewer")).to_be_visible()


# ---- price


def test_rates_hours_and_quantities_are_edited(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "price")
    planner.type_into("Machine rate of S1", "100")
    planner.type_into("Setup hours of S1", "2:30")
    plan = planner.plan(plate)
    assert plan["setups"][0]["machine_rate"] == "100"
    assert float(plan["setups"][0]["setup_hours"]) == 2.5
    quantities = page.get_by_label("Quantities", exact=True)
    quantities.fill("5, 500")
    quantities.press("Enter")
    planner.settled()
    plan = planner.plan(plate)
    assert [q["quantity"] for q in plan["price"]["quantities"]] == [5, 500]
    expect(page.get_by_test_id("each-500")).to_have_text(plan["price"]["quantities"][1]["each"])
    expect(page.get_by_role("img", name=re.compile("Price each against quantity"))).to_be_visible()


# ---- strip, journal, keys


def test_cycle_is_followed_down_to_a_formula(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    page.get_by_test_id("strip-cycle").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(clock(planner.plan(plate)["strip"]["cycle"]))
    dialog.get_by_role("button", name=ROUGH).click()
    expect(dialog).to_contain_text("1000·vc/(π·D)")
    expect(dialog).to_contain_text("ap·ae·vf·kc")
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    page.get_by_test_id("strip-each").click()
    expect(page.get_by_role("dialog")).to_contain_text("margin: cost / (1 − margin)")


def test_journal_tells_each_decision_and_goes_back_to_it(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    first = planner.figure("cycle")
    page.get_by_label("Thread of the holes Ø 4.2", exact=True).select_option("M5")
    planner.settled()
    page.get_by_role("button", name=re.compile("^Journal")).click()
    journal = page.get_by_role("dialog")
    expect(journal).to_contain_text("thread M5 in 6 × Ø4.2")
    expect(journal).to_contain_text("each")
    journal.get_by_role("button", name=re.compile("quick price")).click()
    planner.settled()
    expect(page.get_by_test_id("strip-cycle")).to_have_text(first)
    expect(journal).to_contain_text("undone")


def test_keys_lead_everywhere(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "part")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("undo")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    chapters = ("part", "setups", "layout", "operations", "order", "balance", "program", "price", "papers")
    for number, chapter in enumerate(chapters, start=1):
        page.keyboard.press(f"Alt+{number}")
        page.wait_for_url(f"**/{chapter}")
    page.keyboard.press("l")
    expect(page.get_by_role("dialog")).to_contain_text("Cycle per piece")


def test_speed_and_feed_are_tried_by_the_slider_and_taken(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    page.get_by_role("button", name=re.compile("Rough pocket P1")).click()
    pace = page.get_by_role("group", name=re.compile("^Speed and feed of Rough pocket P1"))
    before = planner.plan(plate)
    pace.get_by_role("slider", name="Feed a tooth").fill("120")
    row = pace.get_by_role("row", name=re.compile("^seconds a piece"))
    expect(row.get_by_role("cell").nth(2)).to_contain_text("−")
    told = float(row.get_by_role("cell").nth(1).inner_text())
    assert told < before["strip"]["per_piece"]
    pace.get_by_role("button", name="Run it so").click()
    planner.settled()
    after = planner.plan(plate)
    assert after["strip"]["per_piece"] == pytest.approx(told, abs=0.06)
    entry = next(e for s in after["setups"] for e in s["entries"] if e["name"].startswith("Rough pocket P1"))
    assert entry["feed"] == pytest.approx(1.2)
    page.get_by_role("button", name="As usual").click()
    planner.settled()
    assert planner.plan(plate)["strip"]["per_piece"] == pytest.approx(before["strip"]["per_piece"])


def test_what_is_most_worth_working_on_is_taken(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations?show=worth")
    first = page.locator(".worth-table tbody tr").first
    gains = float(first.locator("td").nth(4).inner_text())
    before = planner.plan(plate)["strip"]["per_piece"]
    first.get_by_role("button", name=re.compile("^Take to its limit")).click()
    planner.settled()
    assert before - planner.plan(plate)["strip"]["per_piece"] == pytest.approx(gains, abs=0.06)
    page.get_by_role("tab", name="Tools and their life").click()
    row = page.get_by_role("row", name=re.compile("^T11 End mill 16 z3 in the machine"))
    expect(row.get_by_role("img", name=re.compile("^Load of End mill 16 z3: Rough pocket P1"))).to_be_visible()
