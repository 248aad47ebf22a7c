"""A piece goes from a lathe's main spindle into the counter spindle that faces it: where that one comes to, what it
takes, what is in the way.

The counter spindle throws out what it has finished, turns as fast as the main one, comes over the piece at rapid and
the last of it slowly, and closes; the blade cuts the piece off between the two; then it goes back. Where it pulls the
bar, the main collet opens before the cut and closes again once the bar stands out by the next piece: the blade then
cuts so much farther out. Lengths mm, times s.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from lean_ledger.core.basis.findings import Chapter, Cure, Finding, Severity
from lean_ledger.core.holding.bar_collet import BarHold
from lean_ledger.core.holding.hold import grip_of
from lean_ledger.core.holding.standing import TURRET_OFF
from lean_ledger.core.loads.bars import blade_of
from lean_ledger.core.loads.travel import travel_range
from lean_ledger.core.operations.build import BuiltSetup
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.plan import DIRECTIONS, SetupDecision
from lean_ledger.core.timing.chain import trapezoid_seconds
from lean_ledger.library.machines import Facing, Machine

NEAR = 5.0  # of its way that it comes slowly
SLOW = 1200.0  # mm/min
PULL = 6000.0  # mm/min, of the bar
CLEAR = 2.0  # between what it carries and all that stands
BEHIND_TIP = 1.0  # that a blade's shank stands towards the main spindle

Made = tuple[SetupDecision, BuiltSetup]


@dataclass(frozen=True)
class Handover:
    """`at`: machine Z of the counter spindle's mount with the piece in it, `rest` where it works; seconds of each step;
    `between`: from the blade to what grips the piece; `outside`: how far that reaches out about the axis; `by`: how far
    it pulls the bar.
    """

    blade: str  # the operation that cuts the piece off
    at: float
    rest: float
    eject: float
    synchronise: float
    approach: float
    close: float
    away: float
    between: float
    outside: float
    by: float = 0.0
    pull: float = 0.0

    @property
    def before(self) -> float:
        """Seconds until the blade may cut."""
        return self.eject + self.synchronise + self.approach + self.close + self.pull


def why_not_taken_over(setups: Sequence[Made], machine: Machine) -> str:
    """Why pieces do not go from the main spindle into the counter spindle; empty where they can."""
    if machine.counter is None:
        return f"{machine.name} has no counter spindle that takes pieces over."
    if len(setups) != 2:
        return "A counter spindle takes over from one setup to one other."
    (first, made), (second, _) = setups
    if not first.part_turns or not second.part_turns:
        return f"Setups {first.id} and {second.id} do not both turn the part."
    if DIRECTIONS[second.up] != tuple(-v for v in DIRECTIONS[first.up]):
        return f"Setup {second.id} does not come to the end that setup {first.id} is held by."
    if not isinstance(made.hold, BarHold) or blade_of(made) is None:
        return f"Nothing cuts the piece of setup {first.id} off a bar: the counter spindle takes over what is cut off."
    return ""


def why_not_pulled(machine: Machine) -> str:
    """Why a counter spindle does not pull the bar; empty where it can."""
    facing = machine.counter.facing if machine.counter is not None else None
    if facing is None or not facing.collet:
        return f"{machine.name} does not open its main collet while the counter spindle has the bar."
    return ""


def handover_of(first: BuiltSetup, second: BuiltSetup, facing: Facing, by: float = 0.0) -> Handover | None:
    """None where nothing cuts the piece off; `by` is how far the bar is pulled, 0 where it is fed.

    A piece whose front is 130 before the main mount and goes 12 deep into jaws that end 100 before the other: that
    mount comes to Z 130 − 12 + 100 = 218; from 860 at 24 m/min and 3000 mm/s² over 637 and 5 at 20 mm/s. 46 of bar at
    100 mm/s are 46 / 100 + 100 / 3000 = 0.493 s, beside twice the collet's.
    """
    blade = blade_of(first)
    if blade is None:
        return None
    foot = second.stands.foot
    here = first.stands.on_lathe(first.home.frame, first.home.frame.point(foot))[2]
    there = second.stands.on_lathe(second.home.frame, second.home.frame.point(foot))[2]
    at, rest = round(here + there, 4), facing.travel[1]
    speed, acceleration = facing.rapid / 60, facing.acceleration
    fast = trapezoid_seconds(max(0.0, rest - at - NEAR), 0.0, speed, 0.0, acceleration)
    slow = trapezoid_seconds(NEAR, 0.0, SLOW / 60, 0.0, acceleration)
    away = trapezoid_seconds(max(0.0, rest - at - by), 0.0, speed, 0.0, acceleration)
    pull = 2 * facing.collet + trapezoid_seconds(by, 0.0, PULL / 60, 0.0, acceleration) if by else 0.0
    cut = max(_levels(first, blade)) + blade.tool.diameter
    return Handover(
        blade.id, at, rest, facing.eject, facing.synchronise, fast + slow, facing.close, away,
        round(_jaws_end(second, at) - cut, 4), _outside(second), by, pull,
    )  # fmt: skip


def cut_beside(op: Operation, machine: Machine) -> Operation:
    """What cuts a piece off, as it runs while the counter spindle has it: the blade draws out across and never goes
    along the piece.
    """
    level = max(p[2] for s in op.motion.strokes if not s.is_rapid for p in s.points)
    strokes = []
    for stroke in op.motion.strokes:
        points = tuple(dict.fromkeys((x, y, min(z, level)) for x, y, z in stroke.points))
        if len(points) > 1:
            strokes.append(replace(stroke, points=points))
    return on_path(op, replace(op.motion, strokes=tuple(strokes)), machine)


def _levels(first: BuiltSetup, op: Operation) -> list[float]:
    """Z of an operation's cuts out of the main spindle."""
    strokes = [s for s in op.motion.strokes if not s.is_rapid]
    return [first.stands.on_lathe(op.frame, p)[2] for s in strokes for p in s.points]


def _outside(second: BuiltSetup) -> float:
    x, y = second.hold.centre
    return round(max((piece.farthest(x, y) for piece in second.hold.obstacles), default=0.0), 4)


def _jaws_end(second: BuiltSetup, at: float) -> float:
    """Machine Z at which what grips in the counter spindle ends, towards the main one."""
    hold = second.hold
    top = hold.frame.in_part((*hold.centre, hold.jaw_top))
    return at - second.stands.on_lathe(second.home.frame, second.home.frame.point(top))[2]


def handover_findings(load: str, first: Made, second: Made, machine: Machine, by: float = 0.0) -> Iterator[Finding]:
    """Of a piece that is taken over: whether the counter spindle comes so near, and goes clear of blade and collet; of
    a bar that is pulled, whether spindle and blade go so far.
    """
    counter = machine.counter
    one = handover_of(first[1], second[1], counter.facing, by) if counter is not None and counter.facing else None
    if counter is None or counter.facing is None or one is None:
        return
    least = counter.facing.travel[0]
    if one.at < least - 1e-6:
        yield _error(
            second[0], "counter-short",
            f"The counter spindle comes to Z {least:g} of {machine.name}, it would have to come to {one.at:.0f}.",
            "The piece stands too short out of the main spindle. Leave more of it out, or make each end by itself.",
            (_apart(load),),
        )  # fmt: skip
    stands = second[1].stands
    if machine.works_at_once and one.outside + TURRET_OFF > stands.room + 1e-6:
        yield _error(
            second[0], "counter-meets-turret",
            f"{second[1].hold.fixture.name} on its way to the piece would meet a turret of {machine.name}.",
            f"It reaches out {one.outside:.0f}, and a turret goes off {stands.room - TURRET_OFF:.0f} at the most. Take "
            "a smaller one in the counter spindle.", (_apart(load),),
        )  # fmt: skip
    blade = next(op for op in first[1].operations if op.id == one.blade)
    reach = travel_range(2, first[1].stands, machine, (blade,))
    beyond = max(one.at + by - one.rest, (reach[1] if reach is not None else 0.0) + by - machine.travel[2][1])
    if by and beyond > 1e-6:
        yield _error(
            first[0], "pulled-too-far",
            f"Pulled on by {by:.1f}, the bar stands {beyond:.1f} farther out than {machine.name} can cut it off.",
            "Blade and counter spindle come so far and no farther. Have the bar fed.", (_fed(load),),
        )  # fmt: skip
    lacks = _lacks(blade, one)
    if lacks > 1e-6:
        hold = second[1].hold
        less = hold.grip - lacks
        least_grip = getattr(hold.fixture, "least_grip", hold.grip)
        shallower = [grip_of(second[0].id, round(less, 1))] if less > least_grip else []
        yield _error(
            second[0], "counter-meets-blade",
            f"{hold.fixture.name} in the counter spindle would meet the blade's holder by {lacks:.1f}.",
            f"It ends {one.between:.1f} beside the blade while that cuts off. Grip less of the piece, or take one that "
            "is thinner around.", (*shallower, _apart(load)),
        )  # fmt: skip


def _lacks(blade: Operation, one: Handover) -> float:
    """By how much too near the counter spindle's jaws come: to the blade where its plate alone is beside them, to its
    holder where they reach out so far that they are beside that.
    """
    tool = blade.tool
    if one.outside + CLEAR <= tool.cutting_length:
        return CLEAR - one.between
    return CLEAR + tool.holder.diameter - BEHIND_TIP - tool.diameter - one.between


def _fed(load: str) -> Cure:
    return Cure("Feed the bar", {"change": "pull-bar", "load": load, "on": False})


def _apart(load: str) -> Cure:
    return Cure("Each end by itself", {"change": "load-apart", "load": load})


def _error(setup: SetupDecision, code: str, title: str, why: str, cures: tuple[Cure, ...]) -> Finding:
    return Finding(code, Severity.ERROR, Chapter.BALANCE, title, why, setup.id, cures=cures)
