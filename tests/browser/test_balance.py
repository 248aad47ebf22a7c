"""Two turrets on the real page: from one after the other to at the same time, by mouse, by keys, and as it is found."""

from __future__ import annotations

import re

import pytest
import requests
from playwright.sync_api import Page, expect

from tests.browser.conftest import Planner
from tests.browser.test_accessible import violations
from tests.browser.test_layout import change_over

pytestmark = pytest.mark.browser

ON_TURRETS = (
    {"change": "set-stock", "form": "round bar"},
    {"change": "set-stock", "sizing": "next size up"},
    {"change": "move-to-machine", "machine": "lathe-twin"},
)


def socket(planner: Planner, number: str) -> int:
    """The mast socket on the lathe with two turrets, one operation after the other."""
    plan = planner.copy_of("mast-socket", number)
    for k, change in enumerate(ON_TURRETS, start=1):
        change_over(planner, plan, k, change)
    planner.open(plan, "balance")
    expect(planner.page.locator(".lanes-strip .call")).not_to_have_count(0)
    return plan


def balance(planner: Planner, plan: int) -> dict[str, object]:
    answer = requests.get(f"{planner.site}/api/plans/{plan}/balance", timeout=60).json()
    loads: list[dict[str, object]] = answer["loads"]
    return loads[0]


def is_on(page: Page, operation: str, carriage: str) -> None:
    expect(page.get_by_label(f"Carriage of {operation}")).to_have_value(carriage)


DRILL = "Drill Ø14, through"


def test_operations_are_put_beside_one_another_and_the_least_cycle_is_taken(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = socket(planner, "B-TWO")
    alone = balance(planner, plan)
    assert alone["cycle"] == pytest.approx(alone["one_by_one"])
    # by mouse: the drill to the lane below
    block = page.locator(".lanes-strip .call").filter(has_text="T3").first
    box = block.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] + 30, steps=4)
    page.mouse.up()
    planner.settled()
    is_on(page, DRILL, "turret 2")
    # at one speed with the finish it runs beside it
    page.get_by_label(f"Pick {DRILL}").check()
    page.get_by_label(re.compile("^Pick Finish outside")).check()
    page.get_by_role("button", name="Turn the picked ones at one speed").click()
    planner.settled()
    beside = balance(planner, plan)
    assert beside["cycle"] < alone["cycle"] - 5
    expect(page.locator(".lanes-strip .mark")).not_to_have_count(0)
    expect(page.get_by_role("cell", name="spot before drill")).to_be_visible()
    expect(page.locator(".gain").first).to_be_visible()
    assert violations(page, axe) == []
    # the least that is found is no longer
    page.get_by_role("button", name="Find the least cycle").click()
    found = page.get_by_role("status").filter(has_text="less than")
    expect(found).to_be_visible()
    found.get_by_role("button", name="Take it").click()
    planner.settled()
    least = balance(planner, plan)
    assert least["cycle"] < beside["cycle"]
    # each turret has its program, and they agree with the ledger
    page.keyboard.press("Alt+7")
    expect(page.get_by_role("heading", level=1, name="Program")).to_be_visible()
    programs = requests.get(f"{planner.site}/api/plans/{plan}/program", timeout=60).json()["setups"]
    assert [one["carriage"] for one in programs[:2]] == ["turret 1", "turret 2"]
    assert max(one["total"] for one in programs[:2]) == pytest.approx(least["cycle"], rel=1e-3)
    page.get_by_role("tab", name=re.compile("turret 2")).click()
    expect(page.get_by_text("M500").first).to_be_visible()


def test_operations_change_turrets_by_keys_and_the_next_step_is_taken(planner: Planner) -> None:
    page = planner.page
    plan = socket(planner, "B-KEYS")
    row = page.locator(".on-carriages tbody tr").filter(has_text=DRILL)
    row.focus()
    page.keyboard.press("Alt+ArrowDown")
    planner.settled()
    is_on(page, DRILL, "turret 2")
    before = balance(planner, plan)["cycle"]
    expect(page.locator(".gain").first).to_be_visible()
    page.locator(".gain").first.get_by_role("button", name="Take it").click()
    planner.settled()
    assert balance(planner, plan)["cycle"] < before
    # both turrets rough together, two passes at a time, and it is taken back with all else
    both = page.get_by_role("button", name=re.compile("^Rough outside.* from both sides$"))
    both.focus()
    both.press("Enter")
    planner.settled()
    on = [page.get_by_label(re.compile(f"^Carriage of Pass {k} of")).input_value() for k in (1, 2, 3, 4)]
    assert sorted(on[:2]) == sorted(on[2:]) == ["turret 1", "turret 2"]
    lanes = balance(planner, plan)["lanes"]
    assert isinstance(lanes, list)
    begun = {
        call["name"][:6]: call["go"] for lane in lanes for call in lane["calls"] if call["name"].startswith("Pass")
    }
    assert begun["Pass 1"] == pytest.approx(begun["Pass 2"])
    assert begun["Pass 3"] == pytest.approx(begun["Pass 4"])
    expect(page.get_by_role("button", name=re.compile("from one side again$"))).to_be_visible()
    page.get_by_role("button", name="One after the other").click()
    planner.settled()
    is_on(page, DRILL, "turret 1")
    expect(page.get_by_label(re.compile("^Carriage of Pass"))).to_have_count(0)


def test_machine_with_one_carriage_says_so_and_offers_another(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("bearing-spacer", "B-ONE")
    for k, change in enumerate((*ON_TURRETS[:2], ON_TURRETS[2] | {"machine": "lathe-320"}), start=1):
        change_over(planner, plan, k, change)
    planner.open(plan, "balance")
    expect(page.get_by_text("Lathe 1, swing 320 has one carriage")).to_be_visible()
    page.get_by_role("button", name="Make S1 on Lathe 3, two turrets").click()
    planner.settled()
    expect(page.locator(".lanes-strip .call")).not_to_have_count(0)


def test_both_ends_come_into_one_load_and_a_hole_goes_to_the_other_spindle(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = planner.copy_of("vane-hub", "B-ENDS")
    change_over(planner, plan, 1, {"change": "set-thread", "diameter": 5.0, "thread": "M6"})
    change_over(planner, plan, 2, {"change": "move-to-machine", "machine": "lathe-320"})
    planner.open(plan, "balance")
    offers = page.get_by_role("region", name="Both ends in one load")
    row = offers.get_by_role("row").filter(has_text="Lathe 5")
    expect(row).to_contain_text("−")
    seconds = page.get_by_test_id("strip-cycle").inner_text()
    row.get_by_role("button", name="Take it").click()
    planner.settled()
    expect(page.get_by_role("heading", name="Pick-off")).to_be_visible()
    expect(page.locator(".lanes-strip .call.counter")).not_to_have_count(0)
    loads = requests.get(f"{planner.site}/api/plans/{plan}/balance", timeout=60).json()["loads"]
    assert loads[0]["setups"] == ["S1", "S2"]
    assert loads[0]["handover"]["at"] > 180
    assert page.get_by_test_id("strip-cycle").inner_text() != seconds
    before = loads[0]["cycle"]
    gain = page.locator(".gain").filter(has_text="H1 in the counter spindle")
    expect(gain).to_be_visible()
    assert violations(page, axe) == []
    gain.get_by_role("button", name="Take it").click()
    planner.settled()
    assert balance(planner, plan)["cycle"] < before - 10
    programs = requests.get(f"{planner.site}/api/plans/{plan}/program", timeout=60).json()["setups"]
    assert [one["carriage"] for one in programs] == ["turret 1", "turret 2"]
    assert all(one["troubles"] == [] for one in programs)
    # the bar is pulled on in place of being fed, and fed again
    strip = planner.plan(plan)["strip"]
    gain = page.locator(".gain").filter(has_text="counter spindle pulls the bar on")
    gain.get_by_role("button", name="Take it").press("Enter")
    planner.settled()
    expect(page.get_by_text("It pulls the bar on by 64.5")).to_be_visible()
    assert float(planner.plan(plan)["strip"]["each"]) < float(strip["each"])
    page.get_by_role("button", name="Feed it again").press("Enter")
    planner.settled()
    assert planner.plan(plan)["strip"]["each"] == strip["each"]
    # on the layout page it is the counter spindle that has the second piece, and both come apart again
    planner.open(plan, "layout")
    expect(page.get_by_role("cell", name="counter spindle", exact=True)).to_be_visible()
    page.get_by_role("button", name="Take them apart").click()
    planner.settled()
    expect(page.get_by_role("tab", name=re.compile("^S2"))).to_be_visible()


ON_DRUM = (
    *ON_TURRETS[:2],
    {"change": "move-to-machine", "machine": "drum-six"},
    {"change": "set-cut-off", "setup": "S1", "left": 0.0},
    {"change": "set-allowance", "side": "Z-", "value": 4.0},
    {"change": "set-fixture", "setup": "S1", "fixture": "bar-collet-65"},
    {"change": "set-buy", "buy": "bar"},
    {"change": "remove-setup", "setup": "S2"},
)


@pytest.mark.follows
def test_bush_is_spread_over_six_spindles_and_proved_out_position_by_position(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = planner.copy_of("guide-bush", "B-DRUM")
    for k, change in enumerate(ON_DRUM, start=1):
        change_over(planner, plan, k, change)
    planner.open(plan, "balance")
    alone = balance(planner, plan)
    expect(page.get_by_text("cross 1 has no place for the tool")).not_to_have_count(0)
    page.get_by_role("region", name="Shorter").get_by_role("button", name="Spread over the positions").last.click()
    planner.settled()
    spread = balance(planner, plan)
    assert spread["cycle"] < alone["cycle"] / 2
    expect(page.get_by_text("has no place for the tool")).to_have_count(0)
    expect(page.get_by_role("status").filter(has_text="an hour at")).to_be_visible()
    assert violations(page, axe) == []
    # one operation by hand to the next position that is free, by keys: the slides for its tool in turn
    row = page.locator(".on-carriages tbody tr").filter(has_text="Drill Ø8")
    was = row.get_by_role("combobox").input_value()
    assert was.startswith("end ")
    row.focus()
    page.keyboard.press("Alt+ArrowDown")
    planner.settled()
    expect(row.get_by_role("combobox")).to_have_value(f"end {int(was[-1]) + 1}")
    # each step of proving out is its programs
    steps = page.locator(".proving")
    assert steps.count() >= 3
    link = steps.first.get_by_role("link").first
    expect(link).to_be_visible()  # once the stock is followed
    answer = requests.get(planner.site + (link.get_attribute("href") or ""), timeout=60)
    assert answer.status_code == 200
    assert "M599" in answer.text
    assert "only position 1, 6" in answer.text.lower()


def test_two_mills_and_a_bench_are_tended_by_one_and_by_two(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = planner.copy_of("sensor-base-plate", "B-CELL")
    planner.open(plan, "balance")
    page.get_by_role("tab", name="Cell").click()
    expect(page.get_by_text("makes more than one load")).to_be_visible()
    change_over(planner, plan, 1, {"change": "set-machine", "setup": "S2", "machine": "mill-500"})
    change_over(planner, plan, 2, {"change": "add-hand-work", "setup": "S2", "kind": "deburr", "during": True})
    planner.open(plan, "balance")
    page.get_by_role("tab", name="Cell").click()
    expect(page.get_by_role("img", name=re.compile("Machines and people"))).to_be_visible()
    wanted = page.get_by_label("Pieces wanted a shift")
    wanted.fill("1000")
    wanted.press("Enter")
    planner.settled()
    expect(page.get_by_text("The cell does not make 1000 a shift.")).to_be_visible()
    page.get_by_role("button", name=re.compile("a shift$")).click()
    planner.settled()
    expect(page.get_by_text("The cell does not make")).to_have_count(0)
    people = page.get_by_label("Operators", exact=True)
    people.fill("2")
    people.press("Enter")
    planner.settled()
    page.get_by_label(re.compile("^Operator 1 tends bench")).click()
    planner.settled()
    cell = requests.get(f"{planner.site}/api/plans/{plan}/balance/cell", timeout=60).json()
    assert cell["decided"]["tends"] == [["L1", "L2"], ["L1", "L2", "L2-bench"]]
    assert [row["id"] for row in cell["run"]["rows"]] == ["L1", "L2", "operator 1", "operator 2"]
    first = cell["run"]["quantities"][0]
    row = page.get_by_role("region", name="Stations").get_by_role("row", name=re.compile(rf"^{first['quantity']} "))
    expect(row).to_contain_text(first["price"])
    expect(row).to_contain_text(planner.figure("each"))
    assert violations(page, axe) == []
