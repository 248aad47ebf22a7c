"""What must not change: features under rotation, translation, units, face order and another export; and volumes."""

from __future__ import annotations

import random
from dataclasses import dataclass
from functools import cache
from math import cos, radians, sin
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepBuilderAPI import BRepBuilderAPI_NurbsConvert

from lean_ledger.core.features import Chamfer, Feature, Hole, OuterFace, recognise
from lean_ledger.core.features.describe import measures
from lean_ledger.core.geometry.model import Edge, Face, Loop, Mesh, Solid
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import (
    Body,
    at_level,
    block,
    countersunk,
    drilled,
    obround,
    revolved,
    rod,
    rounded_block,
    write_step,
)
from lean_ledger.core.geometry.step import read_solid
from lean_ledger.core.geometry.vectors import unit

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
LENGTH, WIDTH, HEIGHT, PITCH = 120.0, 80.0, 24.0, 40.0


@dataclass(frozen=True)
class Cut:
    """One recess in a cell of the block's grid: what it is, and two sizes in steps."""

    kind: str
    a: int
    b: int

    def body(self, x: float, y: float) -> Body:
        deep = 4.0 + 2 * self.b
        if self.kind == "blind hole":
            return drilled((x, y, HEIGHT), DOWN, 4 + self.a, deep)
        if self.kind == "through hole":
            return rod((x, y, 0), UP, 4 + self.a, HEIGHT)
        if self.kind == "counterbore":
            return rod((x, y, 0), UP, 5 + self.a, HEIGHT) + rod((x, y, HEIGHT - deep), UP, 12 + self.a, deep)
        if self.kind == "countersink":
            return countersunk((x, y, HEIGHT), DOWN, 5 + self.a, 13 + self.a, HEIGHT)
        if self.kind == "pocket":
            half = 8 + self.a
            return rounded_block((x - half, y - 10, HEIGHT - deep), (x + half, y + 10, HEIGHT), 3)
        if self.kind == "island":
            pocket = rounded_block((x - 14, y - 14, HEIGHT - deep), (x + 14, y + 14, HEIGHT), 4)
            return pocket - rod((x, y, HEIGHT - deep), UP, 6 + self.a, deep)
        return obround((x, y, HEIGHT), 20 + self.a, 6 + self.b, deep)


KINDS = ("blind hole", "through hole", "counterbore", "countersink", "pocket", "island", "obround")
CUTS = st.builds(Cut, st.sampled_from(KINDS), st.integers(0, 4), st.integers(0, 4))
PLATES = st.tuples(*[st.none() | CUTS] * 6)


@cache
def plate(cuts: tuple[Cut | None, ...], order: int = 0) -> Body:
    """A block with up to six cuts, made in an order that decides how the kernel numbers faces."""
    cells = [(20 + PITCH * (i % 3), 20 + PITCH * (i // 3)) for i in range(6)]
    work = [(cut, cell) for cut, cell in zip(cuts, cells, strict=True) if cut is not None]
    random.Random(order).shuffle(work)
    body = block((0, 0, 0), (LENGTH, WIDTH, HEIGHT))
    for cut, (x, y) in work:
        body = body - cut.body(x, y)
    return body


class Facts:
    """All of a part's features that does not depend on where it lies and how its faces are numbered."""

    def __init__(self, solid: Solid) -> None:
        found = recognise(solid)
        self.form = found.form
        rows = [(f.kind, len(f.access), tuple(m.label for m in measures(f)), self.numbers(f)) for f in found.features]
        self.rows = sorted(rows, key=lambda row: (*row[:3], [round(number) for number in row[3]]))

    @staticmethod
    def numbers(feature: Feature) -> tuple[float, ...]:
        return (*(m.value for m in measures(feature)), feature.volume)

    def __eq__(self, other: object) -> bool:
        assert isinstance(other, Facts)
        if self.form != other.form or [row[:3] for row in self.rows] != [row[:3] for row in other.rows]:
            return False
        pairs = [(a, b) for mine, theirs in zip(self.rows, other.rows, strict=True)
                 for a, b in zip(mine[3], theirs[3], strict=True)]  # fmt: skip
        return all(abs(a - b) <= max(0.01, 3e-3 * abs(a)) for a, b in pairs)  # areas of free forms are good to 2e-3

    def __repr__(self) -> str:
        return "\n".join(map(str, [self.form, *self.rows]))

    __hash__ = None  # type: ignore[assignment]


facts = Facts


def of_body(body: Body) -> Solid:
    return plain_solid(body.shape, "built")


#: A prismatic part with something of everything, and a turned one with milled cuts.
PRISM = plate((Cut("pocket", 2, 1), Cut("island", 1, 2), Cut("counterbore", 1, 0), Cut("countersink", 0, 1),
               Cut("obround", 2, 2), Cut("blind hole", 1, 3))).chamfered(1, at_level(0))  # fmt: skip
SHAFT = (
    revolved([(0, 0), (20, 0), (20, 10), (12, 10), (12, 12), (10, 12), (10, 15), (12, 15), (12, 40), (8, 50), (8, 60),
              (0, 60)])
    - drilled((0, 0, 60), DOWN, 5, 20) - rod((-20, 0, 30), (1, 0, 0), 5, 40) - block((-3, 8, 20), (3, 13, 28))
)  # fmt: skip
PARTS = {"prismatic": PRISM, "turned": SHAFT}

ANGLES = st.floats(-180, 180).map(lambda v: round(v, 1))
AXES = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda v: sum(c * c for c in v) > 0.1).map(unit)
SHIFTS = st.tuples(*[st.floats(-2000, 2000).map(lambda v: round(v, 2))] * 3)


@pytest.mark.parametrize("name", PARTS)
@settings(max_examples=4, deadline=None)
@given(AXES, ANGLES, SHIFTS)
def test_features_do_not_change_when_a_part_is_turned_and_moved(name, axis, angle, shift) -> None:  # type: ignore[no-untyped-def]
    assert facts(of_body(PARTS[name].turned(axis, angle).moved(shift))) == facts(of_body(PARTS[name]))


def test_border_of_a_tip_that_falls_on_two_roundings_is_one_circle() -> None:
    moved = SHAFT.turned((0.2858944723141677, 0.0, 0.9582611077885836), -124.6).moved((-1015.95, 1.5, 117.54))
    assert facts(of_body(moved)) == facts(of_body(SHAFT))


@pytest.mark.parametrize("name", PARTS)
@pytest.mark.parametrize("unit_name", ["MM", "CM", "M", "INCH"])
def test_features_do_not_change_with_the_unit_of_the_file(tmp_path: Path, name: str, unit_name: str) -> None:
    path = tmp_path / "part.step"
    write_step(PARTS[name], path, "part", unit_name)
    assert facts(read_solid(path, "part.step").solid) == facts(of_body(PARTS[name]))


@pytest.mark.parametrize("name", PARTS)
def test_features_do_not_change_when_everything_is_exported_as_free_forms(name: str) -> None:
    shape = BRepBuilderAPI_NurbsConvert(PARTS[name].shape, True).Shape()
    assert facts(plain_solid(shape, "free")) == facts(of_body(PARTS[name]))


@settings(max_examples=3, deadline=None)
@given(PLATES, st.integers(1, 5))
def test_features_do_not_change_with_the_order_in_which_a_part_was_built(cuts, order) -> None:  # type: ignore[no-untyped-def]
    assert facts(of_body(plate(cuts, order))) == facts(of_body(plate(cuts)))


@pytest.mark.parametrize("name", PARTS)
@settings(max_examples=3, deadline=None)
@given(st.integers(0, 10**6))
def test_features_and_their_ids_do_not_change_with_the_order_of_faces(name: str, seed: int) -> None:
    solid = of_body(PARTS[name])
    order = list(range(len(solid.faces)))
    random.Random(seed).shuffle(order)
    mixed = renumbered(solid, order)
    assert facts(mixed) == facts(solid)
    original = {f.id: sorted(f.faces) for f in recognise(solid).features}
    assert {f.id: sorted(order.index(i) for i in original[f.id]) for f in recognise(mixed).features} == {
        f.id: sorted(f.faces) for f in recognise(mixed).features
    }


def renumbered(solid: Solid, order: list[int]) -> Solid:
    """The same solid with face `order[i]` as its face i."""
    place = {old: new for new, old in enumerate(order)}

    def edge(e: Edge) -> Edge:
        return Edge(e.index, e.curve, e.points, e.length, e.bend, tuple(place[f] for f in e.faces), e.center, e.axis,
                    e.radius)  # fmt: skip

    def face(f: Face, index: int) -> Face:
        loops = tuple(Loop(loop.outer, loop.edges) for loop in f.loops)
        return Face(index, f.surface, f.area, f.origin, f.axis, loops, f.radius, f.major, f.half_angle, f.span,
                    f.inward)  # fmt: skip

    mesh = Mesh(solid.mesh.vertices, solid.mesh.triangles, tuple(place[f] for f in solid.mesh.faces))
    faces = tuple(face(solid.faces[old], new) for new, old in enumerate(order))
    return Solid(solid.name, solid.bounds, solid.volume, solid.area, faces, tuple(map(edge, solid.edges)), mesh)


@settings(max_examples=4, deadline=None)
@given(PLATES)
def test_part_and_what_was_taken_out_make_the_block(cuts) -> None:  # type: ignore[no-untyped-def]
    """The convex surroundings of a block with recesses are the block."""
    solid = of_body(plate(cuts))
    removed = sum(f.volume for f in recognise(solid).features if not isinstance(f, Chamfer))
    assert solid.volume + removed == pytest.approx(LENGTH * WIDTH * HEIGHT, rel=0.005)
    assert removed == pytest.approx(LENGTH * WIDTH * HEIGHT - solid.volume, rel=0.005, abs=1e-3)


@settings(max_examples=4, deadline=None)
@given(PLATES)
def test_each_cut_is_found_as_one_feature(cuts) -> None:  # type: ignore[no-untyped-def]
    found = recognise(of_body(plate(cuts))).features
    wanted = {"blind hole": "hole", "through hole": "hole", "counterbore": "hole", "countersink": "hole",
              "pocket": "pocket", "island": "pocket", "obround": "slot"}  # fmt: skip
    kinds = sorted(f.kind for f in found if not isinstance(f, OuterFace))
    assert kinds == sorted(wanted[cut.kind] for cut in cuts if cut is not None)
    islands = sum(cut is not None and cut.kind == "island" for cut in cuts)  # each has a top of its own
    assert sum(isinstance(f, OuterFace) for f in found) == 6 + islands


@pytest.mark.parametrize("angle", [0, 20, 45, 70])
def test_holes_on_slanted_faces_take_out_what_the_part_lacks(angle: float) -> None:
    body = block((-40, -40, -60), (40, 40, 0)).turned((0, 1, 0), angle)
    into = (-sin(radians(angle)), 0.0, -cos(radians(angle)))
    cut = body - drilled((0, 0, 0), into, 8, 20)
    hole = next(f for f in recognise(of_body(cut)).features if isinstance(f, Hole))
    assert of_body(cut).volume + hole.volume == pytest.approx(of_body(body).volume, rel=1e-6)
