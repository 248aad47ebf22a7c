"""Threads whose helix the model has: found on holes and studs, with their pitch, hand and length."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from math import cos, pi, sin

import pytest
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakePolygon
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.gp import gp_Pnt

from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Hole, Turned, recognise
from lean_ledger.core.features.describe import measures, title
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.model import PartModel
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, revolved, rod, write_step
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.part.model import Part, analyse
from lean_ledger.core.part.reading import read_analysed
from tests.conftest import built, quick
from tests.core.test_turning import LIB, on_lathe

#: M8 × 1.25: the groove of an inner thread from inside its bore out to the root, (radius, height in the pitch)
INNER = [(3.2, -0.55), (4.0, -0.08), (4.0, 0.08), (3.2, 0.55)]
#: and of an outer one from outside its stud in to the root
OUTER = [(4.1, -0.58), (3.4, -0.08), (3.4, 0.08), (4.1, 0.58)]
PITCH = 1.25


def helix(profile: list[tuple[float, float]], turns: int, start: float, hand: int = 1) -> Body:
    """The profile wound about Z from the height `start`: `hand` 1 for a right-handed thread, −1 for a left-handed."""
    steps = 16
    sections = BRepOffsetAPI_ThruSections(True, False)
    for i in range(turns * steps + 1):
        angle, rise = hand * 2 * pi * i / steps, start + PITCH * i / steps
        wire = BRepBuilderAPI_MakePolygon()
        for radius, height in profile:
            wire.Add(gp_Pnt(radius * cos(angle), radius * sin(angle), rise + height))
        wire.Close()
        sections.AddWire(wire.Wire())
    return Body(sections.Shape())


@pytest.fixture(scope="module")
def threaded_block(tmp_path_factory: pytest.TempPathFactory) -> Part:
    """Written as STEP and read as an upload is, with its drawings; the exact algorithm would take minutes."""
    path = tmp_path_factory.mktemp("threads") / "block.step"
    write_step(
        block((-10, -10, 0), (10, 10, 12)) - rod((0, 0, 0), (0, 0, 1), 6.647, 12) - helix(INNER, 6, 2), path, "b"
    )
    return read_analysed(path, path.name, 0)


def test_thread_in_a_hole_is_one_hole_with_its_thread(threaded_block: Part) -> None:
    part = threaded_block
    (hole,) = [f for f in part.features if isinstance(f, Hole)]
    assert hole.thread is not None
    assert (hole.thread.diameter, hole.thread.pitch, hole.thread.hand) == (8, pytest.approx(PITCH), "right")
    # six turns of 1.25 from z = 2, of which the wall keeps the groove's mouth: its half height is 0.46 at Ø6.647
    assert hole.thread.length == pytest.approx(6 * PITCH + 2 * 0.46, abs=0.2)
    assert hole.diameter == pytest.approx(6.647)
    assert hole.through
    assert len(hole.faces) > 4
    assert not [f for f in part.features if f.kind == "surface"]
    assert sorted(i for f in part.features for i in f.faces) == list(range(len(part.model.solid.faces)))
    assert title(hole).endswith(", threaded")
    assert {m.label: m.value for m in measures(hole)}["pitch"] == pytest.approx(PITCH)


def test_quick_plan_taps_what_is_modelled_as_a_thread(threaded_block: Part) -> None:
    (choice,) = quick(threaded_block).threads
    assert choice.thread == "M8"


@pytest.mark.parametrize(("hand", "word"), [(1, "right"), (-1, "left")])
def test_thread_on_a_stud_belongs_to_its_turned_wall(hand: int, word: str) -> None:
    stud = revolved([(0, 0), (10, 0), (10, 8), (4, 8), (4, 30), (0, 30)]) - helix(OUTER, 8, 15, hand)
    found = recognise(plain_solid(stud.shape, "stud"))
    (wall,) = [f for f in found.features if isinstance(f, Turned) and f.where == "outside" and f.diameter == 8]
    assert wall.thread is not None
    assert (wall.thread.diameter, wall.thread.pitch, wall.thread.hand) == (8, pytest.approx(PITCH), word)
    assert not [f for f in found.features if f.kind == "surface"]


def test_cosmetic_bore_has_no_thread() -> None:
    part = built(block((-10, -10, 0), (10, 10, 12)) - rod((0, 0, 0), (0, 0, 1), 6.647, 12))
    (hole,) = [f for f in part.features if isinstance(f, Hole)]
    assert hole.thread is None
    assert not quick(part).threads


def test_threads_at_both_ends_of_a_stud_are_two_with_their_own_length() -> None:
    body = revolved([(0, 0), (4, 0), (4, 20), (8, 20), (8, 30), (4, 30), (4, 55), (0, 55)])
    found = recognise(plain_solid((body - helix(OUTER, 6, 3) - helix(OUTER, 8, 40, -1)).shape, "stud"))
    walls = {f.length: f.thread for f in found.features if isinstance(f, Turned) and f.where == "outside"}
    lower, upper, collar = walls[20], walls[25], walls[10]
    assert lower is not None
    assert upper is not None
    # six and eight turns of 1.25, and the groove's mouth beyond either end
    assert (lower.length, upper.length) == (
        pytest.approx(6 * PITCH + 1, abs=0.3),
        pytest.approx(8 * PITCH + 1, abs=0.3),
    )
    assert (lower.hand, upper.hand) == ("right", "left")
    assert collar is None


def test_two_threads_on_one_wall_are_not_one_long_one() -> None:
    body = revolved([(0, 0), (4, 0), (4, 55), (0, 55)]) - helix(OUTER, 6, 3) - helix(OUTER, 8, 40)
    found = recognise(plain_solid(body.shape, "stud"))
    (wall,) = [f for f in found.features if isinstance(f, Turned) and f.where == "outside"]
    assert wall.thread is not None
    assert wall.thread.length < 12
    assert not [f for f in found.features if f.kind == "surface"]


# ---- turned on a lathe


@cache
def stud_part(hand: int = 1) -> Part:
    """Ø20 by 8, Ø8 by 52 with M8 over its free half."""
    plain = revolved([(0, 0), (10, 0), (10, 40), (4, 40), (4, 60), (0, 60)])
    shape = (plain - helix(OUTER, 4, 52, hand)).shape
    return analyse(PartModel("stud.step", "mm", 1, 0, plain_solid(shape, "stud"), ()))


def test_thread_that_the_model_has_is_named_and_turned_as_far_as_it_goes() -> None:
    part = stud_part()
    (wall,) = [f for f in part.features if isinstance(f, Turned) and f.thread is not None]
    plan = on_lathe(part)
    assert [(s.feature, s.thread) for s in plan.said] == [(wall.id, "M8")]
    ledger = evaluate(plan, part, LIB)
    kinds = [op.kind for op in ledger.operations if wall.id in op.features]
    assert kinds == [OperationKind.ROUGH_TURN, OperationKind.FINISH_TURN, OperationKind.THREAD_TURN]
    op = next(op for op in ledger.operations if op.kind == OperationKind.THREAD_TURN)
    assert op.motion.lead == 1.25
    (end,) = {round(s.points[-1][2], 3) for s in op.motion.strokes if not s.is_rapid}
    # the helix begins 2 below the end and is longer than what is left: it ends where the model's does
    assert end == pytest.approx(60 - wall.thread.length, abs=0.01)  # type: ignore[union-attr]
    # the helix that the stock does not show is no stock that is left on
    outcome = followed(course_of(part, ledger))
    assert outcome.remainders != ()
    assert [f.code for f in stock_findings(part, ledger, outcome) if wall.id in f.features] == []


def test_thread_without_a_name_or_a_left_handed_one_is_said() -> None:
    part = stud_part()
    plan = on_lathe(part)
    wall = plan.said[0].feature
    bare = evaluate(replace(plan, said=()), part, LIB)
    (finding,) = [f for f in bare.findings if f.code == "thread-not-named"]
    assert finding.features == (wall,)
    assert "Ø8 with a pitch of 1.25" in finding.why
    change, _ = read_change(finding.cures[0].change).apply(bare.plan, Scene(part, LIB, bare))
    assert "thread-not-named" not in {f.code for f in evaluate(change, part, LIB).findings}
    left = stud_part(-1)
    there = evaluate(on_lathe(left), left, LIB)
    assert "left-hand" in {f.code for f in there.findings}
    assert OperationKind.THREAD_TURN not in {op.kind for op in there.operations}
