"""Rules for how features are made: read, refused, chosen by what holds and by the tools that are there."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError, ProblemError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.files.chain_file import FORMAT, chains_json, read_chains, read_rules, rule_row
from lean_ledger.core.followed.course import course_of
from lean_ledger.core.followed.in_process import followed
from lean_ledger.core.geometry.solids import block, revolved, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.ledger.model import Ledger
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import Said
from lean_ledger.library import shipped_library
from lean_ledger.library.chains import ChainRule, Facts, holds
from lean_ledger.library.types import Library, ToolKind
from tests.conftest import built, quick
from tests.core.test_turning import on_lathe

LIB = shipped_library()
UP = (0.0, 0.0, 1.0)


@pytest.fixture(scope="module")
def plate() -> Part:
    """Four holes of Ø10 through 12, and a pocket 30 × 20 with corners R4, 6 deep."""
    body = block((0, 0, 0), (100, 60, 12)) - rounded_block((35, 20, 6), (65, 40, 12), 4)
    for x in (10, 90):
        for y in (10, 50):
            body = body - rod((x, y, 0), UP, 10, 12)
    return built(body)


def with_rules(*rows: dict[str, Any]) -> Library:
    """Rules in front of those that ship."""
    return replace(LIB, chains=read_rules([*rows, *(rule_row(rule) for rule in LIB.chains)]))


def chain_of(ledger: Ledger, feature: str) -> list[K]:
    return [op.kind for op in ledger.operations if feature in op.features]


DRILLED = {"id": "straight-in", "name": "Straight in", "of": "hole", "threaded": False, "steps": ["drill", "widen"]}


def test_shipped_rules_go_out_and_come_back() -> None:
    assert read_chains(chains_json(LIB.chains)) == LIB.chains
    assert len({rule.id for rule in LIB.chains}) == len(LIB.chains) >= 8


def test_conditions_in_words() -> None:
    rule = ChainRule("x", "X", "hole", ("drill",), threaded=False, through=True, diameter_to=6, deep_from=5,
                     materials=("pom-c",))  # fmt: skip
    assert rule.conditions == (
        "without a thread", "through", "Ø6 at most", "5 × Ø deep or more", "in pom-c",
    )  # fmt: skip


@pytest.mark.parametrize(("rule", "facts", "expected"), [
    ({"diameter_to": 10}, Facts("hole", "pom-c", 10, 12), True),
    ({"diameter_to": 9.9}, Facts("hole", "pom-c", 10, 12), False),
    ({"deep_from": 3}, Facts("hole", "pom-c", 4, 12), True),  # 12 are 3 × 4
    ({"deep_from": 3}, Facts("hole", "pom-c", 4.1, 12), False),
    ({"tolerance_to": 0.02}, Facts("hole", "pom-c", 10, 12), False),  # none was said
    ({"tolerance_to": 0.02}, Facts("hole", "pom-c", 10, 12, tolerance=0.015), True),
    ({"finish_from": 12.5}, Facts("hole", "pom-c", 10, 12, finish=6.3), False),
    ({"materials": ("al-6082",)}, Facts("hole", "pom-c", 10, 12), False),
    ({"threaded": True}, Facts("hole", "pom-c", 10, 12), False),
    ({}, Facts("recess", "pom-c"), False),
])  # fmt: skip
def test_when_a_rule_holds(rule: dict[str, Any], facts: Facts, expected: bool) -> None:
    assert holds(ChainRule("x", "X", "hole", ("drill",), **rule), facts) == expected


@given(low=st.floats(0.5, 40), high=st.floats(0.5, 40), diameter=st.floats(0.5, 40))
def test_limits_are_included(low: float, high: float, diameter: float) -> None:
    rule = ChainRule("x", "X", "hole", ("drill",), diameter_from=low, diameter_to=high)
    assert holds(rule, Facts("hole", "pom-c", diameter, 10)) == (low - 1e-9 <= diameter <= high + 1e-9)


@pytest.mark.parametrize(("change", "place", "words"), [
    ({"steps": ["drill", "spot"]}, "rule 1 (straight-in), steps", "spot, drill"),
    ({"steps": ["spot"]}, "rule 1 (straight-in), steps", "opened by either"),
    ({"steps": ["drill", "tap", "mill thread"]}, "rule 1 (straight-in), steps", "only one"),
    ({"steps": ["drill", "paint"]}, "rule 1 (straight-in), steps", "no step of a hole"),
    ({"steps": []}, "rule 1 (straight-in), steps", "at least one"),
    ({"of": "keyhole"}, "rule 1 (straight-in), of", "hole or recess"),
    ({"diameter_to": -3}, "rule 1 (straight-in), diameter_to", "from 0.001 to 100000"),
    ({"diameter_to": "wide"}, "rule 1 (straight-in), diameter_to", "from 0.001 to 100000"),
    ({"diameter_from": 8, "diameter_to": 4}, "rule 1 (straight-in), diameter_from", "never holds"),
    ({"corner_to": 2}, "rule 1 (straight-in), corner_to", "no condition on a hole"),
    ({"threaded": "no"}, "rule 1 (straight-in), threaded", "true or false"),
    ({"colour": 1}, "rule 1, colour", "no condition"),
    ({"name": " "}, "rule 1, name", "every rule"),
    ({"id": "tapped"}, "rule 5, id", "second time"),
])  # fmt: skip
def test_what_is_refused_names_the_rule_and_the_field(change: dict[str, Any], place: str, words: str) -> None:
    with pytest.raises(ProblemError) as error:
        with_rules({**DRILLED, **change})
    assert error.value.place == place
    assert words in error.value.message


def test_some_rule_has_to_take_every_feature() -> None:
    rows = [rule_row(rule) for rule in LIB.chains if rule.of == "hole" and rule.threaded]
    with pytest.raises(ProblemError, match="hole without a thread"):
        read_rules(rows)
    with pytest.raises(ProblemError, match="list of at least one"):
        read_chains(json.dumps({"format": FORMAT, "rules": []}))
    with pytest.raises(ProblemError, match="this reads"):
        read_chains("{}")


def test_a_rule_in_front_changes_every_plan(plate: Part) -> None:
    assert chain_of(evaluate(quick(plate), plate, LIB), "H1") == [K.SPOT, K.DRILL]
    own = evaluate(quick(plate), plate, with_rules(DRILLED))
    assert chain_of(own, "H1") == [K.DRILL]
    assert next(op for op in own.operations if op.kind == K.DRILL).rule == "straight-in"
    shallow = evaluate(quick(plate), plate, with_rules({**DRILLED, "deep_to": 1}))  # 12 deep are 1.2 × 10
    assert chain_of(shallow, "H1") == [K.SPOT, K.DRILL]


def test_what_has_no_tool_is_passed_over(plate: Part) -> None:
    without = replace(LIB, tools=tuple(t for t in LIB.tools if t.kind != ToolKind.DRILL))
    assert chain_of(evaluate(quick(plate), plate, without), "H1") == [K.MILL_BORE, K.FINISH_WALL]


def test_coarse_finish_is_roughed_to_size(plate: Part) -> None:
    plan = quick(plate)
    assert chain_of(evaluate(plan, plate, LIB), "P1") == [K.ROUGH_POCKET, K.FINISH_FLOOR, K.FINISH_WALL]
    coarse = evaluate(replace(plan, said=(Said("P1", finish=12.5),)), plate, LIB)
    assert chain_of(coarse, "P1") == [K.ROUGH_POCKET]
    rough = next(op for op in coarse.operations if op.features == ("P1",))
    assert rough.cutting.allowance == 0
    assert rough.tool.diameter <= 8  # it comes into the corners of R4 by itself
    assert coarse.per_piece < evaluate(plan, plate, LIB).per_piece


def test_one_feature_is_made_otherwise_and_all_alike_after_it(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)

    def made(features: list[str], rule: str | None, at: Ledger) -> tuple[Ledger, str]:
        change = read_change({"change": "make-as", "features": features, "rule": rule})
        plan, words = change.apply(at.plan, Scene(plate, LIB, at))
        return evaluate(plan, plate, LIB), words

    one, words = made(["H1"], "bored", ledger)
    assert words == "H1: mill the bore"
    assert chain_of(one, "H1") == [K.MILL_BORE, K.FINISH_WALL]
    assert chain_of(one, "H2") == [K.SPOT, K.DRILL]
    every, _ = made(["H2", "H3", "H4"], "bored", one)
    assert chain_of(every, "H3") == [K.MILL_BORE, K.FINISH_WALL]
    back, _ = made(["H1", "H2", "H3", "H4"], None, every)
    assert back.plan == ledger.plan


@pytest.mark.parametrize(("features", "rule", "code"), [
    (["H1"], "none-such", "no-such-rule"),
    (["H1"], "rough-only", "another-sort"),
    (["P1"], "drilled", "another-sort"),
    (["H9"], "drilled", "no-such-feature"),
])  # fmt: skip
def test_choices_that_are_refused(plate: Part, features: list[str], rule: str, code: str) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    change = read_change({"change": "make-as", "features": features, "rule": rule})
    with pytest.raises(PlanError) as error:
        change.apply(ledger.plan, Scene(plate, LIB, ledger))
    assert error.value.code == code


def test_choice_without_its_tool_or_its_rule_is_said_and_the_rules_choose(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    change = read_change({"change": "make-as", "features": ["H1"], "rule": "reamed"})
    plan = change.apply(ledger.plan, Scene(plate, LIB, ledger))[0]
    assert K.REAM in chain_of(evaluate(plan, plate, LIB), "H1")
    without = replace(LIB, tools=tuple(t for t in LIB.tools if t.kind != ToolKind.REAMER))
    there = evaluate(plan, plate, without)
    assert chain_of(there, "H1") == [K.SPOT, K.DRILL]
    assert "step ream" in next(f for f in there.findings if f.code == "rule-lacks-tool").why
    gone = replace(LIB, chains=tuple(rule for rule in LIB.chains if rule.id != "reamed"))
    assert any(f.code == "no-such-rule" for f in evaluate(plan, plate, gone).findings)


def test_chain_that_forgets_a_thread_is_an_error(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    threaded = replace(ledger.plan, said=(Said("H1", thread="M12"),))
    change = read_change({"change": "make-as", "features": ["H1"], "rule": "bored"})
    plan = change.apply(threaded, Scene(plate, LIB, ledger))[0]
    assert "M12" in next(f for f in evaluate(plan, plate, LIB).findings if f.code == "thread-not-made").title


# ---- outlines and what is turned


def around(ledger: Ledger) -> list[K]:
    return [op.kind for op in ledger.operations if op.chain in ("outline", "outside")]


def test_outline_is_finished_or_roughed_to_size_by_its_rule(plate: Part) -> None:
    """Ra 12.5 or coarser: what roughs it goes to size and into its corners by itself."""
    plan = quick(plate)
    fine = evaluate(plan, plate, LIB)
    assert set(around(fine)) == {K.ROUGH_OUTLINE, K.FINISH_OUTLINE}
    assert {op.rule for op in fine.operations if op.chain == "outline"} == {"outline-finished"}
    walls = next(op.features for op in fine.operations if op.chain == "outline")
    coarse = evaluate(replace(plan, said=(Said(walls[0], finish=12.5),)), plate, LIB)
    assert set(around(coarse)) == {K.ROUGH_OUTLINE}
    assert {op.cutting.allowance for op in coarse.operations if op.kind == K.ROUGH_OUTLINE} == {0.0}
    assert coarse.cycle < fine.cycle
    outcome = followed(course_of(plate, coarse))
    assert outcome.remainders == ()


def test_outline_is_made_otherwise_by_hand_and_not_by_a_rule_for_holes(plate: Part) -> None:
    ledger = evaluate(quick(plate), plate, LIB)
    walls = next(list(op.features) for op in ledger.operations if op.chain == "outline")
    change = read_change({"change": "make-as", "features": walls, "rule": "outline-roughed"})
    plan, _ = change.apply(ledger.plan, Scene(plate, LIB, ledger))
    assert set(around(evaluate(plan, plate, LIB))) == {K.ROUGH_OUTLINE}
    with pytest.raises(PlanError, match="another sort of feature"):
        read_change({"change": "make-as", "features": walls, "rule": "drilled"}).apply(
            ledger.plan, Scene(plate, LIB, ledger)
        )


def test_turned_outside_is_finished_or_turned_to_size() -> None:
    part = built(revolved([(0, 0), (20, 0), (20, 30), (12, 30), (12, 50), (0, 50)]))
    plan = on_lathe(part)
    fine = evaluate(plan, part, LIB)
    assert {op.rule for op in fine.operations if op.chain == "outside"} == {"turned-and-finished"}
    named = next(op.features for op in fine.operations if op.kind == K.FINISH_TURN)
    coarse = evaluate(replace(plan, said=tuple(Said(f, finish=25.0) for f in named)), part, LIB)
    first = [op for op in coarse.operations if op.setup == "S1"]
    assert K.FINISH_TURN not in {op.kind for op in first}
    rough = next(op for op in first if op.kind == K.ROUGH_TURN)
    assert (rough.rule, rough.cutting.allowance) == ("turned-to-size", 0.0)
    # a tolerance on one of them that no condition is about changes nothing; a rule on it does
    wide = replace(LIB, chains=read_rules([
        {"id": "loose", "name": "Loose", "of": "turned", "diameter_to": 50, "tolerance_to": 2, "steps": ["rough turn"]},
        *(rule_row(rule) for rule in LIB.chains),
    ]))  # fmt: skip
    toleranced = replace(plan, said=(Said(named[0], tolerance="±0.5"),))
    loose = evaluate(toleranced, part, wide)
    assert "loose" in {op.rule for op in loose.operations}
    assert "loose" not in {op.rule for op in evaluate(plan, part, wide).operations}


def test_file_that_says_nothing_of_a_sort_leaves_its_rules() -> None:
    """A file from before there were rules for outlines and turned features."""
    old = [rule_row(rule) for rule in LIB.chains if rule.of in ("hole", "recess")]
    rules = read_chains(json.dumps({"format": FORMAT, "rules": old}), LIB.chains)
    assert set(rules) == set(LIB.chains)
    with pytest.raises(ProblemError, match="no rule is for every outline"):
        read_rules(old)


@pytest.mark.parametrize(("row", "words"), [
    ({"of": "outline", "steps": ["finish outline"]}, "an outline is roughed first: rough outline"),
    ({"of": "turned", "steps": ["rough turn", "drill"]}, "'drill' is no step of a turned feature"),
    ({"of": "outline", "steps": ["rough outline"], "diameter_to": 9}, "is no condition on an outline"),
    ({"of": "turned", "steps": ["rough turn"], "corner_to": 9}, "is no condition on a turned feature"),
])  # fmt: skip
def test_rules_for_outlines_and_turning_are_refused_like_others(row: dict[str, Any], words: str) -> None:
    with pytest.raises(ProblemError, match=words):
        with_rules({"id": "x", "name": "X", **row})
