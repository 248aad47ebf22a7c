"""No flat-ended tool cuts into the finished part: every cutting move tried against a height map of the part.

The map is of a part's own mesh, seen along the setup's up; a tool at a point may not go below the highest of it within
the tool's radius. Independent of how paths are made.
"""

from __future__ import annotations

import itertools
from functools import cache
from math import ceil

import numpy as np
import pytest
import shapely
from numpy.typing import NDArray

from lean_ledger.core.geometry.solids import block, rod, rounded_block
from lean_ledger.core.loads.load_ledger import LoadLedger
from lean_ledger.core.operations import OperationKind as K
from lean_ledger.core.operations.model import Operation
from lean_ledger.core.part.model import Part
from lean_ledger.library.types import ToolKind
from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.conftest import built, demo_part, quick_ledger

PITCH = 0.6
DEEPEST = 0.06  # mm: the mesh's own error and rounding

Floats = NDArray[np.float64]


class HeightMap:
    """Heights of a part over a grid, in setup coordinates; minus infinity where there is none."""

    def __init__(self, part: Part, setup: LoadLedger) -> None:
        frame = setup.built.hold.frame
        turn = np.array([frame.right, frame.back, frame.up])
        mesh = part.model.solid.mesh
        corners = (np.array(mesh.vertices) @ turn.T)[np.array(mesh.triangles)]
        normal = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
        up = normal[:, 2] > 1e-6
        corners, normal = corners[up], normal[up]
        flat = corners[:, :, :2]
        low, high = flat.min(axis=(0, 1)), flat.max(axis=(0, 1))
        self.origin = low + PITCH / 2
        self.shape = tuple(np.maximum(1, np.ceil((high - low) / PITCH).astype(int)))
        xs, ys = (self.origin[i] + PITCH * np.arange(self.shape[i]) for i in (0, 1))
        grid = np.array(np.meshgrid(xs, ys, indexing="ij")).reshape(2, -1).T
        tree = shapely.STRtree(shapely.polygons(flat))
        points, triangles = tree.query(shapely.points(grid), predicate="intersects")
        offset = np.einsum("ij,ij->i", normal, corners[:, 0])
        z = (offset[triangles] - (normal[triangles, :2] * grid[points]).sum(axis=1)) / normal[triangles, 2]
        self.heights: Floats = np.full(len(grid), -np.inf)
        np.maximum.at(self.heights, points, z)
        self.heights = self.heights.reshape(self.shape)
        self._under: dict[float, Floats] = {}

    def under(self, radius: float) -> tuple[Floats, int]:
        """The highest point within `radius` of each cell, on a grid grown by the radius; and by how many cells."""
        reach = ceil(radius / PITCH) + 1
        if radius not in self._under:
            grown = np.full(tuple(n + 2 * reach for n in self.shape), -np.inf)
            for i in range(-reach, reach + 1):
                for j in range(-reach, reach + 1):
                    if (i * i + j * j) * PITCH * PITCH <= radius * radius:
                        view = grown[reach + i : reach + i + self.shape[0], reach + j : reach + j + self.shape[1]]
                        np.maximum(view, self.heights, out=view)
            self._under[radius] = grown
        return self._under[radius], reach

    def deepest_cut(self, op: Operation) -> float:
        """How far the tool's end goes below the part's surface under it, at the worst place; 0 where nowhere."""
        # a cell further in than half a cell's diagonal is under the tool for certain
        under, reach = self.under(round(op.tool.diameter / 2 - 1.3 * PITCH, 3))
        worst = 0.0
        for stroke in op.motion.strokes:
            if stroke.is_rapid:
                continue
            points = _dense(np.array(stroke.points))
            cells = np.rint((points[:, :2] - self.origin) / PITCH).astype(int) + reach
            inside = ((cells >= 0) & (cells < under.shape)).all(axis=1)
            if inside.any():
                at = cells[inside]
                worst = max(worst, float((under[at[:, 0], at[:, 1]] - points[inside, 2]).max()))
        return worst

    def left_standing(self, operations: list[Operation]) -> float:
        """Share of the surface seen from above over which more than DEEPEST of material is left."""
        reach = ceil(40 / PITCH)
        size = tuple(n + 2 * reach for n in self.shape)
        lowest = np.full(self.shape, np.inf)
        for diameter in {op.tool.diameter for op in operations}:
            centres = np.full(size, np.inf)
            for op in operations:
                if op.tool.diameter != diameter:
                    continue
                for stroke in op.motion.strokes:
                    if not stroke.is_rapid:
                        points = _dense(np.array(stroke.points))
                        cells = np.rint((points[:, :2] - self.origin) / PITCH).astype(int) + reach
                        inside = ((cells >= 0) & (cells < size)).all(axis=1)
                        np.minimum.at(centres, tuple(cells[inside].T), points[inside, 2])
            wide = ceil(diameter / 2 / PITCH)
            for i in range(-wide, wide + 1):
                for j in range(-wide, wide + 1):
                    if (i * i + j * j) * PITCH * PITCH <= diameter * diameter / 4:
                        view = centres[reach + i : reach + i + self.shape[0], reach + j : reach + j + self.shape[1]]
                        np.minimum(lowest, view, out=lowest)
        seen = np.isfinite(self.heights)
        return float((lowest[seen] > self.heights[seen] + DEEPEST).mean())


def _dense(points: Floats) -> Floats:
    pieces = []
    for a, b in itertools.pairwise(points):
        count = max(1, ceil(float(np.linalg.norm(b - a)) / PITCH))
        pieces.append(a + (b - a) * np.linspace(0, 1, count + 1)[:, None])
    return np.concatenate(pieces) if pieces else points


def assert_no_gouge(part: Part) -> None:
    for setup in quick_ledger(part).loads:
        heights = HeightMap(part, setup)
        for op in setup.built.operations:
            if op.tool.kind in (ToolKind.END_MILL, ToolKind.FACE_MILL) and op.tool.diameter / 2 > 1.5 * PITCH:
                assert heights.deepest_cut(op) <= DEEPEST, (op.id, heights.deepest_cut(op))


@pytest.mark.parametrize(
    "name", ["sensor-base-plate", "mast-clamp-half", "gear-housing-lid", "louvre-bracket", "anemometer-arm-block"]
)
def test_demo_part_is_not_cut_into(name: str) -> None:
    assert_no_gouge(demo_part(name))


SHAPES = {
    "a corner cut away": block((0, 0, 0), (90, 60, 20)) - block((50, 25, 0), (90, 60, 20)),
    "a gap from one side": block((0, 0, 0), (90, 60, 20)) - block((30, 25, 0), (60, 60, 20)),
    "a raised middle": block((0, 0, 0), (90, 60, 30))
    - block((0, 0, 20), (30, 60, 30))
    - block((60, 0, 20), (90, 60, 30)),
    "a groove in its side": block((0, 0, 0), (90, 60, 30)) - block((0, 52, 10), (90, 60, 18)),
    "a recess open to one side": block((0, 0, 0), (90, 60, 30)) - block((50, 15, 18), (90, 45, 30)),
    "a round boss": block((0, 0, 0), (90, 60, 10)) + rod((45, 30, 10), (0, 0, 1), 30, 12),
    "a disc with a bore": rod((0, 0, 0), (0, 0, 1), 60, 15) - rod((0, 0, 0), (0, 0, 1), 20, 15),
    "a ring recess": block((0, 0, 0), (90, 90, 20))
    - (rod((45, 45, 12), (0, 0, 1), 70, 8) - rod((45, 45, 12), (0, 0, 1), 30, 8)),
    "crossing bores": block((0, 0, 0), (60, 40, 30))
    - rod((30, 0, 15), (0, 1, 0), 10, 40)
    - rod((0, 20, 15), (1, 0, 0), 10, 60),
    "a hole in a slot": block((0, 0, 0), (90, 40, 20))
    - block((0, 15, 12), (90, 25, 20))
    - rod((45, 20, 0), (0, 0, 1), 6, 20),
    "thin walls": block((0, 0, 0), (60, 40, 30)) - block((2, 2, 2), (58, 38, 30)),
    "a slanted end": block((0, 0, 0), (60, 40, 30))
    - block((0, 0, 0), (80, 60, 30)).turned((0, 1, 0), -20).moved((0, -10, 20)),
    "pockets on both sides": block((0, 0, 0), (80, 60, 30))
    - rounded_block((10, 10, 20), (70, 50, 30), 6)
    - rounded_block((10, 10, 0), (70, 50, 8), 6),
    "stairs": block((0, 0, 0), (80, 60, 30)) - block((0, 0, 20), (80, 20, 30)) - block((0, 0, 10), (80, 8, 30)),
    "three millimetres": block((0, 0, 0), (3, 3, 3)),
}  # fmt: skip


@cache
def shaped(shape: str) -> Part:
    return built(SHAPES[shape])


@pytest.mark.parametrize("shape", SHAPES)
def test_quick_plan_makes_all_of_a_part_with(shape: str) -> None:
    """Every feature made, held and within the machine: nothing but warnings."""
    ledger = quick_ledger(shaped(shape))
    assert [f.title for f in ledger.findings if f.severity == "error"] == []
    assert ledger.cycle > 10


@pytest.mark.parametrize("shape", [s for s in SHAPES if s != "three millimetres"])
def test_part_is_not_cut_into_with(shape: str) -> None:
    assert_no_gouge(shaped(shape))


def test_boss_in_a_ring_recess_is_not_drilled_away() -> None:
    part = shaped("a ring recess")
    assert [f.kind for f in part.features if f.kind in ("hole", "pocket")] == ["pocket"]
    for op in quick_ledger(part).operations:
        if op.kind in (K.ROUGH_POCKET, K.FINISH_WALL, K.FINISH_FLOOR):
            for stroke in op.motion.strokes:
                for x, y, z in stroke.points:
                    if not stroke.is_rapid and z < 20:
                        off_centre = ((x - 45) ** 2 + (y - 45) ** 2) ** 0.5
                        assert off_centre >= 15 + op.tool.diameter / 2 - 0.02, op.id


@pytest.mark.parametrize("name", ["lug-plate", "pocket-in-pocket", "knuckle", "step-beside-corner"])
def test_part_of_the_corpus_is_not_cut_into(name: str) -> None:
    assert_no_gouge(built(NAMED[name]()))


@pytest.mark.parametrize("seed", [7, 58])
def test_drawn_part_is_not_cut_into(seed: int) -> None:
    assert_no_gouge(built(drawn(seed)))


#: Drawn slanted or rounded on top: no flat tool finishes that in this slice.
NOT_FLAT = {"a slanted end"}


@pytest.mark.parametrize("name", ["sensor-base-plate", "mast-clamp-half", "gear-housing-lid", "anemometer-arm-block"])
def test_first_setup_leaves_nothing_standing_on_a_demo_part(name: str) -> None:
    assert_cleared(demo_part(name))


@pytest.mark.parametrize("shape", [s for s in SHAPES if s not in NOT_FLAT])
def test_first_setup_leaves_nothing_standing_with(shape: str) -> None:
    assert_cleared(shaped(shape))


def assert_cleared(part: Part) -> None:
    setup = quick_ledger(part).loads[0]
    # chamfers, drill tips and round inner corners are not flat: a few cells in a hundred
    assert HeightMap(part, setup).left_standing(list(setup.built.operations)) < 0.04


def test_a_cut_into_the_part_would_be_seen() -> None:
    """The map itself: a plan for the part with its boss taken off cuts the boss."""
    plain = built(block((0, 0, 0), (90, 60, 10)))
    with_boss = built(block((0, 0, 0), (90, 60, 10)) + rod((45, 30, 10), (0, 0, 1), 30, 4))
    setup = quick_ledger(plain).loads[0]
    face = setup.built.operations[0]
    assert HeightMap(with_boss, setup).deepest_cut(face) == pytest.approx(4, abs=0.1)
    assert HeightMap(plain, setup).deepest_cut(face) <= DEEPEST


def test_an_operation_left_out_would_be_seen() -> None:
    part = demo_part("sensor-base-plate")
    setup = quick_ledger(part).loads[0]
    without = [op for op in setup.built.operations if "P1" not in op.features]
    # the pocket is 3089 of 12 600 mm²
    assert HeightMap(part, setup).left_standing(without) > 0.2
