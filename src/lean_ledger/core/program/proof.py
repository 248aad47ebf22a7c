"""What a program takes away: its moves on the machine as cuts, so that the stock can be followed through them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import groupby
from math import ceil

from lean_ledger.core.control.setting import Setting
from lean_ledger.core.control.steps import Run, RunStep, StepKind
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.cuts import Course
from lean_ledger.core.followed.turning_tools import turned_away
from lean_ledger.core.geometry.vectors import Vec, add, sub
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.ledger.offsets import WorkOffset
from lean_ledger.core.loads.lanes import taken_over_in
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.loads.turned import turned_motion
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Motion, Operation, Ring2
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.asked import SetupProgram
from lean_ledger.core.timing.chain import Arc
from lean_ledger.core.timing.motion import Stroke

CHORD = 0.06  # radians that an arc is parted by

Ran = tuple[SetupProgram, Setting, Run]


def course_of_programs(part: Part, ledger: Ledger, ran: Sequence[Ran]) -> Course:
    """The plan's course with each operation's motion replaced by what the program of its setup did."""
    course = course_of(part, ledger)
    motions: dict[str, Motion] = {}
    for program, setting, run in ran:
        motions |= _motions(program, setting, run, ledger.load_of(program.setup))
    return replace(
        course, cuts=tuple(replace(c, motion=motions[c.operation]) for c in course.cuts if c.operation in motions)
    )


def as_fed(steps: Sequence[RunStep], program: SetupProgram, load: LoadLedger) -> Sequence[RunStep]:
    """With what is done once a counter spindle has pulled the bar on where it would be done if that was fed: the piece
    went as far as the blade did, whose way after it is left out.
    """
    one, lines = taken_over_in(load.where), program.text.split("\n")
    grip = next((k for k, line in enumerate(lines, start=1) if line == program.dialect.grip), 0)
    if one is None or not one.by or not grip:
        return steps
    shifts = [k for k, line in enumerate(lines, start=1) if k > grip and line.startswith(f"G{program.dialect.local} ")]
    until = shifts[1] if len(shifts) > 1 else len(lines)  # the first follows the bar
    call = next(step.entered for step in steps if step.line == grip) + 1
    back = (0.0, 0.0, -one.by)

    found: list[RunStep] = []
    for step in steps:
        own = step.sub in (0, program.numbers.main)
        pulled = grip < step.line < until if own else step.entered == call
        if not pulled:
            found.append(step)
        elif not own or step.entered == call:
            found.append(replace(step, start=add(step.start, back), end=add(step.end, back)))
    return found


def _motions(program: SetupProgram, setting: Setting, run: Run, setup: LoadLedger) -> Mapping[str, Motion]:
    calls = {call.operation.id: call for call in reversed(setup.calls)}
    by_sub: dict[int, list[RunStep]] = {}
    for (called, _), steps in groupby(as_fed(run.steps, program, setup), key=lambda step: (step.sub, step.entered)):
        # the first call stands for all of them: a course is one piece's
        by_sub.setdefault(called, [s for s in steps if s.kind in (StepKind.CUT, StepKind.RAPID)])
    found: dict[str, Motion] = {}
    for number, id in program.calls:
        if id in found:  # the same at pieces that are turned
            continue
        call = calls[id]
        op, place = call.operation, call.place
        offset = next(o for o in program.offsets if (o.place, o.way) == (place, op.way))
        across = setup.machine.turns_work and setup.placed_at(place).stands.is_across(op.frame)
        strokes = tuple(step_stroke(step, offset, setting, across=across) for step in by_sub.get(number, []))
        if strokes:
            strokes = setup.as_one_meets(replace(op, motion=replace(op.motion, strokes=strokes))).motion.strokes
            motion = replace(op.motion, strokes=strokes, turned=_turned(op, strokes), cycle=None)
            found[id] = turned_motion(motion, -call.turn % 360)
    return found


def step_stroke(step: RunStep, offset: WorkOffset, setting: Setting, *, across: bool) -> Stroke:
    """A move on the machine in the axes of the way that an offset is for; `across`: of a driven tool across a lathe."""
    length = setting.lengths.get(step.length, 0.0) if step.length is not None else 0.0
    from_zero = add(offset.machine, (0.0, 0.0, length))

    def in_frame(p: Vec) -> Vec:
        said = sub(p, from_zero)
        x, y, z = add((said[2], said[1], said[0]) if across else said, offset.zero)
        return (round(x, 5), round(y, 5), round(z, 5))

    points = [step.start, *(_along(step.arc) if step.arc is not None else ()), step.end]
    return Stroke(tuple(in_frame(p) for p in points), step.feed if step.kind == StepKind.CUT else 0.0)


def _along(arc: Arc) -> list[Vec]:
    """Points between the ends of an arc."""
    count = ceil(abs(arc.angle) / CHORD)
    return [arc.at(n / count) for n in range(1, count)]


def _turned(op: Operation, strokes: Sequence[Stroke]) -> tuple[Ring2, ...]:
    """What an insert takes off on these moves; behind a cut-off all that it parts from the piece goes as well."""
    if not op.motion.turned or op.kind == OperationKind.CUT_OFF:
        return op.motion.turned
    return turned_away(op.tool, strokes, op.motion.axis)
