"""What sets a cycle of several carriages: the chain of calls that is as long as it, and who waits for whom, and why."""

from __future__ import annotations

from dataclasses import dataclass

from lean_ledger.core.loads.before import IN_COUNTER
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.meeting import disturbs, met, taken_by
from lean_ledger.core.loads.parts import whole_id
from lean_ledger.core.loads.speeds import shared_speed
from lean_ledger.core.loads.timeline import Call, Lane, Meeting, Timeline
from lean_ledger.core.operations.kinds import OperationKind

SAME = 1e-6  # s
At = tuple[int, int]  # lane, call of it


@dataclass(frozen=True)
class Waited:
    """A call that waited so many seconds for one of another carriage; both as (lane, call)."""

    at: At
    seconds: float
    for_: At
    why: str


def longest_chain(timeline: Timeline) -> tuple[At, ...]:
    """From the call that ends last back to cycle start: where one waited, to the one that it waited for."""
    lanes = timeline.lanes
    at = timeline.slowest, len(lanes[timeline.slowest].calls) - 1
    found = [at]
    while True:
        p, k = at
        before = _held_by(timeline, at) if lanes[p].beats and lanes[p].beats[k].waits > SAME else (p, k - 1)
        if before is None or before[1] < 0:
            return tuple(reversed(found))
        found.append(before)
        at = before


def waits_of(load: LoadLedger) -> tuple[Waited, ...]:
    """Each wait with the call that ended it, and what asks for it."""
    timeline = load.timeline
    found = []
    for p, lane in enumerate(timeline.lanes):
        for k, beat in enumerate(lane.beats):
            other = _held_by(timeline, (p, k)) if beat.waits > SAME else None
            if other is not None:
                found.append(Waited((p, k), beat.waits, other, _why(load, other, (p, k))))
    return tuple(found)


def _held_by(timeline: Timeline, at: At) -> At | None:
    """The last call that the latest of those did who meet at the mark before a call."""
    p, k = at
    lane = timeline.lanes[p]
    mark = next((m for m in reversed(timeline.marks)
                 if (lane.carriage, k) in m.after and abs(m.at - lane.beats[k].go) < SAME), None)  # fmt: skip
    if mark is None:
        return None
    others = [(q, n - 1) for q, n in _met_at(timeline, mark) if q != p and n > 0]
    return max(others, key=lambda one: _arrives(timeline.lanes[one[0]], one[1]), default=None)


def _met_at(timeline: Timeline, mark: Meeting) -> list[At]:
    index = {lane.carriage: p for p, lane in enumerate(timeline.lanes)}
    return [(index[carriage], done) for carriage, done in mark.after]


def _arrives(lane: Lane, k: int) -> float:
    return lane.beats[k + 1].ready if k + 1 < len(lane.beats) else lane.beats[k].end


def _why(load: LoadLedger, held_by: At, at: At) -> str:
    """Of what the other carriage had done by then, the last that asks for the wait."""
    lanes = load.timeline.lanes
    mine = lanes[at[0]].calls[at[1]]
    for k in range(held_by[1], -1, -1):
        words = _between(load, lanes[held_by[0]].calls[k], mine, (held_by[0], at[0]))
        if words:
            return words
    return "a mark that a later one of them needs"


def _between(load: LoadLedger, other: Call, mine: Call, lanes: tuple[int, int]) -> str:
    a, b = other.operation, mine.operation
    if whole_id(a.id) == whole_id(b.id) and whole_id(a.id) in load.load.both_sides and a.id not in dict(b.after):
        return "both sides begin together"
    reason = next((reason for before, reason in b.after if before == a.id), "")
    if reason:
        return reason
    there, here = load.placed_at(other.place), load.placed_at(mine.place)
    if there.stands.nose != here.stands.nose and OperationKind.CUT_OFF in (a.kind, b.kind):
        return IN_COUNTER
    speeds = shared_speed(a, there.stands), shared_speed(b, here.stands)
    if there.stands.nose == here.stands.nose and (None in speeds or speeds[0] != speeds[1]):
        return "the spindle turns for one of them at a time: they want other speeds"
    if disturbs((there, a), (here, b)):
        return "it would shake the work under the finish"
    sides = [load.machine.carriages[p].side for p in lanes]
    touch = met(taken_by(a, there.stands, sides[0]), taken_by(b, here.stands, sides[1]))
    return f"they would meet: the {touch[0]} and the other's {touch[1]}" if touch else ""
