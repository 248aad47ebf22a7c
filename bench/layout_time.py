"""How long a change of the count takes in the browser, on 16 pieces and on 200: python bench/layout_time.py

From the key to the drawing of the new load, on the demo's cable saddle: columns of the 16 on a tombstone, and with
200 on the plate a feed of the first operation, from the key to the strip. Medians of ROUNDS changes.
"""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import requests
from answer_time import UNTIL_IT_STANDS
from playwright.sync_api import sync_playwright

from lean_ledger.demo.served import CHROMIUM_ARGS, MARK, chromium, start

ROUNDS = 11
SETTLED = 45  # s in which a fresh shop's stock is followed
WANTED_MS, WANTED_200_MS = 300, 1000
UNTIL_DRAWN = """async (count) => {
    const start = performance.now();
    return await new Promise((done, lost) => {
        const look = () => {
            if (document.querySelectorAll('.load-picture .piece').length === count)
                requestAnimationFrame(() => setTimeout(() => done(performance.now() - start)));
            else if (performance.now() - start > 10000) lost(new Error('no answer within 10 s'));
            else requestAnimationFrame(look);
        };
        document.activeElement.blur();
        look();
    });
}"""


def main() -> None:
    with tempfile.TemporaryDirectory() as folder, start("demo", Path(folder) / "bench.sqlite") as server:
        plan = next(row["plan_id"] for row in jobs(server.url) if row["job"]["number"] == "CS-224")
        with sync_playwright() as tool:
            browser = tool.chromium.launch(executable_path=chromium(), args=CHROMIUM_ARGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            time.sleep(SETTLED if len(sys.argv) < 2 else 0)
            page.goto(f"{server.url}/plans/{plan}/layout")
            page.wait_for_selector(".load-picture .piece")
            columns, spent = page.get_by_label("Columns", exact=True), []
            for k in range(ROUNDS):
                count = 3 + k % 2
                columns.click()
                columns.fill(str(count))
                spent.append(page.evaluate(UNTIL_DRAWN, 4 * count))
            told("16 pieces, another count, until it is drawn", spent, WANTED_MS)
            edition = requests.get(f"{server.url}/api/plans/{plan}", timeout=60).json()["edition"]
            change = {"change": "set-arrangement", "load": "L2", "columns": 10, "rows": 20}
            requests.post(f"{server.url}/api/plans/{plan}/changes", json=change,
                          headers={"If-Match": f'"{edition}"', **MARK}, timeout=60)  # fmt: skip
            page.goto(f"{server.url}/plans/{plan}/operations")
            page.wait_for_selector("input[data-column=vf]")
            cell, spent = page.locator("input[data-column=vf]").last, []
            for k in range(ROUNDS):
                cell.click()
                cell.fill(str(1200 + 7 * k))
                spent.append(page.evaluate(UNTIL_IT_STANDS))
            told("200 pieces, a feed, until the strip stands", spent, WANTED_200_MS)
            browser.close()


def jobs(site: str) -> list[dict[str, Any]]:
    return list(requests.get(f"{site}/api/jobs", timeout=60).json()["jobs"])


def told(what: str, spent: list[float], wanted: float) -> None:
    median = statistics.median(spent)
    print(f"{what}: median {median:.0f} ms, wanted {wanted:.0f}: {'kept' if median <= wanted else 'MISSED'}")


if __name__ == "__main__":
    main()
