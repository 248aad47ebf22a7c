"""Threads that no tap of the shop cuts: milled by a tool whose teeth have the thread's pitch, once round and up."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import ceil, cos, floor, pi, sin
from typing import TYPE_CHECKING

from lean_ledger.core.basis.findings import Figure
from lean_ledger.core.features import Hole
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.cutting import choose
from lean_ledger.core.operations.cutting.conditions import Wish, settle
from lean_ledger.core.operations.depths import depth_of, formula_of
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.operations.milling.paths import APPROACH, Walk
from lean_ledger.core.operations.milling.regions import Flat
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.workplace import Named, Workplace
from lean_ledger.library.types import Thread, Tool

if TYPE_CHECKING:
    from lean_ledger.core.operations.holes.drilling import HoleGroup

CHORDS = 48  # of a whole turn
ROOM = 1.0  # mm that the teeth stay off the floor of a blind hole
DEEP = 0.6134  # × pitch: height of a thread's flanks (ISO 68-1, 5/8 of the sharp triangle and its flats)


@dataclass(frozen=True)
class Rounds:
    """The radius that a thread mill's centre goes round, and the pitch that it rises. Where the thread is longer than
    the teeth it goes round `turns` times, `step` higher each time. Lengths mm.
    """

    orbit: float
    pitch: float
    turns: int = 1
    step: float = 0.0


@lru_cache(maxsize=512)
def thread_mill_path(
    points: tuple[Flat, ...], entry: float, depth: float, rounds: Rounds, vf: float, hop: float, clearance: float
) -> Motion:
    """From the bottom up, climbing round a right-hand thread: in on half a circle, round and a pitch up, out again.

    `vf` is the feed of the tool's centre; half a pitch is risen on the way in and on the way out.
    """
    orbit, pitch = rounds.orbit, rounds.pitch
    walk = Walk(clearance)
    for i, (x, y) in enumerate(points):
        if i == 0:
            walk.over(x, y)
        else:
            walk.down(hop)
            walk.across(x, y)
        walk.down(entry + APPROACH)
        for turn in range(rounds.turns):
            z = entry - depth + turn * rounds.step
            walk.down(z)
            beside = (x + orbit / 2, y)
            walk.cut(vf, _helix(beside, orbit / 2, pi, pi, z, pitch / 2))
            walk.cut(vf, _helix((x, y), orbit, 0.0, 2 * pi, z + pitch / 2, pitch))
            walk.cut(vf, _helix(beside, orbit / 2, 0.0, pi, z + 1.5 * pitch, pitch / 2))
        walk.down(entry + APPROACH)
    return walk.leave()


def thread_mill_operation(place: Workplace, group: HoleGroup, thread: Thread, hop: float) -> Operation | None:
    """None where no thread mill of the pitch goes into the hole."""
    hole = group.first
    id = place.id_of(hole.id, OperationKind.THREAD_MILL)
    depth = depth_of(
        place, id, OperationKind.THREAD_MILL, group.entry, depth_of_thread(hole, thread), group.ids,
        deeper=hole.through, shorter=True,
    )  # fmt: skip
    rule = choose.thread_mill_for(thread, depth, place.library, place.material)
    tool = place.tool(id, OperationKind.THREAD_MILL, rule)
    if tool is None or depth < thread.pitch:
        return None
    data = place.library.data(tool, place.material)
    assert data is not None
    teeth = min(depth, tool.cutting_length)
    settled = settle(
        tool, data, place.material, place.machine, place.edit(id),
        Wish(teeth, teeth, DEEP * thread.pitch, thin_chips=False),
    )  # fmt: skip
    orbit = (thread.major - tool.diameter) / 2
    centre = settled.cutting.vf * (thread.major - tool.diameter) / thread.major
    turns, step = turns_of(tool, depth)
    motion = thread_mill_path(
        group.points, group.entry, depth, Rounds(round(orbit, 6), thread.pitch, turns, step), centre, hop,
        place.clearance,
    )  # fmt: skip
    formula = f"{hole.depth:g} + {thread.pitch:g}/2" if hole.through else f"{hole.depth:g} − {ROOM:g}"
    figures = (
        Figure("thread depth", formula_of(place, id, formula), depth, "mm"),
        Figure("feed of the centre", f"vf·(D − d)/D = {settled.cutting.vf:.0f} · ({thread.major:g} − "
               f"{tool.diameter:g}) / {thread.major:g}", centre, "mm/min"),
        Figure("times round", f"{depth:g} deep with teeth over {tool.cutting_length:g}", turns, ""),
    )  # fmt: skip
    return place.add(
        Named(id, OperationKind.THREAD_MILL, f"Mill thread {thread.name} in {group.label}", group.ids, hole.id),
        tool,
        settled,
        motion,
        depth=depth,
        figures=figures,
    )


def depth_of_thread(hole: Hole, thread: Thread) -> float:
    """Half a pitch beyond a through hole, 1 mm off the floor of a blind one."""
    return round(hole.depth + thread.pitch / 2 if hole.through else hole.depth - ROOM, 5)


def turns_of(tool: Tool, depth: float) -> tuple[int, float]:
    """How often it goes round, and how much higher each time: one pitch of teeth overlaps.

    20 teeth of pitch 1.5 are 30 long: 45 deep take 2 turns, the second 28.5 higher.
    """
    step = max(1, floor(tool.cutting_length / tool.pitch + 1e-9) - 1) * tool.pitch
    return 1 + max(0, ceil(round((depth - tool.cutting_length - tool.pitch) / step, 6))), step


def _helix(centre: Flat, radius: float, start: float, turn: float, z: float, rise: float) -> list[Vec]:
    """Counter-clockwise by an angle from another; the first point is where the tool is already."""
    count = ceil(CHORDS * turn / (2 * pi) - 1e-9)
    return [
        (
            round(centre[0] + radius * cos(start + turn * k / count), 6),
            round(centre[1] + radius * sin(start + turn * k / count), 6),
            round(z + rise * k / count, 6),
        )
        for k in range(1, count + 1)
    ]
