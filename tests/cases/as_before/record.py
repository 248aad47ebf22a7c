"""What a plan comes to, as text that can be compared to the digit: python -m tests.cases.as_before.record writes it.

Written again only where figures are meant to change; the difference is then read before it is kept.
"""

from __future__ import annotations

import gzip
import hashlib
import json
import tempfile
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lean_ledger.core.geometry.host import KernelHost
from lean_ledger.core.papers.lists import (
    OPERATION_HEAD,
    TOOL_HEAD,
    as_csv,
    as_xlsx,
    operation_rows,
    shopping_head,
    shopping_rows,
    tool_rows,
)
from lean_ledger.core.papers.package import program_package
from lean_ledger.core.papers.pdf import sheet_pdf
from lean_ledger.core.pricing.price import PriceProblem
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.joined import joined_programs
from lean_ledger.core.shop.shopping import shopping_list
from lean_ledger.library import shipped_library
from lean_ledger.store import Database, Desk, Opened
from lean_ledger.web.plans.endpoints import sheet_of

LATER = ("pick-off", "as measured")  # categories of seconds that there were not, and that these plans have none of
HERE = Path(__file__).parent
SHOP = HERE / "shop-0005.sqlite.gz"
RECORD = HERE / "record.json"


def plans_as_they_stand(folder: Path) -> Iterator[Opened]:
    """Every plan of the shop's database as it was kept before, opened by the application of today."""
    database = folder / "shop.sqlite"
    database.write_bytes(gzip.decompress(SHOP.read_bytes()))
    kernel = KernelHost()
    desk = Desk(Database(database), shipped_library(), kernel)
    try:
        for plan_id in desk.plans_by_number().values():
            yield desk.open(plan_id, with_stock=False)
    finally:
        desk.stocks.close()
        kernel.close()


def recorded(opened: Opened) -> dict[str, Any]:
    """Seconds and prices as they are, longer things by their SHA-256."""
    ledger, part = opened.ledger, opened.part
    sheet = sheet_of(opened)
    programs = checked_programs(ledger, part, f"{opened.job.number} {opened.job.name}")
    buys = shopping_list(ledger, shipped_library())
    tables = {
        "operations": (OPERATION_HEAD, operation_rows(sheet)),
        "tools": (TOOL_HEAD, tool_rows(sheet)),
        "shopping": (shopping_head(opened.plan.quantities), shopping_rows(buys)),
    }
    return {
        "setups": {s.decision.id: _setup(s) for s in ledger.loads},
        "prices": {str(p.quantity): _sha(_plain(asdict(p))) + f" {p.each}" for p in ledger.prices},
        "problem": _sha(_plain(_problem(ledger.problem))),
        "findings": [
            f"{f.severity} {f.code} {f.setup} {f.operation} {_sha(_plain(asdict(f)))}" for f in ledger.findings
        ],
        "papers": {
            "setup-sheet.pdf": _sha(sheet_pdf(sheet)),
            **{f"{name}.csv": _sha(as_csv(head, rows)) for name, (head, rows) in tables.items()},
            **{f"{name}.xlsx": _sha(as_xlsx(name, head, rows, sheet.date)) for name, (head, rows) in tables.items()},
        },
        "programs": {
            **{one.program.setup: f"{_sha(one.program.text)} {one.run.total!r}" for one in programs},
            **{one.machine.id: _sha(one.text) for one in joined_programs(programs) if not one.refused},
            "package": _sha(program_package(sheet, b"", programs)),
            "package by machine": _sha(program_package(sheet, b"", programs, by_machine=True)),
        },
    }  # fmt: skip


def _problem(problem: PriceProblem) -> dict[str, Any]:
    """Without what came later and says nothing where pieces come one by one off a bar, or a blank."""
    found = asdict(problem)
    assert found["material"].pop("together") == found["material"].pop("sawn_apart") == 1
    return found


def _setup(s: Any) -> dict[str, Any]:
    return {
        "seconds": {name: repr(value) for name, value in s.seconds.items() if value or name not in LATER},
        "calls": [s.tool_calls, s.grouped_calls, repr(s.grouping_saves), list(s.grouped)],
        "operations": [
            f"{e.operation.id} T{e.operation.tool.number} {e.total!r} {_sha(_plain([asdict(f) for f in e.figures]))}"
            for e in s.calls
        ],
    }


def _plain(value: Any) -> str:
    return json.dumps(value, default=str, sort_keys=True, ensure_ascii=False)


def _sha(content: str | bytes) -> str:
    data = content.encode() if isinstance(content, str) else content
    return hashlib.sha256(data).hexdigest()[:16]


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        found = {opened.job.number: recorded(opened) for opened in plans_as_they_stand(Path(folder))}
    RECORD.write_text(json.dumps(found, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
