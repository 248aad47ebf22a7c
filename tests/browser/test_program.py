"""The program chapter on the real page: an edit goes through to the program, the strip is zoomed, files are taken."""

from __future__ import annotations

import json
import re
from zipfile import ZipFile

import pytest
from playwright.sync_api import Route, expect

from tests.browser.conftest import ROUGH, Planner
from tests.browser.test_accessible import violations

pytestmark = [pytest.mark.browser, pytest.mark.follows]


def test_a_feed_goes_through_to_strip_time_strip_program_and_sheet(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    tab = page.get_by_role("tab", name=re.compile("^S1"))
    expect(tab).to_be_visible()
    before, cycle = tab.inner_text(), planner.figure("cycle")
    lines = page.get_by_role("listbox", name="Program")
    expect(lines).not_to_contain_text("F333.")
    planner.open(plate, "operations")
    planner.type_into(f"vf of {ROUGH}", "333")
    planner.open(plate, "program")
    expect(lines).to_contain_text("F333.")
    assert planner.figure("cycle") != cycle
    assert tab.inner_text() != before
    expect(page.get_by_role("heading", name=re.compile("the same as the ledger"))).to_be_visible()
    planner.open(plate, "papers")
    row = page.get_by_role("row", name=re.compile(f"{ROUGH}"))
    expect(row).to_contain_text("333")


def test_strip_is_zoomed_and_leads_to_the_line_and_back(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    strip = page.get_by_role("application", name=re.compile("^Time strip"))
    box = strip.bounding_box()
    assert box is not None
    strip.click(position={"x": box["width"] * 0.4, "y": 30})
    readout = page.locator(".readout")
    expect(readout).to_contain_text(re.compile(r"\d:\d\d\.\d{3} .* s, T\d+, line \d+"))
    line = re.search(r"line (\d+)", readout.inner_text())
    assert line is not None
    expect(page.locator(f"#line-{line[1]}")).to_have_attribute("aria-selected", "true")
    for _ in range(10):
        strip.press("+")
    # ten times half of minutes: the marks say hundredths
    expect(strip).to_have_attribute("aria-label", re.compile(r"\d:\d\d\.\d+ to \d:\d\d\.\d+"))
    strip.press("Home")
    expect(strip).to_have_attribute("aria-label", re.compile("Time strip, 0:00 to"))
    choices = page.get_by_label("Operation", exact=True).locator("option").all_text_contents()
    option = next(words for words in choices if words.endswith(ROUGH))
    page.get_by_label("Operation", exact=True).select_option(label=option)
    expect(readout).to_contain_text(ROUGH)
    listbox = page.get_by_role("listbox", name="Program")
    listbox.press("ArrowDown")
    expect(listbox.locator("[aria-selected=true]")).to_have_count(1)


def test_package_is_taken_and_holds_what_is_shown(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    with page.expect_download(timeout=120_000) as waited:
        page.get_by_role("link", name="Program package, ZIP").click(timeout=120_000)
    with ZipFile(waited.value.path()) as package:
        said = json.loads(package.read("manifest.json"))
        text = package.read(said["programs"][0]["file"]).decode()
        assert "setup-sheet.pdf" in package.namelist()
    shown = page.get_by_role("listbox", name="Program").get_by_role("option").all_text_contents()
    assert [re.sub(r"^\d+\s*", "", one).strip() for one in shown] == [line.strip() for line in text.split("\n") if line]
    page.get_by_role("button", name="Send the package and run five cycles").click()
    expect(page.get_by_text(re.compile(r"in the mean, \d+\.\d % over the plan"))).to_be_visible()


def test_setups_of_a_machine_go_out_in_one_file(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    page.get_by_label("Issued as").select_option(label="one file for each machine")
    planner.settled()
    with page.expect_download() as waited:
        page.get_by_role("link", name=re.compile("^Program O0001.nc for S1, S2")).click()
    text = waited.value.path().read_text()
    assert "M98 P1000\nM0 (SETUP S2" in text
    page.get_by_label("Issued as").select_option(label="a file for each setup")
    planner.settled()
    expect(page.get_by_role("link", name="Program O1000.nc")).to_be_visible()


def test_axe_finds_nothing_in_the_program(planner: Planner, plate: int, axe: str) -> None:
    planner.open(plate, "program")
    expect(planner.page.get_by_role("listbox", name="Program")).to_be_visible()
    assert violations(planner.page, axe) == []


def test_setup_is_timed_by_a_program_from_elsewhere(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    before = planner.figure("cycle")
    choice = page.get_by_label("Program file", exact=True)
    # 1000 mm at 500 mm/min, and a second of waiting
    text = b"%\nO7 (PROVEN)\nG21 G90\nG0 X0\nG1 X1000 F500\nG4 P1000\nM30\n%\n"
    choice.set_input_files({"name": "proven.nc", "mimeType": "text/plain", "buffer": text})
    planner.settled()
    expect(page.get_by_text("proven.nc stands for all of S1: 8 lines, 2:01.0.")).to_be_visible()
    assert planner.figure("cycle") != before
    page.get_by_test_id("strip-cycle").click()
    expect(page.get_by_role("row", name=re.compile("Program proven.nc, 8 lines, in place of"))).to_contain_text("121.0")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Take it off").click()
    planner.settled()
    assert planner.figure("cycle") == before


def test_program_that_cannot_be_read_is_refused_with_its_line(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    page.get_by_label("Timed by a program").select_option(label=ROUGH)
    bad = {"name": "macro.nc", "mimeType": "text/plain", "buffer": b"G21\n#100=5\nM30\n"}
    page.get_by_label("Program file", exact=True).set_input_files(bad)
    expect(page.get_by_role("alert")).to_contain_text("macro.nc")
    expect(page.get_by_role("alert")).to_contain_text("line 2")
    good = {"name": "pocket.nc", "mimeType": "text/plain", "buffer": b"G21 G90\nG1 X100 F600\nM30\n"}
    page.get_by_label("Program file", exact=True).set_input_files(good)
    planner.settled()
    expect(page.get_by_text(f"pocket.nc stands for {ROUGH}: 3 lines, 0:10.0.")).to_be_visible()
    (setup, *_) = planner.plan(plate)["setups"]
    entry = next(e for e in setup["entries"] if e["name"] == ROUGH)
    assert next(s["seconds"] for s in entry["seconds"] if s["category"] == "cutting") == pytest.approx(10.003, abs=0.01)


def test_cycle_is_played_jumped_in_and_stops_at_a_finding(planner: Planner, plate: int) -> None:
    page = planner.page
    entries = [e for s in planner.plan(plate)["setups"] for e in s["entries"]]
    rough = next(e for e in entries if e["name"].startswith("Rough pocket P1"))
    before = entries[entries.index(rough) - 1]
    planner.open(plate, "operations")
    planner.type_into(f"vf of {rough['name']}", str(round(1.7 * rough["vf"])))
    planner.settled()
    page.get_by_role("link", name=re.compile("^Program")).click()
    page.get_by_role("tab", name="Play the cycle").click()
    expect(page.locator(".play canvas")).to_be_visible()
    list_of = page.get_by_role("region", name="Operations of the cycle")
    list_of.get_by_role("button", name=before["name"], exact=True).click()
    now = page.locator(".play-now")
    expect(now).to_contain_text(before["name"])
    page.get_by_label("Speed").select_option("100")
    page.get_by_role("button", name="Play", exact=True).click()
    stopped = page.get_by_role("alert").filter(has_text="170 % of its usual feed")
    expect(stopped).to_be_visible()
    expect(now).to_contain_text(rough["name"])
    stopped.get_by_role("button", name="Go on").click()
    expect(now).to_contain_text("The cycles are over")
    page.get_by_label("Time in the cycle").fill("1")
    expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
    expect(now).to_contain_text(entries[0]["name"])


def test_program_is_written_in_another_dialect_and_the_shopping_list_taken(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "program")
    page.get_by_label("Written in").select_option("mill-plain")
    planner.settled()
    expect(page.get_by_label("Written in")).to_have_value("mill-plain")
    found = page.request.get(f"{planner.site}/api/plans/{plate}/program").json()["setups"]
    assert [one["dialect"] for one in found] == ["mill-plain", *["mill"] * (len(found) - 1)]
    planner.open(plate, "operations?show=tools")
    with page.expect_download() as download:
        page.get_by_role("link", name="Shopping list, CSV").click(timeout=120_000)
    lines = download.value.path().read_text(encoding="utf-8-sig").splitlines()
    assert lines[0].startswith("what,id,for ")
    assert any(line.startswith("End mill 10 z3,EA10,1") for line in lines)


def test_play_keeps_the_picture_s_place_while_the_stock_is_cut(planner: Planner, plate: int) -> None:
    page, kept_back = planner.page, [True]
    held: list[Route] = []
    page.route("**/stock/*", lambda route: held.append(route) if kept_back else route.continue_())
    page.goto(f"{planner.site}/plans/{plate}/program?show=play")
    waiting = page.locator(".picture-under-way")
    expect(waiting).to_be_visible()
    slider = page.get_by_label("Time in the cycle")
    before, place = slider.bounding_box(), waiting.bounding_box()
    kept_back.clear()
    for one in held:
        one.continue_()
    expect(page.locator(".play canvas")).to_be_visible()
    after = slider.bounding_box()
    assert before is not None
    assert after is not None
    assert place is not None
    assert after["y"] == pytest.approx(before["y"], abs=1)
    assert place["height"] > 300
