"""How others are answered while a large part is read and planned: python bench/beside_time.py [--side N]

A plate with a grid of pockets and holes, about 2,000 faces, becomes a job; meanwhile lists, plans and edits of another
job are asked for, one after the other. Prints the median and the slowest of each kind, and how long the plate took.
Wanted: 60 s for the plate, 300 ms for the others.
"""

from __future__ import annotations

import argparse
import statistics
import tempfile
import time
from collections import defaultdict
from collections.abc import Callable
from pathlib import Path
from typing import Any

import requests
from OCP.BRep import BRep_Builder
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.TopoDS import TopoDS_Compound

from lean_ledger.core.geometry.solids import Body, block, rod, rounded_block, write_step
from lean_ledger.demo.served import MARK, start

PARTS = Path(__file__).parents[1] / "src/lean_ledger/demo/parts"
WANTED_S, WANTED_MS = 60.0, 300.0
PAUSE = 0.2  # s between two requests of one that works beside


def plate(side: int) -> Body:
    """Each field of 32 × 32 has a pocket of 24 × 24 with corners of R4, 8 deep, and four holes around it."""
    cutters, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(cutters)
    for i in range(side):
        for j in range(side):
            x, y = 10 + 32 * i, 10 + 32 * j
            builder.Add(cutters, rounded_block((x, y, 12), (x + 24, y + 24, 21), 4).shape)
            for dx, dy in ((-4, 4), (-4, 20), (4, -4), (20, -4)):
                builder.Add(cutters, rod((x + dx, y + dy, 0), (0, 0, 1), 4.2, 20).shape)
    size = 32 * side + 12
    return Body(BRepAlgoAPI_Cut(block((0, 0, 0), (size, size, 20)).shape, cutters).Shape())


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--side", type=int, default=12)
    side = parser.parse_args().side
    with tempfile.TemporaryDirectory() as folder:
        large = Path(folder) / "plate.step"
        write_step(plate(side), large, "plate")
        with start("serve", Path(folder) / "shop.sqlite") as server:
            _measured(server.url, large)


def _measured(url: str, large: Path) -> None:
    small = PARTS / "sensor-base-plate.step"
    data = {"material": "al-6082", "quantities": "10, 50"}
    made = requests.post(f"{url}/api/jobs", files={"file": ("small.step", small.read_bytes())},
                         data={**data, "number": "B-1", "machine": "mill-762"}, headers=MARK, timeout=120)  # fmt: skip
    made.raise_for_status()
    plan = made.json()["plan_id"]
    known = {"edition": requests.get(f"{url}/api/plans/{plan}", timeout=60).headers["ETag"]}

    def change(body: dict[str, Any]) -> requests.Response:
        headers = {**MARK, "If-Match": known["edition"]}
        answer = requests.post(f"{url}/api/plans/{plan}/changes", headers=headers, timeout=60, json=body)
        known["edition"] = answer.headers.get("ETag", known["edition"])
        return answer

    asked: dict[str, Callable[[int], requests.Response]] = {
        "list of jobs": lambda _: requests.get(f"{url}/api/jobs", timeout=60),
        "plan": lambda _: requests.get(f"{url}/api/plans/{plan}", timeout=60),
        "library": lambda _: requests.get(f"{url}/api/library", timeout=60),
        "edit": lambda k: change({"change": "set-rate", "name": "margin", "value": f"{0.2 + k / 1000:.3f}"}),
        "deep edit": lambda k: change({"change": "set-allowance", "side": "Z+", "value": 2 + k / 100}),
    }  # fmt: skip
    begun = time.perf_counter()
    reading = requests.post(f"{url}/api/readings/job", files={"file": ("plate.step", large.read_bytes())},
                            data={**data, "number": "B-2"}, headers=MARK, timeout=120)  # fmt: skip
    reading.raise_for_status()
    took: dict[str, list[float]] = defaultdict(list)
    stages: dict[str, float] = {}
    state = reading.json()
    k = 1  # what is there already is no edit
    while state["state"] not in ("done", "failed", "cancelled", "choose"):
        for kind, ask in asked.items():
            before = time.perf_counter()
            answer = ask(k)
            took[kind].append(1000 * (time.perf_counter() - before))
            if not answer.ok:
                raise SystemExit(f"{kind}: {answer.status_code} {answer.text}")
            time.sleep(PAUSE)
        k += 1
        state = requests.get(f"{url}/api/readings/{state['id']}", timeout=60).json()
        stages.setdefault(str(state.get("stage")), time.perf_counter() - begun)
    spent = time.perf_counter() - begun
    print(f"{large.stat().st_size / 1e6:.1f} MB: {state['state']} after {spent:.1f} s (wanted {WANTED_S:g})")
    for stage, at in stages.items():
        print(f"  {at:6.1f} s  {stage}")
    for kind, ms in took.items():
        over = sum(one > WANTED_MS for one in ms)
        print(f"{kind:14} {len(ms):4d} asked, median {statistics.median(ms):5.0f} ms, slowest {max(ms):5.0f} ms, "
              f"{over} over {WANTED_MS:g}")  # fmt: skip


if __name__ == "__main__":
    main()
