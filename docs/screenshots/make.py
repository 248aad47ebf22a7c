"""Takes the pictures of this folder again from fresh demo data: python docs/screenshots/make.py"""

from __future__ import annotations

import re
import tempfile
import time
from pathlib import Path

import requests
from playwright.sync_api import Page, sync_playwright
from pypdfium2 import PdfDocument

from lean_ledger.demo.served import CHROMIUM_ARGS, chromium, start

HERE = Path(__file__).parent


def main() -> None:
    with (
        tempfile.TemporaryDirectory() as folder,
        start("demo", Path(folder) / "demo.sqlite") as server,
        sync_playwright() as tool,
    ):
        browser = tool.chromium.launch(executable_path=chromium(), args=CHROMIUM_ARGS)
        take(browser.new_page(viewport={"width": 1280, "height": 800}), server.url, Path(folder))
        browser.close()


def take(page: Page, site: str, folder: Path) -> None:
    plans = {
        row["job"]["number"]: row["plan_id"] for row in requests.get(f"{site}/api/jobs", timeout=60).json()["jobs"]
    }

    for plan in plans.values():  # as the server does by itself: the list then shows prices that are sure
        while requests.get(f"{site}/api/plans/{plan}/stock", timeout=60).status_code == 202:
            time.sleep(0.2)

    def shot(name: str) -> None:
        page.wait_for_timeout(900)
        page.screenshot(path=HERE / f"{name}.png")

    def chapter(number: str, name: str) -> None:
        page.goto(f"{site}/plans/{plans[number]}/{name}")
        page.wait_for_selector("[data-testid=strip-cycle]")

    page.goto(site)
    page.wait_for_selector("table")
    shot("jobs")
    chapter("SB-220", "part")
    page.select_option("[aria-label='Thread of the holes Ø 4.2']", "M5")
    page.get_by_role("row", name=re.compile("^6 × blind hole")).click()
    shot("part")
    chapter("MC-104", "part/compare/B")
    shot("compare")
    chapter("SB-220", "alternatives")
    page.get_by_test_id("overtaken").wait_for(timeout=60_000)
    shot("alternatives")
    chapter("LB-310", "setups")
    page.wait_for_selector(".machines-table", timeout=60_000)
    shot("division")
    chapter("LB-310", "setups?setup=stock")
    page.wait_for_selector(".stock-slider", timeout=60_000)
    page.wait_for_timeout(2500)
    shot("stock")
    chapter("LB-310", "setups?setup=S1")
    shot("setups")
    chapter("CS-224", "layout")
    page.wait_for_selector(".count-chart", timeout=60_000)
    shot("layout")
    chapter("LB-310", "operations")
    shot("operations")
    chapter("SF-162", "order")
    shot("order")
    chapter("VH-333", "balance")
    page.wait_for_timeout(2_000)  # it is not asked for at once
    page.get_by_text("Trying what would be shorter").wait_for(state="detached", timeout=60_000)
    shot("balance")
    chapter("SC-512", "program")
    strip = page.get_by_role("application")
    box = strip.bounding_box()
    assert box is not None
    strip.click(position={"x": 0.55 * box["width"], "y": 40})
    shot("program")
    page.goto(f"{site}/tools?show=end_mill&tool=EA10")
    page.wait_for_selector(".calculator table")
    shot("tools")
    chapter("MC-104", "price")
    shot("price")
    chapter("SB-220", "papers")
    shot("papers")
    page.goto(f"{site}/quotes/4")
    page.wait_for_selector(".quote-line")
    shot("quote")
    page.goto(f"{site}/capacity")
    page.wait_for_selector(".weeks-table")
    shot("capacity")
    chapter("GL-415", "floor")
    page.wait_for_selector(".floor-code")
    shot("floor")
    sheet = requests.get(f"{site}/api/plans/{plans['SB-220']}/papers/setup-sheet.pdf", timeout=60).content
    PdfDocument(sheet)[0].render(scale=1.25).to_pil().save(HERE / "setup-sheet.png")


if __name__ == "__main__":
    main()
