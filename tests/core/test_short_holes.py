"""Holes whose drill's holder would run into a wall beside them: said, and drilled from the other side."""

from __future__ import annotations

import pytest

from lean_ledger.core.basis.findings import Severity
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Hole
from lean_ledger.core.first.machine import begun
from lean_ledger.core.followed.findings import stock_findings, with_stock
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.operations.safe.short_holes import stays_in_hole
from lean_ledger.core.papers.plan_document import first_plan, followed_plan
from lean_ledger.library import shipped_library
from tests.conftest import built, quick_ledger, with_machines

LIB = shipped_library()
MILLS = with_machines("mill-762", "mill-500")


def beside_a_wall(through: bool = True) -> Body:
    """A ledge 26 high beside a wall of 50; in it a hole of Ø3.3, its axis 4 off the wall."""
    body = block((0, 0, 0), (90, 70, 50)) - block((-1, 30, 26), (91, 71, 51))
    return body - rod((45, 34, -1 if through else 6), (0, 0, 1), 3.3, 30)


def test_hole_that_the_drill_does_not_get_through_is_said_and_each_cure_mends_it() -> None:
    """Drill 3.3 stands 39 out of its holder: 24 of wall stand over the ledge, so it goes in about 17 of 26."""
    part = built(beside_a_wall())
    ledger = quick_ledger(part)
    (short,) = [f for f in ledger.findings if f.code == "hole-short"]
    assert short.severity == Severity.ERROR
    assert short.cures
    for cure in short.cures:
        plan, _ = read_change(cure.change).apply(ledger.plan, Scene(part, LIB, ledger))
        assert "hole-short" not in {f.code for f in evaluate(plan, part, LIB).findings}, cure.label
    found = followed_plan(part, ledger)
    assert isinstance(found.outcome, Followed)
    told = [f for f in found.ledger.findings if f.severity == Severity.ERROR]
    assert [f.code for f in told] == ["hole-short"], "what stays there is the same cause, and no second finding"
    # what stays may be left: then neither is said
    (leave,) = [cure for cure in told[0].cures if cure.change["change"] == "accept-rest"]
    left, _ = read_change(leave.change).apply(ledger.plan, Scene(part, LIB, found.ledger))
    again = with_stock(evaluate(left, part, LIB), part, found.outcome)
    assert [f for f in again.findings if f.severity == Severity.ERROR] == []
    hole = next(f for f in part.features if isinstance(f, Hole))
    stays = [f for f in stock_findings(part, ledger, found.outcome) if hole.id in f.features]
    assert [f.code for f in stays] == ["stock-left"]


@pytest.mark.parametrize("material", ["steel-c45"])
def test_new_plan_drills_it_from_the_other_side(material: str) -> None:
    part = built(beside_a_wall())
    best = begun(part, material, (10,), MILLS).best
    assert any(cure.startswith("Make H1 in ") for cure in best.cures)
    found = followed_plan(part, best.ledger)
    assert [f.title for f in found.ledger.findings if f.severity == Severity.ERROR] == []


def over_a_leg(*more: str) -> Body:
    """An angle 11 thick; in its wall of 61 a hole of Ø8 through, 8 over the leg that goes 95 out beside it. More: a
    blind hole in the leg's end, one in the wall from its other side.
    """
    body = block((0, 0, 0), (106, 58, 61)) - block((11, -1, 11), (107, 59, 62)) - rod((-1, 16, 19), (1, 0, 0), 8, 14)
    body = body - rod((92, 40, 5.5), (1, 0, 0), 5, 15) if "X+" in more else body
    return body - rod((-1, 40, 45), (1, 0, 0), 5, 7) if "X-" in more else body


@pytest.mark.parametrize(
    ("more", "change"), [((), "set-up"), (("X+",), "split-setup"), (("X+", "X-"), "move-feature")]
)  # fmt: skip
def test_hole_over_a_leg_is_drilled_from_the_wall_s_other_side(more: tuple[str, ...], change: str) -> None:
    """From the leg's side the drill's holder, Ø20 and more, is nearer to the leg than it is thick all of the way."""
    part = built(over_a_leg(*more))
    ledger = quick_ledger(part)
    plan, (hole,) = ledger.plan, [f.id for f in part.features if isinstance(f, Hole) and f.diameter == 8]
    if "X-" in more:  # as a planner could have it
        setup = next(s.id for s in plan.setups if s.up == "X+")
        move = {"change": "move-feature", "features": [hole], "setup": setup}
        ledger = evaluate(read_change(move).apply(plan, Scene(part, LIB, ledger))[0], part, LIB)
    (cut,) = [f for f in ledger.findings if f.code == "would-cut"]
    (cure,) = cut.cures
    assert cure.change["change"] == change
    assert cure.label == f"Make {hole} with X- up"
    plan, _ = read_change(cure.change).apply(ledger.plan, Scene(part, LIB, ledger))
    assert "would-cut" not in {f.code for f in evaluate(plan, part, LIB).findings}
    if not more:
        found = first_plan(part, "al-6082", (10,), LIB, ["mill-762"])
        assert [f.title for f in found.ledger.findings if f.severity == Severity.ERROR] == []
        assert isinstance(found.outcome, Followed)


def test_hole_over_a_leg_on_either_side_is_sent_to_neither() -> None:
    """A wall of 11 in the middle, legs of 95 on both sides."""
    body = block((0, 0, 0), (201, 58, 61)) - block((-1, -1, 11), (95, 59, 62)) - block((106, -1, 11), (202, 59, 62))
    ledger = quick_ledger(built(body - rod((94, 16, 19), (1, 0, 0), 8, 13)))
    (found,) = [f for f in ledger.findings if f.code == "would-cut"]
    assert found.cures == ()


def test_blind_hole_beside_a_wall_has_no_other_side() -> None:
    ledger = quick_ledger(built(beside_a_wall(through=False)))
    (short,) = [f for f in ledger.findings if f.code == "hole-short"]
    assert short.cures == ()


def test_guess_is_dropped_where_the_solids_show_nothing() -> None:
    part = built(block((0, 0, 0), (60, 40, 20)) - rod((30, 20, -1), (0, 0, 1), 6, 22))
    ledger = quick_ledger(part)
    outcome = followed_plan(part, ledger).outcome
    assert not [f for f in with_stock(ledger, part, outcome).findings if f.code == "hole-short"]


def test_what_stays_in_a_hole_by_hand() -> None:
    """A through hole is drilled 1 beyond: 0.9 less is open still, 1.2 less keeps 0.2; a blind one keeps all of it."""
    through, blind = built(beside_a_wall()), built(beside_a_wall(through=False))
    assert not stays_in_hole(through, ("H1",), 0, 0.9)
    assert stays_in_hole(through, ("H1",), 0, 1.2)
    assert stays_in_hole(through, ("H1",), 1, 0.0)
    assert stays_in_hole(blind, ("H1",), 0, 0.2)
    assert not stays_in_hole(blind, ("H1",), 0, 0.0)
