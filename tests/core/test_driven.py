"""Driven tools of a lathe mill on face and diameter: what they leave is the part, whichever end stands free."""

from __future__ import annotations

from functools import cache

import pytest

from lean_ledger.core.followed.course import course_of, high_over
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import Body, block, revolved, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.kinds import OperationKind
from lean_ledger.core.part.model import Part
from lean_ledger.core.program.checked import checked_programs
from lean_ledger.core.program.trial import plan_until, result_of, trial_of
from lean_ledger.library import shipped_library
from tests.conftest import built
from tests.core.test_turning import on_lathe

LIB = shipped_library()
DRIVEN = next(m for m in LIB.machines if m.id == "lathe-driven")
ROD = revolved([(0, 0), (20, 0), (20, 50), (0, 50)])  # Ø40, 50 long

CUT: dict[str, Body] = {
    "a flat at one end": block((14, -25, 30), (25, 25, 51)),
    "a flat at the other end": block((14, -25, -1), (25, 25, 20)),
    "two flats": block((14, -25, 30), (25, 25, 51)) + block((-25, -25, 30), (-14, 25, 51)),
    "a pocket on the face": rounded_block((-8, -6, 44), (8, 6, 51), 3),
}


@cache
def made(name: str) -> tuple[Part, Ledger]:
    part = built(ROD - CUT[name])
    return part, evaluate(on_lathe(part, DRIVEN), part, LIB)


@pytest.mark.parametrize("name", ["two flats", "a pocket on the face"])
def test_driven_mill_leaves_the_part(name: str) -> None:
    part, ledger = made(name)
    assert {s.machine.id for s in ledger.loads} == {"lathe-driven"}
    milled = [op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET]
    assert len(milled) == (2 if name == "two flats" else 1)
    across = [s.built.stands.is_across(op.frame) for s in ledger.loads for op in milled if op.setup == s.decision.id]
    assert all(across) != (name == "a pocket on the face")
    outcome = followed(course_of(part, ledger))
    assert outcome.remainders == ()
    assert outcome.collisions == ()
    for one in checked_programs(ledger, part, "TEST"):
        assert one.troubles == ()
        assert abs(one.agreement.difference) < 0.01
        trial = trial_of(part, ledger, LIB, one.program.setup, one.program.text)
        course, _ = plan_until(part, ledger, one.program.setup)
        result = result_of(trial, followed(trial.course), followed(course))
        assert result.met == ()
        assert sum(result.removed) == pytest.approx(result.planned, rel=1e-3)


def test_flat_is_milled_while_its_end_stands_free() -> None:
    for name, up in (("a flat at one end", "Z+"), ("a flat at the other end", "Z-")):
        _, ledger = made(name)
        (op,) = (op for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET)
        assert ledger.load_of(op.setup).decision.up == up


def test_chuck_keeps_off_what_comes_across() -> None:
    """Flat from 30 on: the jaws end 1 below and the 8 that a mill and its holder need beside it, at 22 at the most."""
    _, ledger = made("a flat at one end")
    setup = ledger.load_of(next(op.setup for op in ledger.operations if op.kind == OperationKind.ROUGH_POCKET))
    assert setup.built.hold.jaw_top <= 22


def test_holder_that_comes_across_is_looked_at_as_high_as_the_chuck_is() -> None:
    part = built(ROD - rod((0, 0, 25), (1, 0, 0), 6, 30))
    ledger = evaluate(on_lathe(part, DRIVEN), part, LIB)
    op = next(op for op in ledger.operations if op.kind == OperationKind.DRILL)
    setup = ledger.load_of(op.setup)
    assert high_over(setup, op.way) > 100, "half of a chuck of 200"
    assert high_over(setup, setup.built.home) < 60
