"""Findings about what nothing makes: one for each cause, none that contradicts itself."""

from __future__ import annotations

from lean_ledger.core.basis.findings import Chapter
from lean_ledger.core.changes import Scene, read_change
from lean_ledger.core.geometry.solids import block, rod
from lean_ledger.core.ledger.evaluate import evaluate
from lean_ledger.library import shipped_library
from tests.cases.parts.drawn import drawn
from tests.cases.parts.wider import WIDER
from tests.conftest import built, quick_ledger

LIB = shipped_library()


def test_closed_hollow_is_one_finding_that_its_cure_mends() -> None:
    """A cylinder within a block has a wall and two ends: none is reached, and that is one thing to ask about."""
    part = built(WIDER["hollow-block"]())
    ledger = quick_ledger(part)
    (hollow,) = [f for f in ledger.findings if f.code in ("closed-hollow", "no-operation")]
    assert hollow.code == "closed-hollow"
    assert hollow.chapter == Chapter.PART
    assert set(hollow.features) == {"P1", "P2"}
    plan, _ = read_change(hollow.cures[0].change).apply(ledger.plan, Scene(part, LIB, ledger))
    assert not [f for f in evaluate(plan, part, LIB).findings if f.code in ("closed-hollow", "no-operation")]


def test_hole_that_opens_into_a_pocket_is_no_hollow() -> None:
    body = block((0, 0, 0), (60, 40, 30)) - block((10, 10, 10), (50, 30, 31)) - rod((30, 20, -1), (0, 0, 1), 8, 12)
    assert "closed-hollow" not in {f.code for f in quick_ledger(built(body)).findings}


def test_features_of_one_cause_are_named_together_and_left_out_together() -> None:
    """Four of a ring's eight holes lie at 45°: on a mill without a rotary no side of the part is up for them."""
    part = built(WIDER["radial-ring"]())
    ledger = quick_ledger(part)
    together = [f for f in ledger.findings if f.code == "no-operation" and "H4" in f.features]
    (one,) = together
    assert set(one.features) == {"H4", "H5", "H6", "H7"}
    assert one.title == "Nothing makes 4 features: H4, H5, H6, H7."
    assert "slanted direction" in one.why
    (leave,) = [c for c in one.cures if c.change["change"] == "leave-out"]
    plan, _ = read_change(leave.change).apply(ledger.plan, Scene(part, LIB, ledger))
    assert not [f for f in evaluate(plan, part, LIB).findings if f.code == "no-operation" and "H4" in f.features]


def test_what_is_turned_could_be_made_on_lathes_alone() -> None:
    ledger = quick_ledger(built(drawn(10249)))
    for finding in ledger.findings:
        if "no lathe of this plan turns it" in finding.why:
            assert "Mill" not in finding.why
            break
    else:
        raise AssertionError("none is said to be turned")


def test_keyway_in_a_bore_is_no_outline_and_asks_for_a_broach() -> None:
    ledger = quick_ledger(built(WIDER["keyed-hub"]()))
    (one,) = [f for f in ledger.findings if f.code == "no-operation"]
    assert "broached" in one.why
    assert [c.change["change"] for c in one.cures] == ["leave-out"], "no side up would make it"
    outline = [op for op in ledger.operations if op.chain == "outline"]
    assert outline
    assert all(not set(op.features) & set(one.features) for op in outline)
