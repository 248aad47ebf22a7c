"""Work by hand: what the machine stands for, what goes on beside it, and what it is made to wait."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from functools import cache

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.changes.hand import keeping_hand
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.papers.sheet import hand_words
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import HandWork, Plan
from lean_ledger.library import shipped_library
from tests.conftest import demo_part, quick
from tests.values import in_setups

LIB = shipped_library()


@cache
def start() -> tuple[Part, Plan, Ledger]:
    part = demo_part("anemometer-arm-block")
    plan = quick(part, "pom-c")
    return part, plan, evaluate(plan, part, LIB)


def changed(plan: Plan, **change: object) -> Plan:
    part, _, ledger = start()
    return read_change(change).apply(plan, Scene(part, LIB, ledger))[0]


def worked(*works: tuple[float, bool]) -> Ledger:
    part, plan, _ = start()
    hand = tuple(HandWork(f"S1.hand-{i}", "deburr", Decimal(str(s)), during) for i, (s, during) in enumerate(works))
    return evaluate(plan.with_load(replace(plan.loads[0], hand=hand)), part, LIB)


def test_machine_stands_for_hand_work_and_waits_for_what_takes_longer_than_its_cycle() -> None:
    before = start()[2]
    cycle, load = before.loads[0].cycle, before.loads[0].load_seconds
    standing = worked((20, False)).loads[0]
    assert standing.seconds["hand work"] == 20
    assert standing.idle == pytest.approx(load + 20)
    assert standing.cycle == pytest.approx(cycle), "the cycle itself is as it was"
    beside = worked((cycle - 5, True)).loads[0]
    assert beside.idle == pytest.approx(load), "done while the machine runs, it costs no time"
    longer = worked((cycle, True), (30, True), (12, False)).loads[0]
    assert longer.seconds["waiting"] == pytest.approx(30)
    assert longer.idle == pytest.approx(load + 30 + 12)


def test_price_counts_the_standing_machine() -> None:
    before, after = start()[2], worked((36, False))
    setup = next(s for s in before.problem.setups if s.name == "S1")
    # 36 s are a hundredth of an hour of machine and man; overhead and margin come on top
    least = (setup.machine_rate + setup.labour_rate) / 100
    assert after.per_piece - before.per_piece == pytest.approx(36)
    assert after.prices[0].each - before.prices[0].each > least
    assert worked((5, True)).prices[0].each == before.prices[0].each


@given(st.lists(st.tuples(st.floats(0.5, 400), st.booleans()), max_size=4))
def test_seconds_by_category_are_the_piece(works: list[tuple[float, bool]]) -> None:
    rounded = [(round(s, 1), during) for s, during in works]
    setup = worked(*rounded).loads[0]
    assert sum(setup.seconds.values()) == pytest.approx(setup.cycle + setup.idle)
    beside = sum(s for s, during in rounded if during)
    assert setup.seconds["waiting"] == pytest.approx(max(0.0, beside - setup.cycle))


def test_work_is_added_edited_and_taken_out() -> None:
    plan = changed(start()[1], change="add-hand-work", setup="S1", kind="deburr")
    plan = changed(plan, change="add-hand-work", setup="S1", kind="inspect", during=True)
    assert [(w.id, w.seconds, w.during) for w in plan.loads[0].hand] == [
        ("S1.hand-1", 20, False), ("S1.hand-2", 30, True),
    ]  # fmt: skip
    plan = changed(plan, change="edit-hand-work", setup="S1", work="S1.hand-1", seconds=12.5, during=True)
    assert plan.loads[0].hand[0] == HandWork("S1.hand-1", "deburr", Decimal("12.5"), during=True)
    assert hand_words(plan.loads[0].hand[0]) == "By hand, each piece: deburr, 12.5 s, while the machine runs"
    plan = changed(plan, change="remove-hand-work", setup="S1", work="S1.hand-1")
    assert [w.kind for w in plan.loads[0].hand] == ["inspect"]
    with pytest.raises(PlanError, match="has no work S1"):
        changed(plan, change="edit-hand-work", setup="S1", work="S1.hand-1", seconds=5)
    with pytest.raises(PlanError, match="must be above 0"):
        changed(plan, change="edit-hand-work", setup="S1", work="S1.hand-2", seconds=0)
    with pytest.raises(PlanError, match="kind"):
        changed(plan, change="add-hand-work", setup="S1", kind="paint")


def test_work_stays_when_setups_are_divided_merged_or_moved() -> None:
    _, plan, _ = start()
    for setup in plan.setups:
        plan = changed(plan, change="add-hand-work", setup=setup.id, kind="deburr")

    def kinds(one: Plan) -> list[list[str]]:
        return [[w.kind for w in s.hand] for s in one.loads]

    assert kinds(plan) == [["deburr"], ["deburr"]]
    again = changed(plan, change="divide-again")
    assert [w for works in kinds(again) for w in works] == ["deburr", "deburr"]
    assert kinds(changed(plan, change="move-to-machine", machine="mill-500")) == [["deburr"], ["deburr"]]
    one = keeping_hand(plan, in_setups(plan, plan.clamped[0]))
    assert [(w.id, w.kind) for w in one.loads[0].hand] == [("S1.hand-1", "deburr"), ("S1.hand-2", "deburr")]
    split = changed(plan, change="split-setup", setup="S1", features=[start()[0].features[-1].id])
    assert [w for works in kinds(split) for w in works] == ["deburr", "deburr"], "split, nothing is done twice"
