"""A program tried in the stock: ours or one from elsewhere, tool after tool, against stock, fixture and part."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from shapely.geometry import LineString, Point

from lean_ledger.core.errors import PlanError
from lean_ledger.core.foreign import ANY_CONTROL
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.ledger import Ledger, SetupLedger
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.part import Part
from lean_ledger.core.program.offsets import WorkOffset, offsets_of
from lean_ledger.core.program.proof import step_stroke
from lean_ledger.core.program.run import Setting, run_program
from lean_ledger.core.program.steps import Run, Step, StepKind
from lean_ledger.core.program.watch import Trouble, watched
from lean_ledger.core.setups.ways import Way
from lean_ledger.core.stock.course import ABOVE, around_of, course_of
from lean_ledger.core.stock.cuts import Course, Cut
from lean_ledger.core.stock.in_process import Followed
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Library, Tool

MOVES = (StepKind.CUT, StepKind.RAPID)
SAME = 0.01  # degrees


@dataclass(frozen=True)
class Use:
    """A tool from where it comes in to where it goes; `line` is the program's that first moves it."""

    cut: str
    tool: Tool
    line: int
    seconds: float
    lines: tuple[int, ...] = ()  # of each of its moves


@dataclass(frozen=True)
class Trial:
    """What is to be followed: the setups before, then this program; and what the machine itself found."""

    setup: str
    course: Course
    before: int  # cuts of the setups before
    uses: tuple[Use, ...]
    troubles: tuple[Trouble, ...]
    seconds: float


@dataclass(frozen=True)
class Met:
    """Something that a program runs into: `what` is stock, fixture or part, `how` a rapid, a holder or the cut."""

    line: int
    tool: int
    how: str
    what: str
    amount: float  # mm
    at: Vec


@dataclass(frozen=True)
class TrialResult:
    """Volumes mm³: what each use took off, and what the plan's own operations of the setup do."""

    removed: tuple[float, ...]
    planned: float
    met: tuple[Met, ...]


def trial_of(part: Part, ledger: Ledger, library: Library, setup: str, text: str) -> Trial:
    """Raises ProgramError for a program that the machine cannot read, PlanError where a tool, an offset or an angle
    stands in it that the plan does not know, and on a lathe.
    """
    there = ledger.setup_of(setup)
    if there.machine.kind == "lathe":
        raise PlanError("no-trial", "a lathe's program is not tried in the stock: sections would be turned", setup)
    if not there.entries:
        raise PlanError("no-trial", "the setup has no operation: there is no zero to count from", setup)
    offsets = tuple(o for o in offsets_of(ledger, part) if o.setup == setup)
    own = {e.operation.tool.number: e.operation.tool for e in there.entries}
    tools = {t.number: t for t in library.tools} | own
    seat = there.built.stands.seat.at
    setting = replace(
        ANY_CONTROL,
        offsets={o.word: o.machine for o in offsets},
        lengths={number: tool.gauge for number, tool in tools.items()},
        start=(seat[0], seat[1], there.machine.travel[2][1]),
    )
    run = run_program(text, there.machine, setting)
    troubles = watched(run, there.machine, setting, frozenset(tools))
    whole = course_of(part, ledger)
    first = next(i for i, cut in enumerate(whole.cuts) if cut.operation == there.entries[0].operation.id)
    uses, cuts = _uses(run, there, offsets, tools, setting)
    return Trial(setup, replace(whole, cuts=(*whole.cuts[:first], *cuts)), first, uses, troubles, run.total)


def plan_until(part: Part, ledger: Ledger, setup: str) -> tuple[Course, int]:
    """The plan's own course as far as the end of a setup, and the cuts before it."""
    whole = course_of(part, ledger)
    ids = [e.operation.id for e in ledger.setup_of(setup).entries]
    first = next(i for i, cut in enumerate(whole.cuts) if cut.operation == ids[0])
    return replace(whole, cuts=whole.cuts[: first + len(ids)]), first


def result_of(trial: Trial, found: Followed, planned: Followed) -> TrialResult:
    """From the followed stock of the trial, and that of the plan as far as the same setup."""
    uses = {use.cut: use for use in trial.uses}
    cuts = {cut.operation: cut for cut in trial.course.cuts}
    met = [
        Met(
            _line(uses[c.operation], cuts[c.operation], c.at, rapid=c.what == "rapid"),
            uses[c.operation].tool.number,
            c.what,
            c.into,
            c.depth,
            c.at,
        )
        for c in found.collisions
        if c.operation in uses
    ]
    met += [
        Met(
            _line(uses[r.operation], cuts[r.operation], cuts[r.operation].frame.point(r.at), rapid=False),
            uses[r.operation].tool.number,
            "cut",
            "part",
            r.amount,
            r.at,
        )
        for r in found.remainders
        if r.cut_into and r.operation in uses
    ]
    return TrialResult(
        tuple(step.removed for step in found.steps[trial.before :]),
        sum(step.removed for step in planned.steps[trial.before :]),
        tuple(sorted(met, key=lambda one: (one.line, -one.amount))),
    )


def _line(use: Use, cut: Cut, at: Vec, *, rapid: bool) -> int:
    """The line of the move that comes nearest to a place, given in the cut's axes."""
    spot = Point(at[:2])

    def away(index: int) -> tuple[float, float]:
        points = cut.motion.strokes[index].points
        flat = LineString([p[:2] for p in points]) if len({p[:2] for p in points}) > 1 else Point(points[0][:2])
        return round(flat.distance(spot), 3), min(p[2] for p in points)

    able = [i for i, stroke in enumerate(cut.motion.strokes) if stroke.is_rapid == rapid]
    return use.lines[min(able, key=away)] if able else use.line


def _uses(
    run: Run, setup: SetupLedger, offsets: Sequence[WorkOffset], tools: Mapping[int, Tool], setting: Setting
) -> tuple[tuple[Use, ...], tuple[Cut, ...]]:
    uses: list[Use] = []
    cuts: list[Cut] = []
    group: list[Step] = []

    def close() -> None:
        if any(step.kind == StepKind.CUT for step in group):
            use, cut = _cut(group, len(uses), setup, offsets, tools, setting)
            uses.append(use)
            cuts.append(cut)
        group.clear()

    for step in run.steps:
        if group and (step.tool != group[-1].tool or step.angles != group[-1].angles):
            close()
        if step.kind in MOVES and not step.direct:
            group.append(step)
    close()
    return tuple(uses), tuple(cuts)


def _cut(
    steps: Sequence[Step], number: int, setup: SetupLedger, offsets: Sequence[WorkOffset],
    tools: Mapping[int, Tool], setting: Setting,
) -> tuple[Use, Cut]:  # fmt: skip
    first = steps[0]
    if first.tool is None or first.tool not in tools:
        what = f"T{first.tool} is no tool of the shop" if first.tool is not None else "it moves before any tool is in"
        raise PlanError("no-such-tool", f"line {first.line}: {what}", setup.decision.id)
    way = _way(first, setup)
    strokes: list[Stroke] = []
    for step in steps:
        offset = next((o for o in offsets if o.word == step.offset and o.way == way), None)
        if offset is None:
            known = ", ".join(sorted({o.word for o in offsets if o.way == way}))
            raise PlanError(
                "no-such-offset", f"line {step.line}: {step.offset} is not set in {setup.decision.id}; it has {known}",
                setup.decision.id,
            )  # fmt: skip
        strokes.append(step_stroke(step, offset, setting, across=False))
    tool = tools[first.tool]
    box = way.frame.box(setup.built.before.bounds)
    high = max(setup.built.stands.safe_height(way.frame), box.max[2]) + ABOVE
    id = f"T{tool.number} #{number + 1}"
    cut = Cut(id, Motion(tuple(strokes)), tool, way.frame, high, around_of(setup), ())
    lines = tuple(step.line for step in steps)
    return Use(id, tool, first.line, sum(step.seconds for step in steps), lines), cut


def _way(step: Step, setup: SetupLedger) -> Way:
    """The way that the rotary and the tilt stand at."""
    found = {e.operation.way for e in setup.entries}
    if setup.decision.free is None:
        return setup.built.home
    for way in found:
        angles = {"ABC".index({"x": "A", "y": "B", "z": "C"}[axis.about]): value
                  for axis, value in ((setup.machine.rotary, way.angle), (setup.machine.tilt, way.tilt))
                  if axis is not None}  # fmt: skip
        if all(abs(step.angles[i] - value) < SAME for i, value in angles.items()):
            return way
    raise PlanError(
        "no-such-angle", f"line {step.line}: the plan does not stand at {step.angles}", setup.decision.id
    )  # fmt: skip
