"""Plans beside one another, and the combinations that are made of one."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

import pytest

from lean_ledger.core.alternatives import grid as grids
from lean_ledger.core.alternatives.grid import Combination, change_of, grid
from lean_ledger.core.alternatives.side_by_side import compared
from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.setups.first_plan import quick_plan
from lean_ledger.library import shipped_library
from tests.conftest import built

LIB = shipped_library()
#: Two mills: enough for rows and columns of each kind.
SMALL = replace(LIB, machines=tuple(m for m in LIB.machines if m.id in ("mill-762", "mill-500")))


@pytest.fixture(scope="module")
def part() -> Part:
    return built(
        block((0, 0, 0), (60, 40, 16)) - rod((12, 12, 0), (0, 0, 1), 5, 16) - rod((48, 28, 0), (0, 0, 1), 8, 16)
    )


@pytest.fixture(scope="module")
def ledger(part: Part) -> Ledger:
    """All of one piece after the other: with several of them its order is not the best."""
    plan = quick_plan(part, "pom-c", (10, 200), SMALL)
    return evaluate(replace(plan, loads=tuple(replace(load, by="piece") for load in plan.loads)), part, SMALL)


@pytest.fixture(scope="module")
def combinations(part: Part, ledger: Ledger) -> tuple[Combination, ...]:
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(grids, "SEARCHED", 0.1)
        return grid(ledger, part, SMALL, "now").combinations


def test_figures_stand_in_rows_and_the_least_is_marked(part: Part, ledger: Ledger) -> None:
    """Another rate of the first load's machine changes its money and nothing else."""
    first = ledger.plan.loads[0]
    rate = ledger.loads[0].machine.rate
    dearer = replace(ledger.plan.with_load(replace(first, rate=rate + 36)), quantities=(10, 50))
    there = evaluate(dearer, part, SMALL)
    found = compared(["usual", "dearer"], [ledger, there])
    assert found.quantities == (10, 50, 200)
    rows = {row.name: row for row in found.rows}
    assert {row.name for row in found.rows if row.differs} == {"at 10", "at 50", "at 200"}
    assert rows["at 10"].best == (0,)
    assert rows["cycle"].best == (), "where all have the same none is better"
    # an hour of it costs 36 more: a cent a second of cycle and loading, and of setting up, with overhead and margin
    load = ledger.loads[0]
    usual, more = rows["at 200"].values
    problem = ledger.problem
    hours = load.setup_hours + Decimal(str((load.cycle + load.idle) * ledger.prices[1].started / 3600))
    assert more - usual == pytest.approx(  # type: ignore[operator]
        hours * 36 * (1 + problem.overhead) / (1 - problem.margin) / 200, abs=Decimal("0.011")
    )
    assert found.words == f"“usual” at every quantity up to {max(1000, 4 * 200)}"


def test_two_to_five_stand_beside_one_another(ledger: Ledger) -> None:
    with pytest.raises(PlanError, match="2 to 5 plans"):
        compared(["a"], [ledger])
    with pytest.raises(PlanError, match="6 were named"):
        compared(["a"] * 6, [ledger] * 6)


def test_each_combination_is_the_plan_that_its_changes_lead_to(
    part: Part, ledger: Ledger, combinations: tuple[Combination, ...]
) -> None:
    """Made again, change by change, from the plan as it stands; of each kind of row and column some."""
    assert combinations[0].changes == ()
    assert combinations[0].each == tuple(p.each for p in ledger.prices)
    assert {c.on for c in combinations} > {"now"}
    assert {c.pieces for c in combinations} == {"one", "some", "as many as go on"}
    assert {"as it is", "least cycle found"} == {c.order for c in combinations}
    for one in combinations[:: max(1, len(combinations) // 6)]:
        there = ledger
        for change in one.changes:
            plan, _ = change_of(change).apply(there.plan, Scene(part, SMALL, there))
            there = evaluate(plan, part, SMALL)
        assert one.each == tuple(p.each for p in there.prices)
        assert one.cycle == there.cycle
        assert one.counts == tuple(load.pieces for load in there.loads)
    assert len({c.name for c in combinations}) == len(combinations), "no two are called the same"


def test_least_cycle_is_less_and_full_tables_cost_more_to_set_up(combinations: tuple[Combination, ...]) -> None:
    by = {(c.on, c.stock, c.pieces, c.order): c for c in combinations}
    searched = [(c, by[(c.on, c.stock, c.pieces, "as it is")]) for c in combinations if c.order != "as it is"]
    assert searched
    assert all(c.cycle < before.cycle for c, before in searched)
    for (on, stock, pieces, order), full in by.items():
        if pieces == "as many as go on" and order == "as it is":
            one = by[(on, stock, "one", order)]
            assert sum(full.counts) > sum(one.counts)
            assert full.setup_hours > one.setup_hours


@pytest.mark.parametrize(
    "bad",
    [{"change": "begin-again"}, {"change": "begin-again", "machines": []}, {"change": "begin-again", "machines": [3]},
     {"change": "begin-again", "machines": ["a", "b", "c"]},
     {"change": "begin-again", "machines": ["a"], "on": 1},
     {"change": "nonsense"}, {}],
)  # fmt: skip
def test_recipe_that_is_none_is_refused(bad: dict[str, object]) -> None:
    with pytest.raises(PlanError):
        change_of(bad)
