"""Dividing a plan by hand and again: locks, splitting, merging, wishes, and the machines that could."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import pytest

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import Hole, Turned
from lean_ledger.core.geometry.solids import block, revolved, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Allowances, Plan
from lean_ledger.core.setups import assign_features
from lean_ledger.core.setups.machines import machines_for
from lean_ledger.core.setups.propose import divided
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick

LIB = shipped_library()


@pytest.fixture(scope="module")
def part() -> Part:
    """Through holes that both sides make, a blind hole above, a pocket below."""
    body = block((0, 0, 0), (80, 60, 30)) - rod((20, 20, 0), (0, 0, 1), 8, 30) - rod((60, 20, 0), (0, 0, 1), 10, 30)
    body = body - rod((40, 45, 18), (0, 0, 1), 12, 12) - block((25, 10, 0), (55, 35, 8))
    return built(body)


def made(plan: Plan, part: Part, **change: Any) -> Plan:
    return read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))[0]


def hole(part: Part, diameter: float) -> str:
    return next(f.id for f in part.features if isinstance(f, Hole) and f.diameter == diameter)


def codes(ledger: Ledger) -> list[str]:
    return [f.code for f in ledger.findings]


def test_split_makes_a_setup_of_chosen_features_and_merging_takes_it_back(part: Part) -> None:
    plan = quick(part)
    first = plan.setups[0].id
    through = hole(part, 8)
    split = made(plan, part, change="split-setup", setup=first, features=[through])
    assert [s.up for s in split.setups] == [plan.setups[0].up, plan.setups[0].up, plan.setups[1].up]
    new = split.setups[1].id
    given = assign_features(part, split)
    assert through in given[new]
    assert through not in given[first]
    assert "no-operation" not in codes(evaluate(split, part, LIB))
    merged = made(split, part, change="merge-setups", setup=new, into=first)
    assert assign_features(part, merged) == assign_features(part, plan)


def test_split_to_another_side_needs_that_side_to_reach(part: Part) -> None:
    plan = quick(part)
    through, blind = hole(part, 8), hole(part, 12)
    other = {"Z+": "Z-", "Z-": "Z+"}[plan.setups[0].up]
    moved = made(plan, part, change="split-setup", setup=plan.setups[0].id, features=[through], up=other)
    assert moved.setups[1].up == other
    owner = next(id for id, ids in assign_features(part, plan).items() if blind in ids)
    away = {"Z+": "Z-", "Z-": "Z+"}[plan.setup(owner).up]
    with pytest.raises(PlanError, match=f"{blind} cannot be made with {away} up"):
        made(plan, part, change="split-setup", setup=owner, features=[blind], up=away)


def test_merge_that_loses_a_feature_is_refused_and_names_it(part: Part) -> None:
    plan = quick(part)
    a, b = (s.id for s in plan.setups)
    with pytest.raises(PlanError, match="cannot be made with"):
        made(plan, part, change="merge-setups", setup=b, into=a)
    with pytest.raises(PlanError, match="merges into another one"):
        made(plan, part, change="merge-setups", setup=a, into=a)


def test_locked_setup_stays_and_the_rest_is_solved_around_it(part: Part) -> None:
    plan = quick(part)
    through, last = hole(part, 10), plan.setups[1].id
    plan = made(plan, part, change="move-feature", features=[through], setup=last)
    free = made(plan, part, change="divide-again")
    assert through in assign_features(part, free)[free.setups[0].id], "as much as possible goes first"
    locked = made(plan, part, change="lock-setup", setup=last, locked=True)
    again = made(locked, part, change="divide-again")
    assert [s.up for s in again.setups] == [s.up for s in plan.setups]
    assert through in assign_features(part, again)[last]


def test_features_asked_to_stay_together_move_as_one(part: Part) -> None:
    plan = quick(part)
    given = assign_features(part, plan)
    blind, second = hole(part, 12), plan.setups[1].id
    pocket = next(f.id for f in part.features if f.kind == "pocket")
    low = next(f for f in given[second] if part.by_id[f].kind in ("pocket", "hole"))
    through = hole(part, 8)
    plan = made(plan, part, change="keep-together", features=[through, low])
    finding = next(f for f in evaluate(plan, part, LIB).findings if f.code == "not-together")
    assert finding.cures[0].change == {"change": "divide-again"}
    plan = made(plan, part, change="divide-again")
    assert "not-together" not in codes(evaluate(plan, part, LIB))
    at = assign_features(part, plan)
    assert any({through, low} <= set(ids) for ids in at.values())
    # what no side reaches together is named, and stays a finding
    impossible = made(plan, part, change="keep-together", features=[blind, pocket])
    change = read_change({"change": "divide-again"})
    divided, words = change.apply(impossible, Scene(part, LIB, evaluate(impossible, part, LIB)))
    assert f"not to be had: {blind} and {pocket} in one setup" in words
    assert "not-together" in codes(evaluate(divided, part, LIB))
    free = made(divided, part, change="drop-wish", features=[blind, pocket])
    assert "not-together" not in codes(evaluate(free, part, LIB))


def test_feature_asked_to_come_first_does(part: Part) -> None:
    plan = quick(part)
    given = assign_features(part, plan)
    first, second = (s.id for s in plan.setups)
    early, late = given[first][-1], next(f for f in given[second] if part.by_id[f].kind in ("pocket", "hole"))
    blind = early if part.by_id[early].kind in ("pocket", "hole") else hole(part, 12)
    assert blind in given[first]
    plan = made(plan, part, change="come-first", first=late, then=blind)
    assert "comes-late" in codes(evaluate(plan, part, LIB))
    plan = made(plan, part, change="divide-again")
    assert "comes-late" not in codes(evaluate(plan, part, LIB))
    at = assign_features(part, plan)
    order = [next(k for k, s in enumerate(plan.setups) if f in at[s.id]) for f in (late, blind)]
    assert order == sorted(order)
    with pytest.raises(PlanError, match="already asked for before"):
        made(plan, part, change="come-first", first=blind, then=late)


def test_plan_serves_no_lathe_while_it_holds_in_vises(part: Part) -> None:
    with pytest.raises(PlanError, match="not round about an axis; choose a mill"):
        made(quick(part), part, change="set-machine", setup="S1", machine="lathe-320")


def test_machines_that_could_are_named_for_what_three_axes_do_not_reach() -> None:
    slanted = (sin(radians(30)), 0.0, cos(radians(30)))
    body = block((0, 0, 0), (60, 40, 40)) - rod((30 - 8, 20, 40 - 14), slanted, 6, 60)
    part = built(body)
    (found,) = [f for f in part.features if isinstance(f, Hole)]
    could = {m.axes for m in machines_for(part, found, LIB)}
    assert could == {"4-axis mill", "4-axis mill, spindle level", "5-axis mill"}
    finding = next(f for f in evaluate(quick(part), part, LIB).findings if f.features == (found.id,))
    named = "Mill 3, travel 762, rotary; Mill 4, tilting rotary table; Mill 5, spindle level, pallet 500"
    assert f"It could be made on: {named}." in finding.why


def test_turned_groove_is_for_a_lathe_and_a_cross_hole_not_for_one_without_driven_tools() -> None:
    profile = [(0, 0), (20, 0), (20, 15), (17, 15), (17, 19), (20, 19), (20, 50), (0, 50)]
    part = built(revolved(profile) - rod((0, -30, 35), (0, 1, 0), 6, 60))
    groove = next(f for f in part.features if isinstance(f, Turned) and f.where == "groove")
    assert [m.axes for m in machines_for(part, groove, LIB) if m.turns_work] == [
        "lathe", "lathe with driven tools", "lathe with 2 turrets", "lathe with a counter spindle",
        "lathe with 2 turrets, a counter spindle and driven tools", "bar automatic, 6 spindles",
    ]  # fmt: skip
    cross = next(f for f in part.features if isinstance(f, Hole))
    assert not {"lathe", "lathe with 2 turrets"} & {m.axes for m in machines_for(part, cross, LIB)}
    assert "lathe with driven tools" in {m.axes for m in machines_for(part, cross, LIB)}


def test_part_bought_to_size_with_a_hole_in_its_front_takes_one_setup() -> None:
    part = built(block((0, 0, 0), (90, 50, 22)) - rod((45, -1, 11), (0, 1, 0), 6.8, 19))
    found = divided(part, replace(quick(part), allowances=Allowances(0, 0, 0, 0, 0, 0)))
    assert [one.setup.up for one in found.clamped] == ["Y-"]


def test_locked_setup_without_features_costs_no_other_its_place(part: Part) -> None:
    plan = quick(part)
    added = made(plan, part, change="add-setup", up="X+")
    locked = made(added, part, change="lock-setup", setup="S3", locked=True)
    again = made(locked, part, change="divide-again")
    assert [(s.id, s.up) for s in again.setups] == [(s.id, s.up) for s in locked.setups]


def test_nothing_to_machine_keeps_what_is_locked() -> None:
    part = built(block((0, 0, 0), (90, 50, 22)))
    plan = replace(quick(part), allowances=Allowances(0, 0, 0, 0, 0, 0))
    assert len(divided(part, plan).clamped) == 1
    locked = plan.with_setup(replace(plan.setups[-1], locked=True))
    assert [one.setup.id for one in divided(part, locked).clamped] == [plan.setups[-1].id]


def test_locked_setup_whose_machine_has_lost_its_rotary_says_why_it_is_not_divided() -> None:
    """As the sonde carrier: indexed on a rotary, locked, then moved to a mill without one."""
    part = demo_part("sonde-carrier")
    plan = made(quick(part), part, change="move-to-machine", machine="mill-762-rotary")
    plan = made(plan, part, change="set-allowance", side="X-", value=30.0)
    plan = made(plan, part, change="divide-again")
    assert plan.setups[0].free is not None
    plan = made(plan, part, change="lock-setup", setup="S1", locked=True)
    for setup in plan.setups:
        plan = made(plan, part, change="set-machine", setup=setup.id, machine="mill-500")
    with pytest.raises(PlanError, match=r"setup S1 is locked and turns the part on a rotary; Mill 2.* has none"):
        divided(part, plan, LIB)
    with pytest.raises(PlanError) as refused:
        made(plan, part, change="divide-again")
    assert refused.value.code == "lost-rotary"
    unlocked = made(plan, part, change="lock-setup", setup="S1", locked=False)
    assert divided(part, unlocked, LIB).clamped
