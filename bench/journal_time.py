"""Whether an edit and the opening of a plan cost more with a long journal: python bench/journal_time.py

The same plan with 20 and with 2,000 versions; medians in ms, and their ratios.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from pathlib import Path

from lean_ledger.core.changes import read_change
from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.library import shipped_library
from lean_ledger.store import Database, Desk, JobNew

PARTS = Path(__file__).parents[1] / "src/lean_ledger/demo/parts"
SHORT, LONG = 20, 2000
ROUNDS = 15


def edited(desk: Desk, plan_id: int, edition: int, k: int) -> int:
    change = read_change({"change": "set-rate", "name": "margin", "value": f"{0.1 + k % 500 / 1000:.3f}"})
    return desk.change(plan_id, edition, change, "bench").edition


def measured(database: Path, kernel: KernelHost) -> dict[str, float]:
    """By a desk that remembers nothing, as after a start of the server."""
    desk = Desk(Database(database, made_ready=True), shipped_library(), kernel)
    opened = desk.open(1)
    edition = opened.edition
    spent: dict[str, list[float]] = {"open": [], "edit": [], "undo": [], "journal": []}
    for k in range(ROUNDS):
        for what, times in spent.items():
            begun = time.perf_counter()
            if what == "open":
                desk.open(1)
            elif what == "edit":
                edition = edited(desk, 1, edition, k + 7)
            elif what == "undo":
                edition = desk.undo(1, edition).edition
            else:
                desk.journal(1)
            times.append(1000 * (time.perf_counter() - begun))
    desk.stocks.close()
    return {what: statistics.median(ms) for what, ms in spent.items()}


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        path, kernel = Path(folder) / "bench.sqlite", KernelHost()
        desk = Desk(Database(path), shipped_library(), kernel)
        content = (PARTS / "anemometer-arm-block.step").read_bytes()
        plan_id = desk.add_job(JobNew("arm.step", content, "al-6082", (10, 50)))
        edition, found = 1, {}
        for k in range(1, LONG):
            edition = edited(desk, plan_id, edition, k)
            if k + 1 in (SHORT, LONG):
                found[k + 1] = measured(path, kernel)
                edition = desk.open(plan_id).edition
        for what in found[SHORT]:
            short, long = found[SHORT][what], found[LONG][what]
            print(f"{what:8} {short:7.1f} ms at {SHORT}, {long:7.1f} ms at {LONG} versions: × {long / short:.2f}")
        desk.stocks.close()
        kernel.close()


if __name__ == "__main__":
    main()
