"""How long comparing alternatives takes, and what edits wait meanwhile: python bench/alternatives_time.py

Five alternatives of the demo's job of 16 pieces a cycle are put beside one another in the background, then all
combinations of it are made, while another plan is edited: seconds of both, and an edit's median and longest answer.
"""

from __future__ import annotations

import statistics
import tempfile
import threading
import time
from pathlib import Path
from typing import Any

import requests

from lean_ledger.demo.served import MARK, start

JOB, EDITED = "CS-224", "MC-104"
FORKS: tuple[list[dict[str, Any]], ...] = (
    [{"change": "set-arrangement", "load": "L1", "columns": 2}],
    [{"change": "set-arrangement", "load": "L2", "columns": 4, "rows": 4}],
    [{"change": "set-rate", "name": "scrap", "value": "0.02"}],
    [{"change": "begin-again", "machines": ["mill-five"]}],
)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder, start("demo", Path(folder) / "demo.sqlite") as server:
        rows = requests.get(f"{server.url}/api/jobs?size=200", timeout=60).json()["jobs"]
        plans = {row["job"]["number"]: row["plan_id"] for row in rows}
        asked = f"{server.url}/api/plans/{plans[JOB]}/alternatives"
        ids = [plans[JOB]]
        for changes in FORKS:
            answer = requests.post(asked, json={"changes": changes}, headers=MARK, timeout=120)
            if answer.status_code != 201:
                raise SystemExit(answer.text)
            ids.append(answer.json()["plan_id"])
        waited(f"{server.url}/api/plans/{plans[EDITED]}/stock")
        for what in (f"{asked}/compared?plans={','.join(map(str, ids))}", f"{asked}/grid"):
            done = threading.Event()
            edits: list[float] = []
            editor = threading.Thread(target=edit, args=(server.url, plans[EDITED], done, edits))
            editor.start()
            began = time.perf_counter()
            waited(what)
            took = time.perf_counter() - began
            done.set()
            editor.join()
            median, longest = 1000 * statistics.median(edits), 1000 * max(edits)
            told = f"{median:.0f} ms at the median of {len(edits)}, {longest:.0f} at most"
            print(f"{what.rpartition('/')[2].partition('?')[0]}: {took:.1f} s, an edit meanwhile {told}")


def waited(address: str) -> None:
    while requests.get(address, timeout=60).status_code == 202:
        time.sleep(0.1)


def edit(url: str, plan: int, done: threading.Event, into: list[float]) -> None:
    """Other feeds and rates by turns, each a new value."""
    k = 0
    while not done.is_set() or not into:
        edition = requests.get(f"{url}/api/plans/{plan}/journal?count=1", timeout=60).json()["edition"]
        k += 1
        change = (
            {"change": "set-rate", "name": "margin", "value": f"{0.2 + k / 10000:.4f}"} if k % 2
            else {"change": "set-allowance", "side": "Z+", "value": 2 + k / 1000}
        )  # fmt: skip
        began = time.perf_counter()
        answer = requests.post(
            f"{url}/api/plans/{plan}/changes", json=change, headers={**MARK, "If-Match": f'"{edition}"'}, timeout=60
        )
        into.append(time.perf_counter() - began)
        answer.raise_for_status()
        time.sleep(0.4)


if __name__ == "__main__":
    main()
