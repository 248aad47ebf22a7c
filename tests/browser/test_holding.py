"""Holding on the real page: a grip finding mended, a casting and a four-sided part divided by hand from nothing."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest
import requests
from playwright.sync_api import Locator, Page, expect

from lean_ledger.core.geometry.solids import block, write_step
from lean_ledger.demo.served import MARK
from tests.browser.conftest import Planner
from tests.conftest import DEMO_PARTS

pytestmark = pytest.mark.browser


@pytest.fixture
def cap(planner: Planner) -> int:
    return planner.copy_of("shield-cap", "H-CAP")


def open_setup(planner: Planner, plan: int, setup: str) -> Page:
    planner.open(plan, f"setups?setup={setup}")
    expect(planner.page.get_by_role("heading", name=re.compile(f"^Setup {setup}"))).to_be_visible()
    return planner.page


def column(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name=name, exact=True)


def setups(planner: Planner, plan: int) -> list[dict[str, Any]]:
    return list(planner.plan(plan)["setups"])


def test_grip_finding_is_read_and_mended(planner: Planner, cap: int) -> None:
    page = open_setup(planner, cap, "S2")
    page.get_by_label("Held in").select_option("vise-125")
    planner.settled()
    finding = page.locator(".finding").filter(has_text=re.compile("jaw of Vise 125 touches 0 of its 528 mm²"))
    expect(finding).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Papers"))).to_contain_text("held back by 1")
    finding.get_by_role("button", name="Vise 125, soft jaws, turned 0°").click()
    planner.settled()
    expect(finding).to_have_count(0)
    expect(page.get_by_label("Held in")).to_have_value("vise-125-soft")


def test_what_could_hold_is_looked_through_and_taken(planner: Planner, cap: int) -> None:
    page = open_setup(planner, cap, "S2")
    page.get_by_role("button", name="All, with the reasons of those that do not hold").click()
    row = page.get_by_role("row", name=re.compile("^Toe clamps on plate .* 0°"))
    expect(row).to_contain_text("A toe clamp finds")
    page.get_by_role("button", name="Take: Screw plate 200 × 150, M4, turned 0°").click()
    planner.settled()
    hold = setups(planner, cap)[1]["hold"]
    assert hold["fixture"] == "plate-m4"
    expect(page.get_by_text(re.compile("4 screws M4 in H"))).not_to_have_count(0)


def test_setup_stands_on_a_riser(planner: Planner, cap: int) -> None:
    page = open_setup(planner, cap, "S1")
    page.get_by_label("Stands on").select_option(label="Riser 60")
    planner.settled()
    assert setups(planner, cap)[0]["hold"]["carriers"] == ["riser-60"]
    planner.open(cap, "papers")
    sheet = page.get_by_role("article", name="Setup sheet S1")
    expect(sheet).to_contain_text("Riser 60")
    expect(sheet).to_contain_text("Vise 100")


def test_bar_is_chosen_and_its_next_size_named(planner: Planner, cap: int) -> None:
    page = open_setup(planner, cap, "S1")
    page.get_by_label("Bought as").select_option("round bar")
    planner.settled()
    page.get_by_label("Sizes").select_option("next size up")
    planner.settled()
    # Ø84 and 2 over it: the list has 90
    expect(page.get_by_text(re.compile(r"round bar Ø90 × 20 mm · \d\.\d+ kg"))).to_be_visible()
    page.get_by_label("Sizes").select_option("fixed")
    planner.settled()
    planner.type_into("Stock along Z", "26")
    expect(page.get_by_text(re.compile(r"round bar Ø90 × 26 mm"))).to_be_visible()


# ---- from an empty plan


def place(planner: Planner, feature: str, target: str) -> None:
    """Drag a feature that waits into a setup."""
    page = planner.page
    chip = column(page, "In no setup yet").get_by_role("button", name=re.compile(feature)).first
    chip.scroll_into_view_if_needed()
    chip.hover()
    page.mouse.down()
    box = column(page, target).bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 60, box["y"] + 120, steps=8)
    page.mouse.up()
    planner.settled()


def press_into(page: Page, key: str, target: str) -> None:
    """The first feature that waits, by the setup's number; the focus follows it there."""
    chip = column(page, "In no setup yet").locator("[data-feature]").first
    feature = chip.get_attribute("data-feature")
    chip.focus()
    page.keyboard.press(key)
    expect(column(page, target).locator(f'[data-feature="{feature}"]')).to_be_focused()


def test_casting_is_divided_by_mouse_from_an_empty_plan(planner: Planner) -> None:
    plan = planner.copy_of("gauge-base", "H-CAST")
    page = open_setup(planner, plan, "S1")
    page.get_by_label("Casting or forging, its own model").set_input_files(DEMO_PARTS / "gauge-base-casting.step")
    expect(page.get_by_role("cell", name="2.50", exact=True)).to_be_visible(timeout=120_000)
    page.get_by_role("tab", name="Who makes what").click()
    page.get_by_role("button", name="Begin by hand").click()
    planner.settled()
    expect(column(page, "In no setup yet")).to_contain_text("4 × blind hole")
    column(page, "Place for a new setup").get_by_role("button", name="Add a setup with Z- up").click()
    planner.settled()
    place(planner, "4 × blind hole", "Setup S1")
    place(planner, "through hole H5", "Setup S1")
    place(planner, "through hole H7", "Setup S2")
    expect(column(page, "In no setup yet")).to_have_count(0)
    made = {s["id"]: set(s["features"]) for s in setups(planner, plan)}
    assert made["S1"] >= {"H1", "H2", "H3", "H4", "H5", "H6"}
    assert "H7" in made["S2"]
    page.get_by_role("tab", name=re.compile("^S2")).click()
    page.get_by_label("Held in").select_option("plate-300")
    planner.settled()
    # the four Ø5 are no threads yet: nothing takes the plate's screws
    expect(page.locator(".finding").filter(has_text="needs 2 screws, 0 find a hole")).to_be_visible()
    planner.open(plan, "part")
    page.get_by_label("Thread of the holes Ø 5", exact=True).select_option("M6")
    planner.settled()
    assert setups(planner, plan)[1]["hold"]["touches"] == "4 screws M6 in H1, H2, H3, H4"
    assert planner.plan(plan)["strip"]["errors"] == 0


@pytest.mark.tries
def test_four_sided_part_is_divided_by_keyboard_alone_from_an_empty_plan(planner: Planner) -> None:
    plan = planner.copy_of("sonde-carrier", "H-FOUR")
    planner.open(plan, "setups")
    page = planner.page

    def press(role: str, name: str) -> None:
        page.get_by_role(role, name=name).focus()  # type: ignore[arg-type]
        page.keyboard.press("Enter")
        planner.settled()

    # the other machines are tried beside the requests
    expect(page.get_by_role("button", name="Move there: Mill 3, travel 762, rotary")).to_be_visible()
    press("button", "Move there: Mill 3, travel 762, rotary")
    press("button", "Begin by hand")
    expect(column(page, "In no setup yet")).to_contain_text("pocket P1")
    page.get_by_role("tab", name="Who makes what").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name=re.compile("^S1"))).to_be_focused()
    page.get_by_label("Indexed").focus()
    page.keyboard.type("X")  # a select takes the first letter of its choice
    planner.settled()
    assert setups(planner, plan)[0]["hold"]["free"] == "X+"
    planner.type_into("Allowance X-", "30")
    page.get_by_role("tab", name=re.compile("^S1")).focus()
    page.keyboard.press("ArrowLeft")
    column(page, "Place for a new setup").get_by_role("button", name="Add a setup with X- up").focus()
    page.keyboard.press("Enter")
    planner.settled()
    expect(column(page, "Setup S2")).to_be_visible()
    while planner.plan(plan)["parked"]:
        press_into(page, "1", "Setup S1")
    found = planner.plan(plan)
    assert found["parked"] == []
    assert [(s["id"], s["up"], s["hold"]["free"]) for s in found["setups"]] == [("S1", "Z+", "X+"), ("S2", "X-", None)]
    assert len(found["setups"][0]["hold"]["ways"]) == 4
    assert found["strip"]["errors"] == 0


@pytest.mark.tries
def test_four_sided_part_is_divided_by_mouse_from_an_empty_plan(planner: Planner) -> None:
    plan = planner.copy_of("sonde-carrier", "H-FOUR-M")
    planner.open(plan, "setups")
    page = planner.page
    move = page.get_by_role("button", name="Move there: Mill 3, travel 762, rotary")
    expect(move).to_be_visible()
    move.click()
    planner.settled()
    page.get_by_role("button", name="Begin by hand").click()
    planner.settled()
    page.get_by_role("tab", name=re.compile("^S1")).click()
    page.get_by_label("Indexed").select_option("X+")
    planner.settled()
    planner.type_into("Allowance X-", "30")
    page.get_by_role("tab", name="Who makes what").click()
    column(page, "Place for a new setup").get_by_role("button", name="Add a setup with X- up").click()
    planner.settled()
    for feature in ("pocket P1", "2 × blind hole H1", "2 × blind hole H3", "2 × blind hole H5", "through hole H7"):
        place(planner, feature, "Setup S1")
    expect(column(page, "In no setup yet")).to_have_count(0)
    found = planner.plan(plan)
    assert len(found["setups"][0]["hold"]["ways"]) == 4
    assert found["strip"]["errors"] == 0


def test_casting_is_divided_by_keyboard_alone_from_an_empty_plan(planner: Planner) -> None:
    plan = planner.copy_of("gauge-base", "H-CAST-K")
    page = open_setup(planner, plan, "S1")
    # a file is chosen in the system's own dialog; all else goes by keys
    page.get_by_label("Casting or forging, its own model").set_input_files(DEMO_PARTS / "gauge-base-casting.step")
    expect(page.get_by_role("cell", name="2.50", exact=True)).to_be_visible(timeout=120_000)
    page.get_by_role("tab", name=re.compile("^S1")).focus()
    page.keyboard.press("ArrowLeft")
    page.get_by_role("button", name="Begin by hand").focus()
    page.keyboard.press("Enter")
    planner.settled()
    column(page, "Place for a new setup").get_by_role("button", name="Add a setup with Z- up").focus()
    page.keyboard.press("Enter")
    planner.settled()
    expect(column(page, "Setup S2")).to_be_visible()
    for key, setup in (("1", "Setup S1"), ("1", "Setup S1"), ("2", "Setup S2")):
        press_into(page, key, setup)
    expect(column(page, "In no setup yet")).to_have_count(0)
    found = planner.plan(plan)
    assert found["parked"] == []
    assert found["strip"]["errors"] == 0


def test_stock_is_laid_by_pointing_at_faces(planner: Planner, plate: int) -> None:
    page = open_setup(planner, plate, "S1")
    page.get_by_role("button", name="Lay it by faces").click()
    canvas = page.locator(".model-canvas canvas")
    expect(canvas).to_be_visible()
    page.get_by_role("button", name="Right", exact=True).click()
    canvas.click()  # the middle of the picture: the side X+
    at_jaw = page.get_by_role("button", name=re.compile("^F.* at the fixed jaw$"))
    expect(at_jaw).to_be_visible()
    name = at_jaw.inner_text().split()[0]
    at_jaw.click()
    planner.settled()
    assert setups(planner, plate)[0]["hold"]["lies"]["back_named"] == name
    expect(page.locator(".lies")).to_contain_text(f"at the fixed jaw {name} (X+)")
    canvas.click()
    page.get_by_role("button", name=f"Rest on {name}").click()
    planner.settled()
    assert setups(planner, plate)[0]["up"] == "X-"
    page.get_by_role("button", name="Back to the drawing").click()
    expect(page.get_by_role("img", name=re.compile("^Setup S1 from the side"))).to_be_visible()


def test_hand_work_is_put_down_and_the_machine_stands_for_it(planner: Planner, plate: int) -> None:
    page = open_setup(planner, plate, "S1")
    before = planner.plan(plate)["strip"]["per_piece"]
    page.get_by_role("button", name="Add by hand: deburr").click()
    planner.settled()
    assert planner.plan(plate)["strip"]["per_piece"] == pytest.approx(before + 20)
    planner.type_into("Seconds to deburr", "45")
    planner.settled()
    assert planner.plan(plate)["strip"]["per_piece"] == pytest.approx(before + 45)
    expect(page.get_by_role("contentinfo", name="Ledger")).to_contain_text("hand work 45.0")
    page.get_by_label("The machine, to deburr").select_option("runs")
    planner.settled()
    assert planner.plan(plate)["strip"]["per_piece"] == pytest.approx(before)
    page.get_by_role("button", name="Take out: deburr").click()
    planner.settled()
    assert setups(planner, plate)[0]["hand"] == []


def test_spacer_keeps_the_jaws_from_bending_two_ears(planner: Planner, tmp_path: Path) -> None:
    path = tmp_path / "sonde-fork.step"
    write_step(block((0, 0, 0), (60, 34, 50)) - block((-1, 9, 18), (61, 25, 51)), path, "fork")
    with path.open("rb") as file:
        answer = requests.post(
            f"{planner.site}/api/jobs", files={"file": ("sonde-fork.step", file)}, headers=MARK, timeout=60,
            data={"number": "T-fork", "material": "al-6082", "quantities": "10"},
        )  # fmt: skip
    plan = int(answer.json()["plan_id"])
    assert [f["code"] for f in planner.plan(plan)["findings"]] == [], "a new plan has the fork turned by itself"
    back = {"change": "set-turn", "setup": "S2", "turn": None}
    edition = planner.plan(plan)["edition"]
    requests.post(f"{planner.site}/api/plans/{plan}/changes", json=back, timeout=60,
                  headers={"If-Match": f'"{edition}"', **MARK})  # fmt: skip
    planner.open(plan, "setups?setup=S2")
    page = planner.page
    page.get_by_role("button", name=re.compile("^Spacer of 16.00 in G1")).first.click()
    planner.settled()
    expect(page.get_by_role("button", name="Take the spacer out of G1")).to_be_visible()
    assert "ears-bend" not in [f["code"] for f in planner.plan(plan)["findings"]]
    planner.type_into("Force of the jaws", "5")
    assert planner.plan(plan)["setups"][1]["hold"]["force"] == 5
    page.get_by_role("button", name="Take the spacer out of G1").click()
    planner.settled()
    planner.type_into("Force of the jaws", "")
    assert "ears-bend" in [f["code"] for f in planner.plan(plan)["findings"]]
