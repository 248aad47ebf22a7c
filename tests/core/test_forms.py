"""T-slots and dovetails are milled from an open end; the solids come out right."""

from __future__ import annotations

from math import radians, tan

import pytest

from lean_ledger.core.features import Slot
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import Body, block, prism
from lean_ledger.core.operations.milling.forms import form_path
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part.model import Part
from lean_ledger.core.timing.motion import time_strokes
from lean_ledger.library import shipped_library
from tests.conftest import built, quick_ledger

BLOCK = block((0, 0, 0), (80, 60, 30))
UP = (0.0, 0.0, 1.0)


def t_slot(from_x: float = -1.0) -> Body:
    """Mouth 10, 18 deep; below it 19 wide and 8 high."""
    return BLOCK - block((from_x, 25, 20), (81, 35, 31)) - block((from_x, 20.5, 12), (81, 39.5, 20))


def dovetail(height: float = 6.0, floor: float = 22.0) -> Body:
    """Along Y, its walls at 60° to the floor."""
    lean = height / tan(radians(60))
    low, high = 40 - floor / 2, 40 + floor / 2
    outline = [(low, 40), (high, 40), (high - lean, 40 + height), (low + lean, 40 + height)]
    return BLOCK - prism(outline, 0, 100).turned((1, 0, 0), 90).moved((0, 61, -10 - height))


def slot_of(part: Part) -> Slot:
    return next(f for f in part.features if isinstance(f, Slot))


def test_measures_of_the_undercut() -> None:
    slot = slot_of(built(t_slot()))
    assert slot.form is not None
    assert (slot.form.width, slot.form.height, slot.form.flank) == (19, 8, 90)
    assert len(slot.form.mouth_open) == 2
    assert slot.form_access == (UP,)
    tail = slot_of(built(dovetail()))
    assert tail.form is not None
    assert (tail.form.width, tail.form.height) == (22, 6)
    assert tail.form.flank == pytest.approx(60)
    assert tail.width == pytest.approx(22 - 2 * 6 / tan(radians(60)), abs=1e-5)


@pytest.mark.parametrize(("body", "kind", "tool"), [
    (t_slot(), K.T_SLOT, "TS18"),
    (dovetail(), K.DOVETAIL, "DV20_60"),
])  # fmt: skip
def test_it_is_made_after_its_mouth_and_the_part_comes_out(body: Body, kind: K, tool: str) -> None:
    part = built(body)
    ledger = quick_ledger(part)
    ops = [op for op in ledger.operations if op.chain == "G1"]
    assert ops[-1].kind == kind
    assert ops[-1].tool.id == tool
    assert ops[0].kind == K.ROUGH_POCKET
    assert not [f for f in ledger.findings if f.features == ("G1",)]
    result = followed(course_of(part, ledger))
    assert not result.remainders
    assert not result.collisions
    removed = next(s.removed for s in result.steps if s.operation == ops[-1].id)
    wings = (19 - 10) * 8 * 80 if kind == K.T_SLOT else 6 * 6 / tan(radians(60)) * 60
    assert removed == pytest.approx(wings, rel=0.1)  # and the stock beside the part's ends


def test_closed_end_is_entered_and_left_at_the_open_one() -> None:
    part = built(t_slot(from_x=20))
    ledger = quick_ledger(part)
    op = next(op for op in ledger.operations if op.kind == K.T_SLOT)
    cuts = [s.points for s in op.motion.strokes if not s.is_rapid]
    assert cuts[0][0][0] > 80 + 2 + 9  # beside the stock
    assert cuts[-1][-1][0] > 80 + 2 + 9
    assert min(p[0] for points in cuts for p in points) == pytest.approx(20 + 9)
    assert not followed(course_of(part, ledger)).collisions


def test_a_slot_that_no_mill_fits_is_told_with_what_would() -> None:
    body = BLOCK - block((-1, 27, 20), (81, 33, 31)) - block((-1, 20, 14), (81, 40, 20))
    ledger = quick_ledger(built(body))
    finding = next(f for f in ledger.findings if f.code == "no-form-mill")
    assert "mouth of 6" in finding.why
    assert finding.wanted == "T-slot mill, at most Ø20, head 6"


def test_path_and_its_time() -> None:
    """In along one side, over, back along the other: 100 + 1 + 100 at 500 mm/min are 24.12 s."""
    motion = form_path((110.0, 0.0), (10.0, 0.0), 0.5, (-8.0,), 500.0, 5.0, runs_out=True)
    cuts = [s.points for s in motion.strokes if not s.is_rapid]
    assert cuts == [((110, 0.5, -8), (10, 0.5, -8)), ((10, 0.5, -8), (10, -0.5, -8), (110, -0.5, -8))]
    time = time_strokes(motion.strokes, shipped_library().machines[0])
    assert time.cut == pytest.approx(201 / 500 * 60, abs=0.02)
