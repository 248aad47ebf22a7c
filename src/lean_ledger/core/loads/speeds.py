"""What a lathe's spindle is asked for by an operation, and the same operation at a speed that it shares with others.

Two tools can work on one spindle at once where both want it to turn at the same speed, or to stand at the same angle:
two driven ones on either side drill opposite holes together. A surface speed that is kept needs the spindle to itself,
since it changes as the tool goes.
"""

from __future__ import annotations

from dataclasses import replace
from math import pi

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.holding.standing import Standing
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.timed import on_path
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.machines import Machine

ON_AXIS = 1e-6  # mm


def turns_work(op: Operation, stands: Standing) -> bool:
    """Whether the work turns against the tool: what is turned, and what is drilled on the spindle's axis."""
    if stands.is_across(op.frame):
        return False
    if op.motion.turns or op.tool.kind.is_insert:
        return True
    points = (
        stands.on_lathe(op.frame, p) for stroke in op.motion.strokes if not stroke.is_rapid for p in stroke.points
    )
    return all(abs(x) < ON_AXIS and abs(y) < ON_AXIS for x, y, _ in points)


def asked_of_spindle(op: Operation, stands: Standing, carriage: str) -> str:
    """The state of the spindle that an operation runs in; two of the same need no change of it. A driven tool is that
    of its carriage.
    """
    if not turns_work(op, stands):
        return f"driven {carriage} {op.tool.id} {op.cutting.n:.0f} at {op.way.angle + stands.angle:g}"
    spin = op.motion.spin
    return f"G96 {spin.vc:.0f} {spin.cap:.0f}" if spin is not None else f"{op.cutting.n:.0f}"


def stands_at(op: Operation, stands: Standing) -> str:
    """The state of the spindle for a driven tool; empty for what turns the work."""
    return "" if turns_work(op, stands) else f"stands at {(op.way.angle + stands.angle) % 360:g}"


def can_share(op: Operation, stands: Standing) -> bool:
    """Whether it can run at a steady speed beside another: what reverses or follows a thread has the spindle alone."""
    return not op.motion.reversals and not op.motion.lead and turns_work(op, stands)


def shared_speed(op: Operation, stands: Standing) -> str | None:
    """At which speed, or angle, others may run beside it on its spindle; None where it has to be alone: what keeps a
    surface speed, reverses, or follows a thread.
    """
    if not turns_work(op, stands):
        return stands_at(op, stands)
    return f"{op.cutting.n:.0f}" if op.motion.spin is None and can_share(op, stands) else None


def most_speed(op: Operation) -> float:
    """rpm at which an operation can run whole: for a surface speed where it cuts farthest out, n = 1000·vc/(π·d).

    180 m/min at Ø40: 1432 rpm.
    """
    spin = op.motion.spin
    if spin is None:
        return op.cutting.n
    x0 = op.motion.axis[0]
    radii = [abs(p[0] - x0) for stroke in op.motion.strokes if not stroke.is_rapid for p in stroke.points]
    return min(spin.cap, 1000 * spin.vc / (2 * pi * max(radii)))


def at_speed(op: Operation, n: float, machine: Machine) -> Operation:
    """The same cut at a steady speed in rpm, its feed a turn kept: vf = f·n. Power follows the feed.

    Raises nothing: a speed above what the operation can is the caller's finding.
    """
    spin, motion, was = op.motion.spin, op.motion, op.cutting
    if spin is not None:
        strokes = tuple(s if s.is_rapid else Stroke(s.points, spin.per_turn * n) for s in motion.strokes)
        motion, vf = replace(motion, strokes=strokes, spin=None), spin.per_turn * n
        words = f"one speed for all of it; f = {spin.per_turn:.3f} a turn"
    elif abs(n - was.n) < 1e-9:
        return op
    else:
        motion, vf = _scaled(motion, n / was.n), was.vf * n / was.n
        words = f"{n:.0f} in place of {was.n:.0f}; its feed a turn stays"
    share = n / was.n
    cutting = replace(was, n=n, vf=vf, vc=was.vc * share, speed=was.speed * share)
    figures = (*op.figures, Figure("n, shared", words, n, "rpm"))
    slower = replace(op, cutting=cutting, power=op.power * share, figures=figures)
    return on_path(slower, motion, machine)


def feed_a_turn(op: Operation) -> float:
    """mm a turn of an operation that turns the work: 0.3, or 600 mm/min at 2000 rpm."""
    spin = op.motion.spin
    return spin.per_turn if spin is not None else op.cutting.vf / op.cutting.n


def at_feed(op: Operation, per_turn: float, machine: Machine) -> Operation:
    """The same cut at another feed a turn; its seconds of cutting go by the ratio, its power with the feed."""
    share = per_turn / feed_a_turn(op)
    if abs(share - 1) < 1e-9:
        return op
    motion = _scaled(op.motion, share)
    spin = motion.spin
    motion = motion if spin is None else replace(motion, spin=replace(spin, per_turn=per_turn))
    cutting = replace(op.cutting, vf=op.cutting.vf * share, feed=op.cutting.feed * share)
    figures = (*op.figures, Figure("f, of the position", "the least of all that one drive moves there", per_turn, "mm"))
    return on_path(replace(op, cutting=cutting, power=op.power * share, figures=figures), motion, machine)


def _scaled(motion: Motion, share: float) -> Motion:
    strokes = tuple(s if s.is_rapid else Stroke(s.points, s.feed_mm_per_min * share) for s in motion.strokes)
    cycle = motion.cycle
    return replace(motion, strokes=strokes, cycle=cycle and replace(cycle, feed=cycle.feed * share))
