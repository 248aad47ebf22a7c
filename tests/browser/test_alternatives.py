"""Several plans of a job, by mouse and keyboard: three that overtake one another, and one out of all combinations."""

from __future__ import annotations

import pytest
import requests
from playwright.sync_api import expect

from tests.browser.conftest import MARK, Planner

pytestmark = pytest.mark.browser


def test_three_alternatives_overtake_one_another_where_arithmetic_says(planner: Planner) -> None:
    """A machine at 50, labour at 40 of which a run takes half: an hour of setting up is 90, one of the run 70. What an
    hour of setting up more saves in loading, 72 s, is 72 / 3600 · 70 = 1.40: 90 / 1.40 = 64.3 pieces. Four hours more
    and another 72 s: 360 / 1.40 = 257.1. Nothing else differs.
    """
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-overtaken")
    planner.open(plan, "price")
    planner.type_into("labour rate", "40")
    planner.type_into("attendance", "50")
    planner.type_into("scrap", "0")
    planner.type_into("Machine rate of S1", "50")
    planner.type_into("Setup hours of S1", "0:30")
    planner.type_into("Load seconds of S1", "172")
    page.keyboard.press("Alt+0")
    page.get_by_label("Name of quick price").fill("vise")
    page.get_by_label("Name of quick price").press("Enter")
    expect(page.get_by_label("Name of vise")).to_be_visible()
    for name, hours, seconds in (("two vises", "1:30", "100"), ("pallet", "5:30", "28")):
        before = page.url
        page.get_by_role("button", name="New plan from this one").click()
        expect(page).not_to_have_url(before)
        page.get_by_role("link", name="Price").click()
        planner.type_into("Setup hours of S1", hours)
        planner.type_into("Load seconds of S1", seconds)
        page.get_by_role("link", name="Alternatives").click()
        forked = page.locator("tr.sel").get_by_role("textbox")
        forked.fill(name)
        forked.press("Enter")
        expect(page.get_by_label(f"Name of {name}", exact=True)).to_be_visible()
    told = page.get_by_test_id("overtaken")
    expect(told).to_have_text(
        "Up to 64 pieces “vise”; 65 to 257 “two vises”; from 258 on “pallet”.", timeout=60_000
    )  # fmt: skip
    expect(page.locator(".plans-chart")).to_contain_text("65")
    lit = page.locator(".beside-table tr.differs")
    expect(lit.filter(has_text="setting up")).to_have_count(1)
    expect(page.locator(".beside-table tr.alike").filter(has_text="cycle").first).to_be_visible()
    # the job is made by another, the others stay, and the list of jobs says both
    page.get_by_role("button", name="take it: pallet").click()
    expect(page.locator("tr.sel")).to_contain_text("this plan")
    page.get_by_role("button", name="put away two vises").click()
    expect(told).to_contain_text("“vise”; from 161 on “pallet”")  # 450 / 2.80 = 160.7
    page.goto(planner.site)
    row = page.locator("tr").filter(has_text="T-overtaken")
    expect(row).to_contain_text("pallet")
    expect(row.get_by_role("link", name="vise", exact=True)).to_be_visible()


def test_combination_is_taken_from_the_map_and_an_alternative_from_the_journal(planner: Planner) -> None:
    page, plan = planner.page, planner.copy_of("anemometer-arm-block", "T-grid", "pom-c")
    planner.open(plan, "alternatives")
    page.get_by_role("button", name="Make them all and compare").click()
    expect(page.locator(".price-map")).to_be_visible(timeout=240_000)
    cell = page.get_by_role("button", name="Mill 2, sawn to size, as many as go on, as it is")
    each = cell.inner_text().split()[0]
    cell.click()
    picked = page.get_by_role("region", name="The combination picked")
    expect(picked).to_contain_text("Mill 2")
    picked.get_by_role("button", name="Take it as a plan of this job").click()
    expect(page).not_to_have_url(f"{planner.site}/plans/{plan}/alternatives")
    expect(page.get_by_test_id("strip-each")).to_have_text(each)
    taken = int(page.url.split("/")[-2])
    assert planner.plan(taken)["price"]["quantities"][0]["each"] == each
    page.keyboard.press("j")
    lines = page.locator(".journal .lines li")
    expect(lines.filter(has_text="begun again on Mill 2")).to_have_count(1)
    lines.last.get_by_role("button", name="alternative from here, line 1", exact=True).click()
    expect(page).not_to_have_url(f"{planner.site}/plans/{taken}/alternatives")
    answer = requests.get(f"{planner.site}/api/plans/{plan}/alternatives", headers=MARK, timeout=60).json()
    assert len(answer["plans"]) == 3
    assert [one["chosen"] for one in answer["plans"]] == [True, False, False]


def test_price_says_how_sure_it_is_and_what_it_leaves_out(planner: Planner) -> None:
    page, plan = planner.page, planner.job("LB-310")
    planner.open(plan, "price")
    expect(page.get_by_role("note")).to_contain_text("No tool makes 2 × Ø3.7")
    (sure, *_) = planner.plan(plan)["price"]["sure"]
    expect(page.get_by_role("row", name=f"{sure['rests'][0]['what']} {sure['rests'][0]['source']}")).to_be_visible()
    expect(page.locator("tr.range")).to_contain_text(f"{sure['low']} … {sure['high']}")
    expect(page.get_by_test_id("sure-words")).to_contain_text("being surer of it is worth most")
