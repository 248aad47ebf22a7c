"""What a tool takes away on its path: the tool's shape swept along every cut, in setup coordinates."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from itertools import pairwise
from math import cos, pi, sin

import shapely
from shapely.geometry import LineString, MultiLineString, Point
from shapely.geometry.base import BaseGeometry
from shapely.prepared import prep

from lean_ledger.core.followed.ball import ball_mass
from lean_ledger.core.geometry.masses import SAG, Mass, hull_mass, lathe_mass, prism_mass, segments, united
from lean_ledger.core.geometry.vectors import Vec
from lean_ledger.core.operations.model import Motion
from lean_ledger.core.operations.safe.tool_outline import SLICES, UNDERCUTTING, Profile, profile_of
from lean_ledger.library.types import Tool, ToolKind

SAME = 1e-6  # mm


def swept(motion: Motion, tool: Tool, high: float) -> Mass:
    """All that the cuts of a path take away below the level `high`; rapids take nothing.

    What is turned is taken as the sections that its path was made from, turned about the axis.
    """
    if motion.turned:
        masses = [lathe_mass(_upward(ring), motion.axis, max(r for r, _ in ring)) for ring in motion.turned]
        return united(masses)
    profile = profile_of(tool)
    if not profile:
        return united([])
    if tool.kind in UNDERCUTTING:
        return united([_head(a, b, profile) for s in motion.strokes if not s.is_rapid for a, b in pairwise(s.points)])
    if tool.kind == ToolKind.BALL_MILL:
        return ball_mass([s.points for s in motion.strokes if not s.is_rapid], tool.diameter / 2, high)
    level: dict[float, list[LineString]] = defaultdict(list)
    plunges: dict[tuple[float, float], float] = {}
    slopes: list[tuple[Vec, Vec]] = []
    for stroke in motion.strokes:
        if stroke.is_rapid:
            continue
        run: list[Vec] = [stroke.points[0]]
        for a, b in pairwise(stroke.points):
            if abs(a[2] - b[2]) < SAME:
                run.append(b)
                continue
            _keep(level, run)
            run = [b]
            if abs(a[0] - b[0]) < SAME and abs(a[1] - b[1]) < SAME:
                at = (round(a[0], 5), round(a[1], 5))
                plunges[at] = min(plunges.get(at, a[2]), a[2], b[2])
            else:
                slopes.append((a, b))
        _keep(level, run)
    pointed = profile[0][0] < profile[-1][0] and profile[-1][1] > SAME and len(profile) == 2
    if pointed:
        # slices of a cone would leave stairs on what it bevels
        slopes += [((a[0], a[1], z), (b[0], b[1], z)) for z, lines in level.items() for line in lines
                   for a, b in pairwise(line.simplify(SAG / 2).coords)]  # fmt: skip
        level.clear()
    found = _levels(level, profile, high)
    covered = {z: prep(shapely.union_all([line.buffer(SAG) for line in lines])) for z, lines in level.items()}
    for (x, y), z in plunges.items():
        if not any(at <= z + SAME and area.covers(Point(x, y)) for at, area in covered.items()):
            found.append(lathe_mass(_revolved(profile, z, high), (x, y), profile[-1][0]))
    for a, b in slopes:
        low = min(a[2], b[2])
        if not any(at <= low + SAME and area.covers(LineString([a[:2], b[:2]])) for at, area in covered.items()):
            found.append(_hull(a, b, profile, high))
    return united(found)


def _upward(ring: Sequence[tuple[float, float]]) -> Profile:
    """With its inside on the left, as sections are turned."""
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], ring[0]), strict=True))
    return list(ring) if area > 0 else list(reversed(ring))


def _keep(level: dict[float, list[LineString]], run: Sequence[Vec]) -> None:
    flat = [p[:2] for p in run]
    if len(set(flat)) > 1:
        level[round(run[0][2], 6)].append(LineString(flat))


def _levels(level: dict[float, list[LineString]], profile: Profile, high: float) -> list[Mass]:
    """Prisms over the way of the tool's centre, widened by its radius at each height; the lowest ones first.

    A stretch that a lower pass went over already needs nothing more: the tool came from above.
    """
    cuts: list[tuple[float, BaseGeometry]] = []
    for z, lines in level.items():
        centre = MultiLineString(lines)
        cuts += [(z + height, _widened(centre, radius)) for radius, height in _rings(profile)]
    found, done = [], None
    for z, area in sorted(cuts, key=lambda cut: cut[0]):
        rest = area if done is None else area.difference(done)
        if z < high and rest.area > SAG**2:
            # the whole area and not the rest: walls that lie on one another would leave slivers between
            found.append(prism_mass(area, z, high))
        done = area if done is None else shapely.union_all([done, area])
    return found


def _rings(profile: Profile) -> list[tuple[float, float]]:
    """(radius, height) of the slices that stand for a tool swept sideways, each as wide as the tool is halfway up."""
    found = []
    for (r0, h0), (r1, h1) in pairwise(profile):
        count = SLICES if h1 - h0 > SAME and len(profile) == 2 else 1
        for k in range(count):
            low, high = k / count, (k + 1) / count
            share = (low + high) / 2
            found.append((r0 + (r1 - r0) * share if h1 - h0 > SAME else r1, h0 + (h1 - h0) * low))
    found.append((profile[-1][0], profile[-1][1]))
    return [(r, h) for r, h in found if r > SAG]


def _widened(centre: BaseGeometry, radius: float) -> BaseGeometry:
    return centre.buffer(radius, quad_segs=segments(radius) // 4)


def _revolved(profile: Profile, z: float, high: float) -> Profile:
    raised = [(r, z + h) for r, h in profile if z + h < high]
    widest = raised[-1][0] if raised else 0.0
    return [*raised, (widest, high), (0.0, high)]


def _head(a: Vec, b: Vec, profile: Profile) -> Mass:
    """A convex head swept along a straight line."""
    return hull_mass([p for end in (a, b) for p in _rings_at(end, profile)])


def _hull(a: Vec, b: Vec, profile: Profile, high: float) -> Mass:
    """A tool is convex: swept along a straight line it fills the hull of its two ends. Up to the higher end only."""
    points: list[Vec] = []
    for end in (a, b):
        points += _rings_at(end, [*profile, (profile[-1][0], max(high - end[2], profile[-1][1]))])
    return hull_mass(points)


def _rings_at(end: Vec, profile: Profile) -> list[Vec]:
    """A tool's outline turned about its axis, as points."""
    x, y, z = end
    count = segments(max(radius for radius, _ in profile))
    return [
        (x + radius * cos(2 * pi * k / ring), y + radius * sin(2 * pi * k / ring), z + height)
        for radius, height in profile
        for ring in (count if radius > 0 else 1,)
        for k in range(ring)
    ]
