"""Triangles of a part: closed, whatever the mesher leaves out at first."""

from __future__ import annotations

from dataclasses import replace

from lean_ledger.core.geometry.masses import mass_of_mesh
from lean_ledger.core.geometry.meshing import is_closed
from lean_ledger.core.geometry.model import Mesh
from lean_ledger.core.geometry.solids import block
from tests.cases.parts.drawn import drawn
from tests.conftest import built

CORNERS = ((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
TETRAHEDRON = Mesh(CORNERS, ((0, 2, 1), (0, 1, 3), (1, 2, 3), (0, 3, 2)), (0, 1, 2, 3))


def test_closed_is_where_each_edge_is_met_the_other_way_round() -> None:
    assert is_closed(TETRAHEDRON)
    assert not is_closed(replace(TETRAHEDRON, triangles=TETRAHEDRON.triangles[:3]))
    turned = (*TETRAHEDRON.triangles[:3], (0, 2, 3))
    assert not is_closed(replace(TETRAHEDRON, triangles=turned))


def test_vertices_of_each_face_are_met_where_they_lie_alike() -> None:
    mesh = built(block((0, 0, 0), (30, 20, 10))).model.solid.mesh
    assert len(mesh.vertices) == 24
    assert is_closed(mesh)


def test_where_the_mesher_leaves_a_gap_finer_triangles_close_it() -> None:
    mesh = built(drawn(855)).model.solid.mesh
    assert is_closed(mesh)
    assert mass_of_mesh(mesh).volume > 0
