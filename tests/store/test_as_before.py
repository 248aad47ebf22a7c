"""What plans come to stays as it was, to the digit and the byte, whatever is built anew inside."""

from __future__ import annotations

import json
from pathlib import Path

from tests.cases.as_before.record import RECORD, plans_as_they_stand, recorded


def test_plans_of_a_shop_from_before_come_to_what_they_came_to(tmp_path: Path) -> None:
    before = json.loads(RECORD.read_text(encoding="utf-8"))
    seen = set()
    for opened in plans_as_they_stand(tmp_path):
        number = opened.job.number
        seen.add(number)
        assert json.loads(json.dumps(recorded(opened))) == before[number], number
    assert seen == set(before)
