"""Two revisions of a part: what became of each feature and face, ids that last, decisions that stay."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lean_ledger.core.basis.errors import PlanError
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.features import recognise
from lean_ledger.core.geometry.plain import plain_solid
from lean_ledger.core.geometry.solids import Body, block, drilled, rod, rounded_block
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.core.part.lineage import follow
from lean_ledger.core.part.model import Part
from lean_ledger.core.plan import PairByHand, Plan
from lean_ledger.core.revisions import Became, Side, match, new_names, paired_by_hand
from lean_ledger.core.revisions.carried import decided_features, feature_of
from lean_ledger.core.revisions.renamed import next_letter
from lean_ledger.library import shipped_library
from tests.conftest import built, demo_part, quick

UP, DOWN = (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)
LIB = shipped_library()


def plate(
    length: float = 80, hole: float = 6, *, pocket: bool = True, blind: bool = True, groove: bool = False,
    shift: float = 0.0,
) -> Body:  # fmt: skip
    body = block((0, 0, 0), (length, 60, 20))
    if pocket:
        body = body - rounded_block((10, 10, 12), (40, 50, 20), 5)
    body = body - rod((60, 15, 0), UP, hole, 20) - rod((60, 45 + shift, 0), UP, 6, 20)
    if blind:
        body = body - drilled((50, 30, 20), DOWN, 5, 9)
    return body - block((0, 25, 0), (length, 35, 3)) if groove else body


def side(body: Body) -> Side:
    solid = plain_solid(body.shape, "plate")
    return Side(solid, recognise(solid).features)


A = side(plate())


def became(body: Body) -> Counter[str]:
    return Counter(pair.became.value for pair in match(A, side(body)).features)


def test_the_same_file_again_is_the_same_throughout() -> None:
    found = match(A, side(plate()))
    assert {pair.became for pair in found.features} == {Became.SAME}
    assert {pair.became for pair in found.faces} == {Became.SAME}
    assert new_names(found, [f.id for f in A.features]) == {f.id: f.id for f in A.features}


def test_longer_part_has_its_end_moved_and_four_sides_resized() -> None:
    found = match(A, side(plate(length=90)))
    moved = [pair for pair in found.features if pair.became == Became.MOVED]
    assert [(pair.old, pair.moved) for pair in moved] == [("F6", 10)]
    assert Counter(pair.became.value for pair in found.features)["resized"] == 4
    assert Counter(pair.became.value for pair in found.faces) == {"same": 14, "resized": 4, "moved": 1}


def test_wider_hole_is_resized_and_says_from_what_to_what() -> None:
    found = match(A, side(plate(hole=6.6)))
    (pair,) = [p for p in found.features if p.old and p.old.startswith("H") and p.became != Became.SAME]
    assert [(c.label, c.before, c.after) for c in pair.changes] == [("Ø", 6, 6.6)]


def test_hole_elsewhere_has_moved() -> None:
    found = match(A, side(plate(shift=2)))
    (pair,) = [p for p in found.features if p.old and p.old.startswith("H") and p.became != Became.SAME]
    assert (pair.became, pair.moved) == (Became.MOVED, 2)


def test_what_was_taken_out_is_gone_and_what_came_is_new() -> None:
    found = match(A, side(plate(pocket=False, groove=True)))
    assert [p.old for p in found.features if p.became == Became.GONE] == ["P1"]
    fresh = [p.new for p in found.features if p.became == Became.NEW]
    assert any(new and new.startswith("G") for new in fresh)


def test_id_follows_the_hole_and_a_new_one_never_takes_an_old_id() -> None:
    """The 6.6 hole sorts behind the other in its own model, and keeps its id in the plan."""
    new = side(plate(hole=6.6))
    names = new_names(match(A, new), [f.id for f in A.features])
    was = next(f.id for f in A.features if f.kind == "hole" and f.position[1] == 15)
    now = next(f.id for f in new.features if f.kind == "hole" and f.position[1] == 15)
    assert names[now] == was
    found = match(A, side(plate(blind=False, groove=True)))
    names = new_names(found, [*(f.id for f in A.features), "G7"])
    assert [names[p.new] for p in found.features if p.became == Became.NEW and p.new and p.new[0] == "G"] == ["G8"]


@settings(max_examples=8, deadline=None)
@given(st.tuples(*[st.integers(-300, 300)] * 3), st.sampled_from([0, 90, 180, 270]), st.sampled_from([UP, (1.0, 0, 0)]))
def test_part_modelled_elsewhere_is_laid_on_the_old_one(shift, angle, axis) -> None:  # type: ignore[no-untyped-def]
    assert set(became(plate().turned(axis, angle).moved(tuple(map(float, shift))))) == {"same"}


def test_pair_by_hand_goes_before_geometry() -> None:
    new = side(plate(blind=False, hole=6.6))
    found = match(A, new)
    gone = next(p.old for p in found.features if p.became == Became.GONE)
    taken = next(p.new for p in found.features if p.new and p.new.startswith("H"))
    hand = paired_by_hand(found, A, new, (PairByHand("B", gone, taken),))
    pair = next(p for p in hand.features if p.old == gone)
    assert (pair.new, pair.by_hand) == (taken, True)
    other = next(p for p in found.features if p.new == taken)
    assert next(p for p in hand.features if p.old == other.old).became == Became.GONE
    assert sum(p.new == taken for p in hand.features) == 1


def test_pair_by_hand_can_call_a_feature_new() -> None:
    new = side(plate())
    hand = paired_by_hand(match(A, new), A, new, (PairByHand("B", None, "P1"),))
    assert {(p.old, p.new, p.became) for p in hand.features if "P1" in (p.old, p.new)} == {
        ("P1", None, Became.GONE), (None, "P1", Became.NEW),
    }  # fmt: skip


@pytest.mark.parametrize(("letter", "after"), [("A", "B"), ("Y", "Z"), ("Z", "AA"), ("AZ", "BA"), ("ZZ", "AAA")])
def test_letters_of_revisions(letter: str, after: str) -> None:
    assert next_letter(letter) == after


@pytest.mark.parametrize(
    ("operation", "feature"), [("S1.H3.drill", "H3"), ("S2.P1.finish-wall", "P1"), ("S1.outline.rough-outline", "")]
)
def test_operation_belongs_to_its_feature(operation: str, feature: str) -> None:
    assert feature_of(operation) == feature


# ---- the plan carries over


def revised(plan: Plan) -> Part:
    """The mast clamp's revision B under the plan's ids."""
    parts = [("A", demo_part("mast-clamp-half")), ("B", demo_part("mast-clamp-half-b"))]
    return replace(follow(parts, plan.pairs)[0], newest="B")


def applied(plan: Plan, part: Part, *changes: dict) -> Plan:  # type: ignore[type-arg]
    for change in changes:
        plan, _ = read_change(change).apply(plan, Scene(part, LIB, evaluate(plan, part, LIB)))
    return plan


def codes(plan: Plan, part: Part) -> Counter[str]:
    return Counter(f.code for f in evaluate(plan, part, LIB).findings)


def test_plan_on_an_old_revision_is_an_error() -> None:
    part = replace(demo_part("mast-clamp-half"), newest="B")
    ledger = evaluate(quick(part), part, LIB)
    finding = next(f for f in ledger.findings if f.code == "revision-waits")
    assert finding.severity == "error"
    assert finding.cures[0].change == {"change": "take-revision", "revision": "B"}


def test_decision_on_a_resized_feature_is_looked_at_again() -> None:
    first = demo_part("mast-clamp-half")
    plan = applied(quick(first), first, {"change": "say-tolerance", "features": ["H7"], "tolerance": "±0.1"})
    plan = applied(plan, first, {"change": "take-revision", "revision": "B"})
    part = revised(plan)
    finding = next(f for f in evaluate(plan, part, LIB).findings if f.code == "decided-before")
    assert finding.features == ("H7",)
    assert "Ø 42 → 45" in finding.title
    assert "±0.1" in finding.why
    assert codes(applied(plan, part, finding.cures[0].change), part)["decided-before"] == 0
    dropped = applied(plan, part, finding.cures[1].change)
    assert codes(dropped, part)["decided-before"] == 0
    assert decided_features(dropped) == {}


def test_thread_of_a_size_that_is_gone_is_not_forgotten_silently() -> None:
    first = demo_part("mast-clamp-half")
    plan = applied(quick(first), first, {"change": "set-thread", "diameter": 5.0, "thread": "M6"})
    plan = applied(plan, first, {"change": "take-revision", "revision": "B"})
    part = revised(plan)
    finding = next(f for f in evaluate(plan, part, LIB).findings if f.code == "thread-homeless")
    assert finding.features == ("H1", "H2")
    assert finding.cures[0].change == {
        "change": "set-thread", "diameter": 6.8, "thread": "M8", "instead_of": 5.0,
    }  # fmt: skip
    assert codes(applied(plan, part, finding.cures[-1].change), part)["thread-homeless"] == 0
    # it is moved from a size that is gone only, and the words say so
    scene = Scene(part, LIB, evaluate(plan, part, LIB))
    moved, words = read_change(finding.cures[0].change).apply(plan, scene)
    assert words == "thread M8 in 2 × Ø6.8, which were Ø5"
    assert [(t.diameter, t.thread) for t in moved.threads] == [(6.8, "M8")]
    with pytest.raises(PlanError, match="has holes of Ø6"):
        read_change({"change": "set-thread", "diameter": 6.8, "thread": "M8", "instead_of": 6.8}).apply(plan, scene)


def test_decision_on_a_feature_that_is_gone_is_listed_and_can_be_dropped() -> None:
    first = demo_part("mast-clamp-half")
    plan = applied(quick(first), first, {"change": "leave-out", "features": ["H1"], "reason": "made elsewhere"})
    plan = applied(plan, first, {"change": "pair-features", "revision": "B", "old": "H1", "new": None},
                   {"change": "take-revision", "revision": "B"})  # fmt: skip
    part = revised(plan)
    assert "H1" not in part.by_id
    finding = next(f for f in evaluate(plan, part, LIB).findings if f.code == "decided-for-gone")
    assert "H1: left to made elsewhere" in finding.why
    assert codes(applied(plan, part, finding.cures[0].change), part)["decided-for-gone"] == 0


def test_same_revision_again_and_an_empty_pair_are_refused() -> None:
    part = built(plate())
    scene = Scene(part, LIB, evaluate(quick(part), part, LIB))
    for change, words in (
        ({"change": "take-revision", "revision": "A"}, "makes revision A already"),
        ({"change": "pair-features", "revision": "B", "old": None, "new": None}, "names the old feature"),
        ({"change": "drop-decisions", "features": ["H1"]}, "nothing was decided"),
    ):
        with pytest.raises(PlanError, match=words):
            read_change(change).apply(quick(part), scene)
