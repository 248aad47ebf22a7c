"""Stock laid by the part's faces: what rests, what is at the fixed jaw, and which faces will not do."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.geometry.vectors import neg
from lean_ledger.core.holding.laying import flat_faces, lying, named, side_of, turn_with
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import DIRECTIONS, Plan
from lean_ledger.library import shipped_library
from tests.conftest import built, quick

LIB = shipped_library()
#: 60 × 40 × 20 with a pocket 8 deep and a round hole
PART = built(block((0, 0, 0), (60, 40, 20)) - block((10, 10, 12), (50, 30, 20)) - rod((30, 20, 0), (0, 0, 1), 5, 20))


def lay(plan: Plan, face: int, to: str, part: Part = PART) -> tuple[Plan, str]:
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    return read_change({"change": "lay-on-face", "setup": "S1", "face": face, "to": to}).apply(plan, scene)


def face_on(side: str) -> int:
    (found,) = flat_faces(PART, side)
    return found


def test_part_is_laid_on_a_face_and_keeps_the_one_at_the_jaw() -> None:
    plan, words = lay(quick(PART), face_on("X+"), "jaw")
    setup = plan.setups[0]
    assert setup.turn is not None
    assert lying(PART, setup, setup.turn).back_faces == flat_faces(PART, "X+")
    assert words == f"setup S1: {named(PART, face_on('X+'))} at the back, X+"
    turned, words = lay(plan, face_on("Y-"), "rest")
    setup = turned.setups[0]
    assert (setup.up, words) == ("Y+", f"setup S1: rests on {named(PART, face_on('Y-'))}, Y+ up")
    assert setup.turn is not None
    assert lying(PART, setup, setup.turn).back == "X+"
    # laid on the face that was at the jaw, the rule turns it
    assert lay(turned, face_on("X+"), "rest")[0].setups[0].turn is None


def test_faces_that_will_not_do_say_why_and_what_would() -> None:
    plan = quick(PART)
    faces = PART.model.solid.faces
    floor = next(f.index for f in faces if side_of(f) == "Z+" and f.index != face_on("Z+"))
    with pytest.raises(PlanError, match=r"lies 8\.0 inside: .* is outermost on Z\+"):
        lay(plan, floor, "rest")
    hole = next(f.index for f in faces if f.surface == "cylinder")
    with pytest.raises(PlanError, match="is not flat along X, Y or Z"):
        lay(plan, hole, "rest")
    with pytest.raises(PlanError, match="above or below as the part lies"):
        lay(plan, face_on("Z-"), "jaw")
    with pytest.raises(PlanError, match="there is no face 99"):
        lay(plan, 99, "rest")


@given(st.sampled_from(sorted(DIRECTIONS)), st.sampled_from(sorted(DIRECTIONS)))
def test_every_side_square_to_the_base_comes_to_the_back(up: str, side: str) -> None:
    setup = replace(quick(PART).setups[0], up=up)
    turn = turn_with(setup, side)
    if side[0] == up[0]:
        assert turn is None
    else:
        assert turn is not None
        how = lying(PART, setup, turn)
        assert how.back == side
        assert DIRECTIONS[how.base] == neg(DIRECTIONS[up])  # type: ignore[index]
