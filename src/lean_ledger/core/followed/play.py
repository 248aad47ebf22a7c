"""A plan's cycles to be looked at again: when each operation runs, and where its tool is at every moment of it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise
from math import ceil

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.timeline import Call
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.safe.tool_outline import profile_of
from lean_ledger.core.operations.turning.insert_outline import insert_of, shank_of
from lean_ledger.core.timing.chain import Arc
from lean_ledger.core.timing.motion import Stroke, chained, rapid_seconds
from lean_ledger.library.machines import Machine

TURN = 0.2  # radians of an arc between two points that are shown


@dataclass(frozen=True)
class Played:
    """An operation in the run of all cycles: it begins at `start`, its tool is there after `lead`, and it moves for
    `seconds`. `finding` is what is wrong with it, in words; empty where nothing is.

    `place` is the piece of a load of several, else empty. `before` and `after` it the piece has been through so many
    operations of the plan.
    """

    operation: str
    setup: str
    name: str
    tool: str
    start: float
    lead: float
    seconds: float
    finding: str
    place: str
    before: int
    after: int


@dataclass(frozen=True)
class Track:
    """Where a tool's tip is: `times` from the operation's first move, `points` in the part's coordinates, and whether
    it came there at rapid.
    """

    times: tuple[float, ...]
    points: tuple[Vec, ...]
    rapid: tuple[bool, ...]
    from_front: bool = False  # on a lathe, by a carriage on that side of the spindle


def played(ledger: Ledger) -> tuple[tuple[Played, ...], float]:
    """All loads' cycles one after the other, loading left out; and the seconds that they take together. In the order of
    the stock: on several carriages one may begin before the one before it ends.
    """
    worst: dict[str, str] = {}
    for finding in ledger.findings:
        if finding.operation:
            worst.setdefault(finding.operation, finding.title)
    begun, count = {}, 0  # operations of the plan before each setup
    for setup in ledger.setups:
        begun[setup.decision.id] = count
        count += len(setup.rows)
    found: list[Played] = []
    at = 0.0
    for load in ledger.loads:
        position = {row.operation.id: k for share in load.shares for k, row in enumerate(share.rows)}
        whole = shows_all(load)
        first = load.placed[0].place.id
        calls = load.calls if whole else [call for call in load.calls if call.place == first]
        state = {placed.place.id: begun[placed.decision.id] for placed in load.where.placed}
        begins, ends = _times(load, calls)
        for call, (start, end) in zip(calls, begins, strict=True):
            op = call.operation
            own = min(_own_seconds(op), end - start)
            after = begun[op.setup] + position[op.id] + 1
            found.append(Played(
                op.id, op.setup, op.name, op.tool.description, at + start,
                max(0.0, end - start - own), own, worst.get(op.id, ""), call.place if whole else "",
                state[call.place], after,
            ))  # fmt: skip
            state.update(dict.fromkeys(load.where.made_with(call.place, op.id), after))
        at += ends
    return tuple(found), at


def _times(load: LoadLedger, calls: Sequence[Call]) -> tuple[list[tuple[float, float]], float]:
    """When each call begins its way and ends, seconds after cycle start, by the operations' own motion; and when all
    are over. On several carriages they overlap, and a cycle has all its pieces.
    """
    if load.machine.works_at_once:
        beats = {(call.place, call.operation.id): beat for lane in load.timeline.lanes
                 for call, beat in zip(lane.calls, lane.beats, strict=True)}  # fmt: skip
        own = [beats[call.place, call.operation.id] for call in calls]
        return [(beat.begin, beat.end) for beat in own], load.timeline.makespan
    found, at = [], 0.0
    for call in calls:
        seconds = max(sum(call.own_seconds.values()), _own_seconds(call.operation))
        found.append((at, at + seconds))
        at += seconds
    return found, at + load.return_rapid + load.return_index


def shows_all(load: LoadLedger) -> bool:
    """Whether a load has several pieces, each of which is shown where it stands."""
    return len(load.where.placed) > 1


def way_of(ledger: Ledger, id: str) -> Track:
    """Raises PlanError for an operation that the plan does not have."""
    op = next((op for op in ledger.operations if op.id == id), None)
    if op is None:
        raise PlanError("no-such-operation", f"there is no operation {id}")
    setup = ledger.setup(op.setup)
    carriage = next(call.carriage for call in setup.calls if call.operation.id == id)
    machine = setup.machine.on(carriage)
    moves = list(timed_moves(op.motion.strokes, machine))
    taken = sum(seconds for seconds, _, _ in moves)
    # waiting for the spindle to turn round is spread over the way
    slower = _own_seconds(op) / taken if taken > 0 else 1.0
    front = machine.carriages[0].side == "front"
    axis = setup.built.stands.foot

    def in_part(point: Vec) -> Vec:
        x, y, z = _round(op.frame.point(axis), point) if front else point
        return op.frame.in_part((x, y, z))

    times, points, rapid, at = [0.0], [in_part(op.motion.start)], [True], 0.0
    for seconds, point, is_rapid in moves:
        at += seconds * slower
        times.append(at)
        points.append(in_part(point))
        rapid.append(is_rapid)
    return Track(tuple(times), tuple(points), tuple(rapid), from_front=front)


def _round(axis: Vec, point: Vec) -> Vec:
    """On the other side of a lathe's spindle, which a way along it has along Z."""
    return (2 * axis[0] - point[0], 2 * axis[1] - point[1], point[2])


def timed_moves(strokes: Sequence[Stroke], machine: Machine) -> Iterator[tuple[float, Vec, bool]]:
    """Each move as (seconds, where it ends, at rapid); arcs in short stretches. The seconds are those of
    `time_strokes`: 100 mm at 600 mm/min and 3000 mm/s² are one move of 10.0033 s.
    """
    for is_rapid, run in groupby(strokes, key=lambda stroke: stroke.is_rapid):
        if is_rapid:
            for stroke in run:
                for a, b in pairwise(stroke.points):
                    yield rapid_seconds(a, b, machine), b, True
            continue
        chain, moves = chained(run, machine.acceleration)
        for (segment, _), seconds in zip(moves, chain.seconds(machine.corner_tolerance), strict=True):
            if isinstance(segment, Arc):
                count = max(1, ceil(abs(segment.angle) / TURN))
                ends = [segment.at(n / count) for n in range(1, count + 1)]
            else:
                ends = [segment[1]]
            for end in ends:
                yield seconds / len(ends), end, False


def tool_shape(op: Operation) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Outlines of tool and holder, (across, along) from the tip: half of what turns, or a turning tool's section."""
    tool = op.tool
    if op.motion.turns:
        return tuple(
            tuple((x, y) for x, y in piece.exterior.coords[:-1]) for piece in (*insert_of(tool), *shank_of(tool))
        )
    profile = profile_of(tool) or [(0.0, 0.0), (tool.diameter / 2, 0.0)]
    behind = tool.neck / 2 or profile[-1][0]  # of a head under a neck it is thinner
    cutter = (*profile, (behind, profile[-1][1]), (behind, tool.reach), (0.0, tool.reach))
    radius, top = tool.holder.diameter / 2, tool.gauge
    return cutter, ((0.0, tool.reach), (radius, tool.reach), (radius, top), (0.0, top))


def _own_seconds(op: Operation) -> float:
    return op.time.cut + op.time.rapid + op.reversal_seconds
