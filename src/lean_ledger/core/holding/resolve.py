"""From a setup's decision to what holds it: choices that are left open are made by the rule."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.geometry.model import Bounds
from lean_ledger.core.geometry.vectors import add, axis_name, dot
from lean_ledger.core.holding.bar_collet import bar_hold
from lean_ledger.core.holding.chuck import round_hold
from lean_ledger.core.holding.hold import HeldStock, Hold
from lean_ledger.core.holding.placement import Bed
from lean_ledger.core.holding.plate import plate_hold
from lean_ledger.core.holding.toe_clamps import toe_hold
from lean_ledger.core.holding.vise import usual_vise, vise_hold
from lean_ledger.core.part.bodies import AddedBody
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import SetupDecision
from lean_ledger.core.setups.frame import Frame, default_turn, frame_of
from lean_ledger.core.stock import StockState
from lean_ledger.core.stock.block import Section
from lean_ledger.library.fixtures import BarCollet, Chuck, Collet, Fixture, Plate, ToeClamps, Vise
from lean_ledger.library.types import Library

#: A new way of holding is one new module and one line here.
MAKERS: Mapping[type[Fixture], Callable[..., Hold]] = {
    Vise: vise_hold,
    Chuck: round_hold,
    Collet: round_hold,
    Plate: plate_hold,
    ToeClamps: toe_hold,
    BarCollet: bar_hold,
}


@dataclass(frozen=True)
class Found:
    """What a setup finds when it begins."""

    part: Part
    state: StockState
    made: frozenset[str] = frozenset()  # features that are there
    here: frozenset[str] = frozenset()  # features that the setup makes
    tapped: Mapping[str, float] = field(default_factory=dict)  # major diameters of threaded holes, mm
    bodies: tuple[AddedBody, ...] = ()
    rows: int = 1  # that lie behind one another in one plate, across the jaws
    kerf: float = 0.0  # mm of the saw between two of them


def holding_side(setup: SetupDecision) -> str:
    """The side of the part that looks away from what holds it."""
    return setup.free or setup.up


Lowest = Callable[[Frame], float | None]


def hold_turns(setup: SetupDecision, hold: Hold) -> tuple[tuple[int, str], ...]:
    """Each quarter turn with the side of the part that it brings to the back: against a vise's fixed jaw."""
    side = holding_side(setup)
    return tuple((turn, f"{axis_name(frame_of(side, turn).back)} {hold.at_the_back}") for turn in (0, 90, 180, 270))


def nothing_lower(_: Frame) -> None:
    return None


def resolve_hold(
    setup: SetupDecision, found: Found, library: Library, bed: Bed, lowest: Lowest = nothing_lower
) -> Hold:
    """Choose what the decision leaves to the rule.

    `lowest` gives the level, in the holding's axes, down to which this setup would cut on the outside; the grip stays
    below it where the shop has the means. Raises PlanError for a fixture that is not in the library.
    """
    usual = default_turn(holding_side(setup), found.state.bounds)
    turn = setup.turn if setup.turn is not None else usual
    first = held_in(_fixture(setup, found, library, bed, turn), setup, found, turn, lowest)
    if setup.fixture is not None or setup.grip is not None or not _fails(first, setup):
        return first
    # the rule's first idea does not hold: the same turned, jaws cut to the outline, another chuck
    for fixture, other in _second_ideas(first, setup, library, bed, turn):
        hold = held_in(fixture, setup, found, other, lowest)
        if not _fails(hold, setup):
            return hold
    return first


def _fails(hold: Hold, setup: SetupDecision) -> bool:
    return any(f.severity == Severity.ERROR for f in hold.findings(setup.id))


def _second_ideas(
    first: Hold, setup: SetupDecision, library: Library, bed: Bed, turn: int
) -> list[tuple[Fixture, int]]:
    mounts = {seat.name for seat in bed.seats_for(setup)}
    if setup.part_turns:
        # a smaller chuck of the same jaws, or a collet, which marks nothing
        jaws = first.fixture.jaws if isinstance(first.fixture, Chuck) else ""
        around = [f for f in library.fixtures if isinstance(f, Chuck | Collet) and f.mount in mounts
                  and (isinstance(f, Collet) or (f.jaws == jaws and f.jaw_count == 3))]  # fmt: skip
        return [(f, turn) for f in around if f != first.fixture]
    turns = [turn] if setup.turn is not None else [turn, (turn + 90) % 180]
    soft = [f for f in library.fixtures if isinstance(f, Vise) and f.jaws == "soft" and f.mount in mounts]
    return [(f, t) for f in (first.fixture, *soft) for t in turns if (f, t) != (first.fixture, turn)]


def held_in(fixture: Fixture, setup: SetupDecision, found: Found, turn: int, lowest: Lowest = nothing_lower) -> Hold:
    """The stock in one fixture, turned by quarter turns."""
    frame = frame_of(holding_side(setup), turn)
    boxes = tuple(frame.box(box) for box in found.state.boxes())
    return MAKERS[type(fixture)](fixture, setup, frame, turn, boxes, _held(found, frame, boxes), lowest(frame))


def _held(found: Found, frame: Frame, boxes: tuple[Bounds, ...]) -> HeldStock:
    state, box = found.state, frame.box(found.part.model.solid.bounds)
    finished = None
    if state.walls is not None and abs(dot(state.walls.axis, frame.up)) > 0.5:
        sign = 1 if dot(state.walls.axis, frame.up) > 0 else -1
        low, high = sorted((state.walls.low * sign, state.walls.high * sign))
        finished = (low, high)
    elif state.walls is not None and state.is_whole:
        # the walls around another axis are at size over all of its height: so are the sides that this one sees
        finished = (min(b.min[2] for b in boxes), max(b.max[2] for b in boxes))
    upright = abs(dot(frame.up, state.along)) > 0.5
    return HeldStock(
        found.part, box, state.section, upright, finished, found.made, found.here, found.tapped, found.bodies
    )


def _fixture(setup: SetupDecision, found: Found, library: Library, bed: Bed, turn: int) -> Fixture:
    if setup.fixture is not None:
        chosen = library.fixture(setup.fixture)
        if chosen is None:
            names = ", ".join(f.id for f in library.fixtures)
            raise PlanError(
                "no-such-fixture", f"there is no fixture {setup.fixture}; the library has {names}", setup.id
            )
        return chosen
    state = found.state
    frame = frame_of(holding_side(setup), turn)
    lowest = min((frame.box(box) for box in state.boxes()), key=lambda b: b.min[2])
    mounts = tuple(seat.name for seat in bed.seats_for(setup))
    upright = abs(dot(frame.up, state.along)) > 0.5
    is_round = state.section == Section.ROUND and upright and state.walls is None
    if setup.part_turns:
        # what is finished is held in jaws that were bored to it
        finished = state.walls is not None
        chucks = [f for f in library.fixtures if isinstance(f, Chuck) and f.mount in mounts and f.jaw_count == 3
                  and f.jaws == ("soft" if finished else "hard")]  # fmt: skip
        if chucks:
            return chucks[0]
    if (setup.free is not None and setup.free != setup.up) or is_round:
        chucks = [
            f for f in library.fixtures
            if isinstance(f, Chuck) and f.mount in mounts and f.jaw_count == (3 if is_round else 4)
            and f.least <= min(lowest.size[:2]) and max(lowest.size[:2]) <= f.most
        ]  # fmt: skip
        if chucks:
            return chucks[0]
    behind = (found.rows - 1) * (lowest.size[1] + found.kerf)  # the jaws go round all of a plate
    whole = Bounds(lowest.min, add(lowest.max, (0.0, behind, 0.0)))
    return usual_vise(library, bed.machine, mounts, whole)
