"""First plans of made-up parts that would once have cut into something, judged by solids."""

from __future__ import annotations

import pytest

from lean_ledger.core.followed.findings import stock_findings
from lean_ledger.core.followed.in_process import Followed
from lean_ledger.core.geometry.solids import Body, block, rod
from lean_ledger.core.papers.plan_document import FirstPlan, first_plan, plan_document
from lean_ledger.core.part.model import Part
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.cases.parts.named import NAMED
from tests.conftest import built

LIB = shipped_library()


def planned(body: Body, material: str = "al-6082") -> tuple[Part, FirstPlan]:
    part = built(body)
    return part, first_plan(part, material, (10,), LIB)


def harm(part: Part, found: FirstPlan) -> list[str]:
    assert isinstance(found.outcome, Followed)
    return [f.title for f in stock_findings(part, found.ledger, found.outcome) if f.code != "stock-left"]


@pytest.mark.parametrize("material", ["al-6082", "steel-c45"])
def test_far_eye_of_a_fork_is_drilled_with_the_near_one(material: str) -> None:
    part, found = planned(NAMED["fork"](), material)
    assert harm(part, found) == []
    drilled = [op for op in found.ledger.operations if op.kind == "drill"]
    assert [len(op.features) for op in drilled] == [2]
    # 40 over both ears and the gap, the tip of 140° and 1 beyond: 40 + 6 / tan 70° + 1
    assert drilled[0].depth == pytest.approx(40 + 6 / 2.7475 + 1, abs=0.01)
    assert "in line over 40" in drilled[0].name


def test_two_eyes_of_other_sizes_are_not_one_hole() -> None:
    body = block((0, 0, 0), (60, 40, 50)) - block((-1, 12, 18), (61, 28, 51))
    _, found = planned(body - rod((30, -1, 36), (0, 1, 0), 14, 20) - rod((30, 20, 36), (0, 1, 0), 8, 30))
    assert all(len(op.features) == 1 for op in found.ledger.operations if op.kind == "drill")


def test_document_says_what_the_solids_say() -> None:
    part, found = planned(NAMED["link-plate"]())
    document = plan_document(part, found)
    assert document["part"]["volume"] == pytest.approx(part.model.solid.volume)
    assert [row["id"] for row in document["setups"]] == [load.decision.id for load in found.ledger.loads]
    assert isinstance(found.outcome, Followed)
    into = sum(r.volume for r in found.outcome.remainders if r.cut_into)
    assert document["into"]["volume"] == pytest.approx(into)


def test_the_same_seed_draws_the_same_part() -> None:
    for seed in (1, 2, 5):
        assert built(drawn(seed)).model.solid.volume == built(drawn(seed)).model.solid.volume
    assert len(NAMED) >= 27


def test_hole_under_standing_stock_is_drilled_from_the_top_of_it() -> None:
    # nothing cuts the stock over the ledge down: the rotary of the shop is not on this mill
    part, found = planned(NAMED["shaft-with-flats"]())
    assert harm(part, found) == []
    (cross,) = [op for op in found.ledger.operations if op.kind == "drill"]
    entry = cross.frame.point(next(f.position for f in part.features if f.id in cross.features))[2]  # type: ignore[union-attr]
    feed = [p[2] for s in cross.motion.strokes if not s.is_rapid for p in s.points]
    assert max(feed) > entry + 5, "it is fed down through what stands there"
