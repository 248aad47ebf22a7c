"""How features are made, seen at the page: rules, ways of cutting, values last used, probing, programs in the stock."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
import requests
from playwright.sync_api import Page, expect

from lean_ledger.demo.served import MARK
from tests.browser.conftest import Planner

pytestmark = pytest.mark.browser

DRILL = "Drill 4 × Ø5.5, through"


def entries(planner: Planner, plan_id: int) -> list[dict[str, Any]]:
    return [e for s in planner.plan(plan_id)["setups"] for e in s["entries"]]


def unfold(page: Page, name: str) -> None:
    page.get_by_role("button", name=re.compile(f"{re.escape(name)}$")).first.click()


def test_ways_of_roughing_stand_with_their_seconds_and_one_is_chosen(planner: Planner) -> None:
    page = planner.page
    plan_id = planner.copy_of("louvre-bracket", "T-ways")
    planner.open(plan_id, "operations")
    before = next(e for e in entries(planner, plan_id) if e["strategy"] == "constant engagement")
    unfold(page, before["name"])
    steps = page.get_by_role("radio", name=re.compile("^in steps"))
    expect(steps).not_to_be_checked()
    expect(page.get_by_role("radio", name=re.compile("^constant engagement"))).to_be_checked()
    steps.click()
    planner.settled()
    after = next(e for e in entries(planner, plan_id) if e["id"] == before["id"])
    assert after["strategy"] == "in steps"
    assert after["total"] > before["total"] + 2
    expect(page.locator(".last")).to_contain_text("each")
    page.get_by_role("button", name="Whichever is quicker").click()
    planner.settled()
    assert next(e for e in entries(planner, plan_id) if e["id"] == before["id"])["strategy"] == before["strategy"]


def test_hole_is_made_by_another_rule(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    unfold(page, DRILL)
    choice = page.get_by_label(re.compile("^How .* is made$"))
    expect(choice.locator("option").first).to_have_text("the rules: spot, drill")
    choice.select_option(label="Drill without a spot")
    planner.settled()
    expect(page.get_by_role("button", name=re.compile("Spot 4 × Ø5.5"))).to_have_count(0)
    rules = {e["rule"] for e in entries(planner, plate) if e["name"] == DRILL}
    assert rules == {"drilled-only"}


def test_shop_s_rules_are_changed_refused_and_put_back(planner: Planner, plate: int, site: str) -> None:
    page = planner.page
    spots = [e for e in entries(planner, plate) if e["kind"] == "spot"]
    assert spots
    try:
        page.goto(f"{site}/tools?show=making")
        page.get_by_label("Change Spot, drill", exact=True).click()
        form = page.get_by_role("form", name="Rule Spot, drill", exact=True)
        form.get_by_label("spot", exact=True).uncheck()
        form.get_by_label("drill", exact=True).uncheck()
        form.get_by_role("button", name="Keep the rule").click()
        expect(page.get_by_role("alert")).to_contain_text(
            "(drilled), steps: a hole is opened by either drill or mill bore"
        )
        form.get_by_label("drill", exact=True).check()
        form.get_by_role("button", name="Keep the rule").click()
        expect(page.get_by_role("alert")).to_have_count(0)
        row = page.get_by_role("row").filter(has=page.get_by_role("cell", name="Spot, drill", exact=True))
        expect(row).to_contain_text("drill, widen")
        after = [e for e in entries(planner, plate) if e["kind"] == "spot"]
        assert len(after) < len(spots)
        with page.expect_download() as download:
            page.get_by_role("link", name="chains.json").click()
        rules = json.loads(download.value.path().read_text(encoding="utf-8"))["rules"]
        assert next(r for r in rules if r["id"] == "drilled")["steps"] == ["drill", "widen"]
    finally:
        page.goto(f"{site}/tools?show=making")
        page.get_by_role("button", name="Back to the rules that ship").click()
        expect(page.get_by_role("button", name="Back to the rules that ship")).to_have_count(0)
    assert len([e for e in entries(planner, plate) if e["kind"] == "spot"]) == len(spots)


def test_values_of_the_last_job_are_taken(planner: Planner) -> None:
    page = planner.page
    first = planner.copy_of("mast-clamp-half", "T-habit-1", "brass-cw614n")
    face = next(e for e in entries(planner, first) if e["kind"] == "face")
    requests.post(
        f"{planner.site}/api/plans/{first}/changes",
        json={"change": "edit-operation", "operation": face["id"], "feed": 1.2},
        headers={"If-Match": '"1"', **MARK}, timeout=60,
    ).raise_for_status()  # fmt: skip
    second = planner.copy_of("mast-clamp-half", "T-habit-2", "brass-cw614n")
    planner.open(second, "operations")
    offer = page.locator(".last-used")
    expect(offer).to_contain_text("T-habit-1")
    offer.get_by_role("button", name="Show them").click()
    expect(offer.get_by_role("table")).to_contain_text("feed 120 %")
    offer.get_by_role("button", name=re.compile("^Take (all|its)")).click()
    planner.settled()
    expect(page.locator(".last-used")).to_have_count(0)
    assert {round(e["feed"], 3) for e in entries(planner, second) if e["kind"] == "face"} == {1.2}


def test_zero_and_a_bore_are_probed(planner: Planner) -> None:
    page = planner.page
    plan_id = planner.copy_of("gear-housing-lid", "T-probe")
    planner.open(plan_id, "setups?setup=S1")
    expect(page.get_by_role("tab", name=re.compile("^S1"))).to_have_attribute("aria-selected", "true")
    page.get_by_role("checkbox", name="the zero").click()
    planner.settled()
    expect(page.locator(".probed")).to_contain_text("14.4 s")
    page.get_by_role("checkbox", name=re.compile("^H11")).click()
    planner.settled()
    kinds = [e["kind"] for e in planner.plan(plan_id)["setups"][0]["entries"]]
    assert kinds[0] == "probe"
    assert kinds.count("probe") == 2
    expect(page.locator(".strip")).to_contain_text("probing")


@pytest.mark.follows
def test_program_is_run_in_the_stock_and_a_foreign_one_found_out(planner: Planner) -> None:
    page = planner.page
    plan_id = planner.copy_of("sonde-carrier", "T-trial")
    planner.open(plan_id, "program")
    page.get_by_role("button", name="Run this program in the stock").click()
    expect(page.get_by_role("status").filter(has_text="Nothing is run into")).to_be_visible(timeout=120_000)
    text = planner.issued(plan_id, "program/S1/text").text
    lines = text.splitlines()
    at = next(i for i, line in enumerate(lines) if line.startswith("G43 H9"))
    lines.insert(at + 1, "G0 Z-3.")
    page.locator(".elsewhere input[type=file]").set_input_files(
        {"name": "proven.nc", "mimeType": "text/plain", "buffer": "\n".join(lines).encode()}
    )
    planner.settled()
    page.get_by_role("button", name="Run proven.nc in it").click()
    trial = page.locator(".trial")
    expect(trial.locator(".finding").first).to_contain_text(f"Line {at + 2}: T9 goes in rapid", timeout=120_000)
    expect(trial.locator(".finding").first).to_contain_text("into the stock")
