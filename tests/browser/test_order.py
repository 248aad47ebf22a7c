"""The order of a load's whole cycle on the real page: sorted, moved, refused, the best found; by keys as well."""

from __future__ import annotations

import re

import pytest
import requests
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Planner
from tests.browser.test_accessible import violations
from tests.browser.test_layout import change_over

pytestmark = pytest.mark.browser


def three_feet(planner: Planner, number: str) -> int:
    """The sensor foot, its first setup three a cycle: 27 steps."""
    plan = planner.copy_of("sensor-foot", number)
    change_over(planner, plan, 1, {"change": "set-arrangement", "load": "L1", "columns": 3})
    planner.open(plan, "order")
    expect(planner.page.locator(".cycle-table tbody tr")).to_have_count(27)
    return plan


def rows(page: Page) -> Locator:
    return page.locator(".cycle-table tbody tr[data-id]")


def steps(planner: Planner, plan: int) -> list[tuple[str, str]]:
    answer = requests.get(f"{planner.site}/api/plans/{plan}/order/L1", timeout=60).json()
    return [(step["piece"], step["operation"]) for step in answer["steps"]]


def test_cycle_is_sorted_by_three_keys_and_taken_back(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-SORT")
    before = steps(planner, plan)
    page.get_by_label(re.compile("^By")).select_option("piece")
    page.get_by_label(re.compile("^then by")).select_option("operation number")
    page.get_by_label(re.compile("^and then by")).select_option("tool")
    page.get_by_role("button", name="Sort the cycle").click()
    planner.settled()
    pieces = [piece for piece, _ in steps(planner, plan)]
    assert pieces == sorted(pieces)
    expect(page.get_by_text("an order of its own", exact=False)).to_be_visible()
    page.keyboard.press("Control+z")
    planner.settled()
    assert steps(planner, plan) == before


def test_best_is_found_with_its_bound_and_taken(planner: Planner, axe: str) -> None:
    page = planner.page
    plan = three_feet(planner, "O-BEST")
    page.get_by_role("button", name="Take piece by piece").click()
    planner.settled()
    slow = planner.plan(plan)["setups"][0]["load_cycle"]
    page.get_by_role("button", name="Find the best").click()
    expect(page.get_by_text(re.compile("^Proven"))).to_be_visible()
    assert violations(page, axe) == []
    page.get_by_role("button", name="Take this order").click()
    planner.settled()
    after = planner.plan(plan)["setups"][0]
    assert after["load_cycle"] < slow
    program = requests.get(f"{planner.site}/api/plans/{plan}/program", timeout=60).json()["setups"][0]
    assert abs(program["difference"]) < 0.001


def test_step_is_moved_by_keys_and_a_move_too_far_is_refused_with_its_reason(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-MOVE")
    before = steps(planner, plan)
    rows(page).nth(1).focus()
    page.keyboard.press("Alt+ArrowUp")
    planner.settled()
    assert steps(planner, plan)[:2] == [before[1], before[0]]
    page.keyboard.press("Control+z")
    planner.settled()
    # the last step of all cannot be the first
    cell = page.get_by_label(re.compile("^Position of")).last
    cell.click()
    cell.fill("1")
    cell.press("Enter")
    expect(page.get_by_text("The nearest place that would do is", exact=False).first).to_be_visible()
    assert steps(planner, plan) == before


def test_several_steps_are_picked_and_moved_together_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-KEYS")
    before = steps(planner, plan)
    rows(page).nth(1).focus()
    page.keyboard.press("Space")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Space")
    expect(page.locator(".cycle-table tr.sel")).to_have_count(2)
    page.keyboard.press("Alt+ArrowUp")
    planner.settled()
    assert steps(planner, plan)[:3] == [before[1], before[2], before[0]]
    page.get_by_role("button", name="Find the best").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("^Proven"))).to_be_visible()
    page.get_by_role("button", name="Take this order").focus()
    page.keyboard.press("Enter")
    planner.settled()
    page.get_by_role("button", name="Sort the cycle").focus()
    page.keyboard.press("Enter")
    planner.settled()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    planner.settled()
    expect(rows(page)).to_have_count(27)


def test_piece_s_operations_are_shown_by_themselves(planner: Planner) -> None:
    page = planner.page
    three_feet(planner, "O-ONE")
    page.get_by_label(re.compile("^Shown")).select_option("a piece's operations")
    expect(rows(page)).to_have_count(0)
    expect(page.get_by_role("button", name="Sort the cycle")).to_be_visible()


def test_run_is_locked_and_stays_whole_when_the_cycle_is_sorted(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-LOCK")
    run = steps(planner, plan)[2:4]
    for k in (2, 3):
        rows(page).nth(k).focus()
        page.keyboard.press("Space")
    page.get_by_role("button", name="Lock them together").click()
    planner.settled()
    expect(page.locator(".cycle-table tr.locked")).to_have_count(2)
    page.get_by_role("button", name="Sort the cycle").click()
    planner.settled()
    now = steps(planner, plan)
    at = now.index(run[0])
    assert now[at : at + 2] == run
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    planner.settled()
    expect(page.locator(".cycle-table tr.locked")).to_have_count(0)


def test_operation_is_taken_out_and_put_back_and_a_rule_overruled_with_a_note(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-OUT")
    rows(page).last.focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name="Take it out for now").click()
    planner.settled()
    expect(rows(page)).to_have_count(24)
    page.get_by_role("button", name=re.compile("^Put back")).click()
    planner.settled()
    expect(rows(page)).to_have_count(27)
    # the first drilling waits for its spot: overruled, with a note
    answer = requests.get(f"{planner.site}/api/plans/{plan}/order/L1", timeout=60).json()["steps"]
    then = next(k for k, step in enumerate(answer) if step["piece"] == "1" and step["after"])
    first = next(k for k, step in enumerate(answer) if step["piece"] == "1"
                 and step["operation"] == answer[then]["after"][0]["operation"])  # fmt: skip
    for k in (first, then):
        rows(page).nth(k).focus()
        page.keyboard.press("Space")
    page.get_by_label("Note").fill("the jig leads it")
    page.get_by_role("button", name="The second need not wait").click()
    planner.settled()
    said = page.locator("p.caution", has_text="the jig leads it")
    expect(said).to_be_visible()
    page.get_by_role("button", name=re.compile("^Let it hold again")).click()
    planner.settled()
    expect(said).to_have_count(0)


def test_what_comes_before_what_is_drawn_and_told(planner: Planner, axe: str) -> None:
    page = planner.page
    three_feet(planner, "O-GRAPH")
    page.get_by_label(re.compile("^Shown")).select_option("what comes before what")
    drawing = page.locator(".precedences")
    expect(drawing.get_by_role("img")).to_have_count(9)
    expect(drawing.get_by_role("img", name=re.compile("after Spot .*: spot before drill")).first).to_be_visible()
    drawing.get_by_role("img").first.focus()
    expect(drawing.locator("g.near")).to_have_count(1)
    assert violations(page, axe) == []


def test_steps_are_cut_and_put_elsewhere_by_keys_and_a_section_named(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-CUT")
    before = steps(planner, plan)
    faces = [k for k, (_, op) in enumerate(before) if "face" in op]
    assert faces[:3] == [0, 1, 2]
    rows(page).nth(2).focus()
    page.keyboard.press("Control+x")
    expect(page.get_by_text("1 step is cut", exact=False)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("1 step is cut", exact=False)).to_have_count(0)
    page.keyboard.press("Control+x")
    rows(page).nth(0).focus()
    page.keyboard.press("Control+v")
    planner.settled()
    assert steps(planner, plan) == [before[2], before[0], before[1], *before[3:]]
    expect(rows(page).nth(1)).to_be_focused()  # the row that it was put before
    page.keyboard.press("Space")
    page.get_by_label("Name of the section that begins here").fill("Faces")
    page.keyboard.press("Enter")
    planner.settled()
    expect(page.locator(".cycle-table tr.section")).to_have_text("Faces")
    assert "(FACES)" in planner.issued(plan, "program/S1/part/text").text


def test_second_tool_is_given_to_an_operation(planner: Planner) -> None:
    page = planner.page
    plan = planner.copy_of("gear-housing-lid", "O-SECOND")
    planner.open(plan, "order")
    page.get_by_label(re.compile("^Shown")).select_option("the whole cycle")
    floor = rows(page).filter(has_text="Finish floor of pocket")
    calls = planner.plan(plan)["setups"][0]["calls"]
    floor.focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name=re.compile("^Another T")).click()
    planner.settled()
    expect(floor).to_contain_text("second")
    assert planner.plan(plan)["setups"][0]["calls"] == calls + 1


def test_call_again_is_explained_and_avoided(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-AGAIN")
    before = steps(planner, plan)
    late = {"change": "move-steps", "load": "L1", "steps": [before[0]], "to": 3}
    change_over(planner, plan, 2, late)
    page.reload()
    again = page.locator(".again").filter(visible=True)
    expect(again.first).to_be_visible()
    calls = planner.plan(plan)["setups"][0]["calls"]
    again.first.press("Enter")
    why = page.get_by_role("group", name=re.compile("is called again"))
    expect(why).to_contain_text("could have been done when it was in")
    why.get_by_role("button", name=re.compile("^Take: “Face.* is in$")).click()
    planner.settled()
    assert planner.plan(plan)["setups"][0]["calls"] < calls


def test_sorted_locked_refused_and_taken_back_by_keyboard_alone(planner: Planner) -> None:
    page = planner.page
    plan = three_feet(planner, "O-KEYED")
    before = steps(planner, plan)
    for label, letter in (("^By", "p"), ("^then by", "o"), ("^and then by", "t")):
        page.get_by_label(re.compile(label)).focus()
        page.keyboard.press(letter)  # chooses the entry that begins so
    page.get_by_role("button", name="Sort the cycle").press("Enter")
    planner.settled()
    by_piece = [piece for piece, _ in steps(planner, plan)]
    assert by_piece == sorted(by_piece)
    page.keyboard.press("Control+z")
    planner.settled()
    assert steps(planner, plan) == before
    planner.shows(plan)
    for k in (2, 3):
        rows(page).nth(k).focus()
        page.keyboard.press("Space")
    page.get_by_role("button", name="Lock them together").press("Enter")
    planner.settled()
    expect(page.locator(".cycle-table tr.locked")).to_have_count(2)
    cell = page.get_by_label(re.compile("^Position of")).last
    cell.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("1")
    page.keyboard.press("Enter")
    expect(page.get_by_text("The nearest place that would do is", exact=False).first).to_be_visible()
    assert steps(planner, plan) == before
    page.keyboard.press("Escape")
    rows(page).nth(0).focus()
    page.keyboard.press("Control+z")
    planner.settled()
    expect(page.locator(".cycle-table tr.locked")).to_have_count(0)
