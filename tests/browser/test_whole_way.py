"""From a model to a price and a setup sheet, as a planner goes it."""

from __future__ import annotations

from io import BytesIO
from pathlib import Path

import pytest
import requests
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from lean_ledger.core.papers.sheet import clock
from tests.browser.conftest import Planner
from tests.conftest import CASES

pytestmark = [pytest.mark.browser, pytest.mark.follows]

MODEL = CASES / "features/sensor-base-plate.step"


def test_from_a_model_to_a_price_and_a_setup_sheet(planner: Planner) -> None:
    page = planner.page
    page.goto(f"{planner.site}/?find=SB-220")
    expect(page.get_by_role("link", name="SB-220 Sensor base plate").first).to_be_visible()

    # a new job: file, material, quantities, due date
    page.get_by_role("button", name="New job").click()
    page.get_by_label("STEP or DXF file").set_input_files(MODEL)
    page.get_by_label("Material").select_option("al-6082")
    page.get_by_label("Quantities").fill("20, 100")
    page.get_by_label("Due", exact=True).fill("2027-03-01")
    page.get_by_label("Part number").fill("WW-1")
    page.get_by_role("button", name="Make the plan").click()
    page.wait_for_url("**/plans/*/part")
    plan_id = int(page.url.split("/")[-2])
    expect(page.get_by_text("WW-1 Sensor base plate")).to_be_visible()
    expect(page.get_by_role("row", name="6 × blind hole")).to_be_visible()
    first = planner.plan(plan_id)
    assert first["quantities"] == [20, 100]
    assert [s["up"] for s in first["setups"]] == ["Z+", "Z-"]
    assert planner.figure("cycle") == clock(first["strip"]["cycle"])

    # a thread, named once for all six holes
    page.get_by_label("Thread of the holes Ø 5", exact=True).select_option("M6")
    planner.settled()
    expect(page.get_by_test_id("strip-effect")).to_contain_text("s")
    threaded = planner.plan(plan_id)
    taps = [e for s in threaded["setups"] for e in s["entries"] if e["kind"] == "tap"]
    assert len(taps) == 1
    assert len(taps[0]["features"]) == 6
    assert threaded["strip"]["cycle"] > first["strip"]["cycle"]

    # more stock on top
    page.get_by_role("link", name="Setups").click()
    page.get_by_role("tab", name="S1 Z+ up").click()
    planner.type_into("Allowance Z+", "3,5")
    higher = planner.plan(plan_id)
    assert next(a["value"] for a in higher["allowances"] if a["side"] == "Z+") == 3.5
    assert higher["strip"]["cycle"] > threaded["strip"]["cycle"]

    # an operation moved by keyboard
    page.get_by_role("link", name="Order").click()
    before = [e["id"] for e in higher["setups"][0]["entries"]]
    row = page.locator(f"tr[data-id='{before[1]}']")
    row.focus()
    row.press("Alt+ArrowDown")
    planner.settled()
    moved = planner.plan(plan_id)
    after = [e["id"] for e in moved["setups"][0]["entries"]]
    assert after == [before[0], before[2], before[1], *before[3:]]

    # the margin
    page.get_by_role("link", name="Price").click()
    planner.type_into("margin", "31")
    priced = planner.plan(plan_id)
    assert float(priced["price"]["quantities"][0]["each"]) > float(moved["price"]["quantities"][0]["each"])
    expect(page.get_by_test_id("each-20")).to_have_text(priced["price"]["quantities"][0]["each"])

    # strip, API, PDF and lists say the same
    assert planner.figure("cycle") == clock(priced["strip"]["cycle"])
    assert planner.figure("piece") == clock(priced["strip"]["per_piece"])
    assert planner.figure("each") == priced["strip"]["each"]
    page.get_by_role("link", name="Papers").click()
    sheet = page.get_by_role("article", name="Setup sheet S1")
    expect(sheet).to_contain_text(f"Cycle {clock(priced['setups'][0]['cycle'])}")
    address = page.get_by_role("link", name="Setup sheet, PDF").get_attribute("href", timeout=120_000)
    pdf = requests.get(f"{planner.site}{address}", timeout=60)
    text = "".join(p.extract_text() for p in PdfReader(BytesIO(pdf.content)).pages)
    assert f"cycle {clock(priced['strip']['cycle'])}, with handling {clock(priced['strip']['per_piece'])}" in text
    assert f"plan version {priced['version']}" in text
    assert "Tap M6" in text
    with page.expect_download() as download:
        page.get_by_role("link", name="Operations, CSV").click()
    rows = Path(download.value.path()).read_text(encoding="utf-8-sig").splitlines()
    assert len(rows) - 1 == sum(len(s["entries"]) for s in priced["setups"])


def test_file_dropped_on_the_list_opens_the_form(planner: Planner) -> None:
    page = planner.page
    page.goto(planner.site)
    expect(page.get_by_role("table")).to_be_visible()
    text = MODEL.read_text(encoding="utf-8")
    page.evaluate(
        """(text) => {
            const data = new DataTransfer();
            data.items.add(new File([text], "dropped-plate.step"));
            document.querySelector(".jobs-page").dispatchEvent(
                new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
        }""",
        text,
    )
    expect(page.get_by_text("dropped-plate.step")).to_be_visible()
    page.get_by_role("button", name="Make the plan").click()
    page.wait_for_url("**/plans/*/part")
    expect(page.get_by_text("Dropped plate")).to_be_visible()


@pytest.mark.parametrize(
    ("file", "reason"),
    [
        ("empty.step", "the file is empty"),
        ("truncated.step", "ends before END-ISO-10303-21"),
        ("letter.step", "not a STEP file"),
        ("wireframe.step", "no solid"),
    ],
)
def test_bad_file_is_refused_on_the_page_with_the_reason(planner: Planner, file: str, reason: str) -> None:
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    page.get_by_label("STEP or DXF file").set_input_files(CASES / "bad" / file)
    page.get_by_role("button", name="Make the plan").click()
    expect(page.get_by_role("alert")).to_contain_text(reason)
    expect(page.get_by_role("button", name="Make the plan")).to_be_enabled()


def test_other_ending_and_200_mb_are_refused_at_once(planner: Planner, tmp_path: Path) -> None:
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    page.get_by_label("STEP or DXF file").set_input_files(
        {"name": "part.stl", "mimeType": "text/plain", "buffer": b"solid"}
    )
    expect(page.get_by_role("alert")).to_contain_text("only .step, .stp and .dxf files are read")
    huge = tmp_path / "huge.step"
    with huge.open("wb") as file:
        file.truncate(200 * 1024 * 1024)
    page.get_by_label("STEP or DXF file").set_input_files(huge)
    expect(page.get_by_role("alert")).to_contain_text("200 MB; at most 100 MB")


def test_quantities_that_are_none_are_refused_in_words(planner: Planner) -> None:
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    page.get_by_label("STEP or DXF file").set_input_files(MODEL)
    page.get_by_label("Quantities").fill("ten")
    page.get_by_role("button", name="Make the plan").click()
    expect(page.get_by_role("alert")).to_contain_text("“ten” is no quantity")


def test_jobs_show_what_a_planner_looks_for(planner: Planner) -> None:
    page = planner.page
    page.goto(f"{planner.site}/?find=LB-310")
    row = page.get_by_role("row").filter(has_text="LB-310")
    expect(row).to_contain_text("Louvre bracket")
    expect(row).to_contain_text("to solve")
    expect(row.locator("img")).to_have_js_property("complete", value=True)
    assert row.locator("img").evaluate("picture => picture.naturalWidth") > 0
    row.get_by_label("State of LB-310").select_option("ordered")
    page.reload()
    expect(page.get_by_label("State of LB-310")).to_have_value("ordered")
    page.get_by_label("State of LB-310").select_option("quoting")
    row.get_by_role("link", name="LB-310 Louvre bracket").click()
    page.wait_for_url("**/part")


def test_first_price_takes_fewer_than_ten_clicks(planner: Planner) -> None:
    """Open, new job, file, make: the price stands in the strip."""
    page: Page = planner.page
    page.goto(planner.site)
    clicks = 0
    for action in (
        lambda: page.get_by_role("button", name="New job").click(),
        lambda: page.get_by_label("STEP or DXF file").set_input_files(MODEL),
        lambda: page.get_by_role("button", name="Make the plan").click(),
    ):
        action()
        clicks += 1
    expect(page.get_by_test_id("strip-each")).to_be_visible()
    assert clicks < 10
    assert float(planner.figure("each").replace("\u202f", "")) > 0
