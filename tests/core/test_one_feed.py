"""A drum whose positions have one feed drive: all that is made at one has its least feed a turn."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest

from lean_ledger.core.basis.errors import ProblemError
from lean_ledger.core.files.machine_file import parse_machine
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.loads.speeds import feed_a_turn
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.library import Library
from tests.conftest import demo_part
from tests.core.test_drum import LIB, ROUGH, bush, changed, load
from tests.core.test_handover import FILE


def one_drive() -> Library:
    """The shop with both slides of each of the automatic's positions moved by one drive."""
    found = tuple(
        replace(m, drum=replace(m.drum, one_feed=True)) if m.drum is not None else m for m in LIB.machines
    )  # fmt: skip
    return replace(LIB, machines=found)


def test_one_drive_moves_both_slides_of_a_position_at_the_least_feed_of_it() -> None:
    """All at the first position: everything there has the least feed a turn of what does not follow a thread."""
    library, part = one_drive(), demo_part("guide-bush")
    free = load(bush())
    tied = evaluate(bush(), part, library).loads[0]
    own = {c.operation.id: feed_a_turn(c.operation) for c in free.calls}
    there = {c.operation.id for lane in tied.timeline.lanes if lane.position == 1 for c in lane.calls}
    least = min(own[id] for id in there)
    for call in tied.calls:
        wanted = least if call.operation.id in there else own[call.operation.id]
        assert feed_a_turn(call.operation) == pytest.approx(wanted)
    slowed = next(c.operation for c in tied.calls if c.operation.id == ROUGH)
    before = next(c.operation for c in free.calls if c.operation.id == ROUGH)
    # its cut takes longer by the ratio, at so much less power
    assert slowed.time.cut == pytest.approx(before.time.cut * own[ROUGH] / least, rel=0.02)
    assert slowed.power == pytest.approx(before.power * least / own[ROUGH])
    assert tied.timeline.makespan > free.timeline.makespan


def test_spread_out_by_one_drive_the_programs_run_as_the_ledger_says() -> None:
    library, part = one_drive(), demo_part("guide-bush")
    plan = changed(bush(), {"change": "spread-out", "load": "L1"}, library=library)
    made = evaluate(plan, part, library)
    one = made.loads[0]
    for position in range(1, 7):
        feeds = {round(feed_a_turn(c.operation), 6) for lane in one.timeline.lanes if lane.position == position
                 for c in lane.calls if not c.operation.motion.lead}  # fmt: skip
        assert len(feeds) <= 1
    for each in checked_programs(made, part, "T-1"):
        assert each.troubles == ()
        assert abs(each.agreement.difference) < 0.005


def test_one_drive_is_read_from_a_machine_s_file() -> None:
    row = json.loads(json.dumps(FILE))
    row.pop("counter_spindle", None)
    row.pop("further_carriages", None)
    end = {key: row[key] for key in ("travel", "rapid", "acceleration")}
    row |= {"drum": {"positions": 6, "index": 0.9, "feed": 1.4, "tools": 1, "end_slide": end, "one_feed": True}}
    read = parse_machine(json.dumps(row))
    assert read.drum is not None
    assert read.drum.one_feed
    row["drum"]["one_feed"] = "yes"
    with pytest.raises(ProblemError, match="one_feed"):
        parse_machine(json.dumps(row))
    del row["drum"]["one_feed"]
    plain = parse_machine(json.dumps(row)).drum
    assert plain is not None
    assert not plain.one_feed
