"""A mill whose spindle lies, a collet for bars, engraving: each taken up on the page by a planner."""

from __future__ import annotations

import io
import re

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Planner

pytestmark = pytest.mark.browser


def test_setups_go_to_the_tombstone_of_the_mill_with_a_level_spindle(planner: Planner) -> None:
    plan = planner.copy_of("sensor-base-plate", "A-LEVEL")
    page = planner.page
    planner.open(plan, "setups?setup=S1")
    page.get_by_label(re.compile("^Machine")).select_option(label="Mill 5, spindle level, pallet 500")
    planner.settled()
    on = page.get_by_label("Stands on")
    expect(on.locator("option:checked")).to_have_text("by the rule: Tombstone 200 on the pallet")
    expect(page.locator(".finding")).to_have_count(0)
    on.select_option(label="Tombstone 200 on the pallet")
    planner.settled()
    found = planner.plan(plan)["setups"][0]
    assert found["hold"]["carriers"] == ["tombstone-200"]
    # the vise stands 300 up the tombstone, its back to the pallet's axis: the zero lies before it, not over it
    planner.open(plan, "program")
    expect(page.get_by_text(re.compile("the machine agrees|simulated machine", re.IGNORECASE)).first).to_be_visible()
    planner.open(plan, "papers")
    sheet = page.get_by_role("article", name="Setup sheet S1")
    expect(sheet).to_contain_text(re.compile("Tombstone 200"))
    expect(sheet).to_contain_text("Mill 5, spindle level")


@pytest.mark.tries
def test_piece_is_made_from_a_bar_through_the_spindle(planner: Planner) -> None:
    plan = planner.copy_of("vane-hub", "A-BAR")
    page = planner.page
    planner.open(plan, "setups")
    page.get_by_role("button", name="Move there: Lathe 1, swing 320").click(timeout=120_000)  # tried beside
    planner.settled()
    planner.open(plan, "setups?setup=S1")
    page.get_by_label("Bought as").select_option("round bar")
    planner.settled()
    page.get_by_label("Sizes").select_option("next size up")
    planner.settled()
    page.get_by_label("Held in").select_option(label="Bar collet 65")
    planner.settled()
    finding = page.locator(".finding").filter(has_text="Nothing cuts the piece of setup S1 off its bar")
    expect(finding).to_be_visible()
    finding.get_by_role("button", name="Cut it off, 0.5 left to face").click()
    planner.settled()
    expect(finding).to_have_count(0)
    blade = page.locator(".finding").filter(has_text="into the nose")
    if blade.count():
        blade.get_by_role("button", name=re.compile("^Leave .* at Z")).click()
        planner.settled()
    assert planner.plan(plan)["setups"][0]["hold"]["touches"].startswith("a bar Ø")
    planner.open(plan, "operations")
    expect(page.get_by_role("row", name=re.compile("Cut off Ø"))).to_be_visible()
    assert planner.plan(plan)["setups"][0]["load"] == 7


def test_letters_and_a_drawing_are_engraved(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "setups?setup=S1")
    before = planner.plan(plate)["strip"]["cycle"]
    page.get_by_label("Letters to engrave").fill("sb-220 a")
    page.get_by_label("Letters to engrave").press("Enter")
    planner.settled()
    expect(page.get_by_role("img", name=re.compile("with “SB-220 A”"))).to_be_visible()
    # in the middle it lies over a pocket
    planner.open(plate, "operations")
    finding = page.locator(".finding").filter(has_text="“SB-220 A” leaves")
    expect(finding).to_be_visible()
    planner.open(plate, "setups?setup=S1")
    planner.type_into("Height of “SB-220 A”", "3")
    planner.type_into("Y of “SB-220 A”", "-40")
    planner.open(plate, "operations")
    expect(finding).to_have_count(0)
    row = page.get_by_role("row", name=re.compile("Engrave “SB-220 A”"))
    expect(row).to_contain_text("End mill 1 z2")
    assert planner.plan(plate)["strip"]["cycle"] > before + 20

    document = ezdxf.new()  # type: ignore[attr-defined]
    document.header["$INSUNITS"] = 4
    document.modelspace().add_lwpolyline([(0, 0), (6, 0), (6, 3)])
    text = io.StringIO()
    document.write(text)
    planner.open(plate, "setups?setup=S1")
    page.get_by_label("or a drawing (DXF)").set_input_files(
        {"name": "logo.dxf", "mimeType": "image/vnd.dxf", "buffer": text.getvalue().encode()}
    )
    expect(page.get_by_role("img", name=re.compile("with logo.dxf"))).to_be_visible()
    page.get_by_role("button", name="Do not engrave logo.dxf").click()
    planner.settled()
    expect(page.get_by_role("img", name=re.compile("with logo.dxf"))).to_have_count(0)
    assert [e["words"] for e in planner.plan(plate)["setups"][0]["engravings"]] == ["“SB-220 A”"]
