"""From plan to business, by mouse, keyboard and thumb: quotes, hours, and what comes back from the floor."""

from __future__ import annotations

import base64
import re
from datetime import date, timedelta
from io import BytesIO

import pytest
import requests
from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.conftest import MARK, Planner

pytestmark = pytest.mark.browser
PIXEL = base64.b64decode(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGP4z8DwHwAFAAH/iZk9HQAAAABJRU5ErkJggg=="
)


def test_quote_is_issued_changed_and_won(planner: Planner) -> None:
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-quote")
    job = planner.plan(plan)["job"]
    requests.patch(
        f"{planner.site}/api/jobs/{job['id']}", json={"customer": "Gale & Daughters"}, headers=MARK, timeout=60
    )
    planner.open(plan, "price")
    price = {q["quantity"]: q for q in planner.plan(plan)["price"]["quantities"]}
    page.get_by_role("button", name="Quote it").click()
    expect(page.get_by_role("heading", name=re.compile(r"Quote Q-\d{4}-\d{3}"))).to_contain_text("draft")
    rows = page.locator(".quote-line tbody tr")
    expect(rows.nth(1)).to_contain_text(f"50{price[50]['each']}")
    page.get_by_label("Quantities of T-quote").fill("20, 80")
    page.get_by_label("Quantities of T-quote").press("Enter")
    expect(rows.first.locator("td").first).to_have_text("20")
    page.get_by_label("Payment of this quote").fill("on delivery")
    page.get_by_label("Payment of this quote").press("Enter")
    page.get_by_role("button", name="Issue").click()
    expect(page.get_by_text("waits for an answer")).to_be_visible()
    expect(page.locator(".quote-terms")).to_contain_text("on delivery")
    each = rows.first.locator("td").nth(1).inner_text()
    paper = requests.get(
        f"{planner.site}{page.get_by_role('link', name='PDF as issued').get_attribute('href')}", timeout=60
    )
    text = PdfReader(BytesIO(paper.content)).pages[0].extract_text()
    assert each in text, "the paper's figures are the page's"
    assert "Gale & Daughters" in text
    # the customer asks again: the shop takes less, and the version says so
    page.get_by_role("link", name="T-quote").click()
    planner.type_into("margin", "10")
    page.go_back()
    page.get_by_role("button", name="New version").click()
    expect(page.get_by_role("heading", name=re.compile("^Quote Q.* version 2"))).to_be_visible()
    expect(page.locator(".quote-changed")).to_contain_text(f"20 pieces {each} → ")
    page.get_by_role("button", name="Issue").click()
    page.get_by_label("Pieces ordered of T-quote").fill("5")
    page.get_by_role("button", name="Won").click()
    expect(page.get_by_role("alert")).to_contain_text("fewer than the least that is offered, 20")
    page.get_by_label("Pieces ordered of T-quote").fill("60")
    page.get_by_role("button", name="Won").click()
    expect(page.get_by_text("60 ordered.")).to_be_visible()
    page.get_by_role("link", name="Quotes").click()
    page.get_by_role("tab", name="Won and lost").click()
    expect(page.locator("tr", has_text="Gale & Daughters")).to_contain_text("100 %")
    page.get_by_role("link", name="Capacity").click()
    expect(page.get_by_label("Pieces ordered of T-quote")).to_have_value("60")
    expect(page.get_by_role("img", name=re.compile("T-quote")).first).to_be_visible()


def test_rush_costs_what_its_overtime_costs(planner: Planner) -> None:
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-rush")
    planner.open(plan, "price")
    planner.type_into("Quantities", "3000")
    lead = page.get_by_label("Lead time")
    asked = f"{planner.site}/api/plans/{plan}/lead-time?quantity=3000"
    ready = requests.get(asked, timeout=60).json()["ready"]
    expect(lead).to_contain_text(f"ready {ready}")
    page.get_by_label("Wanted by").fill(ready)
    expect(lead).to_contain_text("without hurry")
    earlier = (date.fromisoformat(ready) - timedelta(days=5)).isoformat()
    page.get_by_label("Wanted by").fill(earlier)
    rush = requests.get(f"{asked}&wanted={earlier}", timeout=60).json()["rush"]
    assert rush["possible"]
    expect(lead).to_contain_text(f"{rush['hours']:.1f} h of overtime")
    expect(lead).to_contain_text(f"Put before all others it is ready on {rush['first_ready']}")
    price = float(rush["price"])
    assert price == pytest.approx(rush["hours"] * 42 * 0.5 * 1.12 / 0.75, abs=0.02), (
        "labour, surcharge, overhead, margin"
    )
    expect(lead.locator("b").last).to_have_text(re.compile(rf"\+{price:,.2f}".replace(",", ".?")))


def test_thirty_runs_change_what_a_machine_is_estimated_at(planner: Planner) -> None:
    """The factor on the page is the formula's, by the numbers that stand beside it: 1 + believed · (mean − 1)."""
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-runs")
    planner.issued(plan, "papers/tools.csv")
    before = planner.plan(plan)
    planner.open(plan, "floor")
    page.get_by_label("Cycles").fill("30")
    page.get_by_role("button", name="Run them").click()
    expect(page.get_by_role("status").filter(has_text="came back")).to_contain_text("30 cycles of")
    expect(page.locator(".beside-actual").first).to_contain_text("cutting")
    page.get_by_role("link", name=re.compile("^Price")).click()
    cycle = page.get_by_role("row", name=re.compile("^cycle"))
    expect(cycle).to_contain_text("from the floor")  # how far it may be off, though nothing of it is in use yet
    now = planner.plan(plan)["price"]
    assert now["quantities"] == before["price"]["quantities"]
    shares = [next(r["share"] for r in price["sure"][0]["rests"] if r["what"] == "cycle")
              for price in (before["price"], now)]  # fmt: skip
    assert shares[0] != shares[1], "the machine had runs before; thirty more make its factors others"
    expect(cycle).to_contain_text(f"± {100 * shares[1]:.0f} %")
    planner.open(plan, "floor")
    page.get_by_role("link", name="what was measured").click()
    machine = before["setups"][0]["machine_name"]
    use = page.get_by_role("button", name=f"Use: rapid on {machine}")
    rows = requests.get(f"{planner.site}/api/shop/factors", timeout=60).json()["factors"]
    row = next(one for one in rows if one["machine_name"] == machine and one["category"] == "rapid")
    assert row["runs"] >= 30
    assert row["factor"] == pytest.approx(1 + row["drawn"] * (row["mean"] - 1))
    shown = page.locator("tr", has=use)
    expect(shown).to_contain_text(f"{row['factor']:.3f}")
    try:
        use.click()
        expect(page.get_by_role("button", name=f"Stop using: rapid on {machine}")).to_be_visible()
        planner.open(plan, "floor")
        rapid = sum(s["seconds"] for s in before["strip"]["seconds"] if s["category"] == "rapid")
        after = planner.plan(plan)["strip"]["cycle"]
        assert after == pytest.approx(before["strip"]["cycle"] + rapid * (round(row["factor"], 3) - 1), abs=0.01)
        page.get_by_test_id("strip-cycle").click()
        expect(page.get_by_role("dialog")).to_contain_text(f"measured on {row['runs']} runs")
    finally:
        requests.delete(f"{planner.site}/api/shop/factors/{row['machine']}/rapid", headers=MARK, timeout=60)


def test_what_is_ticked_while_the_network_is_away_comes_once(planner: Planner) -> None:
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-floor")
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(f"{planner.site}/floor/{plan}/S1?v=7")
    expect(page.get_by_role("alert")).to_contain_text("Your sheet is of version 7; the plan is at 1")
    page.get_by_label("Who").fill("Wen")
    page.get_by_role("button", name="Begin Tools in").click()
    waits = page.locator(".floor-waits")
    expect(waits).to_have_text("All of it is with the office.")
    page.context.set_offline(True)
    page.get_by_role("button", name="End Tools in").click()
    page.get_by_role("button", name="1 good").click()
    page.get_by_label("Why scrap").select_option("surface")
    page.get_by_role("button", name="1 scrap").click()
    page.get_by_label("Words").fill("chips in the vise")
    page.get_by_role("button", name="Keep the note").click()
    expect(waits).to_have_attribute("data-waiting", "4")
    expect(waits).to_contain_text("kept on this device")
    expect(page.get_by_role("button", name="Begin Tools in")).to_be_visible()
    expect(page.locator(".floor-count")).to_contain_text("1 good")
    page.context.set_offline(False)
    expect(waits).to_have_attribute("data-waiting", "0")
    found = requests.get(f"{planner.site}/api/floor/{plan}/S1", timeout=60).json()
    assert (found["book"]["good"], found["book"]["scrap"]) == (1, [{"reason": "surface", "count": 1}])
    assert found["steps"][0]["done"]
    assert [(n["text"], n["author"]) for n in found["book"]["notes"]] == [("chips in the vise", "Wen")]
    page.get_by_role("button", name="Door open").click()
    watch = page.get_by_role("button", name="Cycle start")
    watch.click()  # a thumb that bounces: the watch goes on
    expect(watch).to_have_text("Cycle start2 s")
    watch.click()
    expect(page.get_by_text("1 taken:")).to_be_visible()
    page.get_by_label("Take a photo").set_input_files({"name": "a.png", "mimeType": "image/png", "buffer": PIXEL})
    expect(page.locator(".floor-notes img")).to_be_visible()
    page.get_by_role("button", name="Take back: 1 scrap: surface").click()
    expect(page.locator(".floor-count")).to_contain_text("0 scrap")
    page.set_viewport_size({"width": 1280, "height": 800})
    planner.open(plan, "floor")
    expect(page.get_by_text("chips in the vise")).to_be_visible()
    expect(page.locator(".floor-loads")).to_contain_text("1 good")
