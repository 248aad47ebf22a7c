"""The part chapter: files read in the background, revisions, what a drawing says, ways of looking."""

from __future__ import annotations

import re
from decimal import Decimal
from io import BytesIO
from pathlib import Path

import ezdxf
import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.browser.conftest import Planner
from tests.conftest import CASES, DEMO_PARTS

pytestmark = pytest.mark.browser


@pytest.fixture
def clamp(planner: Planner, request: pytest.FixtureRequest) -> int:
    """A fresh copy of the mast clamp's job."""
    return planner.copy_of("mast-clamp-half", f"C-{abs(hash(request.node.name)) % 100000}")


def opened(planner: Planner, plan: int) -> Page:
    planner.open(plan, "part")
    expect(planner.page.locator(".model-canvas canvas").first).to_be_visible()
    return planner.page


def new_job(planner: Planner, file: Path) -> Page:
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    page.get_by_label("STEP or DXF file").set_input_files(file)
    return page


# ---- files


def test_large_file_shows_its_progress_and_can_be_stopped(planner: Planner) -> None:
    page = new_job(planner, CASES / "features/cable-gland-plate.step")
    page.get_by_role("button", name="Make the plan").click()
    expect(page.get_by_role("progressbar", name="Reading cable-gland-plate.step")).to_be_visible()
    page.get_by_role("button", name="Stop reading").click()
    expect(page.get_by_text("reading was stopped, nothing was kept")).to_be_visible()
    expect(page.get_by_role("button", name="Make the plan")).to_be_enabled()


def test_reading_goes_on_while_the_planner_looks_at_the_jobs(planner: Planner) -> None:
    page = new_job(planner, CASES / "features/cable-gland-plate.step")
    page.get_by_role("button", name="Make the plan").click()
    page.get_by_role("button", name="Meanwhile, the jobs").click()
    page.get_by_role("link", name="Open its plan").click(timeout=120_000)
    page.wait_for_url("**/plans/*/part")
    expect(page.get_by_text("240.00 × 160.00 × 4.00 mm")).to_be_visible()


def test_solid_is_chosen_by_keyboard(planner: Planner) -> None:
    page = new_job(planner, CASES / "features/instrument-pair.step")
    page.get_by_role("button", name="Make the plan").click()
    second = page.get_by_role("button", name="Take this one").nth(1)
    second.focus()
    page.keyboard.press("Enter")
    page.wait_for_url("**/plans/*/part", timeout=120_000)
    expect(page.get_by_text("rotational")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("^turned outside"))).to_contain_text("Ø 24")


def test_drawing_of_flat_work_needs_its_thickness(planner: Planner, tmp_path: Path) -> None:
    drawing = ezdxf.new(units=4)
    drawing.modelspace().add_lwpolyline([(0, 0), (90, 0), (90, 50), (0, 50)], close=True)
    drawing.modelspace().add_circle((20, 25), 5)
    drawing.saveas(tmp_path / "cover.dxf")
    page = new_job(planner, tmp_path / "cover.dxf")
    page.get_by_label("Thickness, mm").fill("8")
    page.get_by_role("button", name="Make the plan").click()
    page.wait_for_url("**/plans/*/part", timeout=120_000)
    expect(page.get_by_text("90.00 × 50.00 × 8.00 mm")).to_be_visible()


# ---- revisions


def test_revision_is_brought_in_compared_and_taken(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_label("Thread of the holes Ø 5", exact=True).select_option("M6")
    planner.settled()
    page.get_by_label("File of the next revision").set_input_files(DEMO_PARTS / "mast-clamp-half-b.step")
    page.get_by_role("link", name="revision B waits: compare").click(timeout=120_000)
    row = page.get_by_role("row", name=re.compile("^H7 through hole"))
    expect(row).to_contain_text("Ø 42 → 45")
    expect(page.get_by_role("row", name=re.compile("^G1 slot new"))).to_be_visible()
    before = planner.plan(clamp)["strip"]["each"]
    page.get_by_role("button", name="Take revision B into the plan").click()
    page.wait_for_url("**/part")
    expect(page.get_by_test_id("strip-effect")).to_contain_text("each")
    after = planner.plan(clamp)
    assert after["job"]["revision"] == "B"
    assert after["strip"]["each"] != before
    # the thread of the old size is not lost: the finding offers what the new size is drilled for
    page.get_by_role("button", name="M8 in Ø6.8").click()
    planner.settled()
    assert {h["thread"] for h in planner.plan(clamp)["holes"] if h["diameter"] == 6.8} == {"M8"}
    # what it costs, feature by feature, and once
    now = planner.plan(clamp)["strip"]["each"]
    page.get_by_role("link", name="what it costs").click()
    expect(page.get_by_role("row", name=re.compile("^G1 slot new"))).to_contain_text("0.0")
    told = page.get_by_test_id("revision-each-10").inner_text()
    assert Decimal(told.replace("−", "-")) == Decimal(now) - Decimal(before)
    once = Decimal(page.get_by_test_id("paid-once").inner_text())
    planner.type_into("Fixtures for the revision", "150")
    expect(page.get_by_test_id("paid-once")).to_have_text(f"{once + 150:.2f}")
    with PdfReader(BytesIO(planner.issued(clamp, "papers/change-note.pdf").content)) as note:
        assert "revision B in place of A" in note.pages[0].extract_text()
    page.get_by_role("link", name="Back to the part").click()
    # and undo leads back to A
    page.keyboard.press("Control+z")
    for _ in range(3):
        page.keyboard.press("Control+z")
    expect(page.get_by_text("revision B waits: compare")).to_be_visible()


def test_pair_is_corrected_by_hand_and_taken_back(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_label("File of the next revision").set_input_files(DEMO_PARTS / "mast-clamp-half-b.step")
    page.get_by_role("link", name="revision B waits: compare").click(timeout=120_000)
    row = page.get_by_role("row", name=re.compile("^H1 through hole"))
    page.get_by_label("H1 in revision B").select_option("")
    expect(row).to_contain_text("gone, by hand")
    page.get_by_role("button", name="Pair by geometry alone").click()
    expect(row).to_contain_text("resized")
    expect(page.locator(".compare-models canvas")).to_have_count(2)


# ---- begun on the machine of the least price


@pytest.mark.tries
def test_new_job_begins_where_it_costs_least_and_the_next_best_is_one_click_away(planner: Planner) -> None:
    page = new_job(planner, DEMO_PARTS / "shield-cap.step")
    page.get_by_label("Quantities").fill("60, 300")
    expect(page.get_by_label("Begin on")).to_have_value("")
    page.get_by_role("button", name="Make the plan").click()
    page.wait_for_url("**/part")
    plan = int(page.url.split("/")[-2])
    line = page.locator(".next-best")
    expect(line).to_contain_text("Begun on Lathe 2")
    first = planner.plan(plan)
    assert {s["machine"] for s in first["setups"]} == {"lathe-driven"}
    assert f"Begun on Lathe 2, {first['strip']['each']} each." in line.inner_text()
    assert line.get_by_role("button").count() == 3

    stated = line.locator("span", has=page.get_by_role("button", name="Begin there: Lathe 1 and Mill 2")).inner_text()
    line.get_by_role("button", name="Begin there: Lathe 1 and Mill 2").click()
    planner.settled()
    other = planner.plan(plan)
    assert {s["machine"] for s in other["setups"]} == {"lathe-320", "mill-500"}
    assert other["strip"]["each"] in stated, "the price that was named is the one that it has"
    expect(line).to_have_count(0)
    page.get_by_role("button", name="Journal").click()
    expect(page.get_by_text(re.compile("quick price: .*on Lathe 2: .* next best Lathe 1 and Mill 2: "))).to_be_visible()
    page.get_by_role("button", name="Close").click()

    # the whole list, in Setups, by the keyboard
    planner.open(plan, "setups")
    page.get_by_role("button", name="Compare what it comes to begun anew on each machine").press("Enter")
    button = page.get_by_role("button", name="Begin there: Mill 2", exact=True)
    button.focus()
    page.keyboard.press("Enter")
    planner.settled()
    assert {s["machine"] for s in planner.plan(plan)["setups"]} == {"mill-500"}
    page.get_by_role("button", name="Undo").click()
    planner.settled()
    assert {s["machine"] for s in planner.plan(plan)["setups"]} == {"lathe-320", "mill-500"}


def test_stock_is_bought_otherwise_by_keyboard_and_brought_back(planner: Planner) -> None:
    plan = planner.copy_of("cable-saddle", "BO-1")
    page = planner.page
    planner.open(plan, "setups?setup=S1")
    before = planner.plan(plan)["strip"]["each"]
    page.get_by_role("button", name="Compare with what else it could be bought as").press("Enter")
    buy = page.get_by_role("button", name="Buy plate 12, 48 × 30, Z as bought")
    row = page.get_by_role("row").filter(has=buy)
    stated, change = row.get_by_role("cell").nth(2).inner_text(), row.get_by_role("cell").nth(3).inner_text()
    expect(page.get_by_text("only more to buy and to cut").first).to_be_visible()
    buy.press("Enter")
    planner.settled()
    now = planner.plan(plan)
    assert now["strip"]["each"] == stated, "the price that was named is the one that it has"
    assert float(change.replace("−", "-")) == round(float(stated) - float(before), 2)
    assert [a["value"] for a in now["allowances"] if a["side"] in ("Z-", "Z+")] == [0, 0]
    assert not any(e["name"].startswith("Face") for s in now["setups"] for e in s["entries"])
    page.keyboard.press("Control+z")
    planner.settled()
    assert planner.plan(plan)["strip"]["each"] == before


# ---- what a drawing says


def test_tolerance_is_typed_and_reams_the_hole(planner: Planner) -> None:
    plan = planner.copy_of("anemometer-arm-block", "C-H7")
    page = opened(planner, plan)
    row = page.get_by_role("row", name=re.compile("^through hole H3"))
    row.focus()
    page.keyboard.press("Enter")
    page.get_by_label("Tolerance").fill("H7")
    page.keyboard.press("Enter")
    planner.settled()
    expect(page.get_by_text("H7 asks for reaming.")).to_be_visible()
    expect(row).to_contain_text("H7")
    kinds = [e["kind"] for s in planner.plan(plan)["setups"] for e in s["entries"] if e["features"] == ["H3"]]
    assert kinds[-1] == "ream"
    page.get_by_label("Tolerance").fill("snug")
    page.keyboard.press("Enter")
    expect(page.get_by_text("“snug” is no tolerance")).to_be_visible()
    expect(page.get_by_label("Tolerance")).to_have_value("H7")


def test_dimensions_say_where_they_were_taken(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_role("row", name=re.compile("^4 × through hole, counterbored")).click()
    card = page.get_by_role("group", name="Feature H3 – H6")
    expect(card).to_contain_text("entry to the end of the last cylinder, tip left out")
    expect(page.get_by_role("row", name=re.compile("^4 × through hole, counterbored"))).to_contain_text("pitch 40 × 92")


def test_lug_is_added_sized_and_taken_off(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_role("row", name=re.compile(r"^face X\+")).click()
    page.get_by_role("button", name="a lug").click()
    expect(page.get_by_text("The lug B1 stays on the part at the end.")).to_be_visible()
    planner.type_into("B1 high", "14")
    body = planner.plan(clamp)["bodies"][0]
    assert (body["kind"], body["height"]) == ("lug", 14)
    assert planner.plan(clamp)["stock"][0] == pytest.approx(120 + 14 + 4)
    page.get_by_label("Who takes B1 off").select_option("by hand")
    expect(page.get_by_text("The lug B1 stays on the part at the end.")).to_be_hidden()


# ---- looking


def test_model_is_coloured_cut_open_hidden_and_measured(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_label("Coloured").select_option("kind")
    expect(page.locator(".tone-legend")).to_contain_text("holes")
    page.get_by_label("Coloured").select_option("setup")
    expect(page.locator(".tone-legend")).to_contain_text("S1, Z+ up")
    page.get_by_role("button", name="Cut open").click()
    expect(page.get_by_label("Cut at Y")).to_be_visible()
    page.get_by_label("Square to").select_option("Z")
    expect(page.get_by_label("Cut at Z")).to_be_visible()
    page.get_by_role("button", name="Cut open").click()
    page.get_by_role("row", name=re.compile("^through hole H7")).click()
    page.get_by_role("button", name="Only the chosen").click()
    expect(page.get_by_role("button", name="All again")).to_be_enabled()
    page.get_by_role("button", name="All again").click()
    # from above, the two short sides are 120 apart; the picks lie on the top face
    page.get_by_role("button", name="Top", exact=True).click()
    page.get_by_role("button", name="Measure").click()
    page.wait_for_timeout(700)
    canvas = page.locator(".model-canvas canvas")
    box = canvas.bounding_box()
    assert box is not None
    scale = min(0.9 * box["width"] / 120, 0.9 * box["height"] / 64)
    middle = (box["width"] / 2, box["height"] / 2)
    for x in (-30, 30):
        canvas.click(position={"x": middle[0] + x * scale, "y": middle[1] + 20 * scale})
    expect(page.get_by_text(re.compile("point to point"))).to_contain_text(re.compile(r"(59|60)\.\d"))
    expect(page.get_by_text(re.compile("^depth"))).to_contain_text("0.000")


def test_order_of_the_features_is_chosen(planner: Planner, clamp: int) -> None:
    page = opened(planner, clamp)
    page.get_by_label("Order of the features").select_option("size")
    expect(page.locator(".feature-table tbody tr").first).to_contain_text("H7")
