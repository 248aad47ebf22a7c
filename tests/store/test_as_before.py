"""What plans come to stays as it was, to the digit and the byte, whatever is built anew inside."""

from __future__ import annotations

import gzip
import json
import sqlite3
from contextlib import closing
from pathlib import Path

from lean_ledger.store.migrations.versions import r0006_loads
from tests.cases.as_before.record import RECORD, SHOP, plans_as_they_stand, recorded


def test_plans_of_a_shop_from_before_come_to_what_they_came_to(tmp_path: Path) -> None:
    before = json.loads(RECORD.read_text(encoding="utf-8"))
    seen = set()
    for opened in plans_as_they_stand(tmp_path):
        number = opened.job.number
        seen.add(number)
        assert json.loads(json.dumps(recorded(opened))) == before[number], number
    assert seen == set(before)


def test_loads_are_taken_apart_again_as_they_were_put_together() -> None:
    """Every line of every journal, into loads and back: nothing of it is another."""
    lines = _decisions()
    assert len(lines) > 40
    for line in lines:
        plan = json.loads(line)
        there = r0006_loads._with_loads(json.loads(line))
        assert [place["setup"] for load in there["loads"] for place in load["places"]] == [
            setup["id"] for setup in plan["setups"]
        ]
        assert all("machine" not in setup for setup in there["setups"])
        assert r0006_loads._without_loads(there) == plan


def _decisions() -> list[str]:
    with closing(sqlite3.connect(":memory:")) as shop:
        shop.deserialize(gzip.decompress(SHOP.read_bytes()))
        return [row for (row,) in shop.execute("SELECT decisions FROM version")]
