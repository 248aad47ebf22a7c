"""Rules for how features are made: read, refused, chosen by what holds and by the tools that are there."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lean_ledger.core.chain_file import FORMAT, chains_json, read_chains, read_rules, rule_row
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.errors import PlanError, ProblemError
from lean_ledger.core.geometry.solids import block, rod, rounded_block
from lean_ledger.core.ledger import Ledger, evaluate
from lean_ledger.core.operations.model import OperationKind as K
from lean_ledger.core.part import Part
from lean_ledger.core.plan import Said
from lean_ledger.library import shipped_library
from lean_ledger.library.chains import ChainRule, Facts, holds
from lean_ledger.library.types import Library, ToolKind
from tests.conftest import built, quick

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
    ({"diameter_to": -3}, "rule 1 (straight-in), diameter_to", "above 0"),
    ({"diameter_to": "wide"}, "rule 1 (straight-in), diameter_to", "above 0"),
    ({"diameter_from": 8, "diameter_to": 4}, "rule 1 (straight-in), diameter_from", "never holds"),
    ({"corner_to": 2}, "rule 1 (straight-in), corner_to", "no condition on a hole"),
    ({"threaded": "no"}, "rule 1 (straight-in), threaded", "true or false"),
    ({"colour": 1}, "rule 1, colour", "no condition"),
    ({"name": " "}, "rule 1, name", "every rule"),
    ({"id": "tapped"}, "rule 3, id", "second time"),
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
