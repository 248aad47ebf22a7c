"""Every chapter for everyone: accessibility by axe, nothing cut off at any width."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import ROUGH, Planner

pytestmark = pytest.mark.browser


@pytest.mark.parametrize(
    "chapter",
    [
        "part",
        "setups?setup=S1",
        "setups?setup=stock",
        "layout",
        "operations",
        "order",
        "price",
        "papers",
        "alternatives",
        "floor",
    ],
)
def test_axe_finds_nothing(planner: Planner, axe: str, chapter: str) -> None:
    page = planner.page
    planner.open(planner.job("LB-310"), chapter)
    page.wait_for_timeout(800)
    assert violations(page, axe) == []


def test_axe_finds_nothing_on_jobs_and_in_dialogs(planner: Planner, axe: str, plate: int) -> None:
    page = planner.page
    page.goto(planner.site)
    page.get_by_role("button", name="New job").click()
    assert violations(page, axe) == []
    quotes = ("quotes", "quotes?show=record", "quotes?show=customers", "quotes?show=terms", "quotes/4")
    shop = (*quotes, "capacity", "floor", f"floor/{plate}/S1")
    for shown in ("tools?show=end_mill", "tools?show=cutting", "tools?show=machines", *shop):
        page.goto(f"{planner.site}/{shown}")
        page.wait_for_timeout(600)
        assert violations(page, axe) == []
    planner.open(planner.copy_of("cable-saddle", "T-WORTH"), "operations?show=worth")
    expect(page.locator(".worth-table")).to_be_visible(timeout=120_000)
    assert violations(page, axe) == []
    planner.open(plate, "operations?show=tools")
    expect(page.locator(".tool-use")).to_be_visible()
    assert violations(page, axe) == []
    page.get_by_role("tab", name="One by one").click()
    page.get_by_role("button", name=re.compile("Rough pocket P1")).click()
    expect(page.locator(".pace table")).to_be_visible()
    assert violations(page, axe) == []
    planner.open(plate, "operations")
    page.get_by_test_id("strip-cycle").click()
    page.get_by_role("dialog").get_by_role("button", name=ROUGH).click()
    page.wait_for_timeout(500)
    assert violations(page, axe) == []
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^Journal")).click()
    page.wait_for_timeout(500)
    assert violations(page, axe) == []


def violations(page, axe: str) -> list[str]:  # type: ignore[no-untyped-def]
    """Of long tables the first rows: the others are made the same, and take most of the time."""
    page.evaluate(axe)
    found = page.evaluate(
        """() => axe.run({exclude: ['.ledger-table tbody tr:nth-child(n+13)']}, {
            runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'], resultTypes: ['violations']})"""
    )
    return [f"{v['id']}: {n['html'][:160]}" for v in found["violations"] for n in v["nodes"]]


@pytest.mark.parametrize("width", [1024, 2560])
def test_nothing_essential_is_cut_off(planner: Planner, plate: int, width: int) -> None:
    page = planner.page
    page.set_viewport_size({"width": width, "height": 800})
    for chapter in ("part", "setups", "setups?setup=S1", "operations", "order", "program", "price", "papers", "floor"):
        planner.open(plate, chapter)
        page.wait_for_timeout(200)
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        assert page.evaluate("document.documentElement.scrollHeight") <= 800
        strip = page.locator(".strip").bounding_box()
        assert strip is not None
        assert strip["y"] + strip["height"] <= 800.5
