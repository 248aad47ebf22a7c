"""Threads turned on the outside by a single point, in passes of equal chip area."""

from __future__ import annotations

from functools import lru_cache
from math import ceil, pi, sqrt

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.basis.findings import Chapter, Cure, Figure, Severity
from lean_ledger.core.features import Turned
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import EFFICIENCY, Settled, speed_share
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.model import Cutting, Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.core.plan import OperationEdit
from lean_ledger.core.setups.profile import Profile, levels_of
from lean_ledger.core.timing.motion import Stroke, feed, rapid
from lean_ledger.library.types import Thread, Tool, ToolKind

DEEP = 0.6134  # × pitch: height of a thread's flanks (ISO 68-1: 17/24 of the sharp triangle, H = 0.866 P)
LEAD_IN = 3.0  # pitches in front of the thread, in which the slide comes up to its speed
RUN_OUT = 2.0  # pitches short of a shoulder
CLEAR = 1.0  # mm off the work on the way back


def passes_for(pitch: float) -> int:
    """ceil(3.2·P + 1.5), and one more without infeed: 5 + 1 for a pitch of 1, 7 + 1 for 1.5, 8 + 1 for 2."""
    return ceil(round(3.2 * pitch + 1.5, 6)) + 1


def infeeds(depth: float, passes: int) -> list[float]:
    """Depth of each pass: depth·sqrt(k/n) takes the same chip area each time; the last goes over it once more.

    0.92 deep in 4 + 1: 0.46, 0.651, 0.797, 0.92, 0.92.
    """
    count = max(1, passes - 1)
    return [round(depth * sqrt(k / count), 4) for k in range(1, count + 1)] + [round(depth, 4)] * (passes > 1)


def thread_turn_operation(place: Workplace, turned: Turned, thread: Thread, profile: Profile) -> Operation | None:
    """The named thread on a turned outside, from its free end to a shoulder, or over a groove beside it."""
    id = place.id_of(turned.id, OperationKind.THREAD_TURN)
    fitting = [
        t for t in choose.usable(place.library, place.material, [ToolKind.THREADING])
        if t.cutting_length >= DEEP * thread.pitch
    ]  # fmt: skip
    tool = place.tool(id, OperationKind.THREAD_TURN, choose.best(fitting, lambda t: -t.cutting_length))
    if tool is None:
        place.lack(
            "no-threading-insert",
            f"No insert turns {thread.name} on {turned.id}.",
            f"Its flanks are {DEEP * thread.pitch:.2f} deep.",
            features=(turned.id,),
            cures=(Cure("Take the thread off", {"change": "say-thread", "features": [turned.id], "thread": None}),),
            wanted=f"threading insert 60° for a pitch of {thread.pitch:g}",
        )
        return None
    if turned.thread is not None and turned.thread.hand == "left":
        place.find(
            "left-hand", Severity.ERROR, f"The thread of {turned.id} is left-handed.",
            "It would be turned away from the chuck, which is not planned here.", features=(turned.id,),
            chapter=Chapter.PART,
            cures=(Cure("Leave to another shop", {"change": "leave-out", "features": [turned.id],
                                                  "reason": "made elsewhere"}),),
        )  # fmt: skip
        return None
    edit = place.edit(id)
    for name in ("vf", "ap"):
        if getattr(edit, name) is not None:
            raise PlanError("thread-feed", f"a thread is fed its pitch a turn; set n or passes instead of {name}", id)
    end = _end_of(place, turned, thread, profile)
    if end is None:
        return None
    settled = _settled(place, turned, thread, tool, edit)
    cut, depth, radius = settled.cutting, DEEP * thread.pitch, turned.diameter / 2
    axis = place.part.axis
    assert axis is not None
    x, y, _ = place.frame.point(axis.point)
    low, high = levels_of(place.part, turned, place.frame.up)
    around = max((r for z, r in profile if z >= end - 1e-3), default=radius)
    motion = thread_path(
        (round(x, 5), round(y, 5)), radius, round(high + LEAD_IN * thread.pitch, 5), round(end, 5),
        tuple(infeeds(depth, cut.passes)), cut.vf, round(max(around, radius) + CLEAR, 5), thread.pitch,
    )  # fmt: skip
    name = f"Turn thread {thread.name} on {turned.id}, {high - max(end, low):.1f} long"
    named = Named(id, OperationKind.THREAD_TURN, name, (turned.id,), "outside", outer=True)
    return place.add(named, tool, settled, motion, depth=depth)


def _end_of(place: Workplace, turned: Turned, thread: Thread, profile: Profile) -> float | None:
    """The level that the insert goes down to: over a groove, else up to a run-out off what is below; None where there
    is no room for that, which is a finding.
    """
    low, high = levels_of(place.part, turned, place.frame.up)
    limited = max(low, place.lowest)
    beside = [r for z, r in profile if z < low + 1e-3 and z > low - RUN_OUT * thread.pitch - 1e-3]
    groove = bool(beside) and min(beside) <= turned.diameter / 2 - DEEP * thread.pitch + 1e-3
    end = limited - min(1.0, thread.pitch) if groove and limited == low else limited + RUN_OUT * thread.pitch
    if turned.thread is not None:  # no farther than the model's helix goes
        end = max(end, high - turned.thread.length)
    if end <= high - thread.pitch:
        return end
    place.find(
        "thread-short", Severity.ERROR, f"{turned.id} is too short for {thread.name}.",
        f"It is {high - limited:.1f} long; {RUN_OUT:g} pitches of {thread.pitch:g} are needed to run out.",
        chapter=Chapter.PART, features=(turned.id,),
    )  # fmt: skip
    return None


def _settled(place: Workplace, turned: Turned, thread: Thread, tool: Tool, edit: OperationEdit) -> Settled:
    data = place.library.data(tool, place.material)
    assert data is not None
    vc = data.vc * speed_share(data, edit)
    free = edit.n if edit.n is not None else 1000 * vc / (pi * turned.diameter)
    n = round(min(free, place.machine.spindle.max_rpm))
    passes = edit.passes if edit.passes is not None else passes_for(thread.pitch)
    depth = DEEP * thread.pitch
    vf = n * thread.pitch
    used = pi * turned.diameter * n / 1000
    area = depth * thread.pitch / 2 / max(1, passes - 1)
    power = area * used * place.material.kc / (60_000 * EFFICIENCY)
    cutting = Cutting(n, vf, used, thread.pitch, depth / max(1, passes - 1), 0.0, passes, 0.0, used / data.vc)
    formula = "set by hand" if edit.n is not None else f"1000·vc/(π·d) = 1000 · {vc:g} / (π · {turned.diameter:g})"
    figures = (
        Figure("n", f"{formula}, whole turns", n, "rpm"),
        Figure("vf", f"n·pitch = {n} · {thread.pitch:g}", vf, "mm/min"),
        Figure("thread depth", f"{DEEP} · {thread.pitch:g}", depth, "mm"),
        Figure("passes", f"ceil(3.2 · {thread.pitch:g} + 1.5) and one without infeed", passes, ""),
    )
    return Settled(cutting, figures, power, place.machine.spindle.power_at(n))


@lru_cache(maxsize=256)
def thread_path(
    axis: tuple[float, float], radius: float, start: float, end: float, depths: tuple[float, ...], vf: float,
    clear: float, pitch: float,
) -> Motion:  # fmt: skip
    """Each pass along the axis at its depth, out, back and in again in rapid; `clear` is a radius free of the work."""
    x, y = axis

    def vec(r: float, z: float) -> Vec:
        return (round(x + r, 5), y, z)

    strokes: list[Stroke] = []
    at = vec(clear, start)
    for depth in depths:
        inside = radius - depth
        strokes.append(rapid(at, vec(inside, start)))
        strokes.append(feed(vf, (vec(inside, start), vec(inside, end))))
        strokes.append(rapid(vec(inside, end), vec(clear, end), vec(clear, start)))
        at = vec(clear, start)
    return Motion(tuple(strokes), axis=axis, lead=pitch)
