"""Two who write at once, and answers that overtake each other."""

from __future__ import annotations

import pytest
from playwright.sync_api import APIResponse, Browser, Route, expect

from tests.browser.conftest import ROUGH, Planner

pytestmark = pytest.mark.browser


def test_two_browsers_on_one_plan_lose_nothing(planner: Planner, browser: Browser, plate: int) -> None:
    planner.open(plate, "price")
    second = Planner(browser.new_page(), planner.site)
    # the second one must not learn of the change by itself before it writes
    second.page.route("**/api/plans/*", lambda route: route.continue_())
    second.open(plate, "operations")
    second.page.route("**/api/plans/*", lambda route: route.abort())
    planner.type_into("margin", "40")
    second.type_into(f"vf of {ROUGH}", "1000")
    dialog = second.page.get_by_role("dialog")
    expect(dialog).to_contain_text("The plan moved on")
    expect(dialog).to_contain_text("margin 0.4")
    assert planner.plan(plate)["edition"] == 2, "nothing was overwritten"
    dialog.get_by_role("button", name="Make my change on top").click()
    second.settled()
    plan = planner.plan(plate)
    assert plan["edition"] == 3
    assert next(r["value"] for r in plan["price"]["rates"] if r["name"] == "margin") == "0.4"
    entry = next(e for s in plan["setups"] for e in s["entries"] if e["name"] == ROUGH)
    assert entry["vf"] == 1000
    second.page.close()


def test_reading_overtaken_by_a_change_is_not_taken_for_the_plan(planner: Planner, plate: int) -> None:
    page = planner.page
    planner.open(plate, "operations")
    writes: list[Route] = []
    reads: list[tuple[Route, APIResponse]] = []

    def hold_write(route: Route) -> None:
        if writes:
            route.continue_()
        else:
            writes.append(route)

    def hold_read(route: Route) -> None:
        if reads:
            route.continue_()
        else:
            reads.append((route, route.fetch()))

    page.route("**/changes", hold_write)
    page.route(f"**/api/plans/{plate}", hold_read)
    cell = page.get_by_label(f"vf of {ROUGH}", exact=True)
    cell.fill("1000")
    cell.press("Enter")
    while not (writes and reads):  # the plan is read again every few seconds
        page.wait_for_timeout(100)
    with page.expect_response("**/changes"):
        writes[0].continue_()
    planner.settled()
    for route, response in reads:
        route.fulfill(response=response)
    expect(cell).to_have_value("1000")
    planner.type_into(f"vf of {ROUGH}", "1100")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_text("Changed elsewhere")).to_have_count(0)
    assert planner.plan(plate)["edition"] == 3
