"""What an operation goes over, and what it clears down to a level."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
import shapely
from shapely.geometry import LineString, Point
from shapely.geometry.base import BaseGeometry

from lean_ledger.core.basis.same import Same
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.model import Motion, Operation
from lean_ledger.core.operations.safe.tool_outline import profile_of
from lean_ledger.core.timing.motion import Stroke
from lean_ledger.library.types import Tool

MOST_KNOWN = 500  # areas that are kept of one way
AT_ONCE = 12  # pieces of a way
PIECE = 12  # points of a line that are widened at once: too few to go round, where a buffer may fill the middle


@dataclass(frozen=True)
class Went:
    """Where a tool went: its cuts, each as its middle line and the level down to which it clears its width."""

    levels: tuple[float, ...]
    lines: tuple[LineString, ...]
    radius: float

    @cached_property
    def heights(self) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
        return np.array(self.levels)

    def area(self, level: float, until: int | None = None, near: BaseGeometry | None = None) -> BaseGeometry:
        """Cleared down to a level at least, by the first `until` cuts; of cuts that come nowhere `near` nothing."""
        key = (level, until, near)
        if key not in self._known:
            if len(self._known) >= MOST_KNOWN:
                self._known.clear()
            self._known[key] = self._area(*key)
        return self._known[key]

    def left_of(self, rest: BaseGeometry, level: float, counts: Callable[[BaseGeometry], bool]) -> BaseGeometry:
        """What of an area is not cleared down to a level; the cuts nearest to it come first, until no more of it
        `counts`.
        """
        lines, of = self._pieces
        chosen = lines[(self.heights <= level + 0.02)[of]]
        chosen = chosen[shapely.dwithin(chosen, rest, self.radius)]
        if len(chosen) > AT_ONCE:
            chosen = chosen[np.argsort(shapely.distance(chosen, rest.centroid), kind="stable")]
        for first in range(0, len(chosen), AT_ONCE):
            widened = shapely.buffer(chosen[first : first + AT_ONCE], self.radius, quad_segs=24)
            rest = rest.difference(shapely.union_all(widened) if len(widened) > 1 else widened[0])
            if not counts(rest):
                break
        return rest

    @cached_property
    def _known(self) -> dict[tuple[float, int | None, BaseGeometry | None], BaseGeometry]:
        """What was asked before: more stock elsewhere asks for the same."""
        return {}

    def _area(self, level: float, until: int | None, near: BaseGeometry | None) -> BaseGeometry:
        lines, of = self._pieces
        able = self.heights <= level + 0.02
        if until is not None:
            able[until:] = False
        chosen = lines[able[of]]
        if near is not None:
            chosen = chosen[shapely.dwithin(chosen, near, self.radius)]
        return shapely.union_all(shapely.buffer(chosen, self.radius, quad_segs=24)) if len(chosen) else Point()

    @cached_property
    def _pieces(self) -> tuple[np.ndarray[Any, Any], np.ndarray[Any, Any]]:
        """The lines in short pieces, and the line that each is of: to widen one that winds around itself hundreds of
        times takes minutes.
        """
        found, of = [], []
        for k, line in enumerate(self.lines):
            points = shapely.get_coordinates(line)
            for start in range(0, max(len(points) - 1, 1), PIECE):
                found.append(LineString(points[start : start + PIECE + 1]))
                of.append(k)
        pieces = np.empty(len(found), dtype=object)
        pieces[:] = found
        return pieces, np.array(of, dtype=np.int64)


@dataclass(frozen=True)
class Path:
    """Where a motion goes, whatever its feeds: a cut's is 1. `r` is the level that a canned cycle goes back to."""

    strokes: tuple[Stroke, ...]
    r: float | None = None


@lru_cache(maxsize=4096)
def path_of(motion: Same[Motion]) -> Same[Path]:
    """The same object for all motions that go the same way: what an edit of a feed makes anew goes where it went."""
    strokes = tuple(Stroke(s.points, 0.0 if s.is_rapid else 1.0) for s in motion.value.strokes)
    return _one_for_all(Path(strokes, motion.value.cycle.r if motion.value.cycle is not None else None))


@lru_cache(maxsize=4096)
def _one_for_all(path: Path) -> Same[Path]:
    return Same(path)


@lru_cache(maxsize=4096)
def went(path: Same[Path], tool: Tool) -> Went:
    return _went(tuple(Same(s.points) for s in path.value.strokes if not s.is_rapid), tool)


@lru_cache(maxsize=4096)
def _went(lines: tuple[Same[tuple[Vec, ...]], ...], tool: Tool) -> Went:
    """Kept by the very same cuts, whatever lies between them."""
    profile = profile_of(tool)
    if not profile:  # what cuts a thread clears nothing
        return Went((), (), 0.0)
    full = profile[-1][1]
    cuts = [Stroke(same.value, 1.0) for same in lines]
    return Went(
        tuple(max(p[2] for p in s.points) + full for s in cuts if not plunges(s))
        + tuple(min(p[2] for p in s.points) + full for s in cuts if plunges(s)),
        tuple(_line(s) for s in cuts if not plunges(s)) + tuple(_line(s) for s in cuts if plunges(s)),
        tool.diameter / 2,
    )


def plunges(stroke: Stroke) -> bool:
    return all(p[:2] == stroke.points[0][:2] for p in stroke.points)


def _line(stroke: Stroke) -> LineString:
    return LineString(np.array(stroke.points)[:, :2])


@lru_cache(maxsize=4096)
def area(path: Same[Path], tool: Tool, level: float) -> BaseGeometry:
    """All that a tool clears down to a level."""
    found = went(path, tool).area(level)
    shapely.prepare(found)
    return found


def area_of(op: Operation, level: float) -> BaseGeometry:
    return area(path_of(Same(op.motion)), op.tool, round(level, 3))


def way_of(op: Operation) -> Went:
    return went(path_of(Same(op.motion)), op.tool)


def cleared_near(rest: BaseGeometry, op: Operation, level: float) -> BaseGeometry:
    """What an operation clears down to a level of what is left somewhere, and around it."""
    return way_of(op).area(level, near=rest)


def waits_for(op: Operation, other: str, operations: Sequence[Operation]) -> bool:
    """Whether an operation has to come after another, be it over a third one."""
    by_id = {one.id: one for one in operations}
    seen: set[str] = set()
    waiting = [op.id]
    while waiting:
        for before, _ in by_id[waiting.pop()].after:
            if before == other:
                return True
            if before in by_id and before not in seen:
                seen.add(before)
                waiting.append(before)
    return False
